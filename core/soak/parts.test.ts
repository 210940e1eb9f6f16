import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { binMeans, evenEdges, rowAt, wideningEdges } from "./bins.ts";
import { clean, resolutionOf } from "./clean.ts";
import { type BinnedRun, constantParts, findLoads, mainPart } from "./load.ts";
import { findThrottling } from "./throttling.ts";

const line = (length: number, value: (second: number) => number): Float64Array =>
  Float64Array.from({ length }, (_, k) => value(k));
const noise = seeded(4);
const noisy = (length: number, value: (second: number) => number, sd: number): Float64Array =>
  line(length, (k) => value(k) + sd * noise.normal());
const run = (more: Partial<BinnedRun> & { seconds?: number } = {}): BinnedRun => {
  const seconds = more.seconds ?? 1000;
  return { edgesS: line(seconds + 1, (k) => k), temperature: line(seconds, () => 50), ...more };
};

describe("clean", () => {
  it("takes out single leaps, keeps steps, ramps and pairs, and counts", () => {
    const values = line(60, (k) => (k < 30 ? 40 : 60));
    values[10] = 90;
    values[45] = 20;
    values[50] = 80;
    values[51] = 80;
    const found = clean(values, "temperature");
    expect(found.spikes).toBe(2);
    expect(found.values[10]).toBeNaN();
    expect(found.values[45]).toBeNaN();
    expect([...found.values.subarray(28, 32)]).toEqual([40, 40, 60, 60]);
    expect(found.values[50]).toBe(80);
    expect(values[10]).toBe(90);
  });

  it("finds a spike beside missing values", () => {
    const values = Float64Array.of(40, Number.NaN, 95, Number.NaN, 41, 40, 41);
    expect(clean(values, "temperature").spikes).toBe(1);
  });

  it.each([
    ["a reading above anything silicon stands", 255],
    ["far below the room", -60],
    ["a zero of a warm sensor", 0],
  ])("leaves out %s", (_, wild) => {
    const values = line(20, () => 55);
    values[7] = wild;
    values[8] = wild;
    expect(clean(values, "temperature")).toMatchObject({ dropouts: 2 });
  });

  it("keeps the zeros of a fan that stands still", () => {
    expect(
      clean(
        line(30, (k) => (k < 15 ? 0 : 1200)),
        "other",
      ).spikes,
    ).toBe(0);
  });
});

describe("resolutionOf", () => {
  it.each([
    ["two degrees", 2, 2],
    ["whole degrees", 1, 1],
    ["half degrees", 0.5, 0.5],
    ["tenths", 0.1, 0.1],
    ["sixteenths", 0.0625, 0.0625],
  ])("sees %s", (_, step, expected) => {
    expect(resolutionOf(noisy(500, () => 60, 3).map((value) => Math.round(value / step) * step))).toBe(expected);
  });
  it("sees whole degrees of Fahrenheit behind Celsius", () => {
    expect(resolutionOf(noisy(500, () => 140, 5).map((value) => ((Math.round(value) - 32) * 5) / 9))).toBeCloseTo(
      5 / 9,
      9,
    );
  });
  it("sees none in fine readings", () => {
    expect(resolutionOf(noisy(500, () => 60, 3))).toBe(0);
  });
});

describe("bins", () => {
  it("mean what lies in them and keep every sample once", () => {
    const timeS = line(1001, (k) => k / 2);
    const edges = evenEdges(timeS, 50, 0.5);
    const { mean, count } = binMeans(timeS, timeS, edges);
    expect(count.reduce((sum, one) => sum + one, 0)).toBe(1001);
    mean.forEach((value, bin) => {
      expect(value).toBeGreaterThanOrEqual(edges[bin] ?? 0);
      expect(value).toBeLessThan(edges[bin + 1] ?? 0);
    });
  });
  it("widen from the sampling interval on, and reach the end", () => {
    const edges = wideningEdges(100, 1600, 1);
    expect(edges[0]).toBe(100);
    expect((edges[1] ?? 0) - 100).toBeCloseTo(1, 9);
    expect(edges.at(-1)).toBe(1600);
    const widths = [...edges].slice(1).map((edge, k) => edge - (edges[k] ?? 0));
    expect(Math.max(...widths)).toBeLessThan(1500 / 60);
  });
  it("find the first row at a time", () => {
    const timeS = Float64Array.of(0, 1, 2, 10);
    expect([0, 0.5, 2, 3, 99].map((at) => rowAt(timeS, at))).toEqual([0, 1, 2, 3, 4]);
  });
});

describe("findLoads", () => {
  it("finds two loads by power, and joins what a short dip parts", () => {
    const power = line(1000, (k) =>
      (k >= 100 && k < 400) || (k >= 600 && k < 900) ? (k >= 250 && k < 256 ? 20 : 180) : 15,
    );
    const loads = findLoads(run({ power }));
    expect(loads.map((load) => [Math.round(load.fromS / 10), Math.round(load.toS / 10)])).toEqual([
      [10, 40],
      [60, 90],
    ]);
  });
  it("takes a log that starts and ends under load as one load, and an idle one as none", () => {
    expect(findLoads(run({ power: noisy(1000, () => 150, 3) }))).toEqual([{ fromS: 0, toS: 1000 }]);
    expect(findLoads(run({ power: noisy(1000, () => 14, 1), temperature: noisy(1000, () => 35, 0.3) }))).toEqual([]);
  });
  it("goes by load per cent where power is missing", () => {
    const [load] = findLoads(run({ load: line(1000, (k) => (k > 200 && k < 800 ? 98 : 2)) }));
    expect(load?.fromS).toBeCloseTo(201, -1);
    expect(load?.toS).toBeCloseTo(800, -1);
  });
  it("goes by the shape of the temperature where nothing else is there", () => {
    const temperature = line(1000, (k) =>
      k < 100 ? 35 : k < 700 ? 75 - 40 * Math.exp(-(k - 100) / 60) : 35 + 40 * Math.exp(-(k - 700) / 50),
    );
    const [load] = findLoads(run({ temperature }));
    expect(Math.abs((load?.fromS ?? 0) - 100)).toBeLessThan(12);
    expect(Math.abs((load?.toS ?? 0) - 700)).toBeLessThan(12);
  });
});

describe("constantParts", () => {
  const load = { fromS: 0, toS: 1000 };
  it("cuts where the fan was set anew and takes the last long part", () => {
    const parts = constantParts(run({ fan: noisy(1000, (k) => (k < 400 ? 1200 : 1800), 5) }), load);
    expect(parts).toHaveLength(2);
    expect(Math.abs((parts[1]?.fromS ?? 0) - 400)).toBeLessThan(12);
    expect(mainPart(parts)).toEqual(parts[1]);
  });
  it("does not cut a fan that follows its curve, nor a game's swinging power", () => {
    expect(constantParts(run({ fan: line(1000, (k) => 1000 + 800 * (1 - Math.exp(-k / 200))) }), load)).toHaveLength(1);
    expect(constantParts(run({ power: noisy(1000, () => 180, 18) }), load)).toHaveLength(1);
  });
  it("takes the longest part when the last is short", () => {
    const parts = [
      { fromS: 0, toS: 900 },
      { fromS: 900, toS: 1000 },
    ];
    expect(mainPart(parts)).toEqual(parts[0]);
    expect(mainPart([])).toBeUndefined();
  });
});

describe("findThrottling", () => {
  const load = { fromS: 0, toS: 1000 };
  const hot = line(1000, (k) => 84 - 30 * Math.exp(-k / 60));
  const judge = (more: Partial<Parameters<typeof findThrottling>[0]>) =>
    findThrottling({ ...run({ temperature: hot }), ...more }, load);

  it("sees a clock and a power that fall at the temperature limit, and for how long", () => {
    const falling = (full: number, low: number) => line(1000, (k) => (k < 300 ? full : low));
    const found = judge({ power: falling(180, 150), coreClock: falling(1950, 1750) });
    expect(found).toMatchObject({ detected: true, kinds: ["temperature"] });
    expect(found.shareOfLoad).toBeCloseTo(0.7, 1);
  });
  it("calls a clock that falls at the power limit by its name", () => {
    const found = judge({
      power: noisy(1000, () => 179.5, 0.3),
      powerLimit: line(1000, () => 180),
      coreClock: line(1000, (k) => (k < 200 ? 2000 : 1850)),
    });
    expect(found.kinds).toEqual(["power-limit"]);
  });
  it.each([
    ["steady lines", { power: noisy(1000, () => 180, 2), coreClock: noisy(1000, () => 1950, 8) }],
    [
      "a load that was lowered by its own program",
      { power: line(1000, (k) => (k < 500 ? 180 : 120)), load: line(1000, (k) => (k < 500 ? 99 : 60)) },
    ],
    [
      "power that swings while the clock stands still",
      { power: noisy(1000, () => 180, 20), coreClock: line(1000, () => 1950) },
    ],
    [
      "a cooler card at lower power",
      { power: line(1000, (k) => (k < 500 ? 180 : 130)), temperature: line(1000, (k) => (k < 500 ? 80 : 60)) },
    ],
  ])("does not take %s for throttling", (_, lines) => {
    expect(judge(lines).detected).toBe(false);
  });
});
