import type { Verdict } from "../compare/index.ts";
import { needsReason, type Outcome } from "../outcome/index.ts";
import { CARD_SENSORS } from "../runfile/index.ts";
import { temperatureOf } from "../soak/index.ts";
import type { ServiceFacts } from "./facts.ts";
import { isKnown } from "./known.ts";
import { leadingPair } from "./pairs.ts";
import type { Clock, StationRow, StationRule } from "./rule.ts";
import { countOf } from "./words.ts";

export interface StationView<Id extends string = string> {
  id: Id;
  title: string;
  state: "done" | "next" | "open" | "skipped";
  /** The station's one figure. */
  figure: string;
  skipReason: string | null;
  /** It still comes. */
  ahead: boolean;
}

/** Rises of one sensor for the small ladder, K; null where not known. */
export interface LadderRung {
  role: string;
  beforeK: number | null;
  afterK: number | null;
  u95K: number | null;
}

/** A service in one line of a list. */
export interface ServiceSummary<Id extends string = string> {
  /** The station it has reached. */
  station: Id;
  figure: string;
  /** What to do next, in words. */
  next: string;
  verdict: Verdict | null;
  ladder: LadderRung[];
  /** What dries or sets on its own, of all stations. */
  clocks: Clock[];
  /** Stations that still come, in working order. */
  ahead: Id[];
}

type Own = Readonly<Partial<Record<string, unknown>>>;

/**
 * State, figure and skip of every station of a service.
 * @param table the stations in working order
 * @param own what each station's folder loaded for itself, by its id
 */
export function stationViews<R extends StationRow>(
  table: readonly R[],
  facts: ServiceFacts,
  own: Own,
): Array<StationView<R["id"]>> {
  const seen = table.map(({ id, title, rule: narrow }) => {
    // The table pairs each rule with the folder that loads its facts; `own` holds them by the same id.
    const rule = narrow as StationRule;
    const skipReason = facts.skips[id] ?? null;
    const done = rule.done(facts, own[id]);
    const waits = !done && skipReason === null && (rule.wanted?.(facts, own[id]) ?? true);
    return { id, title, skipReason, done, waits, figure: rule.figure(facts, own[id]) };
  });
  const next = facts.setAside ? undefined : seen.find((one) => one.waits)?.id;
  return seen.map(({ id, title, skipReason, done, figure, waits }) => ({
    id,
    title,
    state: done ? "done" : skipReason !== null ? "skipped" : id === next ? "next" : "open",
    figure,
    skipReason,
    ahead: waits && !facts.setAside && !facts.closed,
  }));
}

/** What hinders a service more than its next station, first things first; each answers in words, or undefined. */
const HINDRANCES: ReadonlyArray<(facts: ServiceFacts, next: string | undefined) => string | undefined> = [
  ruleOut,
  ({ leak }, next) => (next === "prove" ? leakWords(leak) : undefined),
  ({ runs }) =>
    runs.some((run) => !run.analysis.ambient && run.leftOut === "") ? "Add the room air to its run" : undefined,
  ({ runs, closed }, next) => {
    const minutes = runs.find(
      (run) => run.leftOut === "" && !isKnown(run) && (run.analysis.steady.minutesNeeded ?? 0) > 0,
    )?.analysis.steady.minutesNeeded;
    const proved = next === "record" || closed;
    return minutes && !proved ? `Run ${countOf(minutes, "more minute")} to settle` : undefined;
  },
  ({ pairs }, next) => (next === "record" ? mountAgain(leadingPair(pairs)?.outcome) : undefined),
];

/** No power before the loop is known to be tight. */
const leakWords = (leak: ServiceFacts["leak"]): string | undefined =>
  leak === "to test"
    ? "Test its loop for leaks before power"
    : leak === "leaking"
      ? "Its loop leaks: mend it before power"
      : undefined;

/** A card that did not pass its first power-on and was never run since. */
function ruleOut({ failed = [], runs, setAside }: ServiceFacts): string | undefined {
  const [first] = failed;
  return first !== undefined && runs.length === 0 && !setAside ? `${first}: rule it out` : undefined;
}

/** What is to be done about a result that got something worse or stays over a limit; undefined where nothing is. */
export function mountAgain(outcome: Outcome | undefined): string | undefined {
  if (!outcome || !needsReason(outcome)) return undefined;
  const { sensors, gap, fanSlowerPct } = outcome;
  const bad = sensors.find((one) => one.verdict === "hotter") ?? sensors.find((one) => one.overLimit);
  if (bad?.verdict === "hotter")
    return bad.role === "edge" || bad.role === "hotspot"
      ? "Hotter than before: mount it again"
      : `${SENSOR_WORDS[bad.role]} hotter than before: mount it again`;
  if (bad) return `${SENSOR_WORDS[bad.role]} over its limit: look at its contact`;
  if (gap?.verdict === "larger") return "Hotspot gap larger than before: mount it again";
  return fanSlowerPct === null ? undefined : "Fan slower than before: look at it";
}

const SENSOR_WORDS = { edge: "Die", hotspot: "Hotspot", memory: "Memory", vrm: "VRM" } as const;

/** One word for lists: what got worse, or stays over a limit, is worse, whatever else got better. */
function verdictInLists(pairs: ServiceFacts["pairs"]): Verdict | null {
  const verdict = leadingPair(pairs)?.outcome.verdict;
  if (!verdict) return null;
  return verdict === "mixed" || verdict === "over-limit" ? "worse" : verdict;
}

function firstHindrance(facts: ServiceFacts, next: string | undefined): string | undefined {
  for (const hindrance of HINDRANCES) {
    const words = hindrance(facts, next);
    if (words) return words;
  }
  return undefined;
}

/** A service in one line: the station it has reached, the figure that tells most, what to do next, verdict and rises. */
export function summarise<R extends StationRow>(
  table: readonly R[],
  facts: ServiceFacts,
  own: Own,
): ServiceSummary<R["id"]> {
  const stations = stationViews(table, facts, own);
  const nextAt = stations.findIndex((one) => one.state === "next");
  const at = facts.setAside || ruleOut(facts) ? 0 : nextAt < 0 ? table.length - 1 : nextAt;
  const here = table[at];
  if (!here) throw new RangeError("summarise: a service needs at least one station");
  return {
    station: here.id,
    figure: leadFigure(table, stations, facts, at),
    next: facts.setAside
      ? "Send it on, or take it back"
      : (firstHindrance(facts, table[nextAt]?.id) ?? (nextAt < 0 ? "Handed over" : here.rule.todo)),
    verdict: verdictInLists(facts.pairs),
    ladder: ladderOf(facts),
    ahead: stations.filter(({ ahead }) => ahead).map(({ id }) => id),
    clocks: facts.closed
      ? []
      : table.flatMap(({ id, rule }) => [...((rule as StationRule).clocks?.(facts, own[id]) ?? [])]),
  };
}

/** The last figure that tells how the card is; where there is none, why a station was skipped. */
function leadFigure(
  table: readonly StationRow[],
  stations: readonly StationView[],
  { setAside }: ServiceFacts,
  at: number,
): string {
  if (setAside) return stations[0]?.figure ?? "";
  const last = stations.findLast(
    ({ figure }, index) =>
      figure !== "" && !table[index]?.rule.quiet && !(table[index]?.rule.mayRunAhead && index > at),
  );
  return last?.figure ?? stations.find((one) => one.skipReason)?.skipReason ?? "";
}

/** Rises for the small ladder: of the leading pair, else of the first run whose room air is known. */
function ladderOf({ runs, pairs }: Pick<ServiceFacts, "runs" | "pairs">): LadderRung[] {
  const lead = leadingPair(pairs)?.comparison;
  if (lead?.comparable)
    return Object.entries(lead.roles).map(([role, { beforeRiseK, afterRiseK, u95K }]) => ({
      role,
      beforeK: beforeRiseK,
      afterK: afterRiseK,
      u95K,
    }));
  const run = runs.find((one) => one.analysis.ambient);
  if (!run) return [];
  return CARD_SENSORS.flatMap((role) => {
    const found = temperatureOf(run.analysis, role);
    return found && found.riseK !== null ? [{ role, beforeK: found.riseK, afterK: null, u95K: found.riseU95K }] : [];
  });
}
