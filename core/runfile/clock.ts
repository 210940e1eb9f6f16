import { type Notice, Problem } from "../problem/index.ts";
import { plainWords } from "./header-words.ts";
import type { RawColumn, RawTable } from "./reader.ts";

/** When the first row was written, by the log's own clock. */
export interface RunStart {
  /** Seconds since 1970-01-01T00:00; in UTC, or by the wall clock of wherever the log was written. */
  epochS: number;
  clock: "utc" | "wall";
  /** The log tells the day only. */
  dayOnly: boolean;
}

export interface RunClock {
  /** Seconds from the first row, never falling. */
  timeS: Float64Array;
  /** Null where the log tells no date. */
  start: RunStart | null;
  /** Columns that hold nothing but the date. */
  days: number[];
  /** Index of the column it came from; -1 when the caller gave an interval. */
  column: number;
  sure: boolean;
  /** How the file wrote its time. */
  form: "s" | "ms" | "time of day" | "date and time" | "interval";
  /** Rows to leave out because they had no time or stood out of order. */
  drop: Uint8Array | undefined;
  /** True when the rows stand newest first. */
  reversed: boolean;
  notices: Notice[];
}

/** A row further from the one before, s, has another clock or none: no bench logs for months without a row. */
const LONGEST_PAUSE_S = 90 * 86_400;
/** Later than the year 5000, as seconds since 1970. */
const LATEST_S = 1e11;

interface Candidate {
  index: number;
  form: RunClock["form"];
  scale: number;
  score: number;
  sure: boolean;
}

/** Median of the positive steps of the first rows of a column. */
function usualStep(values: Float64Array): { step: number; rising: number; falling: number } {
  const steps: number[] = [];
  let rising = 0;
  let falling = 0;
  let before = Number.NaN;
  // A column that stands still, as a time never does, is not looked through to its end.
  const most = Math.min(values.length, 100_000);
  for (let at = 0; at < most && steps.length < 5000; at++) {
    const value = values[at] ?? Number.NaN;
    if (Number.isNaN(value)) continue;
    if (value > before) {
      steps.push(value - before);
      rising++;
    } else if (value < before) falling++;
    before = value;
  }
  steps.sort((a, b) => a - b);
  return { step: steps[steps.length >> 1] ?? 0, rising, falling };
}

function candidate(
  column: RawColumn,
  index: number,
  timeWords: boolean,
  unitScale: number | undefined,
  rows: number,
): Candidate | undefined {
  const filled = column.numbers + column.instants + column.timesOfDay;
  if (filled < Math.max(2, 0.5 * rows)) return undefined;
  const words = plainWords(column.header);
  if (column.instants > 0.5 * filled) {
    const { step, rising, falling } = usualStep(column.values);
    if (rising + falling === 0 || (step >= 86_000 && /dat/.test(words))) return undefined;
    return { index, form: "date and time", scale: 1, score: 5, sure: true };
  }
  if (column.timesOfDay > 0.5 * filled)
    return { index, form: "time of day", scale: 1, score: timeWords ? 4 : 3, sure: true };
  if (column.numbers < 0.5 * filled || /frame|interval|intervalle/.test(words)) return undefined;
  const { step, rising, falling } = usualStep(column.values);
  const steps = rising + falling;
  if (steps === 0) return undefined;
  const oneWay = Math.max(rising, falling) >= 0.95 * steps && steps >= 0.3 * (filled - 1);
  const first = column.values.find((value) => !Number.isNaN(value)) ?? 0;
  if (!timeWords && !(unitScale !== undefined && oneWay)) {
    return undefined;
  }
  if (!oneWay && !timeWords) return undefined;
  let scale = unitScale ?? 1;
  let sure = unitScale !== undefined;
  if (first > 1e17) [scale, sure] = [1e-9, true];
  else if (first > 1e14) [scale, sure] = [1e-6, true];
  else if (first > 1e11) [scale, sure] = [1e-3, true];
  else if (first > 1e8) [scale, sure] = [1, true];
  else if (unitScale === undefined) {
    scale = step >= 50 ? 1e-3 : 1;
    sure = step <= 10 || step >= 250;
  }
  return { index, form: scale === 1e-3 ? "ms" : "s", scale, score: oneWay ? 2.5 : 1, sure };
}

/**
 * Finds and straightens the time of a table: past midnight, restarts at zero, newest first, rows out of order.
 * @param mapped columns the caller named as time: a clock, or a clock and its date
 * @param intervalS used when the file has no time
 * @throws Problem `no-time`
 */
export function findClock(
  table: RawTable,
  hints: ReadonlyArray<{ timeWords: boolean; unitScale: number | undefined }>,
  mapped: readonly number[],
  intervalS: number | undefined,
): RunClock {
  const candidates: Candidate[] = [];
  const days = table.columns.flatMap((column, index) => (isDay(column) ? [index] : []));
  table.columns.forEach((column, index) => {
    if (mapped.length > 0 && !mapped.includes(index)) return;
    const found = candidate(
      column,
      index,
      mapped.length > 0 || (hints[index]?.timeWords ?? false),
      hints[index]?.unitScale,
      table.rows,
    );
    if (found) candidates.push(found);
  });
  candidates.sort((a, b) => b.score - a.score);
  const best = candidates[0];
  if (!best) {
    if (intervalS === undefined)
      throw new Problem({
        code: "no-time",
        what: "The file has no time column.",
        remedy: "Name it with --map time=HEADER, or give the seconds between rows with --interval.",
      });
    return {
      timeS: Float64Array.from({ length: table.rows }, (_, row) => row * intervalS),
      start: dayAt(table, days, 0),
      days,
      column: -1,
      sure: true,
      form: "interval",
      drop: undefined,
      reversed: false,
      notices: [],
    };
  }
  const column = table.columns[best.index];
  const { firstRow, ...line } = straighten(column?.values ?? new Float64Array(0), best, new Set(table.restarts));
  return { ...line, start: startOf(table, best, days, firstRow), days: days.filter((index) => index !== best.index) };
}

const DAY_S = 86_400;

/** Dates without a time of day. */
function isDay({ instants, numbers, timesOfDay, values }: RawColumn): boolean {
  if (instants < 2 || instants <= 0.5 * (instants + numbers + timesOfDay)) return false;
  const most = Math.min(values.length, 2000);
  for (let row = 0; row < most; row++) {
    const value = values[row] ?? Number.NaN;
    if (!Number.isNaN(value) && value % DAY_S !== 0) return false;
  }
  return true;
}

function dayAt(table: RawTable, days: readonly number[], row: number): RunStart | null {
  for (const index of days) {
    const day = table.columns[index]?.values[row] ?? Number.NaN;
    if (!Number.isNaN(day)) return { epochS: day, clock: "wall", dayOnly: true };
  }
  return null;
}

/** Seconds since 1970 begin here: a bench's own clock counts from its start. */
const LEAST_EPOCH_S = 1e8;

function startOf(table: RawTable, { index, form, scale }: Candidate, days: readonly number[], row: number) {
  const column = table.columns[index];
  const first = (column?.values[row] ?? Number.NaN) * scale;
  if (!column || Number.isNaN(first)) return null;
  if (form === "date and time")
    return { epochS: first, clock: 2 * column.zoned > column.instants ? "utc" : "wall", dayOnly: false } as const;
  if (form !== "time of day" && first > LEAST_EPOCH_S) return { epochS: first, clock: "utc", dayOnly: false } as const;
  const day = dayAt(table, days, row);
  return day && form === "time of day" ? { ...day, epochS: day.epochS + first, dayOnly: false } : day;
}

function straighten(
  values: Float64Array,
  from: Candidate,
  restarts: ReadonlySet<number>,
): Omit<RunClock, "start" | "days"> & { firstRow: number } {
  const rows = values.length;
  const notices: Notice[] = [];
  const time = new Float64Array(rows);
  let drop: Uint8Array | undefined;
  const dropRow = (row: number): void => {
    drop ??= new Uint8Array(rows);
    drop[row] = 1;
  };
  const { step, rising, falling } = usualStep(values);
  const reversed = falling > 10 * Math.max(1, rising);
  const usual = (reversed ? usualStep(values.slice().reverse()).step : step) * from.scale || 1;
  let offset = 0;
  let last = Number.NaN;
  let first = Number.NaN;
  let firstRow = 0;
  let start = Number.NaN;
  const relative = from.form === "s" || from.form === "ms";
  let outOfOrder = 0;
  let wentBack = 0;
  let wentAhead = 0;
  let without = 0;
  for (let k = 0; k < rows; k++) {
    const row = reversed ? rows - 1 - k : k;
    const raw = (values[row] ?? Number.NaN) * from.scale;
    if (!(Math.abs(raw) < LATEST_S)) {
      dropRow(row);
      without++;
      continue;
    }
    if (Number.isNaN(first)) {
      first = raw;
      firstRow = row;
      start = raw;
      last = raw;
    }
    let now = raw + offset;
    if (now - last > LONGEST_PAUSE_S) {
      if (
        k === rows - 1 ||
        !stays(values, row, rows, reversed, (value) => value * from.scale + offset - last > LONGEST_PAUSE_S)
      ) {
        dropRow(row);
        outOfOrder++;
        continue;
      }
      wentAhead++;
      offset = last + usual - raw;
      now = raw + offset;
    } else if (now < last) {
      if (from.form === "time of day" && last - now > 43_200) {
        offset += 86_400 * Math.max(1, Math.floor((last - now) / 86_400));
        now = raw + offset;
      } else if (
        restarts.has(row) ||
        (relative &&
          raw <= start + 1.5 * usual &&
          goesOn(values, row, reversed, raw / from.scale, (3 * usual) / from.scale)) ||
        stays(values, row, rows, reversed, (value) => value < (last - offset) / from.scale)
      ) {
        if (!relative) wentBack++;
        offset = last + usual - raw;
        now = raw + offset;
      } else {
        dropRow(row);
        outOfOrder++;
        continue;
      }
    }
    time[row] = now - first;
    last = now;
  }
  if (reversed) notices.push({ code: "reversed", text: "The rows stand newest first; they were turned round." });
  if (outOfOrder > 0)
    notices.push({ code: "time-backwards", text: `${outOfOrder} rows stood out of order in time and were left out.` });
  if (wentBack > 0)
    notices.push({
      code: "clock-went-back",
      text: "The clock goes back in mid-file: two logs may be glued together. Time goes on after the last row; check the phases.",
    });
  if (wentAhead > 0)
    notices.push({
      code: "clock-went-ahead",
      text: "The clock leaps months ahead in mid-file. Time goes on after the last row before that; check the phases.",
    });
  if (without > 0) notices.push({ code: "no-time-in-row", text: `${without} rows had no time and were left out.` });
  return { timeS: time, firstRow, column: from.index, sure: from.sure, form: from.form, drop, reversed, notices };
}

/** Does the next row follow closely on this one, as after a restart, instead of leaping back? */
function goesOn(values: Float64Array, row: number, reversed: boolean, raw: number, most: number): boolean {
  const next = values[reversed ? row - 1 : row + 1];
  return next === undefined || Number.isNaN(next) || (next > raw && next <= raw + most);
}

/** After a leap, do the following rows stay beyond it? Then the clock was set anew; else the row is misplaced. */
function stays(
  values: Float64Array,
  row: number,
  rows: number,
  reversed: boolean,
  isBeyond: (value: number) => boolean,
): boolean {
  let beyond = 0;
  let seen = 0;
  for (let k = 1; k <= 5; k++) {
    const at = reversed ? row - k : row + k;
    if (at < 0 || at >= rows) break;
    const value = values[at] ?? Number.NaN;
    if (Number.isNaN(value)) continue;
    seen++;
    if (isBeyond(value)) beyond++;
  }
  return seen === 0 ? true : beyond >= Math.min(3, seen);
}
