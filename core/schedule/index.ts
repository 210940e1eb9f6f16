/**
 * Plans a shop: benches and people of which there are only so many, jobs of steps that wait for each other.
 *
 * Model: each step takes one unit of all it needs for its whole time, without a break; least lateness by weight, then least makespan.
 * Orders are annealed and turned into plans; plain job shops go on by tabu search. Units: min. Limits: a gap to the bound need not mean
 * that a better plan exists.
 */
export type { PlannedStep, Schedule, ScheduleOptions } from "./schedule.ts";
export { schedule, stepKey } from "./schedule.ts";
export type { Shop, ShopStep } from "./shop.ts";
export { afterOf, readShop } from "./shop.ts";
export { simulate } from "./simulate.ts";
