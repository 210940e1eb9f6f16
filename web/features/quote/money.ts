import type { Quote } from "#contract";
import { fromUnits, toUnits } from "#core/money/index.ts";

type Currency = Pick<Quote, "currency" | "digits">;

/** An amount as the language of whoever looks writes it; what is no currency there stands behind the figure. */
export function moneyWords(units: number, { currency, digits }: Currency): string {
  const amount = fromUnits(units, digits);
  try {
    return new Intl.NumberFormat(undefined, { style: "currency", currency }).format(amount);
  } catch {
    return `${amount.toFixed(digits)} ${currency}`;
  }
}

/** Between what is typed and what is kept. */
export const asAmount = (units: number | null, { digits }: Currency): number | null =>
  units === null ? null : fromUnits(units, digits);
export const asUnits = (amount: number | null, { digits }: Currency): number | null =>
  amount === null ? null : toUnits(amount, digits);
