import { Problem } from "../problem/index.ts";
import { type Cooler, isWet } from "./drawing.ts";
import { type LeakReading, leakTest } from "./leak.ts";

/** A leak test as it is kept with a card. */
export interface KeptLeakTest {
  namedKPaPerH: number;
  gaugeStepKPa: number;
  airStepK: number;
  readings: readonly LeakReading[];
  /** Why it goes on without a finished test; empty where it does not. */
  accepted: string;
}

export type LeakGate = "dry" | "to test" | "leaking" | "tight" | "accepted";

/** Whether a card may have power: one with water through its cooler only once its loop was seen to be tight, or somebody took that on. */
export function leakGate(cooler: Pick<Cooler, "kind"> | null, test: KeptLeakTest): LeakGate {
  if (!cooler || !isWet(cooler)) return "dry";
  if (test.readings.length >= 2) {
    try {
      const { verdict } = leakTest({ ...test, volumeMl: null });
      if (verdict === "tight") return "tight";
      if (verdict === "leaking" && test.accepted === "") return "leaking";
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
    }
  }
  return test.accepted === "" ? "to test" : "accepted";
}
