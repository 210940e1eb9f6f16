import { type HandsFacts, handsRule, LEFT_ALONE, type StationRule } from "../../service/index.ts";

export const fansRule: StationRule<HandsFacts> = handsRule({
  todo: "Look at its fans",
  kinds: ["fans oiled", "fan replaced"],
  not: LEFT_ALONE,
  everyTime: false,
  quiet: true,
});
