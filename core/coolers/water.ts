import { Problem } from "../problem/index.ts";

/** Water at 300 K (Incropera et al., appendix A, from memory). */
export const WATER = { cpJPerKgK: 4179, densityKgPerM3: 997, viscosityPaS: 8.55e-4 } as const;

/** kPa lost at a flow; between flows it goes as flow to the power between the points, outside as 1.8 (turbulent, Blasius 1.75, and bends 2). */
export interface LossPoint {
  lPerMin: number;
  kPa: number;
}

export interface LoopInput {
  /** Pump: head at flows, falling. Two points or more, or the head when shut and the flow into the open. */
  pump: readonly LossPoint[];
  /** Block and radiators: what they lose at known flows. */
  losses: ReadonlyArray<readonly LossPoint[]>;
  tube: { lengthMm: number; boreMm: number; bends: number };
  /** Radiators: watts per kelvin of coolant over room air, at fan speeds. */
  radiators: ReadonlyArray<ReadonlyArray<{ fanRpm: number; wPerK: number }>>;
  fanRpm: number;
  powerW: number;
  /** Die over coolant where it enters the block, per watt, at flows. */
  block: ReadonlyArray<{ lPerMin: number; kPerW: number }>;
  /** What radiators, block and reservoir hold. */
  insideMl: number;
}

export interface LoopFound {
  flowLPerMin: number;
  lostKPa: number;
  reynolds: number;
  /** Coolant over room air as it leaves the radiator, and what the card adds. */
  coolantOverRoomK: number;
  warmingK: number;
  dieOverCoolantK: number;
  dieOverRoomK: number;
  /** 95 % half-width of the last: sheets hold within ten per cent or so of what a bench shows (common practice, no source). */
  u95K: number;
  fillMl: number;
}

const LAMINAR_BELOW = 2300;
const BEND_LOSS = 0.9;
const OUTSIDE_POWER = 1.8;
const SHEET_U95 = 0.12;

const bad = (what: string, where: string, remedy: string): Problem =>
  new Problem({ code: "bad-loop", what, where, remedy });

/** How much water warms that takes up so much heat. @example
 * ```ts
 * Math.round(10 * warmingK(300, 1)) / 10 // => 4.3
 * ```
 */
export const warmingK = (powerW: number, lPerMin: number): number =>
  powerW / ((lPerMin / 60_000) * WATER.densityKgPerM3 * WATER.cpJPerKgK);

/** Darcy friction factor of a smooth tube: 64/Re, above 2300 Blasius 0.316 Re^(−1/4). */
export const friction = (reynolds: number): number =>
  reynolds < LAMINAR_BELOW ? 64 / Math.max(1e-9, reynolds) : 0.316 * reynolds ** -0.25;

const speedMS = (lPerMin: number, boreMm: number): number => lPerMin / 60_000 / ((Math.PI / 4) * (boreMm / 1000) ** 2);
const reynoldsOf = (lPerMin: number, boreMm: number): number =>
  (WATER.densityKgPerM3 * speedMS(lPerMin, boreMm) * boreMm) / 1000 / WATER.viscosityPaS;

/** What a tube loses, kPa: friction and bends (0.9 dynamic heads each, usual for a tight bend). */
export function tubeKPa(lPerMin: number, { lengthMm, boreMm, bends }: LoopInput["tube"]): number {
  const dynamicPa = (WATER.densityKgPerM3 * speedMS(lPerMin, boreMm) ** 2) / 2;
  return (dynamicPa * ((friction(reynoldsOf(lPerMin, boreMm)) * lengthMm) / boreMm + BEND_LOSS * bends)) / 1000;
}

/** Straight in logarithms between points; outside them by the power given. */
function alongPowers(points: ReadonlyArray<readonly [x: number, y: number]>, x: number, outside: number): number {
  const sorted = points.toSorted((a, b) => a[0] - b[0]);
  const [x0, y0] = sorted[0] ?? [1, Number.NaN];
  const [x1, y1] = sorted.at(-1) ?? [1, Number.NaN];
  if (x <= x0) return y0 * (x / x0) ** outside;
  if (x >= x1) return y1 * (x / x1) ** outside;
  const above = sorted.findIndex(([at]) => at >= x);
  const [xa, ya] = sorted[above - 1] ?? [x0, y0];
  const [xb, yb] = sorted[above] ?? [x1, y1];
  return ya * (x / xa) ** (Math.log(yb / ya) / Math.log(xb / xa));
}

/** Head of the pump: straight between points, and on to nothing. */
function headKPa(pump: readonly LossPoint[], lPerMin: number): number {
  const sorted = pump.toSorted((a, b) => a.lPerMin - b.lPerMin);
  const first = sorted[0];
  if (!first) return 0;
  if (lPerMin <= first.lPerMin) return first.kPa;
  const above = sorted.findIndex((one) => one.lPerMin >= lPerMin);
  const b = sorted[above < 0 ? sorted.length - 1 : above] ?? first;
  const a = sorted[(above < 0 ? sorted.length - 1 : above) - 1] ?? first;
  return Math.max(0, a.kPa + ((b.kPa - a.kPa) * (lPerMin - a.lPerMin)) / (b.lPerMin - a.lPerMin));
}

/**
 * Where a loop comes to rest: flow where the pump's head and what the loop loses meet, coolant over room air, die over coolant.
 * @throws Problem `bad-loop` naming what is missing: a radiator or a block without data, a pump that does not fall
 */
export function waterLoop(input: LoopInput): LoopFound {
  check(input);
  const { pump, losses, tube, radiators, fanRpm, powerW, block, insideMl } = input;
  const lost = (lPerMin: number): number =>
    losses.reduce(
      (sum, points) =>
        sum +
        alongPowers(
          points.map((one) => [one.lPerMin, one.kPa]),
          lPerMin,
          OUTSIDE_POWER,
        ),
      tubeKPa(lPerMin, tube),
    );
  let low = 1e-6;
  let high = Math.max(...pump.map((one) => one.lPerMin)) * 4;
  for (let step = 0; step < 80; step++) {
    const middle = (low + high) / 2;
    if (headKPa(pump, middle) > lost(middle)) low = middle;
    else high = middle;
  }
  const flow = (low + high) / 2;
  // Air alone carries the fan's part: conductance goes as speed to the power of 0.6 or so beyond the sheet.
  const conductance = radiators.reduce(
    (sum, points) =>
      sum +
      alongPowers(
        points.map((one) => [one.fanRpm, one.wPerK]),
        fanRpm,
        0.6,
      ),
    0,
  );
  const warming = warmingK(powerW, flow);
  // Sheets give watts per kelvin of the coolant that enters; it leaves colder by what the card adds.
  const entering = powerW / conductance;
  const kPerW = alongPowers(
    block.map((one) => [one.lPerMin, one.kPerW]),
    flow,
    -0.3,
  );
  const coolant = Math.max(0, entering - warming);
  const die = coolant + powerW * kPerW;
  return {
    flowLPerMin: flow,
    lostKPa: lost(flow),
    reynolds: reynoldsOf(flow, tube.boreMm),
    coolantOverRoomK: coolant,
    warmingK: warming,
    dieOverCoolantK: powerW * kPerW,
    dieOverRoomK: die,
    u95K: Math.hypot(SHEET_U95 * entering, SHEET_U95 * powerW * kPerW),
    fillMl: insideMl + ((Math.PI / 4) * tube.boreMm ** 2 * tube.lengthMm) / 1000,
  };
}

function check({ pump, losses, tube, radiators, fanRpm, powerW, block, insideMl }: LoopInput): void {
  const positive = (value: number, where: string, words: string): void => {
    if (!(value > 0 && value < 1e6)) throw bad(words, where, "Give a number above 0 in the unit its name says.");
  };
  positive(powerW, "powerW", "There is no heat to carry.");
  positive(fanRpm, "fanRpm", "The fans do not turn.");
  positive(tube.lengthMm, "tube.lengthMm", "The tube has no length.");
  positive(tube.boreMm, "tube.boreMm", "The tube has no bore.");
  if (!(tube.bends >= 0 && insideMl >= 0)) throw bad("A count or a volume is below 0.", "tube", "Give 0 or more.");
  if (pump.length < 2)
    throw bad("The pump has no curve.", "pump", "Give its head when shut and its flow into the open.");
  const rising = pump.toSorted((a, b) => a.lPerMin - b.lPerMin);
  for (const [index, one] of rising.entries()) {
    const before = rising[index - 1];
    if (!(one.lPerMin >= 0 && one.kPa >= 0)) throw bad("A point of the pump is below 0.", "pump", "Give 0 or more.");
    if (before && !(one.lPerMin > before.lPerMin && one.kPa < before.kPa))
      throw bad("The pump’s head does not fall with flow.", "pump", "Give each flow once; more flow, less head.");
  }
  if (radiators.length === 0 || radiators.some((points) => points.length === 0))
    throw bad(
      "A radiator has no data.",
      "radiators",
      "Give watts per kelvin at one fan speed or more, from its sheet.",
    );
  if (block.length === 0)
    throw bad("The block has no data.", "block", "Give kelvins per watt at one flow or more, from its sheet or a run.");
  for (const points of radiators)
    for (const one of points) {
      positive(one.fanRpm, "radiators", "A fan speed of the radiator is no speed.");
      positive(one.wPerK, "radiators", "A figure of the radiator is no figure.");
    }
  for (const one of block) {
    positive(one.lPerMin, "block", "A flow of the block is no flow.");
    positive(one.kPerW, "block", "A figure of the block is no figure.");
  }
  for (const points of losses)
    for (const one of points) {
      positive(one.lPerMin, "losses", "A flow is no flow.");
      positive(one.kPa, "losses", "A loss is no loss.");
    }
}
