/**
 * The day of a workshop: what still comes for every open card, planned on its benches and people, and whether promises are kept.
 *
 * Model: stations are steps of hands or of a bench, clocks need neither; times as `durations` has them; promises from simulating their
 * spread with each step in its turn. Units: ms since 1970, minutes in the shop.
 */

export type { PlannedBlock } from "./block.ts";
export type { Day, DayCard, DayTime } from "./day.ts";
export { clockId, dayShop, STATION_WORK } from "./day.ts";
export type { DayPlan } from "./plan.ts";
export { planDay, startsOf } from "./plan.ts";
