import { fanFactor, USUAL_COOLING } from "../compare/index.ts";
import { SLOW_PART_AIR_SHARE } from "../trade/index.ts";
import type { SymptomKey } from "./causes.ts";
import type { Measured, Symptoms } from "./symptoms.ts";

/** What a healthy card would show at this run's conditions: median and spread as standard deviation of its logarithm. */
export interface Expected {
  median: number;
  spread: number;
}

export interface Healthy {
  symptoms: Record<SymptomKey, Expected>;
  /** ln of slowest over fastest fan; healthy twins agree. */
  twinLn: { mean: number; sd: number };
  rpmPerPctLn: { mean: number; sd: number };
  roomC: { mean: number; sd: number };
  source: "usual cards" | "healthy run" | "board model";
}

const REFERENCE_RPM = 1700;
const U95 = 1.96;

/**
 * Usual healthy cards at full load, K at `USUAL_POWER_W` (common practice of the trade; a hotspot gap of some 10 K is usual, 20 K still
 * fine). Wide, because coolers differ. `power`: how they grow with the card's power. A larger card has a larger die and cooler, so that these
 * hardly grow; of its memory's and VRM's heat the board takes a smaller share, so that more goes through the pads.
 */
const USUAL: Record<SymptomKey, Expected & { power: number }> = {
  fast: { median: 8.5, spread: 0.22, power: 0.25 },
  slow: { median: 29.5, spread: 0.17, power: 0.05 },
  gap: { median: 10.7, spread: 0.22, power: 0.1 },
  memory: { median: 7.8, spread: 0.27, power: 1 },
  vrm: { median: 5.6, spread: 0.34, power: 1.5 },
};
const USUAL_POWER_W = 200;
/** Cards beyond these are no longer told by a power law. */
const POWER_LIMITS_W = [75, 450] as const;
/** Between a card's healthy state and another mounting of it, and another fan law than the usual one. */
const REMOUNT: Record<SymptomKey, number> = { fast: 0.07, slow: 0.035, gap: 0.06, memory: 0.06, vrm: 0.06 };
const TWIN_SD = 0.04;
const USUAL_ROOM = { mean: 22.5, sd: 2.8 };

const KEYS: ReadonlyArray<readonly [SymptomKey, (from: Symptoms) => Measured | undefined]> = [
  ["fast", (from) => from.fastK],
  ["slow", (from) => from.slowK],
  ["gap", (from) => from.gapK],
  ["memory", (from) => from.memoryK],
  ["vrm", (from) => from.vrmK],
];

export const symptomOf = (from: Symptoms, key: SymptomKey): Measured | undefined =>
  KEYS.find(([one]) => one === key)?.[1](from);

/**
 * What to expect of this run if the card were healthy.
 * @param healthyRuns runs of the same card or board model that are known to be good; each is moved to this run's power and fan
 */
export function expectedOf(run: Symptoms, healthyRuns: readonly Symptoms[], source: Healthy["source"]): Healthy {
  const symptoms = {} as Healthy["symptoms"];
  for (const [key, read] of KEYS) {
    const seen = healthyRuns.flatMap((healthy) => {
      const found = read(healthy);
      return found && found.value > 1 ? [movedTo(run, healthy, key, found)] : [];
    });
    symptoms[key] = seen.length > 0 ? pooled(key, seen) : usual(run, key);
  }
  const twins = healthyRuns.flatMap(({ twinLn }) => (twinLn ? [twinLn.value] : []));
  const duty = healthyRuns.flatMap(({ rpmPerPctLn }) => (rpmPerPctLn ? [rpmPerPctLn.value] : []));
  const rooms = healthyRuns.flatMap(({ roomC }) => (roomC ? [roomC.value] : []));
  return {
    symptoms,
    twinLn: { mean: meanOr(-0.01, twins), sd: twins.length > 0 ? 0.025 : TWIN_SD },
    rpmPerPctLn: { mean: meanOr(Math.log(29), duty), sd: duty.length > 0 ? 0.06 : 0.3 },
    roomC: { mean: (meanOr(USUAL_ROOM.mean, rooms) + USUAL_ROOM.mean) / 2, sd: USUAL_ROOM.sd },
    source: healthyRuns.length > 0 ? source : "usual cards",
  };
}

function meanOr(other: number, values: readonly number[]): number {
  return values.length === 0 ? other : values.reduce((a, b) => a + b, 0) / values.length;
}

function usual(run: Symptoms, key: SymptomKey): Expected {
  const { spread, power } = USUAL[key];
  const [least, most] = POWER_LIMITS_W;
  const size = run.powerW === undefined ? 1 : Math.min(most, Math.max(least, run.powerW)) / USUAL_POWER_W;
  const median = USUAL[key].median * size ** power;
  if (run.powerW === undefined) return { median, spread: spread + 0.2 * power };
  if (key !== "slow") return { median, spread };
  if (run.fanRpm === undefined || run.fanRpm < 300) return { median, spread: spread + 0.12 };
  const { factor, sd } = fanFactor(USUAL_COOLING, SLOW_PART_AIR_SHARE, REFERENCE_RPM, run.fanRpm);
  return { median: median * factor, spread: Math.hypot(spread, sd / factor, 0.08) };
}

/** The healthy figure at this run's power and fan speed, as the logarithm with its uncertainty. */
function movedTo(run: Symptoms, healthy: Symptoms, key: SymptomKey, found: Measured): { ln: number; sd: number } {
  const power = run.powerW && healthy.powerW ? run.powerW / healthy.powerW : 1;
  let sd = found.sd / found.value;
  let ln = Math.log(found.value * power);
  if (key === "slow") {
    const both = run.fanRpm && healthy.fanRpm && run.fanRpm > 300 && healthy.fanRpm > 300;
    if (both && run.fanRpm && healthy.fanRpm) {
      const { factor, sd: by } = fanFactor(USUAL_COOLING, SLOW_PART_AIR_SHARE, healthy.fanRpm, run.fanRpm);
      ln += Math.log(factor);
      sd = Math.hypot(sd, by / factor);
    } else sd = Math.hypot(sd, 0.15);
  }
  return { ln, sd };
}

function pooled(key: SymptomKey, seen: ReadonlyArray<{ ln: number; sd: number }>): Expected {
  const centre = seen.reduce((sum, one) => sum + one.ln, 0) / seen.length;
  const reading = Math.sqrt(seen.reduce((sum, one) => sum + one.sd ** 2, 0)) / seen.length;
  const between =
    seen.length > 1 ? Math.sqrt(seen.reduce((sum, one) => sum + (one.ln - centre) ** 2, 0) / (seen.length - 1)) : 0;
  return { median: Math.exp(centre), spread: Math.hypot(REMOUNT[key], reading, between) };
}

/** Half-width of the 95 % range of healthy figures, as low and high. */
export const rangeOf = ({ median, spread }: Expected): [number, number] => [
  median * Math.exp(-U95 * spread),
  median * Math.exp(U95 * spread),
];
