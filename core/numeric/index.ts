/** General numerical methods the computation rests on; nothing of the trade in here. */

export type { Fit, Model } from "./least-squares.ts";
export { leastSquares } from "./least-squares.ts";
export { cholesky, solveCholesky } from "./linear.ts";
export { median, quantile, runningMedian } from "./order.ts";
export { normalQuantile, normalShare, studentT } from "./student-t.ts";
