import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { readRun } from "../runfile/index.ts";
import { logText, MIDSIZE, randomBuild, settledRises, simulate } from "./index.ts";

const steps = [
  { durationS: 30, load: 0 },
  { durationS: 120, load: 1 },
];
const run = simulate({ seed: 3, build: MIDSIZE, steps });
const read = (text: string) => readRun([new TextEncoder().encode(text)]);

describe("written logs", () => {
  it.each([
    ["English", {}],
    ["German with decimal commas", { delimiter: ";", decimal: ",", headers: "german" }],
    ["with tabs and a clock past midnight", { delimiter: "\t", time: "clock", startS: 86_350 }],
  ] as const)("%s are read back as they were simulated", (_, style) => {
    const table = read(logText(run, style));
    expect(table.rows).toBe(run.timeS.length);
    expect(table.timeS.at(-1)).toBe(150);
    const of = (role: string) => table.columns.find((column) => column.role === role)?.values;
    expect(of("edge")).toEqual(run.edgeC);
    expect(of("hotspot")).toEqual(run.hotspotC);
    expect(of("power")).toEqual(run.powerW);
    expect(table.columns.filter((column) => column.role === "fanRpm")).toHaveLength(2);
    expect(table.columns.every((column) => column.sure)).toBe(true);
  });

  it("leave out sensors the card lacks", () => {
    const bare = simulate({
      seed: 3,
      build: { ...MIDSIZE, hasHotspot: false, hasMemorySensor: false },
      sensors: { room: null },
      steps,
    });
    expect(read(logText(bare)).columns.map((column) => column.role)).toEqual([
      "time",
      "edge",
      "vrm",
      "fanPct",
      "fanRpm",
      "fanRpm",
      "power",
      "coreClock",
      "memoryClock",
      "load",
    ]);
  });
});

describe("random cards", () => {
  it("run within what benches see: 20 to 85 K of rise at a fixed fan", () => {
    for (let seed = 0; seed < 25; seed++) {
      const { edgeK, hotspotK } = settledRises({ seed, build: randomBuild(seeded(seed)), steps, bench: { fan: 62 } });
      expect(edgeK).toBeGreaterThan(20);
      expect(hotspotK).toBeLessThan(85);
      expect(hotspotK).toBeGreaterThan(edgeK);
    }
  });
  it("are the same for the same seed", () => {
    expect(randomBuild(seeded(9))).toEqual(randomBuild(seeded(9)));
  });
});

describe("settled rises", () => {
  const spec = { seed: 1, build: MIDSIZE, steps };
  it("follow power in proportion and the fan by its exponent's sense", () => {
    const full = settledRises({ ...spec, bench: { powerPct: 100 } });
    const half = settledRises({ ...spec, bench: { powerPct: 50 } });
    expect(half.edgeK / full.edgeK).toBeCloseTo(0.5, 2);
    const speeds = [40, 60, 80].map((fan) => settledRises({ ...spec, bench: { fan } }).edgeK);
    expect([...speeds].sort((a, b) => b - a)).toEqual(speeds);
  });
  it("do not depend on the room", () => {
    const rises = [16, 30].map((roomC) => settledRises({ ...spec, bench: { roomC } }).edgeK);
    expect(rises[0]).toBeCloseTo(rises[1] ?? 0, 6);
  });
});
