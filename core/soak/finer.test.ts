import { describe, expect, it } from "vitest";
import { readRun } from "../runfile/index.ts";
import { type Analysis, analyse, levelOf, temperatureOf } from "./index.ts";

interface Line {
  header: string;
  at: (t: number) => number | string;
}

/** A log written by formula, one row a second: what comes out can be said beforehand. */
function judged(lines: Line[], seconds = 1500, options = {}): Analysis {
  const rows = Array.from({ length: seconds }, (_, t) => [t, ...lines.map((line) => line.at(t))].join(","));
  const text = `Time [s],${lines.map((line) => line.header).join(",")}\n${rows.join("\n")}\n`;
  return analyse(readRun([new TextEncoder().encode(text)]), options);
}

const LOAD_AT = 60;
const rising =
  (start: number, rise: number, tau = 90) =>
  (t: number) =>
    (start + (t < LOAD_AT ? 0 : rise * (1 - Math.exp(-(t - LOAD_AT) / tau)))).toFixed(2);
const edge: Line = { header: "GPU temp [°C]", at: rising(30, 40) };
const hotspot: Line = { header: "Hot spot [°C]", at: rising(31, 52) };
const room: Line = { header: "Room [°C]", at: () => "21.00" };
const power: Line = { header: "Board power [W]", at: (t) => (t < LOAD_AT ? 15 : 160) };

describe("figures that can be said beforehand", () => {
  it("rise, θ, gap and power of a run by formula", () => {
    const found = judged([edge, hotspot, room, power]);
    expect(temperatureOf(found, "edge")?.meanC).toBeCloseTo(70, 1);
    expect(temperatureOf(found, "edge")?.riseK).toBeCloseTo(49, 1);
    expect(temperatureOf(found, "edge")?.thetaKPerW).toBeCloseTo(49 / 160, 3);
    expect(found.hotspotGapK?.mean).toBeCloseTo(13, 1);
    expect(levelOf(found, "power")?.mean).toBe(160);
    expect(temperatureOf(found, "edge")?.timeConstantsS.at(-1)).toBeCloseTo(90, -1);
  });

  it("max over the whole file, mean over the steady window only", () => {
    const found = judged([
      { header: "GPU temp [°C]", at: (t) => (t >= 400 && t < 410 ? "80.00" : rising(30, 40)(t)) },
      room,
      power,
    ]);
    expect(temperatureOf(found, "edge")?.maxC).toBe(80);
    expect(temperatureOf(found, "edge")?.meanC).toBeLessThan(71);
  });

  it("the rise's interval adds reading and room in squares (GUM)", () => {
    const found = temperatureOf(judged([edge, room, power], 1500, { ambientU95K: 0.8 }), "edge");
    expect(found?.riseU95K).toBeCloseTo(Math.hypot(found?.u95K ?? 0, 0.8), 9);
  });
});

describe("a room that warms or cools through the run", () => {
  // A cooler is one store of heat: behind a room that moves evenly it stays by its time constant times the room's pace.
  const run = (kPerMin: number, tauS: number, junctionK: number) => {
    const paceS = kPerMin / 60;
    const roomAt = (t: number) => 21 + paceS * t;
    const feltAt = (t: number) => roomAt(t) - paceS * tauS * (1 - Math.exp(-t / tauS));
    const grain = (t: number, k: number) => 0.15 * Math.sin(12.9898 * t + 78.233 * k);
    const line = (header: string, coolerK: number, dieK: number, k: number): Line => ({
      header,
      at(t) {
        const on = Math.max(0, t - LOAD_AT);
        const load = coolerK * (1 - Math.exp(-on / tauS)) + dieK * (1 - Math.exp(-on / 4));
        return (feltAt(t) + 8 + load + grain(t, k)).toFixed(1);
      },
    });
    const lines = [
      line("GPU temp [°C]", 30, junctionK, 1),
      line("Hot spot [°C]", 30, junctionK + 9, 2),
      { header: "Room [°C]", at: (t: number) => roomAt(t).toFixed(1) },
      power,
    ];
    return judged(lines, LOAD_AT + 2400);
  };

  it("adds nothing to the rise of a card that follows it late: 3.5 K in 25 minutes, slow coolers and quick ones", () => {
    for (const kPerMin of [3.5 / 25, -3.5 / 25])
      for (const tauS of [90, 180, 300]) {
        const judgedRun = run(kPerMin, tauS, 12);
        const { ambient } = judgedRun;
        const found = temperatureOf(judgedRun, "edge");
        const errorK = (found?.riseK ?? 0) - 50;
        expect(Math.abs(errorK)).toBeLessThan(0.45);
        expect(Math.abs(errorK)).toBeLessThan(found?.riseU95K ?? 0);
        // What it shows is behind by its time constant times the pace: no small part of what a service brings.
        const shownK = (found?.meanC ?? 0) - (ambient?.valueC ?? 0);
        if (tauS === 300) expect(Math.abs(shownK - 50)).toBeGreaterThan(0.5);
      }
  });
});

describe("probes", () => {
  const probe = (name: string, rise: number): Line => ({ header: `${name} [°C]`, at: rising(25, rise) });
  it("stand under their own names, and as the role where there is one only", () => {
    const one = judged([edge, room, power, probe("Backplate", 20)]);
    expect(one.probes.map((found) => found.header)).toEqual(["Backplate [°C]"]);
    expect(temperatureOf(one, "probe")?.meanC).toBeCloseTo(45, 1);
    const two = judged([edge, room, power, probe("Backplate", 20), probe("Choke", 30)]);
    expect(two.probes).toHaveLength(2);
    expect(two.roles.probe).toBeUndefined();
    expect(two.columns.find((column) => column.header === "Choke [°C]")?.mean).toBeGreaterThan(40);
  });
  it("do not hold up the steady window: a slow one is not the card", () => {
    const found = judged([edge, room, power, { header: "CPU [°C]", at: (t) => (30 + t / 60).toFixed(2) }]);
    expect(found.steady.reached).toBe(true);
  });
});

describe("several sensors of one role", () => {
  it("take the hottest memory", () => {
    const found = judged([
      edge,
      room,
      power,
      { header: "Memory 1 [°C]", at: rising(30, 30) },
      { header: "Memory 2 [°C]", at: rising(30, 45) },
    ]);
    expect(temperatureOf(found, "memory")?.meanC).toBeCloseTo(75, 0);
  });
});

describe("fan and power set anew in mid-load", () => {
  it("judge the last long part, under its own conditions", () => {
    const stepped = (t: number): string => {
      if (t < LOAD_AT) return "30.00";
      if (t < 700) return (30 + 40 * (1 - Math.exp(-(t - LOAD_AT) / 60))).toFixed(2);
      return (62 + 8 * Math.exp(-(t - 700) / 60)).toFixed(2);
    };
    const found = judged([
      { header: "GPU temp [°C]", at: stepped },
      room,
      power,
      { header: "Fan [rpm]", at: (t) => (t < 700 ? 1200 : 1900) },
    ]);
    expect(found.steady.fromS).toBeGreaterThan(700);
    expect(temperatureOf(found, "edge")?.meanC).toBeCloseTo(62, 0);
    expect(levelOf(found, "fanRpm")?.mean).toBeCloseTo(1900, 0);
  });
});

describe("runs that stop early", () => {
  it("predict the settling value by the curve, wider the earlier, and hold it", () => {
    const widths = [150, 300, 500].map((seconds) => {
      const found = temperatureOf(judged([edge, room, power], LOAD_AT + seconds), "edge");
      expect(Math.abs((found?.finalC ?? 0) - 70)).toBeLessThanOrEqual((found?.finalU95K ?? 0) + 0.05);
      return found?.finalU95K ?? 0;
    });
    expect(widths[0]).toBeGreaterThanOrEqual(widths[1] ?? 99);
  });

  it("widen while a fan is still speeding up", () => {
    const fan = (still: boolean): Line => ({
      header: "Fan [rpm]",
      at: (t) => (still ? 1500 : Math.round(900 + t * 3)),
    });
    const of = (still: boolean) => temperatureOf(judged([edge, room, power, fan(still)], 300), "edge")?.finalU95K ?? 0;
    expect(of(false)).toBeGreaterThan(of(true) + 1);
  });
});

describe("gaps, dropouts and odd logs", () => {
  it("count a pause of the logger in the duration and go on", () => {
    const text = `Time [s],GPU temp [°C],Room [°C]\n${Array.from({ length: 900 }, (_, k) => (k < 400 ? k : k + 300))
      .map((t) => `${t},${rising(30, 40)(t)},21`)
      .join("\n")}\n`;
    const found = analyse(readRun([new TextEncoder().encode(text)]));
    expect(found.durationS).toBe(1199);
    expect(found.intervalS).toBe(1);
    expect(temperatureOf(found, "edge")?.riseK).toBeCloseTo(49, 0);
  });
  it("leave out a sensor's zeros and say how many", () => {
    const found = judged([
      { header: "GPU temp [°C]", at: (t) => (t % 100 === 50 ? 0 : rising(30, 40)(t)) },
      room,
      power,
    ]);
    expect(found.spikes).toBe(15);
    expect(temperatureOf(found, "edge")?.meanC).toBeCloseTo(70, 0);
  });
  it("judge one reading every ten seconds", () => {
    const text = `Time [s],GPU temp [°C],Room [°C],Power [W]\n${Array.from({ length: 150 }, (_, k) => `${k * 10},${rising(30, 40)(k * 10)},21,${k < 6 ? 15 : 160}`).join("\n")}\n`;
    const found = analyse(readRun([new TextEncoder().encode(text)]));
    expect(found.steady.reached).toBe(true);
    expect(temperatureOf(found, "edge")?.riseK).toBeCloseTo(49, 0);
  });
});
