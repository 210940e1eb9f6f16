import type { Listener } from "./driver.ts";

/**
 * Reads a device again and again by the monotonic clock; a beat that is late is not made up for. Three failed reads in a row mean that the
 * device is gone.
 */
export function poll(
  intervalS: number,
  read: () => Promise<{ values: number[]; notNumbers: number }>,
  listener: Listener,
  clock: () => number,
): { stop(): void } {
  let failed = 0;
  let stopped = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const beat = async (): Promise<void> => {
    const started = performance.now();
    const atS = clock();
    try {
      const { values, notNumbers } = await read();
      if (stopped) return;
      failed = 0;
      if (notNumbers > 0) listener.left({ notNumbers });
      await listener.samples([{ tS: atS, values }]);
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
