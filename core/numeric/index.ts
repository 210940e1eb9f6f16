/** General numerical methods the computation rests on; nothing of the trade in here. A failed solve is an error with a name, never a number. */
export { BandMatrix } from "./band-matrix.ts";
export { dot, last, nth, ofKey, SolveFailed } from "./checked.ts";
export { squaredLines } from "./fft.ts";
export type { Model } from "./least-squares.ts";
export { leastSquares } from "./least-squares.ts";
export { cholesky, factorOf, solveCholesky } from "./linear.ts";
export { median, quantile, quantilesOf, runningMedian } from "./order.ts";

export { Simplex } from "./simplex.ts";
export { studentShare } from "./student-share.ts";
export { normalQuantile, normalShare, studentT } from "./student-t.ts";
