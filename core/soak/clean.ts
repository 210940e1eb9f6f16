import { nth, quantile } from "../numeric/index.ts";

export interface Cleaned {
  /** The values, or where spikes or impossible ones are missing a copy; not to be changed. */
  values: Float64Array;
  spikes: number;
  dropouts: number;
}

const FLOOR = { temperature: 3, other: 0 };

/**
 * Leaves out single samples that leap away from both neighbours while these agree, and values no sensor can mean.
 * The one filter that every figure goes through; it counts what it dropped.
 * @param kind temperatures (°C) have a floor of 3 K and a possible range of −30…150 °C
 */
export function clean(values: Float64Array, kind: "temperature" | "other"): Cleaned {
  let kept = values;
  const leaveOut = (row: number): void => {
    if (kept === values) kept = values.slice();
    kept[row] = Number.NaN;
  };
  let dropouts = 0;
  const usual = sampleQuantile(values, 0.5);
  if (kind === "temperature")
    for (let row = 0; row < kept.length; row++) {
      const value = kept[row] as number;
      if (value < -30 || value > 150 || (value === 0 && usual > 12)) {
        leaveOut(row);
        dropouts++;
      }
    }
  const jump = Math.max(FLOOR[kind], 8 * usualJump(kept), kind === "other" ? 0.35 * Math.abs(usual) : 0);
  let spikes = 0;
  let before = Number.NaN;
  let here = Number.NaN;
  let hereRow = -1;
  for (let row = 0; row < kept.length; row++) {
    const next = kept[row] as number;
    // Missing: no number is unlike itself.
    if (next !== next) continue;
    const down = here - next;
    // Nearly always it is near the one before, and that settles it; with the first, NaN, nothing compares.
    if ((down > jump || down < -jump) && leaps(here - before, down, jump) && Math.abs(next - before) < jump) {
      leaveOut(hereRow);
      spikes++;
    } else before = here;
    here = next;
    hereRow = row;
  }
  return { values: kept, spikes, dropouts };
}

/** A leap up and down again, or down and up. */
const leaps = (up: number, down: number, jump: number): boolean => up * down > 0 && Math.abs(up) > jump;

function sampleQuantile(values: Float64Array, share: number): number {
  const stride = Math.max(1, Math.floor(values.length / 4000));
  return quantile(
    Float64Array.from({ length: Math.ceil(values.length / stride) }, (_, k) => nth(values, k * stride)),
    share,
  );
}

/** Robust standard deviation of the change from sample to sample, from up to 20 000 of them. */
function usualJump(values: Float64Array): number {
  const stride = Math.max(1, Math.floor(values.length / 20_000));
  const jumps: number[] = [];
  for (let row = 1; row < values.length; row += stride) {
    const jump = Math.abs(nth(values, row) - nth(values, row - 1));
    if (!Number.isNaN(jump)) jumps.push(jump);
  }
  return quantile(jumps, 0.683);
}

const STEPS = [2, 1, 5 / 9, 0.5, 0.25, 0.2, 0.125, 0.1, 0.0625, 0.05, 0.02, 0.01];

/**
 * The step of a sensor's display: the coarsest usual step of which all readings are multiples.
 * @returns 0 when there is none
 * @example
 * ```ts
 * resolutionOf(Float64Array.from([20, 20.5, 21])) // => 0.5
 * ```
 */
export function resolutionOf(values: Float64Array): number {
  const stride = Math.max(1, Math.floor(values.length / 3000));
  return (
    STEPS.find((step) => {
      const offset = step === 5 / 9 ? -160 / 9 : 0;
      for (let row = 0; row < values.length; row += stride) {
        const value = nth(values, row);
        if (Number.isNaN(value)) continue;
        const multiple = (value - offset) / step;
        if (Math.abs(multiple - Math.round(multiple)) > 1e-4) return false;
      }
      return true;
    }) ?? 0
  );
}
