import { COMPARED_ROLES } from "../runfile/index.ts";
import type { Analysis } from "../soak/index.ts";
import type { Conditions } from "./conditions.ts";

/** What makes one ask whether both are the same card under the same load. */
export interface Doubt {
  code: "power" | "clocks" | "sensors";
  /** W or MHz; of sensors how many either run has that the other has not. */
  before: number;
  after: number;
}

/** One card under one load does not differ by so much, whatever was done to it (common practice of the trade, no source). */
const OTHER = { power: 1.35, clocks: 1.3 };
const OTHER_SENSORS = 2;

function apart(code: "power" | "clocks", one: number | null, other: number | null): Doubt[] {
  const isApart =
    one !== null && other !== null && Math.max(one, other) > OTHER[code] * Math.max(1, Math.min(one, other));
  return isApart ? [{ code, before: one, after: other }] : [];
}

/** Where two runs are too far apart for one card under one load. */
export function doubtsOf(before: Analysis, after: Analysis, [was, is]: readonly [Conditions, Conditions]): Doubt[] {
  const [own, others] = [before, after].map(({ roles }) => COMPARED_ROLES.filter((role) => roles[role] !== undefined));
  const beyond = (these = own, those = others): number => these?.filter((role) => !those?.includes(role)).length ?? 0;
  const sensors = { code: "sensors" as const, before: beyond(), after: beyond(others, own) };
  return [
    ...apart("power", was.powerW, is.powerW),
    ...apart("clocks", was.coreClockMHz, is.coreClockMHz),
    ...(!before.typed && !after.typed && sensors.before + sensors.after >= OTHER_SENSORS ? [sensors] : []),
  ];
}

const WORDS: Record<Doubt["code"], (before: string, after: string) => string> = {
  power: (before, after) => `it drew ${before} W before and ${after} W after`,
  clocks: (before, after) => `its core ran at ${before} MHz before and ${after} MHz after`,
  sensors: (before, after) => `${before} of its sensors stand in the log before only, ${after} in the one after only`,
};

/** What speaks for another card or load, in one clause. */
export const doubtWords = (doubts: readonly Doubt[]): string =>
  doubts.map(({ code, before, after }) => WORDS[code](before.toFixed(0), after.toFixed(0))).join("; ");
