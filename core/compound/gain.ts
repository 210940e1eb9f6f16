import { bondLineUm } from "./bond-line.ts";

/** What a compound is, as far as its kelvins go. Each with a standard uncertainty of its own. */
export interface Layer {
  conductivityWPerMK: number;
  bondLineUm: number;
  /** Both joints together. */
  jointMm2KPerW: number;
  /** Relative, of conductivity and bond line; what makers state is often more than what is had. */
  conductivityRel: number;
  bondLineRel: number;
  jointSd: number;
}

export interface CompoundKind {
  layer: Layer;
  minutes: number;
  years: readonly [number, number];
  keepInMind: string;
  conducts: boolean;
  /** Yield stress, Pa, by which pressure sets the bond line; null where something else does. */
  yieldPa: number | null;
}

/** Kinds of compound as they usually are (common practice, no source, but for the bond line, Prasher 2001 from memory). */
export const COMPOUND_KINDS = {
  paste: {
    layer: {
      conductivityWPerMK: 8,
      bondLineUm: 38,
      jointMm2KPerW: 4,
      conductivityRel: 0.25,
      bondLineRel: 0.35,
      jointSd: 2,
    },
    minutes: 5,
    years: [1, 3],
    keepInMind: "Easy; dries and pumps out with cycles.",
    conducts: false,
    yieldPa: 150,
  },
  "phase-change": {
    layer: {
      conductivityWPerMK: 8,
      bondLineUm: 28,
      jointMm2KPerW: 4,
      conductivityRel: 0.2,
      bondLineRel: 0.35,
      jointSd: 2,
    },
    minutes: 8,
    years: [3, 4],
    keepInMind: "On the plate; settles over some heat cycles: measure after them.",
    conducts: false,
    yieldPa: null,
  },
  "liquid metal": {
    layer: {
      conductivityWPerMK: 73,
      bondLineUm: 30,
      jointMm2KPerW: 1,
      conductivityRel: 0.25,
      bondLineRel: 0.5,
      jointSd: 0.6,
    },
    minutes: 40,
    years: [1, 3],
    keepInMind: "Mask around the die; eats aluminium, stains copper.",
    conducts: true,
    yieldPa: null,
  },
} as const satisfies Record<string, CompoundKind>;
export type DieCompound = keyof typeof COMPOUND_KINDS;

export interface Estimate {
  value: number;
  /** Standard uncertainty. */
  sd: number;
}

const U95 = 1.96;

/** A layer's resistance over its area, K/W. */
export function layerKPerW(layer: Layer, areaMm2: number): Estimate {
  const bulk = layer.bondLineUm / layer.conductivityWPerMK;
  const sd = Math.hypot(bulk * Math.hypot(layer.conductivityRel, layer.bondLineRel), layer.jointSd);
  return { value: (bulk + layer.jointMm2KPerW) / areaMm2, sd: sd / areaMm2 };
}

const SILICON_W_PER_MK = 148;
const COPPER_W_PER_MK = 401;
/** A bare die as it is usually ground (common build, from memory). */
const DIE_MM = 0.75;
/** Mean rise over a source of uniform flux on a half-space, k·√A·R (Yovanovich; 8/(3π^1.5)). */
const HALF_SPACE = 8 / (3 * Math.PI ** 1.5);
/** How much of it a plate of finite thickness with heat pipes shows within seconds, and how far one is off (common practice, no source). */
const PLATE_SHARE = { value: 0.6, sd: 0.22 };

/** What stands between the sensor and the fins besides the compound, as far as it answers within seconds, K/W. */
export function restKPerW(areaMm2: number): Estimate {
  const areaM2 = areaMm2 * 1e-6;
  const silicon = (DIE_MM * 1e-3) / (SILICON_W_PER_MK * areaM2);
  const spreading = HALF_SPACE / (COPPER_W_PER_MK * Math.sqrt(areaM2));
  return {
    value: silicon + PLATE_SHARE.value * spreading,
    sd: Math.hypot(0.3 * silicon, PLATE_SHARE.sd * spreading),
  };
}

export interface GainInput {
  areaMm2: number;
  /** Through the die, W. */
  powerW: number;
  /** Jump of the edge within seconds of a load step, K/W; null where no run shows one. */
  fast: Estimate | null;
}

/** An old layer of which nothing was measured: as often twice as good as new as four times (common practice, no source). */
const OLD_TIMES = 2.2;
const OLD_TIMES_SD = 1.2;

/** What the layer that is on now costs, K/W. A layer costs something: no less than half of a new one. */
export function oldLayerKPerW({ areaMm2, fast }: GainInput): Estimate {
  const fresh = layerKPerW(COMPOUND_KINDS.paste.layer, areaMm2);
  const guess: Estimate = { value: OLD_TIMES * fresh.value, sd: Math.hypot(OLD_TIMES_SD * fresh.value, fresh.sd) };
  if (!fast) return guess;
  const rest = restKPerW(areaMm2);
  const seen: Estimate = { value: fast.value - rest.value, sd: Math.hypot(fast.sd, rest.sd) };
  // What was seen, weighed against what is usual; the usual is wide, so that a large layer shows.
  const wide = 3 * guess.sd;
  const [a, b] = [1 / seen.sd ** 2, 1 / wide ** 2];
  return { value: Math.max(fresh.value / 2, (a * seen.value + b * guess.value) / (a + b)), sd: Math.sqrt(1 / (a + b)) };
}

export interface Gain {
  /** Cooler than it is now, K. */
  gainK: number;
  u95K: number;
  /** Against good paste, which the old layer does not blur, K. */
  overPasteK: number;
  overPasteU95K: number;
}

/** What a fresh layer brings. */
export function gainOf(layer: Layer, input: GainInput): Gain {
  const { areaMm2, powerW } = input;
  const old = oldLayerKPerW(input);
  const fresh = layerKPerW(layer, areaMm2);
  const paste = layerKPerW(COMPOUND_KINDS.paste.layer, areaMm2);
  return {
    gainK: powerW * (old.value - fresh.value),
    u95K: U95 * powerW * Math.hypot(old.sd, fresh.sd),
    overPasteK: powerW * (paste.value - fresh.value),
    overPasteU95K: U95 * powerW * Math.hypot(paste.sd, fresh.sd),
  };
}

/** A kind's layer at this pressure on the die: where its yield stress sets the bond line, by that. */
export function layerAt(kind: DieCompound, pressureKPa: number): Layer {
  const { layer, yieldPa } = COMPOUND_KINDS[kind];
  return yieldPa === null ? layer : { ...layer, bondLineUm: bondLineUm(yieldPa, pressureKPa) };
}

/** Why a compound must not go between this die and this plate; empty where it may. */
export function refusedWhy(kind: string, plate: "copper" | "nickel" | "aluminium" | "unknown"): string {
  if (kind === "liquid metal" && plate === "aluminium") return "Liquid metal destroys aluminium: never on this plate.";
  if (kind === "adhesive") return "Adhesive under a die: the cooler would never come off without the die.";
  if (kind === "putty") return "Putty is for pads’ places: over a die it stays far too thick.";
  if (kind === "pad") return "A pad over a die is far too thick.";
  return "";
}
