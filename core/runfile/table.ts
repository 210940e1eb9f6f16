import { type Notice, Problem } from "../problem/index.ts";
import type { Unit } from "../units/index.ts";
import { type CardInLog, settleCards } from "./cards.ts";
import { findClock, type RunStart } from "./clock.ts";
import { guessFromHeader, type HeaderGuess, nameOf } from "./header-words.ts";
import { type RawColumn, type RawTable, RunReader } from "./reader.ts";
import { isTemperatureRole, type Role, TEMPERATURE_ROLES } from "./role.ts";

export interface RunColumn {
  header: string;
  /** What it was taken for; null when it is nothing the card's figures need. */
  role: Role | null;
  /** The file's own unit; null when the file names none. */
  unit: string | null;
  sure: boolean;
  /** One value per row in the units of `core/units`; NaN where missing. */
  values: Float64Array;
}

export interface RunTable {
  rows: number;
  /** Seconds since the first row, rising. */
  timeS: Float64Array;
  timeForm: string;
  /** When it began by the log's own clock; null where it tells no date. */
  start: RunStart | null;
  /** Median step between rows, s. */
  intervalS: number;
  columns: RunColumn[];
  /** The cards it holds, one in the usual log; columns of those that are not chosen have no role. */
  cards: CardInLog[];
  /** What the reader met and coped with, in words. */
  notices: Notice[];
}

export interface ReadOptions {
  /** Seconds between rows, for a file without time. */
  intervalS?: number | undefined;
  /** Pairs of role and header that overrule the guess; `null` takes a column out. */
  map?: ReadonlyArray<readonly [Role | null, string]> | undefined;
  /** Which card, from 1, where the log holds several. */
  card?: number | undefined;
  /** A log of something else, such as a fan's speed alone, will do. */
  withoutTemperature?: boolean | undefined;
  /** How many bytes there are in all, where that is known: memory is then taken once. */
  bytes?: number | undefined;
}

/** Each is fitted by itself; a card with all its probes has a dozen. */
const MOST_PROBES = 60;

/**
 * Reads a whole log from its pieces.
 * @param pieces the file's bytes in order, cut anywhere; none is looked at again once the next is asked for
 * @returns columns in the units of `core/units`, time in seconds from the first row
 * @throws Problem `which-card` where it holds several under load and none was chosen, and when it is no log, has fewer than two rows, no temperature or no time, or `map` names a header it lacks
 * @example
 * ```ts
 * const text = "Time [s],GPU temp [°C]\n0,40\n1,41\n";
 * readRun([new TextEncoder().encode(text)]).columns[1].role // => "edge"
 * ```
 */
export function readRun(pieces: Iterable<Uint8Array>, options: ReadOptions = {}): RunTable {
  const reader = new RunReader(options.bytes);
  for (const piece of pieces) reader.push(piece);
  return tabulate(reader.end(), options);
}

/** Settles roles, units and time of what a `RunReader` read. Same errors as `readRun`. */
export function tabulate(raw: RawTable, options: ReadOptions = {}): RunTable {
  if (raw.rows === 0)
    throw new Problem({
      code: "header-only",
      what: "The file has a header but no rows of figures.",
      remedy: "Let the logger run during the load, then export again.",
    });
  if (raw.rows === 1) throw tooFewRows();
  const guesses = raw.columns.map((column) => guessFromHeader(column.header, column.rowUnit ?? column.valueUnit));
  const roles: Array<Role | null> = guesses.map((guess) => guess.role);
  const sure = guesses.map((guess) => guess.sure);
  guesses.forEach((guess, index) => {
    if (guess.role === "fanRpm" && guess.unit === undefined) roles[index] = asFan(raw.columns[index], sure, index);
  });
  const guessed = [...roles];
  const mapped = applyMap(raw.columns, options.map ?? [], roles, sure);
  const named = new Set([...mapped.values()].filter((index) => roles[index] !== null && roles[index] !== "time"));
  const { cards, others } = settleCards(raw.columns, guessed, options.card, named);
  for (const index of others) {
    if (named.has(index)) continue;
    roles[index] = null;
    sure[index] = true;
  }
  const clock = findClock(
    raw,
    guesses.map((guess) => ({
      timeWords: guess.timeWords,
      unitScale: guess.unit?.quantity === "duration" ? guess.unit.scale : undefined,
    })),
    [...mapped.values()].filter((index) => roles[index] === "time"),
    options.intervalS,
  );
  settleDuplicates(raw.columns, guesses, roles, sure, new Set(mapped.values()));
  if (clock.column >= 0) {
    roles[clock.column] = "time";
    sure[clock.column] = clock.sure || mapped.has("time");
  }
  for (const index of clock.days) {
    roles[index] = "time";
    sure[index] = true;
  }
  guesses.forEach((guess, index) => {
    if (roles[index] === "time" && index !== clock.column && !clock.days.includes(index)) roles[index] = null;
    if (roles[index] === null && guess.timeWords) sure[index] = true;
  });

  const notices = [...clock.notices, ...readerNotices(raw), ...limitProbes(roles, new Set(mapped.values()))];
  const keptRows = clock.drop ? indicesKept(clock.drop) : undefined;
  const arrange = (values: Float64Array): Float64Array => {
    const kept = keptRows ? Float64Array.from(keptRows, (row) => values[row] ?? Number.NaN) : values;
    return clock.reversed ? kept.reverse() : kept;
  };
  const timeS = arrange(clock.timeS);
  if (timeS.length < 2) throw tooFewRows();
  const columns = raw.columns.map((column, index): RunColumn => {
    const unit = guesses[index]?.unit;
    const role = roles[index] ?? null;
    const values = index === clock.column ? timeS : convert(arrange(column.values), unit, role);
    return { header: column.header, role, unit: unit?.symbol ?? null, sure: sure[index] ?? false, values };
  });
  if (
    !options.withoutTemperature &&
    !columns.some(
      (column) =>
        isTemperatureRole(column.role) &&
        column.role !== "ambient" &&
        column.values.some((value) => !Number.isNaN(value)),
    )
  )
    throw new Problem({
      code: "no-temperature",
      what: "No column of this file is a temperature of the card.",
      remedy: "Name one with --map edge=HEADER, or log the card's temperature too.",
    });
  question(columns, notices);
  return {
    rows: timeS.length,
    timeS,
    timeForm: clock.form,
    start: clock.start,
    intervalS: medianStep(timeS),
    columns,
    cards,
    notices,
  };
}

/** A fan without a unit: up to 100 it is a duty, well above it a speed. */
function asFan(column: RawColumn | undefined, sure: boolean[], index: number): Role {
  let most = 0;
  for (const value of column?.values ?? []) if (value > most) most = value;
  if (most > 150) sure[index] = true;
  return most > 0 && most <= 100 ? "fanPct" : "fanRpm";
}

const tooFewRows = (): Problem =>
  new Problem({
    code: "too-few-rows",
    what: "The file has fewer than two usable rows.",
    remedy: "Let the logger run during the whole load, then export again.",
  });

function applyMap(
  columns: RawColumn[],
  map: ReadonlyArray<readonly [Role | null, string]>,
  roles: Array<Role | null>,
  sure: boolean[],
): Map<string, number> {
  const taken = new Map<string, number>();
  const overruled = new Set<Role>();
  const named: Array<[number, Role | null]> = [];
  for (const [role, header] of map) {
    const name = nameOf(header);
    const index = columns.findIndex((column, at) => column.header === name && !named.some(([known]) => known === at));
    const loose =
      index >= 0
        ? index
        : columns.findIndex((column) => column.header.trim().toLowerCase() === name.trim().toLowerCase());
    if (loose < 0)
      throw new Problem({
        code: "no-such-header",
        what: `The file has no column “${header}”.`,
        remedy: `Its columns are: ${columns.map((column) => column.header).join(", ")}.`,
      });
    named.push([loose, role]);
    if (role !== null) overruled.add(role);
    taken.set(role ?? `none ${loose}`, loose);
  }
  roles.forEach((role, index) => {
    if (role !== null && overruled.has(role)) roles[index] = isTemperatureRole(role) ? "probe" : null;
  });
  for (const [index, role] of named) {
    roles[index] = role;
    sure[index] = true;
    taken.set(`column ${index}`, index);
  }
  return taken;
}

/** A role that can be held once goes to the strongest guess; the others become named probes. */
function settleDuplicates(
  columns: RawColumn[],
  guesses: HeaderGuess[],
  roles: Array<Role | null>,
  sure: boolean[],
  fixed: ReadonlySet<number>,
): void {
  const filled = (index: number): boolean => (columns[index]?.numbers ?? 0) > 0;
  for (const role of ["edge", "hotspot", "ambient", "coolant"] as const) {
    const holders = roles.flatMap((held, index) => (held === role ? [index] : []));
    if (holders.length < 2) continue;
    const rank = (index: number): number =>
      (fixed.has(index) ? 100 : 0) + (filled(index) ? 10 : 0) + (guesses[index]?.strength ?? 0);
    const best = holders.reduce((top, index) => (rank(index) > rank(top) ? index : top));
    for (const index of holders) {
      if (index === best) continue;
      roles[index] = "probe";
      sure[index] = false;
      if (rank(index) === rank(best) && !fixed.has(best)) sure[best] = false;
    }
  }
  if (!roles.includes("edge")) {
    const temperatures = roles.flatMap((role, index) =>
      role === "probe" && !sure[index] && filled(index) ? [index] : [],
    );
    const only = temperatures[0];
    if (temperatures.length === 1 && only !== undefined && !fixed.has(only) && !roles.includes("hotspot"))
      roles[only] = "edge";
  }
  const totals = roles.flatMap((role, index) =>
    role === "power" && guesses[index]?.boardTotal && filled(index) ? [index] : [],
  );
  const total = totals[0];
  if (total !== undefined && !roles.some((role, index) => role === "power" && fixed.has(index)))
    roles.forEach((role, index) => {
      if (role === "power" && index !== total) roles[index] = null;
    });
}

/** Takes probes beyond `MOST_PROBES` out, but for those that were named. */
function limitProbes(roles: Array<Role | null>, fixed: ReadonlySet<number>): Notice[] {
  const beyond = roles
    .flatMap((role, index) => (role === "probe" && !fixed.has(index) ? [index] : []))
    .slice(MOST_PROBES);
  if (beyond.length === 0) return [];
  for (const index of beyond) roles[index] = null;
  return [
    {
      code: "many-probes",
      text: `${beyond.length} of the file's temperatures were left out: only the first ${MOST_PROBES} that say nothing of the card are judged. Name those that matter.`,
    },
  ];
}

function convert(values: Float64Array, unit: Unit | undefined, role: Role | null): Float64Array {
  if (!unit || (unit.scale === 1 && unit.offset === 0) || (role === null && unit.quantity === "other")) return values;
  for (let row = 0; row < values.length; row++) values[row] = (values[row] ?? Number.NaN) * unit.scale + unit.offset;
  return values;
}

function indicesKept(drop: Uint8Array): Uint32Array {
  const kept: number[] = [];
  for (let row = 0; row < drop.length; row++) if (!drop[row]) kept.push(row);
  return Uint32Array.from(kept);
}

function readerNotices(raw: RawTable): Notice[] {
  const notices: Notice[] = [];
  if (raw.restarts.length > 0)
    notices.push({
      code: "restarted",
      text: `The logger started again ${raw.restarts.length} time(s) in this file; the parts were joined.`,
    });
  if (raw.otherHeader)
    notices.push({
      code: "glued",
      text: "A different header stands in mid-file: two logs may be glued together. Columns of one name were joined.",
    });
  if (raw.droppedLastRow) notices.push({ code: "cut-off", text: "The last row was cut off and left out." });
  if (raw.ragged > 0)
    notices.push({
      code: "ragged",
      text: `${raw.ragged} rows had more fields than the header; the extra fields were left out.`,
    });
  const headers = raw.columns.map((column) => column.header);
  const twice = [...new Set(headers.filter((header, index) => headers.indexOf(header) !== index))];
  if (twice.length > 0)
    notices.push({
      code: "duplicate-header",
      text: `Several columns have the same name: ${twice.join(", ")}. Check what each was taken for.`,
    });
  return notices;
}

/** Questions figures that no bench shows: a room of 70 degrees, a die of 190. */
function question(columns: RunColumn[], notices: Notice[]): void {
  for (const column of columns) {
    if (!isTemperatureRole(column.role) || column.unit === "°F") continue;
    const middle = medianOf(column.values);
    if (column.role === "ambient" && middle > 45)
      notices.push({
        code: "room-implausible",
        text: `“${column.header}” says the room has ${Math.round(middle)} °C. Is it in Fahrenheit? ${Math.round(middle)} °F are ${(((middle - 32) * 5) / 9).toFixed(1)} °C.`,
      });
    else if (column.role !== "probe" && middle > 130)
      notices.push({
        code: "temperature-implausible",
        text: `“${column.header}” reads ${Math.round(middle)} in the middle: is it in Fahrenheit?`,
      });
  }
}

function medianOf(values: Float64Array): number {
  const stride = Math.max(1, Math.floor(values.length / 2000));
  const some: number[] = [];
  for (let row = 0; row < values.length; row += stride) {
    const value = values[row] ?? Number.NaN;
    if (!Number.isNaN(value)) some.push(value);
  }
  some.sort((a, b) => a - b);
  return some[some.length >> 1] ?? Number.NaN;
}

function medianStep(timeS: Float64Array): number {
  const steps = new Float64Array(Math.min(timeS.length - 1, 20_000));
  for (let row = 0; row < steps.length; row++) steps[row] = (timeS[row + 1] ?? 0) - (timeS[row] ?? 0);
  steps.sort();
  const middle = steps[steps.length >> 1] ?? 1;
  return Number(middle.toPrecision(6));
}

/**
 * The values of a role per row: the mean of all fans, the largest power line, the hottest of several sensors.
 * @returns undefined when no column has the role or none has a value
 */
export function channel(table: RunTable, role: Role): Float64Array | undefined {
  const held = table.columns.filter(
    (column) => column.role === role && column.values.some((value) => !Number.isNaN(value)),
  );
  const [only] = held;
  if (!only || held.length === 1) return only?.values;
  if (role !== "fanRpm" && role !== "fanPct") {
    const hottest = (TEMPERATURE_ROLES as readonly string[]).includes(role) || role === "power";
    return hottest
      ? held.reduce((top, column) => (meanOf(column.values) > meanOf(top.values) ? column : top)).values
      : only.values;
  }
  const mean = new Float64Array(table.rows);
  for (let row = 0; row < table.rows; row++) {
    let sum = 0;
    let count = 0;
    for (const column of held) {
      const value = column.values[row] ?? Number.NaN;
      if (Number.isNaN(value)) continue;
      sum += value;
      count++;
    }
    mean[row] = count === 0 ? Number.NaN : sum / count;
  }
  return mean;
}

/** Mean of the values that are there; NaN when there are none. */
export function meanOf(values: Float64Array): number {
  let sum = 0;
  let count = 0;
  for (let row = 0; row < values.length; row++) {
    const value = values[row] as number;
    // Missing: no number is unlike itself.
    if (value !== value) continue;
    sum += value;
    count++;
  }
  return count === 0 ? Number.NaN : sum / count;
}
