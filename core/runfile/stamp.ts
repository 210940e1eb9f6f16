/** Reads clock times straight from the bytes of a field. */

export const enum StampKind {
  None = 0,
  TimeOfDay = 1,
  Instant = 2,
}

export interface Stamp {
  kind: StampKind;
  /** Seconds since midnight, or seconds since 1970-01-01T00:00Z. */
  seconds: number;
  /** An instant that names its offset from UTC; others are somebody's wall clock, taken as if it were UTC's. */
  zoned: boolean;
}

/** Days from 1970-01-01 to a date of the proleptic Gregorian calendar (H. Hinnant's closed form). */
export function daysFromCivil(year: number, month: number, day: number): number {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  return era * 146097 + yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear - 719468;
}

const ZERO = 48;
const NINE = 57;
const isDigit = (byte: number | undefined): byte is number => byte !== undefined && byte >= ZERO && byte <= NINE;

let position = 0;

function integer(bytes: Uint8Array, end: number, most: number): number {
  let value = 0;
  let digits = 0;
  while (position < end && digits < most) {
    const byte = bytes[position];
    if (!isDigit(byte)) break;
    value = value * 10 + byte - ZERO;
    position++;
    digits++;
  }
  return digits === 0 ? -1 : value;
}

/** `HH:MM:SS`, `H:MM:SS,mmm`, `MM:SS` and a trailing AM or PM, from `position`; -1 when it is none. */
function clock(bytes: Uint8Array, end: number): number {
  const first = integer(bytes, end, 3);
  if (first < 0 || bytes[position] !== 58) return -1;
  position++;
  const second = integer(bytes, end, 2);
  if (second < 0 || second > 59) return -1;
  let seconds = first * 60 + second;
  if (bytes[position] === 58 && position < end) {
    position++;
    const third = integer(bytes, end, 2);
    if (third < 0 || third > 60) return -1;
    seconds = seconds * 60 + third;
  }
  const sign = bytes[position];
  if (position < end && (sign === 46 || sign === 44)) {
    position++;
    const from = position;
    const fraction = integer(bytes, end, 9);
    if (fraction > 0) seconds += fraction / 10 ** (position - from);
  }
  let look = position;
  while (look < end && bytes[look] === 32) look++;
  const letter = (bytes[look] ?? 0) | 32;
  if (look + 1 < end && (letter === 97 || letter === 112) && ((bytes[look + 1] ?? 0) | 32) === 109) {
    position = look + 2;
    const hour = Math.floor(seconds / 3600);
    if (letter === 112 && hour < 12) seconds += 43200;
    if (letter === 97 && hour === 12) seconds -= 43200;
  }
  return seconds;
}

const trailing = (bytes: Uint8Array, end: number): boolean => {
  while (position < end && (bytes[position] === 32 || bytes[position] === 9)) position++;
  return position >= end;
};

/**
 * ISO 8601 date-times (offset or none, then read as UTC), a date in day.month.year or month/day/year before a clock time,
 * or a bare clock time.
 * @param into receives the answer, so that no object is made per field
 */
export function readStamp(bytes: Uint8Array, start: number, end: number, into: Stamp): boolean {
  into.kind = StampKind.None;
  into.zoned = false;
  position = start;
  if (!isDigit(bytes[start])) return false;
  const lead = integer(bytes, end, 4);
  const sign = bytes[position];
  if (sign === 58) {
    position = start;
    const seconds = clock(bytes, end);
    if (seconds < 0 || !trailing(bytes, end)) return false;
    into.kind = StampKind.TimeOfDay;
    into.seconds = seconds;
    return true;
  }
  if (sign !== 45 && sign !== 47 && sign !== 46) return false;
  position++;
  const middle = integer(bytes, end, 2);
  if (middle < 0 || bytes[position] !== sign) return false;
  position++;
  const lengthFrom = position;
  const last = integer(bytes, end, 4);
  if (last < 0) return false;
  let year = lead;
  let month = middle;
  let day = last;
  if (position - lengthFrom === 4) {
    year = last;
    day = sign === 47 ? middle : lead;
    month = sign === 47 ? lead : middle;
    if (month > 12) [month, day] = [day, month];
  }
  if (year < 1900 || month < 1 || month > 12 || day < 1 || day > 31) return false;
  let seconds = daysFromCivil(year, month, day) * 86400;
  const separator = bytes[position];
  if (position < end && (separator === 84 || separator === 116 || separator === 32 || separator === 44)) {
    position++;
    while (position < end && bytes[position] === 32) position++;
    if (position < end) {
      const time = clock(bytes, end);
      if (time < 0) return false;
      seconds += time;
    }
    while (position < end && bytes[position] === 32) position++;
    const zone = bytes[position];
    if (position < end && (zone === 90 || zone === 122)) {
      position++;
      into.zoned = true;
    } else if (position < end && (zone === 43 || zone === 45)) {
      position++;
      const hours = integer(bytes, end, 2);
      if (bytes[position] === 58) position++;
      const minutes = Math.max(0, integer(bytes, end, 2));
      if (hours < 0) return false;
      into.zoned = true;
      seconds -= (zone === 43 ? 1 : -1) * (hours * 3600 + minutes * 60);
    }
  } else if (!trailing(bytes, end)) return false;
  if (!trailing(bytes, end)) return false;
  into.kind = StampKind.Instant;
  into.seconds = seconds;
  return true;
}
