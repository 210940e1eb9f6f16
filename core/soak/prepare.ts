import {
  COMPARED_ROLES,
  channel,
  isTemperatureRole,
  LEVEL_ROLES,
  type LevelRole,
  type RunTable,
  type TemperatureRole,
} from "../runfile/index.ts";
import { clean, resolutionOf } from "./clean.ts";
import type { Expected, HeatingCurve } from "./heating-curve.ts";

export interface Sensor {
  key: TemperatureRole;
  header: string;
  values: Float64Array;
  step: number;
  spikes: number;
  curve?: HeatingCurve | undefined;
}

/** A run's columns, cleaned once, so that several windows can be judged without reading it again. */
export interface PreparedRun {
  table: RunTable;
  sensors: Sensor[];
  levels: Map<LevelRole, Float64Array>;
  roomColumn: Float64Array | undefined;
  /** By which time constant each sensor follows the room, s, once the run was judged. */
  followS: Map<TemperatureRole, Expected>;
}

/** @param table from `readRun`; not changed */
export function prepareRun(table: RunTable): PreparedRun {
  const levels = new Map<LevelRole, Float64Array>();
  for (const role of LEVEL_ROLES) {
    const values = channel(table, role);
    if (values) levels.set(role, clean(values, "other").values);
  }
  const room = channel(table, "ambient");
  const roomColumn = room && clean(room, "temperature").values;
  return { table, sensors: temperatureSensors(table), levels, roomColumn, followS: new Map() };
}

function temperatureSensors(table: RunTable): Sensor[] {
  const sensors: Sensor[] = [];
  const add = (key: TemperatureRole, header: string, raw: Float64Array): void => {
    const { values, spikes, dropouts } = clean(raw, "temperature");
    if (values.some((value) => !Number.isNaN(value)))
      sensors.push({ key, header, values, step: resolutionOf(values), spikes: spikes + dropouts });
  };
  for (const role of COMPARED_ROLES) {
    const values = channel(table, role);
    if (values) add(role, role, values);
  }
  for (const column of table.columns)
    if (isTemperatureRole(column.role) && column.role === "probe") add("probe", column.header, column.values);
  return sensors;
}
