import { type HandsFacts, handsRule, LEFT_ALONE, type StationRule } from "../../service/index.ts";

export const cleanRule: StationRule<HandsFacts> = handsRule({
  todo: "Clean it, part by part",
  kinds: ["cleaned"],
  not: LEFT_ALONE,
  everyTime: false,
  quiet: true,
});
