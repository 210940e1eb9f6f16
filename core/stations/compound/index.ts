import { type HandsFacts, handsRule, STAYS_CLOSED, type StationRule } from "../../service/index.ts";

export const compoundRule: StationRule<HandsFacts> = handsRule({
  todo: "Choose the compound and put it on",
  kinds: ["repasted"],
  not: STAYS_CLOSED,
  everyTime: true,
  quiet: false,
});
