/** A sheet that melts settles over so many heat cycles (common practice, no source). */
export const CYCLES_NEEDED = 5;

interface CyclesStep {
  kind: "cycles";
  count: number;
  loadMinutes: number;
  idleMinutes: number;
}

/** What was run since the sheet was laid: loads of each log, and protocols on a test bench with the time they ran. */
export interface RunSince {
  loads: readonly number[];
  live: ReadonlyArray<{ steps: ReadonlyArray<CyclesStep | { kind: "soak" }>; elapsedS: number }>;
}

/**
 * Heat cycles a card has had: every load of a log is one, and every whole one of a protocol's.
 * @example
 * ```ts
 * heatCycles({ loads: [1, 2], live: [] }) // => 3
 * ```
 */
export function heatCycles({ loads, live }: RunSince): number {
  const logged = loads.reduce((sum, count) => sum + Math.max(1, count), 0);
  const led = live.reduce((sum, { steps, elapsedS }) => {
    let left = elapsedS / 60;
    for (const step of steps) {
      // A soak is written out as a log of its own; cycles stand before it in the protocols that have them.
      if (step.kind !== "cycles") break;
      const whole = Math.min(step.count, Math.floor(left / (step.loadMinutes + step.idleMinutes)));
      left -= whole * (step.loadMinutes + step.idleMinutes);
      sum += whole;
    }
    return sum;
  }, 0);
  return logged + led;
}
