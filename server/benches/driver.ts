import type { BenchInput } from "#contract";
import type { BenchChannel } from "#core";
import type { Setting } from "#core/protocol/index.ts";

export interface Sample {
  /** Seconds since the driver was opened, by a clock that no one can set. */
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

/** A connected bench. One file per driver, listed in `drivers.ts`. */
export interface Driver {
  channels: BenchChannel[];
  /** Sets load, fan and power; missing where a person has to. */
  set?: ((setting: Setting) => void) | undefined;
  start(listener: Listener): void;
  /** Samples a script sent; only for the driver that is fed. */
  push?: ((rows: ReadonlyArray<Record<string, unknown>>) => { kept: number }) | undefined;
  close(): Promise<void>;
}

export interface DriverInput extends BenchInput {
  benchId: string;
  /** The simulated card is as good as the work that was noted on it. */
  work: readonly string[];
}

export type OpenDriver = (input: DriverInput) => Promise<Driver>;
