import { sampleStandardDeviation } from "simple-statistics";
import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { type RunTable, readRun } from "../runfile/index.ts";
import { logText, MIDSIZE, type RunSpec, settledRises, simulate } from "../virtualcard/index.ts";
import {
  type Analysis,
  analyse,
  correlationFactor,
  fanDriveOf,
  fitHeatingCurve,
  judgeRun,
  levelOf,
  meanWithSpread,
  prepareRun,
  resolutionSpread,
  temperatureOf,
  windowFigures,
} from "./index.ts";

const LOAD = [
  { durationS: 60, load: 0 },
  { durationS: 1500, load: 1 },
  { durationS: 240, load: 0 },
];
const tableOf = (text: string): RunTable => readRun([new TextEncoder().encode(text)]);
const judged = (spec: Partial<RunSpec>, options = {}): Analysis =>
  analyse(tableOf(logText(simulate({ seed: 5, build: MIDSIZE, steps: LOAD, ...spec }))), options);
const csv = (header: string, rows: Array<Array<number | string>>): RunTable =>
  tableOf(`${header}\n${rows.map((row) => row.join(",")).join("\n")}\n`);

describe("means with intervals", () => {
  it("finds (1+ρ)/(1−ρ) for an AR(1) series (any time-series text)", () => {
    const random = seeded(3);
    for (const rho of [0.3, 0.7]) {
      let x = 0;
      const series = Float64Array.from({ length: 20_000 }, () => {
        x = rho * x + random.normal();
        return x;
      });
      const expected = (1 + rho) / (1 - rho);
      expect(Math.abs(correlationFactor(series) / expected - 1)).toBeLessThan(0.12);
    }
  });

  it("holds the true mean of AR(1) series in about 95 of 100 cases", () => {
    let held = 0;
    for (let seed = 0; seed < 300; seed++) {
      const random = seeded(seed);
      let x = random.normal() / Math.sqrt(1 - 0.36);
      const found = meanWithSpread(
        Float64Array.from({ length: 300 }, () => {
          x = 0.6 * x + random.normal();
          return 50 + x;
        }),
        0,
      );
      if (found && Math.abs(found.mean - 50) <= found.u95) held++;
    }
    expect(held / 300).toBeGreaterThan(0.91);
    expect(held / 300).toBeLessThan(0.99);
  });

  it("gives a stuck whole-degree display u = 1/√12 (JCGM 100:2008, F.2.2.1: a/√3 with a = 0.5) and a dithered one nearly nothing", () => {
    expect(resolutionSpread(1, 0)).toBeCloseTo(0.5 / Math.sqrt(3), 2);
    expect(resolutionSpread(1, 0.6)).toBeLessThan(0.01);
    expect(meanWithSpread(new Float64Array(100).fill(71), 1)?.u95).toBeCloseTo(1.96 * 0.2887, 2);
  });

  it("agrees with a general statistics package on independent samples", () => {
    const random = seeded(9);
    const samples = Array.from({ length: 400 }, () => 20 + random.normal());
    const found = meanWithSpread(Float64Array.from(samples), 0);
    expect(found?.budget.sd).toBeCloseTo(sampleStandardDeviation(samples), 9);
    const plain = (1.966 * sampleStandardDeviation(samples)) / 20;
    expect((found?.u95 ?? 0) / plain).toBeGreaterThan(0.95);
    expect((found?.u95 ?? 0) / plain).toBeLessThan(1.25);
  });
});

describe("heating curve", () => {
  const curve = (t: number): number => 48 - 14 * Math.exp(-t / 8) - 30 * Math.exp(-t / 150);
  const sampled = (seconds: number, noise: number) => {
    const random = seeded(21);
    const t = Float64Array.from({ length: Math.floor(seconds / 2) }, (_, k) => 2 * k + 1);
    return fitHeatingCurve(
      t,
      t.map((at) => curve(at) + noise * random.normal()),
      t.map(() => 0.1),
    );
  };

  it("finds the settling value of an RC ladder with two known stages, and its time constants", () => {
    const fit = sampled(1500, 0.1);
    expect(Math.abs((fit?.final ?? 0) - 48)).toBeLessThan(Math.min(0.3, fit?.finalU95 ?? 0));
    const taus = fit?.best.terms.map((term) => term.tauS).sort((a, b) => a - b) ?? [];
    expect(taus[0]).toBeGreaterThan(6.5);
    expect(taus[0]).toBeLessThan(10);
    expect(taus[1]).toBeGreaterThan(142);
    expect(taus[1]).toBeLessThan(158);
  });

  it("goes 63.2 % of the way in one time constant (RC step response)", () => {
    const t = Float64Array.from({ length: 400 }, (_, k) => k * 2);
    const fit = fitHeatingCurve(
      t,
      t.map((at) => 40 * (1 - Math.exp(-at / 120))),
      t.map(() => 0.05),
    );
    expect(1 - (fit?.remainingAt(120).mean ?? 0) / 40).toBeCloseTo(0.632, 2);
  });

  it("widens honestly when a run was stopped early, and still holds the truth", () => {
    const early = sampled(240, 0.2);
    const late = sampled(1500, 0.2);
    expect(Math.abs((early?.final ?? 0) - 48)).toBeLessThan(early?.finalU95 ?? 0);
    expect(early?.finalU95 ?? 0).toBeGreaterThan(3 * (late?.finalU95 ?? 1));
  });
});

describe("analyse", () => {
  it("finds phases, steady window and the true rise of a settled run", () => {
    const found = judged({});
    const truth = settledRises({ seed: 5, build: MIDSIZE, steps: LOAD });
    expect(found.phases.map((phase) => phase.kind)).toEqual(["idle", "warmup", "steady", "cooldown", "idle"]);
    expect(found.steady.reached).toBe(true);
    expect(Math.abs((found.phases[1]?.fromS ?? 0) - 60)).toBeLessThan(4);
    const edge = temperatureOf(found, "edge");
    expect(Math.abs((edge?.riseK ?? 0) - truth.edgeK)).toBeLessThan(edge?.riseU95K ?? 0);
    expect(edge?.thetaKPerW).toBeCloseTo(truth.edgeK / truth.powerW, 2);
    expect(found.hotspotGapK?.mean).toBeCloseTo(truth.hotspotK - truth.edgeK, 0);
    expect(found.throttling.detected).toBe(false);
    expect(found.ambient).toMatchObject({ source: "column", u95K: 0.6 });
  });

  it("says where a run that was stopped early would settle, and how long to go on", () => {
    const steps = [
      { durationS: 60, load: 0 },
      { durationS: 260, load: 1 },
    ];
    const found = judged({ steps });
    const truth = settledRises({ seed: 5, build: MIDSIZE, steps });
    const edge = temperatureOf(found, "edge");
    expect(found.steady).toMatchObject({ reached: false, fromS: null, toS: null });
    expect(edge).toMatchObject({ meanC: null, u95K: null, riseK: null, riseU95K: null, thetaKPerW: null });
    expect(Math.abs((edge?.finalC ?? 0) - 22 - truth.edgeK)).toBeLessThan((edge?.finalU95K ?? 0) + 0.6);
    expect(found.steady.minutesNeeded).toBeGreaterThanOrEqual(2);
    expect(levelOf(found, "power")?.mean).toBeCloseTo(200, 0);
  });

  it("keeps a run without room air but claims no rise from it; typed air overrules a column", () => {
    const without = judged({ sensors: { room: null } });
    expect(without.ambient).toBeNull();
    expect(temperatureOf(without, "edge")).toMatchObject({ riseK: null, riseU95K: null, thetaKPerW: null });
    expect(temperatureOf(without, "edge")?.meanC).toBeGreaterThan(50);
    const typed = judged({}, { ambientC: 20 });
    expect(typed.ambient).toEqual({ valueC: 20, u95K: 1, source: "option" });
  });

  it("follows a drifting room by its column", () => {
    const found = judged({ bench: { roomDriftKPerH: 4 }, sensors: { stepK: 0.1 } });
    const truth = settledRises({ seed: 5, build: MIDSIZE, steps: LOAD });
    expect(found.steady.reached).toBe(true);
    expect(Math.abs((temperatureOf(found, "edge")?.riseK ?? 0) - truth.edgeK)).toBeLessThan(0.6);
  });

  it("leaves single-sample spikes out of mean and maximum and reports them", () => {
    const clean = judged({ sensors: { stepK: 0.1 } });
    const spiked = judged({ sensors: { stepK: 0.1, spikeChance: 0.01 } });
    expect(spiked.spikes).toBeGreaterThan(20);
    expect(spiked.notices.map((notice) => notice.code)).toContain("spikes");
    expect(temperatureOf(spiked, "edge")?.meanC).toBeCloseTo(temperatureOf(clean, "edge")?.meanC ?? 0, 0);
    expect(
      Math.abs((temperatureOf(spiked, "edge")?.maxC ?? 0) - (temperatureOf(clean, "edge")?.maxC ?? 0)),
    ).toBeLessThan(1.5);
  });

  it("sees throttling by heat, and none in a game whose load swings by itself", () => {
    const hot = judged({
      build: { ...MIDSIZE, edgeLimitC: 72 },
      faults: { dryPaste: 1, dust: 0.9 },
      bench: { fan: 45 },
    });
    expect(hot.throttling).toMatchObject({ detected: true, kinds: ["temperature"] });
    expect(hot.throttling.shareOfLoad).toBeGreaterThan(0.5);
    expect(judged({ bench: { loadSwing: 0.08 } }).throttling.detected).toBe(false);
  });

  it("judges a log of temperature alone, by its shape", () => {
    const rows = Array.from({ length: 1400 }, (_, t) => [
      t,
      (t < 100 ? 35 : t < 1200 ? 75 - 40 * Math.exp(-(t - 100) / 90) : 35 + 40 * Math.exp(-(t - 1200) / 60)).toFixed(1),
    ]);
    const found = analyse(csv("Time [s],GPU temp [°C]", rows), { ambientC: 21 });
    expect(found.steady.reached).toBe(true);
    expect(temperatureOf(found, "edge")?.riseK).toBeCloseTo(54, 0);
    expect(found.steady.toS ?? 0).toBeLessThan(1210);
  });

  it("takes a window set by hand, and its quick figures agree with the whole analysis", () => {
    const table = tableOf(logText(simulate({ seed: 5, build: MIDSIZE, steps: LOAD })));
    const window = { fromS: 1100, toS: 1400 };
    const run = prepareRun(table);
    const whole = judgeRun(run, { windowS: window });
    expect(whole.steady).toMatchObject({ ...window, byHand: true, reached: true });
    const quick = windowFigures(run, window);
    expect(temperatureOf(quick, "edge")?.riseK).toBeCloseTo(temperatureOf(whole, "edge")?.riseK ?? 0, 9);
    expect(() => analyse(table, { windowS: { fromS: 10, toS: 10.5 } })).toThrow(/fewer than two samples/);
  });

  it("finds no load in a card that idled", () => {
    const found = judged({ steps: [{ durationS: 900, load: 0 }] });
    expect(found.phases.map((phase) => phase.kind)).toEqual(["idle"]);
    expect(found.steady.reached).toBe(false);
    expect(temperatureOf(found, "edge")?.finalC).toBeNull();
  });
});

describe("fan drive", () => {
  const lines = (fan: number | "automatic", more: { seed?: number; idleS?: number } = {}) => {
    const steps = [
      { durationS: more.idleS ?? 30, load: 0 },
      { durationS: 1200, load: 1 },
    ];
    const made = simulate({ seed: more.seed ?? 5, build: MIDSIZE, steps, bench: { fan } });
    return { timeS: made.timeS, dutyPct: made.fanPct, rpm: made.fan1Rpm, dieC: made.edgeC };
  };

  it("tells a fixed fan from an automatic one by its duty, whatever the idle before it was like", () => {
    const load = { fromS: 200, toS: 1200 };
    expect(fanDriveOf(lines(62, { idleS: 200 }), load)).toEqual({ mode: "fixed", pct: 62 });
    expect(fanDriveOf(lines("automatic", { idleS: 200 }), load)?.mode).toBe("automatic");
    const none = new Float64Array(3).fill(Number.NaN);
    expect(fanDriveOf({ timeS: Float64Array.of(0, 1, 2), dutyPct: none, rpm: none, dieC: none })).toBeUndefined();
  });

  it("tells it by the speed where there is no duty, and by a per cent that goes with the die", () => {
    for (const seed of [1, 2, 3]) {
      const load = { fromS: 30, toS: 1000 };
      expect(fanDriveOf({ ...lines(62, { seed }), dutyPct: undefined }, load)).toEqual({ mode: "fixed", pct: null });
      expect(fanDriveOf({ ...lines("automatic", { seed }), dutyPct: undefined }, load)?.mode).toBe("automatic");
    }
    // Made by hand: a duty that goes from 69 to 71 % while the die goes from 60 to 62 °C, and one that only flickers.
    const timeS = Float64Array.from({ length: 600 }, (_, k) => k);
    const dieC = timeS.map((t) => 60 + t / 300);
    const rpm = undefined;
    expect(fanDriveOf({ timeS, dieC, rpm, dutyPct: timeS.map((t) => 69 + Math.floor(t / 250)) })?.mode).toBe(
      "automatic",
    );
    expect(fanDriveOf({ timeS, dieC, rpm, dutyPct: timeS.map((t) => 70 + (t % 2)) })?.mode).toBe("fixed");
  });
});
