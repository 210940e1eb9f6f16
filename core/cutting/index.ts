/**
 * Plans how pieces of pad are cut from sheets, and how far from the cheapest the plan can be.
 *
 * Model: rectangles on rectangles, turned by quarter turns or not; straight cuts by splitting, else largest free rectangles; orders
 * and manners are searched from seeded starts; the bound is the cheapest whole sheets of enough area. Units: mm, the workshop's
 * currency. Limits: the bound counts area only, so a gap to it need not mean that a cheaper plan exists.
 */
export type { CutPlan, CutSheet, PlanOptions } from "./plan.ts";
export { planCuts } from "./plan.ts";
export type { CuttingTask, Piece, Sheet } from "./problem.ts";
export { readCuts } from "./problem.ts";
