import type { TuningDifference } from "../compare/index.ts";
import { type Analysis, levelOf } from "../soak/index.ts";

/** A figure before and after, its change with the half-width of its 95 % interval. */
export interface Change {
  before: number;
  after: number;
  change: number;
  u95: number;
}

/** What a gain is worth in what its owner feels; null where the runs do not tell. */
export interface Gains {
  /** Sustained core clock under load, MHz. */
  coreClockMHz: Change | null;
  frameRateFps: Change | null;
  score: Change | null;
  /** Offsets that held, MHz. */
  coreRoomMHz: Omit<Change, "u95"> | null;
  memoryRoomMHz: Omit<Change, "u95"> | null;
}

/** What is typed beside a run; null where nobody said. */
export interface TypedGains {
  frameRateFps: number | null;
  score: number | null;
  coreOffsetMHz: number | null;
  memoryOffsetMHz: number | null;
}

/** Frame rates and scores of the same thing differ by so much from run to run, one standard deviation (common practice, no source). */
const SCORE_SD = 0.007;
/** Clocks are set in steps of this, MHz (common practice, no source). */
const CLOCK_STEP_MHZ = 15;

/** Clocks and frame rates follow these, not the work. */
const SETS_CLOCK: ReadonlyArray<TuningDifference["what"]> = [
  "coreOffsetMHz",
  "undervoltMv",
  "powerLimitPct",
  "frameCapFps",
];

interface Side extends TypedGains {
  analysis: Analysis;
}

/** What the gain is worth besides kelvins at equal conditions: each with its interval, none where settings explain it. */
export function gainsOf(before: Side, after: Side, tuning: readonly TuningDifference[]): Gains {
  const isSet = tuning.some(({ what }) => SETS_CLOCK.includes(what));
  return {
    coreClockMHz: isSet ? null : ofColumn(before.analysis, after.analysis, "coreClock", CLOCK_STEP_MHZ / Math.sqrt(12)),
    frameRateFps: isSet
      ? null
      : (ofTyped(before.frameRateFps, after.frameRateFps) ?? ofColumn(before.analysis, after.analysis, "frameRate", 0)),
    score: isSet ? null : ofTyped(before.score, after.score),
    coreRoomMHz: room(before.coreOffsetMHz, after.coreOffsetMHz),
    memoryRoomMHz: room(before.memoryOffsetMHz, after.memoryOffsetMHz),
  };
}

function ofColumn(before: Analysis, after: Analysis, role: "coreClock" | "frameRate", leastSd: number): Change | null {
  const was = levelOf({ roles: before.roles }, role);
  const is = levelOf({ roles: after.roles }, role);
  if (!was || !is || was.mean === null || is.mean === null) return null;
  const own = role === "frameRate" ? 1.96 * SCORE_SD * Math.hypot(was.mean, is.mean) : 0;
  return {
    before: was.mean,
    after: is.mean,
    change: is.mean - was.mean,
    u95: Math.hypot(was.u95 ?? 0, is.u95 ?? 0, own, 1.96 * Math.SQRT2 * leastSd),
  };
}

function ofTyped(before: number | null, after: number | null): Change | null {
  if (before === null || after === null) return null;
  return { before, after, change: after - before, u95: 1.96 * SCORE_SD * Math.hypot(before, after) };
}

const room = (before: number | null, after: number | null): Omit<Change, "u95"> | null =>
  before === null || after === null || before === after ? null : { before, after, change: after - before };
