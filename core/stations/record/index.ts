import type { StationRule } from "../../service/index.ts";
export const recordRule: StationRule<null> = {
  todo: "Print the record and hand it over",
  quiet: true,
  figure: ({ closed }) => (closed ? "handed over" : ""),
  done: ({ closed }) => closed,
};
