/**
 * Reads a temperature log of any usual dialect into typed-array columns, and guesses what each column is.
 *
 * Model: a file is a table with a header row; its dialect (encoding, delimiter, decimal sign, header line) is found from the
 * first 64 kB and used for the rest. Roles come from the header's words in English, German or French.
 * Units: °C, W, V, MHz, rpm, %, dBA, s. Limits: one header line; numbers of up to 15 digits.
 */

export type { CardInLog } from "./cards.ts";
export type { RunStart } from "./clock.ts";
export { cellFigure } from "./dialect.ts";
export { guessFromHeader } from "./header-words.ts";
export type { RawTable } from "./reader.ts";
export { RunReader } from "./reader.ts";
export type { LevelRole, Role, TemperatureRole } from "./role.ts";
export {
  CARD_SENSORS,
  COMPARED_ROLES,
  isRole,
  isTemperatureRole,
  LEVEL_ROLES,
  ROLES,
  TEMPERATURE_ROLES,
} from "./role.ts";
export type { ReadOptions, RunColumn, RunTable } from "./table.ts";
export { channel, meanOf, readRun, tabulate } from "./table.ts";
