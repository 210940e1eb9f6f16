import { Problem } from "../problem/index.ts";
import { readRun } from "../runfile/index.ts";
import type { LeakReading } from "./leak.ts";

const PRESSURE = /press|druck|p[_ ]?(?:rel|abs|gauge)|kpa|mbar|hpa|\bbar\b|psi/i;
const UNIT_KPA: ReadonlyArray<readonly [unit: RegExp, kPa: number]> = [
  [/kpa/i, 1],
  [/mbar|hpa/i, 0.1],
  [/\bbar\b/i, 100],
  [/psi/i, 6.894757],
  [/\bpa\b/i, 0.001],
];

/**
 * Readings of a leak test from a log: any delimited text with time, pressure over the air outside, and air. More rows than are kept are thinned
 * evenly, each the mean of its stretch.
 * @throws Problem `no-pressure`, `no-air`, and as a run’s reader
 */
export function readLeakLog(bytes: Uint8Array, most: number): LeakReading[] {
  const table = readRun([bytes], { withoutTemperature: true });
  const pressure = table.columns.find(({ header, role }) => role === null && PRESSURE.test(header));
  if (!pressure)
    throw new Problem({
      code: "no-pressure",
      what: "No column of this log is a pressure.",
      remedy: "Name its unit in the header, such as “pressure [kPa]”.",
    });
  const air =
    table.columns.find(({ role }) => role === "ambient") ??
    table.columns.find(({ role }) => role === "coolant" || role === "probe");
  if (!air)
    throw new Problem({
      code: "no-air",
      what: "No column of this log is the air’s temperature.",
      remedy: "Log the room beside the gauge: a warming room looks like no leak.",
    });
  const kPa = UNIT_KPA.find(([unit]) => unit.test(pressure.header))?.[1] ?? 1;
  const rows: LeakReading[] = [];
  for (let row = 0; row < table.rows; row++) {
    const [s, p, t] = [table.timeS[row], pressure.values[row], air.values[row]];
    if (s !== undefined && p !== undefined && t !== undefined && Number.isFinite(p) && Number.isFinite(t))
      rows.push({ atMin: s / 60, pressureKPa: p * kPa, airC: t });
  }
  const step = Math.ceil(rows.length / most);
  if (step <= 1) return rows;
  return Array.from({ length: Math.ceil(rows.length / step) }, (_, at) => {
    const part = rows.slice(at * step, (at + 1) * step);
    return {
      atMin: mean((one) => one.atMin, part),
      pressureKPa: mean((one) => one.pressureKPa, part),
      airC: mean((one) => one.airC, part),
    };
  });
}

const mean = (of: (one: LeakReading) => number, part: readonly LeakReading[]): number =>
  part.reduce((sum, one) => sum + of(one), 0) / part.length;
