import { Problem } from "../problem/index.ts";
import type { Unit } from "../units/index.ts";
import { cellFigure, type Dialect, findDialect, LARGEST, LONGEST_FIGURE, MISSING, splitLine } from "./dialect.ts";
import { GrowingColumn } from "./growing-column.ts";
import { nameOf } from "./header-words.ts";
import { readStamp, type Stamp, StampKind } from "./stamp.ts";

/** One column as it stands in the file, before roles, units and time are settled. */
export interface RawColumn {
  header: string;
  rowUnit: Unit | undefined;
  valueUnit: Unit | undefined;
  values: Float64Array;
  numbers: number;
  timesOfDay: number;
  instants: number;
  /** Of the instants, those that name their offset from UTC. */
  zoned: number;
  texts: number;
}

export interface RawTable {
  columns: RawColumn[];
  rows: number;
  /** Row indices at which the logger wrote its header again. */
  restarts: number[];
  ragged: number;
  droppedLastRow: boolean;
  otherHeader: boolean;
  headerLine: string;
}

interface Slot {
  header: string;
  rowUnit: Unit | undefined;
  valueUnit: Unit | undefined;
  column: GrowingColumn;
  numbers: number;
  timesOfDay: number;
  instants: number;
  /** Of the instants, those that name their offset from UTC. */
  zoned: number;
  texts: number;
}

const HEAD_BYTES = 65_536;
/** A logger of everything a machine has writes some 400. */
const MOST_COLUMNS = 1000;
/** 640 MB of figures: 24 hours ten times a second have 52 million with 60 columns. */
const MOST_FIGURES = 80_000_000;
const POWERS = Float64Array.from({ length: 23 }, (_, k) => Number(`1e${k}`));
/** So many rows tell how long those to come are; a little more is taken. */
const LEAST_SEEN = 1000;
const RESERVE = 1.03;
const ZERO = 48;
const NINE = 57;
const POINT = 46;
const MINUS = 45;
/** A double holds so many figures exactly. */
const MOST_DIGITS = 15;
const LF = 10;
const CR = 13;
const QUOTE = 34;
const SPACE = 32;

/**
 * Reads a log piece by piece: push bytes as they come, then `end()`.
 * Numbers are read straight from the bytes into columns; no object is made per row.
 * Memory: eight bytes per field, plus one piece and one row.
 */
export class RunReader {
  #head: Uint8Array[] = [];
  #headBytes = 0;
  #dialect: Dialect | undefined;
  #decoder: TextDecoder | undefined;
  #latin1 = false;
  #newline = LF;
  /** Values of the row that is being read. */
  #scratch = new Float64Array(0);
  #carry: Uint8Array = new Uint8Array(0);
  #slots: Slot[] = [];
  /** Position in the file's row → slot; changes when a restarted logger orders its columns anew. */
  #order: Slot[] = [];
  #byName = new Map<string, Slot>();
  #rows = 0;
  #restarts: number[] = [];
  #ragged = 0;
  #otherHeader = false;
  #droppedLastRow = false;
  #toSkip = 0;
  readonly #stamp: Stamp = { kind: StampKind.None, seconds: 0, zoned: false };

  readonly #allBytes: number | undefined;
  #readBytes = 0;
  #isReserved = false;

  /** @param bytes of the whole log, where that is known */
  constructor(bytes?: number) {
    this.#allBytes = bytes;
  }

  /** Rows read so far. */
  get rows(): number {
    return this.#rows;
  }

  /** @throws Problem as soon as the beginning shows that it is not a log */
  push(piece: Uint8Array): void {
    if (this.#dialect) {
      this.#consume(this.#transcode(piece), false);
      return;
    }
    // A reader of files may use its memory anew.
    this.#head.push(piece.slice());
    this.#headBytes += piece.length;
    if (this.#headBytes >= HEAD_BYTES) this.#begin(false);
  }

  /** @throws Problem `header-only` and those of `push` */
  end(): RawTable {
    if (!this.#dialect) this.#begin(true);
    if (this.#decoder) this.#consume(encode(this.#decoder.decode()), true);
    else this.#consume(new Uint8Array(0), true);
    return {
      columns: this.#slots.map((slot) => ({
        header: slot.header,
        rowUnit: slot.rowUnit,
        valueUnit: slot.valueUnit,
        values: slot.column.take(),
        numbers: slot.numbers,
        timesOfDay: slot.timesOfDay,
        instants: slot.instants,
        zoned: slot.zoned,
        texts: slot.texts,
      })),
      rows: this.#rows,
      restarts: this.#restarts,
      ragged: this.#ragged,
      droppedLastRow: this.#droppedLastRow,
      otherHeader: this.#otherHeader,
      headerLine: this.#dialect?.headerLine ?? "",
    };
  }

  #begin(whole: boolean): void {
    let bytes: Uint8Array = joined(this.#head, this.#headBytes);
    this.#head = [];
    let bom = 0;
    if (bytes[0] === 0xff && bytes[1] === 0xfe) this.#decoder = new TextDecoder("utf-16le");
    else if (bytes[0] === 0xfe && bytes[1] === 0xff) this.#decoder = new TextDecoder("utf-16be");
    else if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) bom = 3;
    else {
      const wide = zeroBytes(bytes);
      if (wide) this.#decoder = new TextDecoder(wide);
    }
    bytes = this.#transcode(bytes.subarray(bom));
    refuseBinary(bytes);
    if (!bytes.includes(LF) && bytes.includes(CR)) this.#newline = CR;
    this.#latin1 = !isUtf8(bytes, whole);
    const dialect = findDialect(this.#text(bytes, 0, bytes.length), whole);
    this.#dialect = dialect;
    this.#toSkip = dialect.skipLines;
    dialect.headers.forEach((header, index) => {
      this.#order.push(this.#addSlot(header, dialect.unitRow[index]));
    });
    this.#consume(bytes, false);
  }

  #addSlot(header: string, rowUnit: Unit | undefined): Slot {
    const slot: Slot = {
      header,
      rowUnit,
      valueUnit: undefined,
      column: new GrowingColumn(),
      numbers: 0,
      timesOfDay: 0,
      instants: 0,
      zoned: 0,
      texts: 0,
    };
    if (this.#slots.length === MOST_COLUMNS)
      throw new Problem({
        code: "too-many-columns",
        what: `This file has more than ${MOST_COLUMNS} columns.`,
        remedy: "Let the logger write the card's own values only, or export fewer columns.",
      });
    slot.column.padTo(this.#rows);
    this.#slots.push(slot);
    if (!this.#byName.has(header)) this.#byName.set(header, slot);
    return slot;
  }

  #transcode(piece: Uint8Array): Uint8Array {
    return this.#decoder ? encode(this.#decoder.decode(piece, { stream: true })) : piece;
  }

  #text(bytes: Uint8Array, start: number, end: number): string {
    return new TextDecoder(this.#latin1 ? "windows-1252" : "utf-8").decode(bytes.subarray(start, end));
  }

  #consume(piece: Uint8Array, last: boolean): void {
    const newline = this.#newline;
    let bytes = piece;
    let start = 0;
    if (this.#carry.length > 0) {
      // Only the line that was cut is put together again.
      const at = piece.indexOf(newline);
      const end = at < 0 ? piece.length : at;
      const line = joined([this.#carry, piece.subarray(0, end)], this.#carry.length + end);
      if (at < 0) bytes = line;
      else {
        this.#line(line, 0, line.length, false);
        start = at + 1;
      }
    }
    for (;;) {
      start = this.#plainRows(bytes, start);
      const at = bytes.indexOf(newline, start);
      if (at < 0) break;
      this.#line(bytes, start, at, false);
      start = at + 1;
    }
    this.#reserve(piece.length);
    if (last) {
      if (start < bytes.length) this.#line(bytes, start, bytes.length, true);
      this.#carry = new Uint8Array(0);
    } else this.#carry = bytes.slice(start);
  }

  /** After the first rows of a log of known size: memory for all that will come. */
  #reserve(bytes: number): void {
    this.#readBytes += bytes;
    if (this.#allBytes === undefined || this.#isReserved || this.#rows < LEAST_SEEN) return;
    this.#isReserved = true;
    const rows = Math.ceil((this.#rows * this.#allBytes * RESERVE) / this.#readBytes);
    if (rows * this.#slots.length > MOST_FIGURES) return;
    for (const { column } of this.#slots) column.reserve(rows);
  }

  /**
   * Rows of nothing but bare numbers, as nearly all are, in one go over their bytes.
   * @returns where the first row of another kind begins, of which nothing was taken yet
   */
  #plainRows(bytes: Uint8Array, from: number): number {
    const width = this.#order.length;
    const delimiter = this.#dialect?.delimiter ?? 0;
    if (delimiter === 0 || width === 0 || this.#toSkip > 0) return from;
    if (this.#scratch.length < width) this.#scratch = new Float64Array(width);
    const scratch = this.#scratch;
    const columns = this.#order.map(({ column }) => column);
    const point = this.#dialect?.decimal || POINT;
    const newline = this.#newline;
    const mostRows = Math.floor(MOST_FIGURES / this.#slots.length) - this.#rows;
    let start = from;
    let rows = 0;
    // Up to the last end of a line no look can go beyond the bytes.
    const stop = bytes.lastIndexOf(newline);
    read: while (rows < mostRows && start < stop) {
      let at = start;
      for (let index = 0; index < width; index++) {
        let byte = bytes[at] as number;
        const negative = byte === MINUS;
        if (negative) byte = bytes[++at] as number;
        const begun = at;
        let mantissa = 0;
        while (byte >= ZERO && byte <= NINE) {
          mantissa = mantissa * 10 + (byte - ZERO);
          byte = bytes[++at] as number;
        }
        let digits = at - begun;
        let value = mantissa;
        if (byte === point) {
          const behind = at + 1;
          byte = bytes[++at] as number;
          while (byte >= ZERO && byte <= NINE) {
            mantissa = mantissa * 10 + (byte - ZERO);
            byte = bytes[++at] as number;
          }
          digits += at - behind;
          value = mantissa / (POWERS[at - behind] ?? 1);
        }
        if (digits === 0 || digits > MOST_DIGITS) break read;
        scratch[index] = negative ? -value : value;
        if (index < width - 1) {
          if (byte !== delimiter) break read;
        } else {
          if (byte === CR && newline !== CR) byte = bytes[++at] as number;
          if (byte !== newline) break read;
        }
        at++;
      }
      for (let index = 0; index < width; index++) columns[index]?.push(scratch[index] as number);
      start = at;
      rows++;
    }
    for (const slot of this.#order) slot.numbers += rows;
    this.#rows += rows;
    return start;
  }

  #line(bytes: Uint8Array, from: number, to: number, unfinished: boolean): void {
    let start = from;
    let end = to;
    while (end > start && (bytes[end - 1] ?? 0) <= SPACE && bytes[end - 1] !== 9) end--;
    while (start < end && (bytes[start] === SPACE || bytes[start] === CR)) start++;
    if (this.#toSkip > 0) {
      this.#toSkip--;
      return;
    }
    if (start >= end) return;
    if ((this.#rows + 1) * this.#slots.length > MOST_FIGURES)
      throw new Problem({
        code: "too-long",
        what: `This log has more than ${MOST_FIGURES / 1e6} million figures.`,
        remedy: "Cut it into parts, or export fewer columns or a longer interval.",
      });
    if (this.#dialect?.kind === "ndjson") this.#jsonRow(bytes, start, end, unfinished);
    else this.#row(bytes, start, end, unfinished);
  }

  #row(bytes: Uint8Array, start: number, end: number, unfinished: boolean): void {
    const first = bytes[start] ?? 0;
    if (first > 57 || first === 35 || first === QUOTE || first === 47) {
      if (this.#wordLine(bytes, start, end)) return;
    }
    const delimiter = this.#dialect?.delimiter ?? 44;
    const decimal = this.#dialect?.decimal ?? 0;
    const order = this.#order;
    if (unfinished && countFields(bytes, start, end, delimiter) < order.length) {
      this.#droppedLastRow = true;
      return;
    }
    let position = start;
    let index = 0;
    const width = order.length;
    while (index < width) {
      const slot = order[index];
      if (!slot) break;
      if (position > end) {
        slot.column.push(Number.NaN);
        index++;
        continue;
      }
      while (position < end && bytes[position] === SPACE) position++;
      let at = position;
      let negative = false;
      const sign = bytes[at];
      if (sign === 45 || sign === 43) {
        negative = sign === 45;
        at++;
      }
      let mantissa = 0;
      let digits = 0;
      let decimals = -1;
      let plain = true;
      while (at < end) {
        const byte = bytes[at] ?? 0;
        if (byte >= 48 && byte <= 57) {
          mantissa = mantissa * 10 + (byte - 48);
          digits++;
          if (decimals >= 0) decimals++;
        } else if (byte === delimiter) break;
        else if ((byte === 46 || byte === 44) && decimals < 0 && (decimal === 0 || byte === decimal)) decimals = 0;
        else {
          plain = false;
          break;
        }
        at++;
      }
      if (plain && digits > 0 && digits < 16) {
        const value = decimals > 0 ? mantissa / (POWERS[decimals] ?? 1) : mantissa;
        slot.column.push(negative ? -value : value);
        slot.numbers++;
      } else at = this.#slowField(bytes, position, end, delimiter, decimal, slot);
      position = at + 1;
      index++;
    }
    if (position <= end && end - position > 0) this.#ragged++;
    this.#rows++;
  }

  /** Anything that is not a bare number: quoted, with an exponent or unit, a clock time, missing, words. */
  #slowField(bytes: Uint8Array, start: number, end: number, delimiter: number, decimal: number, slot: Slot): number {
    let at = start;
    let text: string | undefined;
    if (bytes[start] === QUOTE) {
      at = start + 1;
      while (at < end && !(bytes[at] === QUOTE && bytes[at + 1] !== QUOTE)) at += bytes[at] === QUOTE ? 2 : 1;
      text = this.#text(bytes, start + 1, at)
        .replace(/""/g, '"')
        .trim();
      while (at < end && bytes[at] !== delimiter) at++;
    } else {
      while (at < end && bytes[at] !== delimiter) at++;
      let stop = at;
      while (stop > start && bytes[stop - 1] === SPACE) stop--;
      if (readStamp(bytes, start, stop, this.#stamp)) {
        this.#keepStamp(slot);
        return at;
      }
      text = this.#text(bytes, start, Math.min(stop, start + 4 * LONGEST_FIGURE));
    }
    this.#keepText(slot, text, decimal);
    return at;
  }

  #keepStamp(slot: Slot): void {
    if (this.#stamp.kind === StampKind.Instant) {
      slot.instants++;
      if (this.#stamp.zoned) slot.zoned++;
    } else slot.timesOfDay++;
    slot.column.push(this.#stamp.seconds);
  }

  #keepText(slot: Slot, text: string, decimal: number): void {
    const bytes = text.length <= LONGEST_FIGURE && /\d/.test(text) ? encode(text) : undefined;
    if (bytes && readStamp(bytes, 0, bytes.length, this.#stamp)) {
      this.#keepStamp(slot);
      return;
    }
    const figure = cellFigure(text, decimal);
    slot.column.push(figure?.value ?? Number.NaN);
    if (!figure) slot.texts++;
    else if (!Number.isNaN(figure.value)) {
      slot.numbers++;
      slot.valueUnit ??= figure.unit;
    }
  }

  /** A comment or a header in mid-file; true when the line is dealt with. */
  #wordLine(bytes: Uint8Array, start: number, end: number): boolean {
    const line = this.#text(bytes, start, end);
    if (/^(#|\/\/)/.test(line)) {
      if (line.trim() === this.#dialect?.headerLine) this.#restarts.push(this.#rows);
      return true;
    }
    const delimiter = this.#dialect?.delimiter ? String.fromCharCode(this.#dialect.delimiter) : "";
    const fields = splitLine(line, delimiter).map((field, index) => nameOf(field) || `column ${index + 1}`);
    if (line.trim() === this.#dialect?.headerLine) {
      this.#restarts.push(this.#rows);
      return true;
    }
    const known = fields.filter((field) => this.#byName.has(field)).length;
    if (known >= 2 && known >= 0.5 * fields.length) {
      this.#restarts.push(this.#rows);
      this.#reorder(fields);
      return true;
    }
    if (fields.length >= 2 && !fields.some((field) => MISSING.has(field.toLowerCase()) || /\d/.test(field[0] ?? ""))) {
      const headerLike =
        fields.filter((field) => /temp|fan|power|clock|rpm|°|\[|\(/i.test(field)).length >= 0.5 * fields.length;
      if (headerLike) {
        this.#otherHeader = true;
        this.#restarts.push(this.#rows);
        this.#reorder(fields);
        return true;
      }
    }
    return delimiter !== "" && fields.length === 1;
  }

  #reorder(fields: string[]): void {
    const used = new Set<Slot>();
    this.#order = fields.map((field) => {
      const same =
        this.#slots.find((slot) => slot.header === field && !used.has(slot)) ?? this.#addSlot(field, undefined);
      used.add(same);
      return same;
    });
    for (const slot of this.#slots) slot.column.padTo(this.#rows);
    const absent = this.#slots.filter((slot) => !used.has(slot));
    this.#order.push(...absent);
  }

  #jsonRow(bytes: Uint8Array, start: number, end: number, unfinished: boolean): void {
    let row: unknown;
    try {
      row = JSON.parse(withoutComma(this.#text(bytes, start, end)));
    } catch {
      if (unfinished) {
        this.#droppedLastRow = true;
        return;
      }
      throw new Problem({
        code: "bad-json",
        what: "This line is not a complete JSON object.",
        where: `row ${this.#rows + 1}`,
        remedy: "Write one flat object per line, or export the log as delimited text.",
      });
    }
    if (row === null || typeof row !== "object" || Array.isArray(row)) return;
    for (const [written, value] of Object.entries(row)) {
      const key = nameOf(written);
      const slot = this.#byName.get(key) ?? this.#addSlot(key, undefined);
      if (slot.column.length > this.#rows) continue;
      if (typeof value === "number" && Math.abs(value) < LARGEST) {
        slot.column.push(value);
        slot.numbers++;
      } else if (typeof value === "string") this.#keepText(slot, value.trim(), 46);
      else slot.column.push(Number.NaN);
    }
    this.#rows++;
    for (const slot of this.#slots) slot.column.padTo(this.#rows);
  }
}

/** Some loggers write their objects as the entries of a list. */
function withoutComma(line: string): string {
  const trimmed = line.trimEnd();
  return trimmed.endsWith(",") ? trimmed.slice(0, -1) : trimmed;
}

const encode = (text: string): Uint8Array => new TextEncoder().encode(text);

function joined(parts: Uint8Array[], length: number): Uint8Array<ArrayBuffer> {
  const all = new Uint8Array(length);
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

function countFields(bytes: Uint8Array, start: number, end: number, delimiter: number): number {
  let fields = 1;
  let quoted = false;
  for (let at = start; at < end; at++) {
    if (bytes[at] === QUOTE) quoted = !quoted;
    else if (!quoted && bytes[at] === delimiter) fields++;
  }
  return fields;
}

/** UTF-16 without a mark: nearly every second byte is zero. */
function zeroBytes(bytes: Uint8Array): "utf-16le" | "utf-16be" | undefined {
  const look = Math.min(bytes.length, 400) & ~1;
  if (look < 8) return undefined;
  let even = 0;
  let odd = 0;
  for (let at = 0; at < look; at += 2) {
    if (bytes[at] === 0) even++;
    if (bytes[at + 1] === 0) odd++;
  }
  if (odd > 0.4 * look && even < 0.05 * look) return "utf-16le";
  if (even > 0.4 * look && odd < 0.05 * look) return "utf-16be";
  return undefined;
}

function refuseBinary(bytes: Uint8Array): void {
  const look = Math.min(bytes.length, 4096);
  let odd = 0;
  for (let at = 0; at < look; at++) {
    const byte = bytes[at] ?? 0;
    if (byte === 0 || (byte < 9 && byte > 0) || (byte > 13 && byte < 27)) odd++;
  }
  if (look > 0 && odd > 0.02 * look)
    throw new Problem({
      code: "not-text",
      what: "This is a binary file, not a text log.",
      remedy: "Export the log as delimited text (CSV) and drop that.",
    });
}

function isUtf8(bytes: Uint8Array, whole: boolean): boolean {
  const cut = whole ? bytes.length : Math.max(0, bytes.length - 4);
  try {
    new TextDecoder("utf-8", { fatal: true }).decode(bytes.subarray(0, cut), { stream: !whole });
    return true;
  } catch {
    return false;
  }
}
