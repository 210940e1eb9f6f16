import type { ServiceFacts } from "./facts.ts";

/** Kinds of work for which a card is opened. */
const OPENING: ReadonlySet<string> = new Set(["repasted", "pads replaced", "putty", "cooler changed"]);

/** Work was noted that needs an open card: it was taken apart, whether or not by steps. Another attempt is not told by the notes of the first. */
export const openedByNote = ({ work, attempt }: Pick<ServiceFacts, "work" | "attempt">): boolean =>
  attempt === 1 && work.some((kind) => OPENING.has(kind));
