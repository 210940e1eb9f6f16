import { last, nth } from "../numeric/index.ts";
import type { PhaseStretch } from "./analysis.ts";
import type { BinnedRun, Stretch } from "./load.ts";

/** What the card did when: idle, warming up, steady, cooling down, without gaps. */
export function phasesOf(
  timeS: Float64Array,
  loads: Stretch[],
  chosen: Stretch | undefined,
  window: Stretch | undefined,
  run: BinnedRun,
): PhaseStretch[] {
  const end = last(timeS);
  const phases: PhaseStretch[] = [];
  const add = (kind: PhaseStretch["kind"], fromS: number, toS: number): void => {
    if (toS - fromS > 1e-9) phases.push({ kind, fromS, toS: Math.min(toS, end) });
  };
  let at = 0;
  loads.forEach((load, index) => {
    if (index === 0) add("idle", at, load.fromS);
    else if (load.fromS - at > 1) rest(run, at, load.fromS, add);
    if (load === chosen && window) {
      add("warmup", load.fromS, window.fromS);
      const step = timeS.length > 1 ? end / (timeS.length - 1) : 1;
      const tailS = load.toS - window.toS;
      const steadyToS = tailS < Math.max(10, 2 * step) ? Math.min(load.toS, end) : window.toS;
      add("steady", window.fromS, steadyToS);
      add("warmup", steadyToS, Math.min(load.toS, end));
    } else add("warmup", load.fromS, Math.min(load.toS, end));
    at = Math.min(load.toS, end);
  });
  if (loads.length === 0) add("idle", 0, end);
  else rest(run, at, end, add);
  return phases;
}

/** After a load: cooling until the temperature has come down nine tenths of its way, then idle. */
function rest(
  run: BinnedRun,
  fromS: number,
  toS: number,
  add: (kind: PhaseStretch["kind"], fromS: number, toS: number) => void,
): void {
  const bins: number[] = [];
  for (let bin = 0; bin + 1 < run.edgesS.length; bin++)
    if (nth(run.edgesS, bin) >= fromS && nth(run.edgesS, bin) < toS) bins.push(bin);
  const line = bins.map((bin) => nth(run.temperature, bin)).filter((value) => !Number.isNaN(value));
  const [high] = line;
  // The log ends with its load, or says nothing of what came after.
  if (high === undefined) return add("cooldown", fromS, toS);
  const low = line.reduce((least, value) => Math.min(least, value), high);
  const cooled = bins.find((bin) => (run.temperature[bin] ?? high) <= low + 0.1 * (high - low));
  const turn = cooled !== undefined && high - low > 2 ? (run.edgesS[cooled] ?? toS) : toS;
  add("cooldown", fromS, turn);
  add("idle", turn, toS);
}
