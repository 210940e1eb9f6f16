/** Sensors on the card itself, from the die outward: those that have limits and stand on the ladder. */
export const CARD_SENSORS = ["edge", "hotspot", "memory", "vrm"] as const;
/** Temperatures of which a log has one each, and that two runs are compared by. */
export const COMPARED_ROLES = [...CARD_SENSORS, "coolant"] as const;
/** What a log column can be, in the words of the command line and of stored runs. */
export const TEMPERATURE_ROLES = [...COMPARED_ROLES, "ambient", "probe"] as const;
/** Every other line that is measured. */
export const LEVEL_ROLES = [
  "fanRpm",
  "fanPct",
  "power",
  "powerLimit",
  "coreClock",
  "memoryClock",
  "load",
  "voltage",
  "sound",
  "frameRate",
] as const;
export const ROLES = [...TEMPERATURE_ROLES, ...LEVEL_ROLES, "time"] as const;

export type TemperatureRole = (typeof TEMPERATURE_ROLES)[number];
export type LevelRole = (typeof LEVEL_ROLES)[number];
export type Role = (typeof ROLES)[number];

/**
 * @example
 * ```ts
 * isRole("hotspot") // => true
 * ```
 */
export const isRole = (word: string): word is Role => (ROLES as readonly string[]).includes(word);
/**
 * @example
 * ```ts
 * isTemperatureRole("power") // => false
 * ```
 */
export const isTemperatureRole = (role: Role | null): role is TemperatureRole =>
  role !== null && (TEMPERATURE_ROLES as readonly string[]).includes(role);
