import type { StationRule } from "../../service/index.ts";
export const workRule: StationRule<null> = {
  todo: "Note what was done",
  figure: ({ work }) => [...new Set(work)].slice(0, 2).join(", "),
  done: ({ work }) => work.length > 0,
};
