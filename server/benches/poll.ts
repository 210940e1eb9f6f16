import type { Listener, Sample } from "./driver.ts";

/**
 * Reads a device again and again by the monotonic clock; a beat that is late is not made up for. Three failed reads in a row mean that the
 * device is gone.
 */
export function poll(
  intervalS: number,
  read: () => Promise<{ values: number[]; notNumbers: number }>,
  listener: Listener,
): { stop(): void } {
  const begun = performance.now();
  let failed = 0;
  let stopped = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const beat = async (): Promise<void> => {
    const started = performance.now();
    try {
      const { values, notNumbers } = await read();
      if (stopped) return;
      failed = 0;
      if (notNumbers > 0) listener.left({ notNumbers });
      const sample: Sample = { tS: (started - begun) / 1000, values };
      await listener.samples([sample]);
    } catch (error) {
      failed++;
      if (failed >= 3) {
        stopped = true;
        listener.gone(`The device can’t be read any more (${error instanceof Error ? error.message : String(error)}).`);
      }
    }
    if (!stopped) timer = setTimeout(() => void beat(), Math.max(5, intervalS * 1000 - (performance.now() - started)));
  };
  void beat();
  return {
    stop() {
      stopped = true;
      clearTimeout(timer);
    },
  };
}
