import { Problem } from "../problem/index.ts";

/** Equations that can't be solved: said by name, never answered with a number. */
export class SolveFailed extends Problem {
  /** @param of what was to be solved, such as “the gaps” */
  constructor(of: string) {
    super({
      code: "solve-failed",
      what: `The equations of ${of} can’t be solved with these figures.`,
      remedy: "Look for figures that are zero, far too large, or given twice; nothing that was kept is lost.",
    });
  }
}

/**
 * The entry at a place.
 * @throws RangeError where there is none: a wrong index is a fault, and a 0 in its place would hide it
 * @example
 * ```ts
 * nth([3, 5, 8], 1) // => 5
 * ```
 */
export function nth<T>(values: ArrayLike<T>, index: number): T {
  const value = values[index];
  if (value === undefined) throw new RangeError(`There is no entry ${index} among ${values.length}.`);
  return value;
}

/**
 * The entry that stands last.
 * @throws RangeError where there is none
 * @example
 * ```ts
 * last([20, 35, 50]) // => 50
 * ```
 */
export const last = (values: ArrayLike<number>): number => nth(values, values.length - 1);

/**
 * Σ aᵢ bᵢ.
 * @throws RangeError where the two are not equally long
 * @example
 * ```ts
 * dot([1, 2], [3, 4]) // => 11
 * ```
 */
export function dot(a: ArrayLike<number>, b: ArrayLike<number>): number {
  if (a.length !== b.length) throw new RangeError(`A vector of ${a.length} has no product with one of ${b.length}.`);
  let sum = 0;
  for (let k = 0; k < a.length; k++) sum += (a[k] as number) * (b[k] as number);
  return sum;
}

/**
 * The entry of that name.
 * @throws RangeError where there is none
 * @example
 * ```ts
 * ofKey({ M1: 1.1 }, "M1") // => 1.1
 * ```
 */
export function ofKey(values: Readonly<Record<string, number>>, key: string): number {
  const value = values[key];
  if (value === undefined) throw new RangeError(`There is no entry “${key}”.`);
  return value;
}
