import { Problem } from "../problem/index.ts";

/** Air at 300 K, k W/mK, ν m²/s, Pr; aluminium k W/mK (Incropera et al., appendix A, from memory). */
const AIR = { k: 0.0263, nu: 15.89e-6, pr: 0.707, kelvin: 300 } as const;
const FIN_K = 237;
const GRAVITY = 9.81;
const SIGMA = 5.670374419e-8;

export interface Fins {
  widthMm: number;
  /** Along the fins. */
  lengthMm: number;
  baseMm: number;
  finHeightMm: number;
  finThickMm: number;
  count: number;
}

export type Airflow = { kind: "still" } | { kind: "stream"; speedMS: number } | { kind: "blocked" };

export interface Joint {
  thicknessMm: number;
  conductivityWPerMK: number;
}

/** Pads from the back of a spreader to the main heatsink. */
export interface Bridge {
  padMm: number;
  /** Two on each other count as one of both thicknesses and the joint between them. */
  layers: 1 | 2;
  conductivityWPerMK: number;
  widthMm: number;
  heightMm: number;
  /** The main heatsink over room air, where the pad lies. */
  coolerRiseK: number;
}

export interface HeatsinkInput {
  fins: Fins;
  air: Airflow;
  joint: Joint;
  chip: { widthMm: number; heightMm: number };
  /** What the chip gives off and how far it stands over the air around it now, without the heatsink. */
  powerW: number;
  riseNowK: number;
  /** Where it is also joined to the main heatsink. */
  bridge?: Bridge | null;
}

export interface HeatsinkFound {
  /** Heatsink with its joint, chip to air. */
  kPerW: number;
  jointKPerW: number;
  spreadKPerW: number;
  finsKPerW: number;
  /** Pads to the main heatsink; null without. */
  bridgeKPerW: number | null;
  /** Chip over the air with it, and what it brings, each with a 95 % interval. */
  riseK: number;
  bringsK: number;
  lowK: number;
  highK: number;
  areaMm2: number;
  why: string;
}

/** Correlations hold within a quarter or so for such small things in a card's crooked air (common practice, no source). */
const CORRELATION_U95 = 0.35;
/** Between two pads on each other, mm²K/W, and how far off that and how they are pressed may be (assumption, no source). */
const PAD_ON_PAD_MM2_K_PER_W = 60;
const BRIDGE_U95 = 0.3;
/** How far the main heatsink is off what was typed of it, at its place (assumption, no source). */
const COOLER_RISE_U95 = 0.25;

const either = (u95: number): [number, number] => [1 + u95, 1 / (1 + u95)];

/** Pads from a spreader to the main heatsink, K/W. */
const bridgeKPerW = ({ padMm, layers, conductivityWPerMK, widthMm, heightMm }: Bridge): number =>
  ((1000 * layers * padMm) / conductivityWPerMK + (layers - 1) * PAD_ON_PAD_MM2_K_PER_W) / (widthMm * heightMm);

/**
 * Mean Nusselt number of isothermal vertical plates in still air, on the spacing: Nu = (576/Ra*² + 2.873/√Ra*)^(−1/2), Ra* = Ra s/L
 * (Bar-Cohen & Rohsenow 1984, from memory).
 * @example
 * ```ts
 * Math.round(1e4 * stillNusselt(0.24)) // => 100
 * ```
 */
export const stillNusselt = (channelRayleigh: number): number =>
  (576 / channelRayleigh ** 2 + 2.873 / Math.sqrt(channelRayleigh)) ** -0.5;

/**
 * Mean Nusselt number of plates in a stream, on the spacing: fully developed and developing flow joined with power 3
 * (Teertstra, Yovanovich & Culham 2000, from memory). Re* = Re s/L.
 */
export const streamNusselt = (channelReynolds: number, prandtl: number = AIR.pr): number => {
  const developed = (channelReynolds * prandtl) / 2;
  const developing =
    0.664 * Math.sqrt(channelReynolds) * Math.cbrt(prandtl) * Math.sqrt(1 + 3.65 / Math.sqrt(channelReynolds));
  return (developed ** -3 + developing ** -3) ** (-1 / 3);
};

/**
 * Efficiency of a straight fin with an adiabatic tip: tanh(mL)/(mL).
 * @example
 * ```ts
 * Math.round(1e4 * finEfficiency(1)) // => 7616
 * ```
 */
export const finEfficiency = (mL: number): number => (mL < 1e-6 ? 1 : Math.tanh(mL) / mL);

/**
 * Spreading from a round source into a round plate with a film beyond: ψmax·/(k a √π), closed form of Lee, Song, Au & Moran 1995 (from memory).
 * @returns K/W, the mean over the source
 */
export function spreadingKPerW(
  sourceMm2: number,
  plateMm2: number,
  thickMm: number,
  conductivity: number,
  filmKPerW: number,
): number {
  const a = Math.sqrt(sourceMm2 / Math.PI) / 1000;
  const b = Math.sqrt(Math.max(plateMm2, sourceMm2) / Math.PI) / 1000;
  const epsilon = a / b;
  if (epsilon > 0.9999) return 0;
  const tau = thickMm / 1000 / b;
  const biot = 1 / (Math.PI * conductivity * b * filmKPerW);
  const lambda = Math.PI + 1 / (Math.sqrt(Math.PI) * epsilon);
  const phi = (Math.tanh(lambda * tau) + lambda / biot) / (1 + (lambda / biot) * Math.tanh(lambda * tau));
  const mean = (epsilon * tau) / Math.sqrt(Math.PI) + 0.5 * (1 - epsilon) ** 1.5 * phi;
  // The first part is the plate's own, straight through.
  return (mean - (epsilon * tau) / Math.sqrt(Math.PI)) / (conductivity * a * Math.sqrt(Math.PI));
}

/**
 * What an add-on heatsink brings: fins in still air, in a stream or blocked; joint; spreading; beside the way the heat takes now; and, where
 * it is joined to the main heatsink, through the pads between, from which heat also comes where that one is the warmer.
 * @throws Problem `bad-heatsink`
 */
export function heatsink(input: HeatsinkInput): HeatsinkFound {
  check(input);
  const { fins, air, joint, chip, powerW, riseNowK, bridge = null } = input;
  const spacingM = (fins.widthMm - fins.count * fins.finThickMm) / Math.max(1, fins.count - 1) / 1000;
  const finAreaM2 =
    (2 * fins.count * fins.finHeightMm * fins.lengthMm + fins.count * fins.finThickMm * fins.lengthMm) / 1e6;
  const bareM2 = (fins.widthMm - fins.count * fins.finThickMm) * (fins.lengthMm / 1e6);
  const areaM2 = finAreaM2 + bareM2;
  const film = (overK: number): number => filmOf(air, fins, spacingM, overK);
  const baseM2 = (fins.widthMm * fins.lengthMm) / 1e6;
  const contactMm2 = Math.min(chip.widthMm, fins.widthMm) * Math.min(chip.heightMm, fins.lengthMm);
  const jointKPerW = joint.thicknessMm / 1000 / (joint.conductivityWPerMK * (contactMm2 / 1e6));
  // Still air moves by the heat itself: the film is found together with how warm the fins become.
  let fromFins = Number.NaN;
  let overK = Math.max(2, riseNowK / 2);
  for (let round = 0; round < 40; round++) {
    const h = film(overK);
    const mL = Math.sqrt((2 * h) / (FIN_K * (fins.finThickMm / 1000))) * (fins.finHeightMm / 1000);
    fromFins = 1 / (h * (finEfficiency(mL) * finAreaM2 + bareM2));
    overK = Math.max(0.5, (overK + Math.min(riseNowK, powerW * fromFins)) / 2);
  }
  const plate = fins.baseMm / 1000 / (FIN_K * baseM2);
  const spread = spreadingKPerW(contactMm2, fins.widthMm * fins.lengthMm, fins.baseMm, FIN_K, fromFins);
  const kPerW = fromFins + plate + spread + jointKPerW;
  // The way the heat takes now, without the chip's own top, which the heatsink covers.
  const now = riseNowK / powerW;
  const topW = (filmOf(air, flat(chip), 1, riseNowK) * chip.widthMm * chip.heightMm) / 1e6;
  const elsewhere = Math.max(1e-6, 1 / now - topW);
  // No more of the pads counts than lies on the heatsink itself.
  const padsKPerW =
    bridge &&
    bridgeKPerW({
      ...bridge,
      widthMm: Math.min(bridge.widthMm, fins.widthMm),
      heightMm: Math.min(bridge.heightMm, fins.lengthMm),
    });
  // Chip and base are two nodes: heat leaves the chip by its old way and into the base, the base by its fins and through the pads.
  const toBase = 1 / (plate + spread + jointKPerW);
  const with_ = (factor: number, pads: number, warmth: number): number => {
    const byFins = 1 / (fromFins * factor);
    const byPads = padsKPerW === null ? 0 : 1 / (padsKPerW * pads);
    const all = toBase + byFins + byPads;
    return (
      (powerW + (toBase * byPads * (bridge?.coolerRiseK ?? 0) * warmth) / all) /
      (elsewhere + (toBase * (byFins + byPads)) / all)
    );
  };
  const riseK = with_(1, 1, 1);
  const corners = either(CORRELATION_U95).flatMap((factor) =>
    either(BRIDGE_U95).flatMap((pads) =>
      either(COOLER_RISE_U95).map((warmth) => riseNowK - with_(factor, pads, warmth)),
    ),
  );
  return {
    kPerW,
    jointKPerW,
    spreadKPerW: spread,
    finsKPerW: fromFins,
    bridgeKPerW: padsKPerW,
    riseK,
    bringsK: riseNowK - riseK,
    lowK: Math.min(...corners),
    highK: Math.max(...corners),
    areaMm2: areaM2 * 1e6,
    why:
      bridge && bridge.coolerRiseK > riseK
        ? "The main heatsink is warmer than the chip would be: the pads bring heat."
        : padsKPerW !== null && padsKPerW < fromFins
          ? "Most of its heat goes through the pads to the main heatsink."
          : air.kind === "blocked"
            ? "Blocked on all sides: its surface hardly counts."
            : jointKPerW > fromFins
              ? "Its joint costs more than its fins."
              : "Its fins set what it brings.",
  };
}

const flat = (chip: { widthMm: number; heightMm: number }): Fins => ({
  widthMm: chip.widthMm,
  lengthMm: chip.heightMm,
  baseMm: 1,
  finHeightMm: 0.01,
  finThickMm: chip.widthMm,
  count: 1,
});

/** Film coefficient W/m²K, with radiation of a dark surface that sees the room (ε 0.8 over its outline) where air stands. */
function filmOf(air: Airflow, fins: Fins, spacingM: number, overK: number): number {
  const lengthM = fins.lengthMm / 1000;
  const radiating =
    (0.8 * 4 * SIGMA * AIR.kelvin ** 3) / (fins.count > 1 ? 1 + (2 * fins.finHeightMm) / 1000 / spacingM : 1);
  if (air.kind === "stream") {
    if (fins.count > 1) {
      const channel = ((air.speedMS * spacingM) / AIR.nu) * (spacingM / lengthM);
      return (streamNusselt(channel) * AIR.k) / spacingM;
    }
    // Flat plate, laminar: 0.664 Re^½ Pr^⅓ (Incropera).
    return (0.664 * Math.sqrt((air.speedMS * lengthM) / AIR.nu) * Math.cbrt(AIR.pr) * AIR.k) / lengthM;
  }
  const s = fins.count > 1 ? spacingM : lengthM;
  const rayleigh = (GRAVITY * overK * s ** 3 * AIR.pr) / (AIR.kelvin * AIR.nu ** 2);
  // Single plate 0.59 Ra^¼ where there is no channel.
  const nusselt = fins.count > 1 ? stillNusselt(rayleigh * (s / lengthM)) : 0.59 * rayleigh ** 0.25;
  const h = (nusselt * AIR.k) / s + radiating;
  // Under a lid air goes nowhere: a third of what still air does is left by conduction (assumption, no source).
  return air.kind === "blocked" ? h / 3 : h;
}

function check({ fins, air, joint, chip, powerW, riseNowK, bridge }: HeatsinkInput): void {
  const sizes: Array<[number, string]> = [
    [fins.widthMm, "width"],
    [fins.lengthMm, "length"],
    [fins.baseMm, "base"],
    [fins.finHeightMm, "fin height"],
    [fins.finThickMm, "fin thickness"],
    [joint.thicknessMm, "joint’s thickness"],
    [joint.conductivityWPerMK, "joint’s conductivity"],
    [chip.widthMm, "chip’s width"],
    [chip.heightMm, "chip’s height"],
    [powerW, "power"],
    [riseNowK, "rise now"],
    ...(bridge
      ? ([
          [bridge.padMm, "pad to the main heatsink"],
          [bridge.conductivityWPerMK, "pad’s conductivity"],
          [bridge.widthMm, "pad’s width"],
          [bridge.heightMm, "pad’s height"],
          [bridge.coolerRiseK, "main heatsink’s rise"],
        ] satisfies Array<[number, string]>)
      : []),
  ];
  for (const [value, name] of sizes)
    if (!(value > 0 && value <= 500))
      throw bad(`The ${name} is not between 0 and 500.`, name, "Give it in the unit beside it.");
  if (!(Number.isInteger(fins.count) && fins.count >= 1 && fins.count <= 200))
    throw bad("The number of fins is none.", "count", "Give 1 to 200.");
  if (fins.count > 1 && fins.count * fins.finThickMm >= fins.widthMm)
    throw bad("The fins leave no room between them.", "count", "Check their number and thickness against the width.");
  if (air.kind === "stream" && !(air.speedMS > 0 && air.speedMS <= 30))
    throw bad("The stream’s speed is not between 0 and 30 m/s.", "speed", "Some 1 to 5 m/s are usual under a fan.");
}

const bad = (what: string, where: string, remedy: string): Problem =>
  new Problem({ code: "bad-heatsink", what, where, remedy });
