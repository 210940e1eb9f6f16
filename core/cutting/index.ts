/**
 * Plans how pieces of pad are cut from sheets, and how far from the cheapest the plan can be.
 *
 * Model: rectangles on rectangles, turned by quarter turns or not; straight cuts by splitting, else largest free rectangles; orders
 * and manners are searched from seeded starts; the bound comes from areas and dual feasible functions. Units: mm, the workshop's
 * currency. Limits: a gap to the bound need not mean that a cheaper plan exists.
 */
export type { CutLine } from "./lines.ts";
export { cutLines } from "./lines.ts";
export type { Space } from "./packing.ts";
export type { CutPlan } from "./plan.ts";
export { planCuts } from "./plan.ts";
export type { CuttingTask } from "./problem.ts";
export { readCuts } from "./problem.ts";
export type { Way } from "./search.ts";
export { WAYS } from "./search.ts";
