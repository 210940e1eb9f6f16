import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import {
  finEfficiency,
  type HeatsinkInput,
  heatsink,
  spreadingKPerW,
  stillNusselt,
  streamNusselt,
} from "./heatsink.ts";
import { type LeakReading, type LeakTask, leakTest } from "./leak.ts";
import { friction, type LoopInput, tubeKPa, WATER, warmingK, waterLoop } from "./water.ts";

describe("still air and streams", () => {
  it.each([3, 30, 300, 3000])("agrees with Elenbaas’ own fit at a channel Rayleigh number of %s", (ra) => {
    // Elenbaas 1942 for square plates, as in Incropera et al. (from memory).
    const elenbaas = (ra / 24) * (1 - Math.exp(-35 / ra)) ** 0.75;
    expect(Math.abs(stillNusselt(ra) / elenbaas - 1)).toBeLessThan(0.1);
  });

  it("has the two limits of Bar-Cohen & Rohsenow: all air warmed through, and a single plate", () => {
    expect(stillNusselt(0.01)).toBeCloseTo(0.01 / 24, 7);
    // 0.59 Ra^¼, isothermal vertical plate.
    expect(stillNusselt(1e9) / 1e9 ** 0.25).toBeCloseTo(0.59, 2);
  });

  it("takes up no more in a slow stream than the air that flows through can carry, and near a flat plate in a fast one", () => {
    // All air leaves as warm as the fins: ρ u s cp ΔT over two faces of length L is Nu = Re* Pr / 2.
    expect(streamNusselt(0.1)).toBeCloseTo((0.1 * 0.707) / 2, 4);
    // Laminar plate 0.664 √Re ∛Pr (Pohlhausen), raised by the developing core's pressure.
    const fast = streamNusselt(1e4) / (0.664 * Math.sqrt(1e4) * Math.cbrt(0.707));
    expect(fast).toBeGreaterThan(0.98);
    expect(fast).toBeLessThan(1.06);
  });

  it("knows a fin’s efficiency", () => {
    expect(finEfficiency(1)).toBeCloseTo(0.7616, 4);
    expect(finEfficiency(0)).toBe(1);
  });
});

describe("spreading in a plate", () => {
  /** Square source in a square plate: Fourier series of the plate with flux on the source and a film beyond (as Muzychka, Culham & Yovanovich). */
  function series(sourceMm: number, plateMm: number, thickMm: number, k: number, filmKPerW: number): number {
    const [a, c, t] = [sourceMm / 2000, plateMm / 2000, thickMm / 1000];
    const biot = 1 / (filmKPerW * (2 * c) ** 2) / k;
    const sinc = (x: number): number => (x === 0 ? 1 : Math.sin(x) / x);
    let sum = 0;
    for (let m = 0; m < 160; m++)
      for (let n = 0; n < 160; n++) {
        if (m + n === 0) continue;
        const [x, y] = [(m * Math.PI) / c, (n * Math.PI) / c];
        const beta = Math.hypot(x, y);
        const tanh = Math.tanh(beta * t);
        const weight = (m === 0 ? 1 : 2) * (n === 0 ? 1 : 2);
        const film = (beta + biot * tanh) / (beta * tanh + biot);
        sum += ((weight * film) / (4 * c * c * k * beta)) * sinc(a * x) ** 2 * sinc(a * y) ** 2;
      }
    return sum;
  }

  it.each([
    [12, 40, 3, 2],
    [12, 25, 2, 8],
    [20, 60, 6, 0.2],
    [10, 100, 4, 0.5],
  ])("is within a tenth of the series for %s mm in %s mm, %s mm thick", (source, plate, thick, film) => {
    const found = spreadingKPerW(source ** 2, plate ** 2, thick, 237, film);
    expect(Math.abs(found / series(source, plate, thick, 237, film) - 1)).toBeLessThan(0.1);
  });

  it("comes to the half-space’s 8/(3π^1.5) for a small source on a large block (Carslaw & Jaeger)", () => {
    const [sourceMm2, k] = [4, 237];
    const psi = spreadingKPerW(sourceMm2, 1e6, 1000, k, 1e-4) * k * Math.sqrt(sourceMm2 / 1e6);
    expect(Math.abs(psi / (8 / (3 * Math.PI ** 1.5)) - 1)).toBeLessThan(0.06);
  });
});

describe("an add-on heatsink", () => {
  const input: HeatsinkInput = {
    fins: { widthMm: 14, lengthMm: 14, baseMm: 1.5, finHeightMm: 6, finThickMm: 1, count: 5 },
    air: { kind: "stream", speedMS: 2 },
    joint: { thicknessMm: 0.2, conductivityWPerMK: 1.2 },
    chip: { widthMm: 14, heightMm: 12 },
    powerW: 2.5,
    riseNowK: 60,
  };

  it("brings most in a stream, little in still air, next to nothing where it is blocked", () => {
    const [stream, still, blocked] = [input.air, { kind: "still" } as const, { kind: "blocked" } as const].map((air) =>
      heatsink({ ...input, air }),
    );
    expect(stream?.bringsK).toBeGreaterThan(2 * (still?.bringsK ?? Number.NaN));
    expect(still?.bringsK).toBeGreaterThan(1.5 * (blocked?.bringsK ?? Number.NaN));
    expect(blocked?.bringsK).toBeGreaterThan(0);
    for (const one of [stream, still, blocked])
      expect(one && one.lowK <= one.bringsK && one.bringsK <= one.highK).toBe(true);
  });

  it("adds up: joint as thickness over conductivity and area, rise as parallel ways", () => {
    const found = heatsink(input);
    expect(found.jointKPerW).toBeCloseTo(0.2e-3 / (1.2 * 14e-3 * 12e-3), 9);
    expect(found.riseK + found.bringsK).toBeCloseTo(60, 9);
    expect(found.kPerW).toBeGreaterThan(found.finsKPerW + found.jointKPerW);
  });

  it("sends heat through pads to the main heatsink, two on each other at their cost, and takes heat from a warmer one", () => {
    const bridge = { padMm: 1, layers: 1 as const, conductivityWPerMK: 5, widthMm: 14, heightMm: 12, coolerRiseK: 20 };
    const alone = heatsink({ ...input, air: { kind: "blocked" } });
    const one = heatsink({ ...input, air: { kind: "blocked" }, bridge });
    const two = heatsink({ ...input, air: { kind: "blocked" }, bridge: { ...bridge, layers: 2 } });
    const thick = heatsink({ ...input, air: { kind: "blocked" }, bridge: { ...bridge, padMm: 2 } });
    // 1 mm of 5 W/mK on 14 × 12 mm.
    expect(one.bridgeKPerW).toBeCloseTo(1e-3 / (5 * 14e-3 * 12e-3), 9);
    expect(one.bringsK).toBeGreaterThan(alone.bringsK + 10);
    expect(two.bringsK).toBeLessThan(thick.bringsK);
    expect(thick.bringsK).toBeLessThan(one.bringsK);
    // Nothing else to go to and no fins worth the name: what is left is the main heatsink and the way through joint, plate and pads.
    const shut = { ...input, powerW: 10, riseNowK: 400, bridge };
    const bare = { ...shut, air: { kind: "blocked" as const }, fins: { ...input.fins, finHeightMm: 0.1 } };
    const found = heatsink(bare);
    const way = 20 + 10 * (found.kPerW - found.finsKPerW + (found.bridgeKPerW ?? Number.NaN));
    expect(found.riseK).toBeLessThan(way);
    expect(found.riseK).toBeGreaterThan(0.85 * way);
    const warm = heatsink({ ...input, bridge: { ...bridge, coolerRiseK: 90 } });
    expect(warm.bringsK).toBeLessThan(heatsink(input).bringsK);
    expect(warm.why).toMatch(/bring heat/);
    expect(() => heatsink({ ...input, bridge: { ...bridge, padMm: 0 } })).toThrow(/pad to the main heatsink/);
  });

  it.each([
    ["fins without room", { fins: { ...input.fins, count: 14 } }, /no room/],
    ["no fins", { fins: { ...input.fins, count: 0 } }, /number of fins/],
    ["no height", { fins: { ...input.fins, finHeightMm: 0 } }, /fin height/],
    ["a gale", { air: { kind: "stream" as const, speedMS: 80 } }, /speed/],
  ])("refuses %s", (_, change, words) => {
    expect(() => heatsink({ ...input, ...change })).toThrow(words);
  });
});

describe("a loop of water", () => {
  const loop: LoopInput = {
    pump: [
      { lPerMin: 0, kPa: 30 },
      { lPerMin: 8, kPa: 0 },
    ],
    losses: [[{ lPerMin: 3, kPa: 9 }]],
    tube: { lengthMm: 1500, boreMm: 10, bends: 6 },
    radiators: [
      [
        { fanRpm: 800, wPerK: 12 },
        { fanRpm: 1600, wPerK: 19 },
      ],
    ],
    fanRpm: 1200,
    powerW: 300,
    block: [
      { lPerMin: 2, kPerW: 0.09 },
      { lPerMin: 5, kPerW: 0.075 },
    ],
    insideMl: 250,
  };

  it("warms by 4.3 K with 300 W in a litre a minute", () => {
    expect(warmingK(300, 1)).toBeCloseTo(4.3, 1);
  });

  it("loses in a tube what Hagen and Poiseuille, and Blasius, say", () => {
    // Δp = 128 μ L Q / (π d⁴).
    const q = 0.3 / 60_000;
    expect(tubeKPa(0.3, { lengthMm: 1000, boreMm: 10, bends: 0 })).toBeCloseTo(
      (128 * WATER.viscosityPaS * q) / (Math.PI * 0.01 ** 4) / 1000,
      9,
    );
    expect(friction(2000)).toBeCloseTo(0.032, 6);
    expect(friction(1e4)).toBeCloseTo(0.0316, 6);
  });

  it("flows where head and loss meet, in closed form where the loss goes as flow squared", () => {
    const square = [1, 2, 4, 8].map((lPerMin) => ({ lPerMin, kPa: 1.5 * lPerMin ** 2 }));
    const found = waterLoop({ ...loop, losses: [square], tube: { lengthMm: 1e-6, boreMm: 50, bends: 0 } });
    // 30 − 3.75 Q = 1.5 Q²
    expect(found.flowLPerMin).toBeCloseTo((-3.75 + Math.sqrt(3.75 ** 2 + 4 * 1.5 * 30)) / 3, 4);
  });

  it("stands as far over the room as the radiator’s sheet says, and fills with tube and what is inside", () => {
    const found = waterLoop({ ...loop, fanRpm: 1600 });
    expect(found.coolantOverRoomK + found.warmingK).toBeCloseTo(300 / 19, 6);
    expect(found.dieOverRoomK).toBeCloseTo(found.coolantOverRoomK + found.dieOverCoolantK, 9);
    expect(found.fillMl).toBeCloseTo(250 + (Math.PI / 4) * 1500 * 0.1, 6);
    expect(waterLoop({ ...loop, fanRpm: 800 }).dieOverRoomK).toBeGreaterThan(found.dieOverRoomK);
    const two = waterLoop({ ...loop, radiators: [...loop.radiators, ...loop.radiators] });
    expect(two.coolantOverRoomK).toBeLessThan(waterLoop(loop).coolantOverRoomK);
  });

  it.each<[string, Partial<LoopInput>, RegExp]>([
    ["a radiator without data", { radiators: [[]] }, /radiator has no data/],
    ["a block without data", { block: [] }, /block has no data/],
    [
      "a pump that does not fall",
      {
        pump: [
          { lPerMin: 0, kPa: 5 },
          { lPerMin: 4, kPa: 9 },
        ],
      },
      /does not fall/,
    ],
    ["no heat", { powerW: 0 }, /no heat/],
  ])("refuses %s", (_, change, words) => {
    expect(() => waterLoop({ ...loop, ...change })).toThrow(words);
  });
});

describe("tight or leaking", () => {
  const steps = { namedKPaPerH: 2, volumeMl: 500, gaugeStepKPa: 0.1, airStepK: 0.1 };
  const task = (readings: LeakReading[]): LeakTask => ({ ...steps, readings });
  const every = (many: number, gap: number, of: (atMin: number) => [number, number]): LeakReading[] =>
    Array.from({ length: many }, (_, k) => {
      const [pressureKPa, airC] = of(k * gap);
      return { atMin: k * gap, pressureKPa, airC };
    });
  const nearest = (value: number, step: number): number => Math.round(value / step) * step;

  it("raises 100 kPa by 0.34 kPa for a kelvin (ideal gas) and takes that off again", () => {
    // A room that warms by 3 K an hour: the gauge rises although nothing comes in.
    const warming = every(40, 2, (t) => [141.325 * (1 + (3 * t) / 60 / 293.15) - 101.325, 20 + (3 * t) / 60]);
    const found = leakTest(task(warming));
    expect(100 / 293.15).toBeCloseTo(0.34, 2);
    expect(found).toMatchObject({ verdict: "tight" });
    expect(found.fallKPaPerH).toBeCloseTo(0, 6);
  });

  it("sees a leak that a warming room hides", () => {
    const hidden = every(40, 2, (t) => [
      (141.325 - (4 * t) / 60) * (1 + (4 * t) / 60 / 293.15) - 101.325,
      20 + (4 * t) / 60,
    ]);
    const found = leakTest(task(hidden));
    expect(found.verdict).toBe("leaking");
    expect(Math.abs((found.fallKPaPerH ?? 0) - 4)).toBeLessThan(0.2);
    // 4 kPa of 101.3 an hour in half a litre.
    expect(found.leakMlPerMin).toBeCloseTo((500 * 4) / 101.325 / 60, 1);
  });

  it("asks for more minutes while a coarse gauge can’t tell, fewer the longer it has run, and keeps its word", () => {
    const coarse = { ...steps, gaugeStepKPa: 1, airStepK: 0.5 };
    const after = (minutes: number) =>
      leakTest({ ...coarse, readings: every(Math.round(minutes / 2) + 1, 2, () => [40, 21]) });
    const early = after(14);
    expect(early.verdict).toBe("not known yet");
    expect(early.moreMin).toBeGreaterThan(after(24).moreMin ?? 0);
    expect(after(14 + (early.moreMin ?? 0) + 6).verdict).toBe("tight");
  });

  /** A loop of another structure: air inside lags, tube gives way, the room wanders with memory, the weather drifts, the gauge shows whole steps. */
  function loop(seed: number, leakKPaPerH: number): LeakReading[] {
    const chance = seeded(seed);
    const gap = chance.pick([1, 3, 6]);
    const [drift, weather] = [chance.between(-4, 4), 0.06 * chance.normal()];
    const [creep, tau] = [chance.between(0, 1.2), chance.between(1, 4)];
    let [wander, inside, room] = [0, 21, 21];
    const readings: LeakReading[] = [];
    for (let t = 0; t <= 66; t++) {
      wander = 0.95 * wander + 0.05 * chance.normal();
      room = 21 + (drift * t) / 60 + wander;
      inside += (room - inside) / 8;
      const absolute = (141.3 - (leakKPaPerH * t) / 60 + creep * Math.exp(-t / tau)) * ((inside + 273.15) / 294.15);
      if (t % gap === 0)
        readings.push({
          atMin: t,
          pressureKPa: nearest(absolute - 101.325 + (weather * t) / 60, 0.2),
          airC: nearest(room + 0.05 * chance.normal(), 0.1),
        });
    }
    return readings;
  }

  it("holds its interval and seldom errs on loops of another structure", () => {
    const many = 60;
    let held = 0;
    const said = { tightAsLeaking: 0, leakingAsTight: 0, decided: 0 };
    for (let seed = 1; seed <= many; seed++)
      for (const leak of [0, 2.5]) {
        const found = leakTest({ ...steps, gaugeStepKPa: 0.2, readings: loop(seed, leak) });
        if (Math.abs((found.fallKPaPerH ?? Number.NaN) - leak) <= (found.u95KPaPerH ?? 0)) held++;
        if (found.verdict !== "not known yet") said.decided++;
        if (leak === 0 && found.verdict === "leaking") said.tightAsLeaking++;
        if (leak > 0 && found.verdict === "tight") said.leakingAsTight++;
      }
    expect(held).toBeGreaterThanOrEqual(0.9 * 2 * many);
    expect(said.tightAsLeaking).toBeLessThanOrEqual(3);
    expect(said.leakingAsTight).toBeLessThanOrEqual(2);
    expect(said.decided).toBeGreaterThan(many);
  });

  it("says what is missing where there are two readings only, or all of them early", () => {
    expect(leakTest(task(every(2, 20, () => [40, 21])))).toMatchObject({ verdict: "not known yet", fallKPaPerH: null });
    expect(leakTest(task(every(4, 1, () => [40, 21]))).why).toMatch(/first 5 minutes/);
  });

  it.each<[string, LeakReading[], RegExp]>([
    ["one reading", every(1, 1, () => [40, 21]), /fewer than two/],
    ["a gauge that stands still", every(8, 5, (t) => [40, 20 + t / 10]), /stands still/],
    ["a loop pumped up again", every(8, 5, (t) => [t < 20 ? 40 - t / 4 : 40, 21]), /pumped up again/],
    ["bars taken for kilopascals the wrong way", every(8, 5, () => [4000, 21]), /no pressure/],
    ["Fahrenheit", every(8, 5, () => [40, 70]), /no air/],
    ["readings out of order", every(3, 5, () => [40, 21]).toReversed(), /not later/],
  ])("refuses %s", (_, readings, words) => {
    expect(() => leakTest(task(readings))).toThrow(words);
  });

  it("refuses to name a leak that hides behind the weather", () => {
    expect(() => leakTest({ ...task(every(9, 9, () => [40, 21])), namedKPaPerH: 0.1 })).toThrow(/weather/);
  });
});
