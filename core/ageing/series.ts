import { Problem } from "../problem/index.ts";
import type { RunTable, TemperatureRole } from "../runfile/index.ts";
import { prepareRun, resolutionOf } from "../soak/index.ts";
import type { TemperatureSeries } from "./cycles.ts";

/**
 * Temperatures of one log; without a role the die's, or the only temperature there is.
 * @param stretch of its time, s; all of it where none is given
 * @throws Problem `no-sensor`
 */
export function seriesOf(
  table: RunTable,
  role: TemperatureRole | null,
  stretch?: { fromS: number; toS: number },
): TemperatureSeries {
  const { sensors, roomColumn } = prepareRun(table);
  const room = role === "ambient" && roomColumn ? { values: roomColumn, step: resolutionOf(roomColumn) } : undefined;
  const only = role === null && sensors.length === 1 ? sensors[0] : undefined;
  const sensor = room ?? sensors.find(({ key }) => key === (role ?? "edge")) ?? only;
  if (!sensor)
    throw new Problem({
      code: "no-sensor",
      what: `There is no ${role ?? "edge"} temperature.`,
      remedy: `Name its column as ${role ?? "edge"}, or take another: ${[...new Set(sensors.map(({ key }) => key))].join(", ") || "there is none"}.`,
    });
  const { timeS } = table;
  const { fromS, toS } = stretch ?? { fromS: timeS[0] ?? 0, toS: timeS.at(-1) ?? 0 };
  const within = sensor.values.filter((_, row) => (timeS[row] ?? 0) >= fromS && (timeS[row] ?? 0) <= toS);
  return { values: within, durationS: toS - fromS, stepK: sensor.step };
}
