/**
 * What wears an interface out: thermal cycles, counted from temperatures; when the next service is due.
 *
 * Model: rainflow counting (ASTM E1049-85), damage of a cycle as a power of its range (Coffin and Manson), ageing by temperature after
 * Arrhenius as a relative figure only. Units: °C, K, s, h. Limits: what wears a card out besides cycles is not counted.
 */
export { arrheniusFactor } from "./arrhenius.ts";
export { type Ageing, ageing } from "./cycles.ts";
export {
  MOST_MONTHS,
  nextService,
  type Returned,
  USUAL_USE,
  WORN_GAP_K,
} from "./next.ts";
export { countCycles, turningPoints } from "./rainflow.ts";
export { seriesOf } from "./series.ts";
