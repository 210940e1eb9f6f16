import { CARD_SENSORS, channel, type RunTable } from "../runfile/index.ts";

/** Of longer columns every so manieth sample is looked at: noise makes any two runs differ in these as well. */
const MOST_SAMPLES = 50_000;

/**
 * Tells the samples of two runs apart, however their files are written: FNV-1a over the 64 bits of every value of the card's sensors and
 * its power. Source of the two constants: Fowler, Noll and Vo, draft-eastlake-fnv (from memory).
 */
export function fingerprintOf(table: RunTable): string {
  let hash = 0x811c9dc5;
  for (const role of [...CARD_SENSORS, "power"] as const) {
    const values = channel(table, role);
    if (!values) continue;
    hash = Math.imul(hash ^ role.length, 0x01000193);
    const stride = Math.ceil(values.length / MOST_SAMPLES);
    const some =
      stride === 1
        ? values.slice()
        : Float64Array.from({ length: Math.floor(values.length / stride) }, (_, k) => values[k * stride] ?? 0);
    // A view of the values needs them to begin on a word of their own.
    const words = new Uint32Array(some.buffer);
    for (let k = 0; k < words.length; k++) hash = Math.imul(hash ^ (words[k] ?? 0), 0x01000193);
  }
  return `${table.rows}-${(hash >>> 0).toString(16)}`;
}
