/**
 * How long a piece of work takes here: this workshop's own times, drawn toward usual ones while there are few.
 *
 * Model: minutes are log-normal; the mean of their logarithm has a normal prior about the usual time, their spread a scaled inverse χ²
 * one. Units: min. Limits: work whose times fall into two kinds, such as with and without trouble, is one broad kind here.
 */
export type { UsualTime } from "./durations.ts";
export { durationOf, posterior } from "./durations.ts";
