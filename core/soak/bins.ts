import { last, nth } from "../numeric/index.ts";
/**
 * Mean per stretch.
 * @param timeS rising times
 * @param edgesS rising limits of the stretches, one more than there are stretches
 * @returns NaN for a stretch without samples
 */
export function binMeans(
  timeS: Float64Array,
  values: Float64Array,
  edgesS: Float64Array,
): { mean: Float64Array; count: Uint32Array } {
  const bins = edgesS.length - 1;
  const mean = new Float64Array(bins);
  const count = new Uint32Array(bins);
  // A million rows come by here for each column: the inner loop has only what it needs.
  let row = rowAt(timeS, nth(edgesS, 0));
  for (let bin = 0; bin < bins; bin++) {
    const end = edgesS[bin + 1] ?? 0;
    let sum = 0;
    let held = 0;
    for (; row < timeS.length && (timeS[row] ?? 0) < end; row++) {
      const value = values[row] ?? Number.NaN;
      if (value === value) {
        sum += value;
        held++;
      }
    }
    mean[bin] = held > 0 ? sum / held : Number.NaN;
    count[bin] = held;
  }
  return { mean, count };
}

/**
 * First row at or after a time.
 * @example
 * ```ts
 * rowAt(Float64Array.from([0, 1, 2, 5]), 3) // => 3
 * ```
 */
export function rowAt(timeS: Float64Array, atS: number): number {
  let low = 0;
  let high = timeS.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (nth(timeS, middle) < atS) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Limits of equal stretches, at most `most` and no narrower than `leastS`, that hold all of the times. */
export function evenEdges(timeS: Float64Array, most: number, leastS: number): Float64Array {
  const end = last(timeS);
  const width = Math.max(leastS, end / most, 1e-3);
  const bins = Math.max(1, Math.ceil((end + width * 1e-6) / width));
  return Float64Array.from({ length: bins + 1 }, (_, k) => k * width).map((edge, k) =>
    k === bins ? Math.max(edge, end + width * 1e-3) : edge,
  );
}

/** Limits that start at the sampling interval and widen, so that the fast beginning of a heating curve stays visible. */
export function wideningEdges(fromS: number, toS: number, intervalS: number, most = 160): Float64Array {
  const span = toS - fromS;
  const edges = [0];
  const widest = Math.max(intervalS, span / 70);
  let width = Math.max(intervalS, span / 2000);
  while (last(edges) < span && edges.length < most) {
    edges.push(last(edges) + width);
    width = Math.min(widest, width * 1.12);
  }
  return Float64Array.from(edges, (edge) => fromS + Math.min(edge, span));
}
