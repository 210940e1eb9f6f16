import type { LevelRole } from "../runfile/index.ts";
import { type AnalyseOptions, type Analysis, SOAK_VERSION, type TemperatureFigures } from "./analysis.ts";

/** Figures of a run read off a display and written down, at its end; null where nobody wrote one. °C, rpm, %, W, MHz, minutes. */
export interface TypedFigures {
  edgeC: number | null;
  hotspotC: number | null;
  memoryC: number | null;
  vrmC: number | null;
  fanRpm: number | null;
  fanPct: number | null;
  powerW: number | null;
  coreClockMHz: number | null;
  /** How long it had been under load. */
  minutes: number | null;
}

/**
 * What one look at a moving display is worth, 95 %: a whole degree shown, a figure that wanders while one looks, the highest of some.
 * Common practice of the trade, no source; counted on simulated cards in `typed.test.ts`.
 */
const LOOK_K = { edge: 2, hotspot: 3, memory: 2, vrm: 2.5 } as const;
const LOOKED = [
  ["edge", "edgeC"],
  ["hotspot", "hotspotC"],
  ["memory", "memoryC"],
  ["vrm", "vrmC"],
] as const;
/** The same for what is no temperature: share of it and least. */
const LEVELS = [
  ["fanRpm", "fanRpm", 0.03, 30],
  ["fanPct", "fanPct", 0, 1],
  ["power", "powerW", 0.05, 5],
  ["coreClock", "coreClockMHz", 0.01, 15],
] as const satisfies ReadonlyArray<readonly [LevelRole, keyof TypedFigures, number, number]>;
/** A gap read as two figures, one after the other, K. */
const GAP_K = 2.5;
/** From then on it is taken as settled, as a person would. */
const SETTLED_MIN = 10;
/** A run of which nobody says how long it was. */
const UNTOLD_MIN = 8;

/** Share of the rise that is still to come: fins settle in minutes, board and case in a quarter of an hour (common practice). */
const toCome = (minutes: number): number => 0.85 * Math.exp(-minutes / 2.5) + 0.15 * Math.exp(-minutes / 9);

/**
 * A run of which there is no log, as if it had been judged: figures typed from paper with honest, wide intervals, marked `typed`.
 * @param typed at least one temperature, else nothing can be compared
 * @param options room air at the beginning and the end, °C
 */
export function typedAnalysis(
  typed: TypedFigures,
  { ambientC, ambientU95K, ambientEndC }: Pick<AnalyseOptions, "ambientC" | "ambientU95K" | "ambientEndC"> = {},
): Analysis {
  const minutes = typed.minutes ?? UNTOLD_MIN;
  const left = toCome(minutes);
  const isSettled = typed.minutes === null || typed.minutes >= SETTLED_MIN;
  const ambient = roomOf(ambientC, ambientEndC, ambientU95K);
  const powerW = typed.powerW;
  const roles: Analysis["roles"] = {};
  for (const [role, key] of LOOKED) {
    const shownC = typed[key];
    if (shownC === null) continue;
    // Without a room it still rises from some air, as a rule that of a room.
    const stillK = Math.max(0, shownC - (ambient?.valueC ?? 22)) * left;
    roles[role] = figuresOf(shownC, LOOK_K[role], stillK, isSettled, ambient, powerW);
  }
  for (const [role, key, share, least] of LEVELS) {
    const value = typed[key];
    if (value !== null) roles[role] = { mean: value, u95: Math.max(share * Math.abs(value), least) };
  }
  const seconds = typed.minutes === null ? 0 : typed.minutes * 60;
  return {
    typed: true,
    samples: 1,
    durationS: seconds,
    intervalS: 0,
    columns: [],
    phases: seconds > 0 ? [{ kind: isSettled ? "steady" : "warmup", fromS: 0, toS: seconds }] : [],
    ambient,
    steady: {
      reached: isSettled,
      fromS: null,
      toS: null,
      minutesNeeded: isSettled ? null : Math.ceil(SETTLED_MIN - minutes),
      byHand: true,
    },
    roles,
    probes: [],
    hotspotGapK:
      typed.edgeC === null || typed.hotspotC === null
        ? null
        : { mean: typed.hotspotC - typed.edgeC, u95: Math.hypot(GAP_K, (typed.hotspotC - typed.edgeC) * left) },
    throttling: { detected: false, shareOfLoad: 0, kinds: [] },
    spikes: 0,
    notices: [
      {
        code: "typed",
        text: "Typed from paper: one look at each figure, so its interval is wide. A log of ten minutes or more tells smaller changes.",
      },
      ...(ambient
        ? []
        : [
            {
              code: "no-room-air",
              text: "Room air is missing: rises can't be computed and this run can't be compared.",
            },
          ]),
    ],
    version: SOAK_VERSION,
  };
}

/** Room air felt at the end of a run: mostly the last, the slow parts a little later; ± 1.0 K typed unless stated. */
function roomOf(startC: number | undefined, endC: number | undefined, u95K = 1): Analysis["ambient"] {
  const lastC = endC ?? startC;
  if (lastC === undefined) return null;
  const lagK = 0.25 * (lastC - (startC ?? lastC));
  return { valueC: lastC - lagK, u95K: Math.hypot(u95K, lagK), source: "option" };
}

function figuresOf(
  shownC: number,
  lookK: number,
  stillK: number,
  isSettled: boolean,
  ambient: Analysis["ambient"],
  powerW: number | null,
): TemperatureFigures {
  const u95K = Math.hypot(lookK, stillK);
  const riseK = isSettled && ambient ? shownC - ambient.valueC : null;
  return {
    meanC: isSettled ? shownC : null,
    u95K: isSettled ? u95K : null,
    maxC: shownC,
    riseK,
    riseU95K: isSettled && ambient ? Math.hypot(u95K, ambient.u95K) : null,
    thetaKPerW: riseK !== null && powerW ? riseK / powerW : null,
    finalC: shownC + stillK / 2,
    finalU95K: u95K,
    budget: null,
    timeConstantsS: [],
  };
}
