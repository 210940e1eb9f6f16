import { Problem } from "../problem/index.ts";

/** Beyond this, whole numbers are no longer exact. */
const MOST = Number.MAX_SAFE_INTEGER / 1000;

const bad = (what: string): Problem =>
  new Problem({ code: "bad-money", what, remedy: "Check the figure; amounts are between 0 and a few million." });

/** Half away from nought; dust of the binary form does not make a half into less than one. */
const rounded = (value: number): number => {
  const whole = Math.sign(value) * Math.floor(Math.abs(value) + 0.5 + 1e-9 * Math.max(1, Math.abs(value) * 1e-6));
  return whole === 0 ? 0 : whole;
};

/**
 * @param digits behind the point, as the currency has them: 2 for most, 0 or 3 for some
 * @throws Problem `bad-money`
 * @example
 * ```ts
 * toUnits(1.005, 2) // => 101
 * ```
 */
export function toUnits(amount: number, digits: number): number {
  if (!Number.isFinite(amount) || Math.abs(amount) * 10 ** digits > MOST) throw bad(`${amount} is no amount of money.`);
  return rounded(amount * 10 ** digits);
}

export const fromUnits = (units: number, digits: number): number => units / 10 ** digits;

/** A quantity at a price per one, both as they are; rounded once. */
export function priced(quantity: number, unitPrice: number): number {
  const value = quantity * unitPrice;
  if (!Number.isFinite(value) || Math.abs(value) > MOST)
    throw bad(`${quantity} at ${unitPrice} is no amount of money.`);
  return rounded(value);
}

/**
 * Sum of lines with a tax on it: net and tax add up to what is paid.
 * @param taxPct per cent of the net sum
 */
export function withTax(lines: readonly number[], taxPct: number): { net: number; tax: number; gross: number } {
  if (!(taxPct >= 0 && taxPct <= 100)) throw bad(`A tax of ${taxPct} % is none.`);
  const net = lines.reduce((sum, line) => sum + line, 0);
  const tax = rounded((net * taxPct) / 100);
  return { net, tax, gross: net + tax };
}

/**
 * Shares of a sum by weight that add up to it: each rounded down, what is left over goes where most was lost (largest remainder).
 * @example
 * ```ts
 * shared(100, [1, 1, 1]) // => [34, 33, 33]
 * ```
 */
export function shared(sum: number, weights: readonly number[]): number[] {
  const all = weights.reduce((total, weight) => total + weight, 0);
  if (!(all > 0) || weights.some((weight) => weight < 0)) throw bad("There is nothing to share by.");
  const exact = weights.map((weight) => (sum * weight) / all);
  const parts = exact.map(Math.floor);
  let left = sum - parts.reduce((total, part) => total + part, 0);
  const order = [...exact.keys()].sort(
    (a, b) => (exact[b] ?? 0) - (parts[b] ?? 0) - ((exact[a] ?? 0) - (parts[a] ?? 0)) || a - b,
  );
  for (const at of order) {
    if (left <= 0) break;
    parts[at] = (parts[at] ?? 0) + 1;
    left--;
  }
  return parts;
}
