import type { StationRule } from "../../service/index.ts";
export const takeInRule: StationRule<null> = {
  todo: "Take it in",
  quiet: true,
  figure: ({ setAside }) => (setAside ? `Set aside: ${setAside}` : "taken in"),
  done: () => true,
};
