import type { BenchInput } from "#contract";
import type { BenchChannel } from "#core";
import type { Setting } from "#core/protocol/index.ts";

export interface Sample {
  /** Seconds since the run began, by a clock that no one can set. */
  tS: number;
  /** One per channel; NaN where there is none. */
  values: number[];
}

/** What a driver tells while it runs. */
export interface Listener {
  /** @returns when the samples are taken over; a driver that can wait does so */
  samples(batch: readonly Sample[]): void | Promise<void>;
  /** Readings that were left out, and why. */
  left(counts: { repeated?: number; notNumbers?: number; outOfTime?: number }): void;
  /** The device is gone; no more samples will come. */
  gone(why: string): void;
}

/** What a driver needs to know of a run that another process of this server began. */
export interface Resumed {
  /** When the run began, ms since 1970. */
  startedMs: number;
  /** Times of all samples that are kept, s. */
  times: readonly number[];
  channels: readonly BenchChannel[];
  /** As `Driver.place` gave it last. */
  place: number | null;
  /** What was set when, s. */
  settings: ReadonlyArray<{ tS: number; setting: Setting }>;
}

/** A connected bench. One file per driver, listed in `drivers.ts`. */
export interface Driver {
  channels: BenchChannel[];
  /** Sets load, fan and power; missing where a person has to. */
  set?: ((setting: Setting) => void) | undefined;
  start(listener: Listener): void;
  /** Samples a script sent; only for the driver that is fed. */
  push?: ((rows: ReadonlyArray<Record<string, unknown>>) => { kept: number }) | undefined;
  /** Where in its source a driver is, so that it can go on from there after a restart. */
  place?: (() => number | null) | undefined;
  close(): Promise<void>;
}

export interface DriverInput extends BenchInput {
  benchId: string;
  /** The simulated card is as good as the work that was noted on it. */
  work: readonly string[];
  /** Missing for a run that begins. */
  resumed?: Resumed | undefined;
}

/** Seconds of a run that have gone by, by a clock that no one can set from now on. */
export function runClock(resumed: Resumed | undefined): () => number {
  const beforeS = resumed ? Math.max(resumed.times.at(-1) ?? 0, (Date.now() - resumed.startedMs) / 1000) : 0;
  const begun = performance.now();
  return () => beforeS + (performance.now() - begun) / 1000;
}

export type OpenDriver = (input: DriverInput) => Promise<Driver>;
