/**
 * Money in whole numbers of a currency's smallest unit, so that sums close.
 *
 * Model: what is worked out is rounded once, half away from nought, where it becomes a line; taxes are taken of the sum, and shares of a
 * sum are rounded so that they add up to it. Units: the smallest unit, such as cents. Limits: one currency at a time.
 */
export { fromUnits, priced, shared, toUnits, withTax } from "./money.ts";
