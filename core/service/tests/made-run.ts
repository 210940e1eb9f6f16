import type { Analysis, TemperatureFigures } from "../../soak/index.ts";
import type { ServiceFacts } from "../index.ts";

/** A sensor that settled at a temperature, in a room of 20 °C. */
export const temperature = (meanC: number): TemperatureFigures => ({
  meanC,
  u95K: 0.2,
  maxC: meanC,
  riseK: meanC - 20,
  riseU95K: 0.6,
  thetaKPerW: null,
  finalC: meanC,
  finalU95K: 0.2,
  budget: null,
  timeConstantsS: [],
});

/** A settled run whose figures are written down by hand. */
export function run(id: string, side: "before" | "after", edgeC: number, more: object = {}, levels: object = {}) {
  const analysis: Analysis = {
    samples: 1000,
    durationS: 1000,
    intervalS: 1,
    columns: [],
    phases: [{ kind: "steady", fromS: 0, toS: 1000 }],
    ambient: { valueC: 20, u95K: 0.6, source: "column" },
    steady: { reached: true, fromS: 500, toS: 1000, minutesNeeded: null, byHand: false },
    roles: { edge: temperature(edgeC), power: { mean: 200, u95: 0.5 }, fanRpm: { mean: 1800, u95: 5 }, ...levels },
    probes: [],
    hotspotGapK: null,
    throttling: { detected: false, shareOfLoad: 0, kinds: [] },
    spikes: 0,
    notices: [],
    version: 2,
  };
  return {
    id,
    side,
    name: "",
    fanMode: "fixed" as const,
    fanPct: 60,
    loadName: "loop",
    sidePanel: "open bench" as const,
    inletC: null,
    attempt: 1,
    leftOut: "",
    coreOffsetMHz: null,
    memoryOffsetMHz: null,
    undervoltMv: null,
    powerLimitPct: null,
    frameCapFps: null,
    frameRateFps: null,
    score: null,
    analysis,
    ...more,
  };
}

/** Of a service that was only just begun. */
export const NOTHING: ServiceFacts = {
  skips: {},
  closed: false,
  setAside: null,
  choice: null,
  work: [],
  runs: [],
  attempt: 1,
  pairs: [],
};
