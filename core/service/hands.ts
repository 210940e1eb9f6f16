import type { ServiceFacts } from "./facts.ts";
import type { Clock, StationRule } from "./rule.ts";

/** What a station between opening and closing loads of the steps that were marked. */
export interface HandsFacts {
  begun: boolean;
  finished: boolean;
  /** The card was taken apart by steps in this attempt. */
  opened: boolean;
  /** What it came to, in a few words. */
  words: string;
  clocks: readonly Clock[];
}

interface Row {
  todo: string;
  /** Kinds of work whose note says the same as these steps. */
  kinds: readonly string[];
  /** Choices for which it does not come up by itself. */
  not: readonly string[];
  /** It comes again whenever the card is opened again. */
  everyTime: boolean;
  quiet: boolean;
}

/** Made by cutting, not by a hand that noted all of its work. */
const NOTES_ITSELF = "pads replaced";

/** The rule of a station that is led by steps, or noted by hand in one go with the others. */
export function handsRule({ todo, kinds, not, everyTime, quiet }: Row): StationRule<HandsFacts> {
  const noted = ({ work, attempt }: ServiceFacts): boolean =>
    attempt === 1 && work.some((kind) => kinds.includes(kind));
  return {
    todo,
    quiet,
    figure: (facts, { begun, finished, words }) =>
      finished ? words : noted(facts) ? [...new Set(facts.work)].slice(0, 2).join(", ") : begun && quiet ? "begun" : "",
    done: (facts, { finished }) => finished || noted(facts),
    wanted: ({ choice, work, runs, attempt }, { begun, opened }) => {
      if (runs.some((run) => run.side === "after" && run.attempt === attempt)) return false;
      if (begun) return true;
      if (attempt > 1) return everyTime && opened;
      return !work.some((kind) => kind !== NOTES_ITSELF) && (choice === null || !not.includes(choice));
    },
    clocks: (_facts, { clocks }) => clocks,
  };
}

/** Choices for which nothing is done to the card, and those for which it stays closed. */
export const LEFT_ALONE: readonly string[] = ["leave", "not-worth"];
export const STAYS_CLOSED: readonly string[] = [...LEFT_ALONE, "clean", "fans"];
