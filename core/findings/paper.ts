/** A result that was written down without a log. */
export interface PaperResult {
  beforeC: number;
  afterC: number;
  /** Room air of either run, °C; null where nobody wrote it down. */
  roomBeforeC: number | null;
  roomAfterC: number | null;
  /** Whether the room was read off then, or is remembered (“about 22”). */
  roomIsRead: boolean;
  /** Whether the fans turned as fast after the work as before. */
  fan: "same" | "not the same" | "unknown";
}

export interface PaperChange {
  changeK: number;
  u95K: number;
  /** What the doubt is made of, half-widths of 95 %, K. */
  parts: { reading: number; room: number; scatter: number; fan: number };
}

/** Half-widths of 95 %, K (assumptions; common practice, no source). */
const READING_K = 2;
const ROOM_READ_K = 1;
const ROOM_ABOUT_K = 2.5;
/** Rooms of two days that nobody wrote down. */
const ROOM_UNKNOWN_K = 5;
const SCATTER_K = 2;
/** Of the rise: what another fan speed does where nobody kept it. */
const FAN_UNKNOWN_SHARE = 0.12;
const FAN_OTHER_SHARE = 0.25;
/** A rise over a room nobody wrote down is taken from this, °C. */
const USUAL_ROOM_C = 22;

/**
 * Change at equal conditions of a result on paper, as wide as it has to be: figures read by eye from a display that moves, one run each,
 * power unknown.
 * @example
 * ```ts
 * paperChange({ beforeC: 79, afterC: 68, roomBeforeC: 22, roomAfterC: null, roomIsRead: false, fan: "same" }).changeK // => -11
 * ```
 */
export function paperChange({ beforeC, afterC, roomBeforeC, roomAfterC, roomIsRead, fan }: PaperResult): PaperChange {
  const both = roomBeforeC !== null && roomAfterC !== null;
  const none = roomBeforeC === null && roomAfterC === null;
  const drift = both ? roomAfterC - roomBeforeC : 0;
  const rise = Math.max(5, beforeC - (roomBeforeC ?? roomAfterC ?? USUAL_ROOM_C));
  const eachRoom = roomIsRead ? ROOM_READ_K : ROOM_ABOUT_K;
  const parts = {
    reading: READING_K * Math.SQRT2,
    room: both ? eachRoom * Math.SQRT2 : none ? ROOM_UNKNOWN_K : ROOM_ABOUT_K * Math.SQRT2,
    scatter: SCATTER_K * Math.SQRT2,
    fan: fan === "same" ? 0 : rise * (fan === "unknown" ? FAN_UNKNOWN_SHARE : FAN_OTHER_SHARE),
  };
  return { changeK: afterC - beforeC - drift, u95K: Math.hypot(...Object.values(parts)), parts };
}
