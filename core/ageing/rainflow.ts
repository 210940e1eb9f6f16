/** One cycle, or half of one, between two reversals. */
interface Cycle {
  range: number;
  mean: number;
  count: 1 | 0.5;
}

/**
 * Reversals of a series: its first value, peaks and valleys, its last. A turn by less than `least` is none.
 * @param values missing ones are NaN and passed over
 * @example
 * ```ts
 * turningPoints([0, 1, 2, 1.5, 3, 0], 1) // => [0, 3, 0]
 * ```
 */
export function turningPoints(values: Iterable<number>, least = 0): number[] {
  const points: number[] = [];
  let low = Number.NaN;
  let high = Number.NaN;
  /** Which way it goes: 0 while nothing has moved far enough. */
  let way = 0;
  for (const value of values) {
    if (Number.isNaN(value)) continue;
    if (Number.isNaN(low)) {
      low = high = value;
      points.push(value);
      continue;
    }
    if (value > high) high = value;
    if (value < low) low = value;
    if (way >= 0 && moved(high - value, least)) {
      // It turned down at its highest.
      if (way > 0) points.push(high);
      else if (high > (points[0] as number)) points[0] = high;
      way = -1;
      low = value;
      high = value;
    } else if (way <= 0 && moved(value - low, least)) {
      if (way < 0) points.push(low);
      else if (low < (points[0] as number)) points[0] = low;
      way = 1;
      low = value;
      high = value;
    } else if (way > 0 && value === high) low = value;
    else if (way < 0 && value === low) high = value;
  }
  if (way > 0) points.push(high);
  if (way < 0) points.push(low);
  return points;
}

const moved = (by: number, least: number): boolean => by > 0 && by >= least;

/**
 * Cycles of a history by rainflow counting, ASTM E1049-85, 5.4.4: a range is a cycle when the next is as large, half of one where it holds the
 * start, and what is left over are halves.
 * @param points reversals, such as `turningPoints` gives
 * @example
 * ```ts
 * countCycles([1, 3, 2, 4]).map(({ range, count }) => [range, count]) // => [[1, 1], [3, 0.5]]
 * ```
 */
export function countCycles(points: readonly number[]): Cycle[] {
  const cycles: Cycle[] = [];
  const open: number[] = [];
  const take = (from: number, to: number, count: 1 | 0.5): void => {
    cycles.push({ range: Math.abs(to - from), mean: (from + to) / 2, count });
  };
  for (const point of points) {
    open.push(point);
    while (open.length >= 3) {
      const [a, b, c] = open.slice(-3) as [number, number, number];
      if (Math.abs(c - b) < Math.abs(b - a)) break;
      if (open.length === 3) {
        take(a, b, 0.5);
        open.shift();
      } else {
        take(a, b, 1);
        open.splice(-3, 2);
      }
    }
  }
  for (let at = 1; at < open.length; at++) take(open[at - 1] as number, open[at] as number, 0.5);
  return cycles;
}
