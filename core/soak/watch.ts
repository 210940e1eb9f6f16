import type { RunTable } from "../runfile/index.ts";
import { analyse } from "./analyse.ts";
import type { AnalyseOptions, Analysis } from "./analysis.ts";
import { temperatureOf } from "./figures.ts";

/** What a run that is still going on will come to. */
export interface Outlook {
  /** Where each temperature settles, °C, with the half-width of its 95 % interval, K. */
  settles: Partial<Record<string, { finalC: number; u95K: number }>>;
  /** The widest of the die's half-widths, K; null while nothing can be said. */
  dieU95K: number | null;
  /** True when the run may be stopped: the die's settling values are known to `PROMISED_K`. */
  known: boolean;
  minutesLeft: number | null;
  ambientC: number | null;
}

/** What 'you may stop' promises: the settling values of the die are within this, in nine of ten runs or more, K. */
export const PROMISED_K = 0.5;
/** 95 % half-width that is asked for: nine in ten then lie within some 0.48 K, and looking often finds lucky moments. */
const ASKED_K = 0.58;
/** A run whose die is known to this is known, whether it settled or was let go, K; a look more or less moves the width a little. */
export const KNOWN_U95_K = 0.65;
/** Two looks must agree within this, K. */
const AGREE_K = 0.3;
/** No cooler's slow part has shown itself before, s. */
const SHORTEST_S = 240;
const DIE = ["edge", "hotspot"] as const;

/**
 * Looks at a run as far as it has got. Ask it every half minute or so with the look before: 'known' needs two in succession that
 * agree, so that one lucky fit stops nothing.
 * @param table the run so far, idle part included
 * @param loadS how long the load has been on, s
 */
export function lookAhead(
  table: RunTable,
  loadS: number,
  before: Outlook | undefined,
  options: AnalyseOptions = {},
): Outlook {
  return outlookOf(analyse(table, options), loadS, before);
}

/** `lookAhead` for a run that is judged already. */
function outlookOf(analysis: Analysis, loadS: number, before: Outlook | undefined): Outlook {
  const settles: Outlook["settles"] = {};
  for (const role of [...DIE, "memory", "vrm"] as const) {
    const found = temperatureOf(analysis, role);
    if (found?.finalC !== null && found?.finalC !== undefined && found.finalU95K !== null)
      settles[role] = { finalC: found.finalC, u95K: found.finalU95K };
  }
  const die = DIE.flatMap((role) => settles[role] ?? []);
  const dieU95K = die.length > 0 ? Math.max(...die.map((one) => one.u95K)) : null;
  const agree = DIE.every((role) => {
    const now = settles[role];
    const then = before?.settles[role];
    return !now || (then !== undefined && then.u95K <= 2 * ASKED_K && Math.abs(now.finalC - then.finalC) <= AGREE_K);
  });
  const known = dieU95K !== null && loadS >= SHORTEST_S && dieU95K <= ASKED_K && agree;
  return {
    settles,
    dieU95K,
    known,
    minutesLeft: known ? 0 : analysis.steady.reached ? null : analysis.steady.minutesNeeded,
    ambientC: analysis.ambient?.valueC ?? null,
  };
}
