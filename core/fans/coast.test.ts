import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { fallingLine } from "../sound/index.ts";
import {
  coastInLog,
  dutyChange,
  fitCoast,
  frictionRatio,
  frictionWords,
  labelFrom,
  replaces,
  twinWords,
} from "./index.ts";

const TIMES = Array.from({ length: 120 }, (_, k) => k * 0.1);

/** Speeds of a coasting fan by small Euler steps, a way of its own. */
function coasting(times: readonly number[], start: number, a: number, b: number, c: number): number[] {
  let [w, at] = [start, 0];
  return times.map((time) => {
    for (; at < time; at += 1e-4) w = Math.max(0, w - 1e-4 * (a + b * w + c * w * w));
    return w;
  });
}

describe("a fan that coasts down", () => {
  it("by dry friction alone falls on a straight line (closed form)", () => {
    const { dry, viscousPerS, square, stopsAfterS } = fitCoast(
      TIMES,
      TIMES.map((t) => Math.max(0, 200 - 25 * t)),
    );
    expect(dry.value).toBeCloseTo(25, 2);
    expect([viscousPerS.value, square.value]).toEqual([expect.closeTo(0, 3), expect.closeTo(0, 5)]);
    expect(stopsAfterS).toBeCloseTo(8, 0);
  });

  it("by viscous friction alone falls as an exponential, by the air alone 1/ω rises on a straight line (closed forms)", () => {
    const viscous = fitCoast(
      TIMES,
      TIMES.map((t) => 200 * Math.exp(-0.4 * t)),
    );
    expect(viscous.viscousPerS.value).toBeCloseTo(0.4, 3);
    expect(viscous.dry.value).toBeLessThan(0.2);
    const air = fitCoast(
      TIMES,
      TIMES.map((t) => 1 / (1 / 200 + 0.003 * t)),
    );
    expect(air.square.value).toBeCloseTo(0.003, 4);
    expect(air.dry.value).toBeLessThan(0.2);
  });

  it("holds its intervals for dry friction nine times in ten, with noise that is not its own", () => {
    const chance = seeded(7);
    const random = (): number => chance.uniform();
    const tries = 40;
    let held = 0;
    for (let k = 0; k < tries; k++) {
      const [a, b, c] = [4 + 20 * random(), 0.3 * random(), 0.0015 * random()];
      // A counter of whole pulses: rounded speeds, and now and then one missed.
      const speeds = coasting(TIMES, 210, a, b, c).map((w) =>
        w > 5 ? (Math.round((w / (2 * Math.PI)) * 14) / 14) * 2 * Math.PI + (random() - 0.5) * 2 : 0,
      );
      const { dry } = fitCoast(TIMES, speeds);
      if (Math.abs(dry.value - a) <= dry.u95 + 0.02 * a) held++;
    }
    expect(held).toBeGreaterThanOrEqual(0.85 * tries);
  });

  it("is told from its twin in words, or not told", () => {
    const ratio = frictionRatio({ value: 21, u95: 2 }, { value: 10, u95: 1 });
    expect(ratio?.value).toBeCloseTo(2.1, 9);
    expect(ratio?.u95).toBeCloseTo(2.1 * Math.hypot(2 / 21, 0.1), 9);
    expect(frictionWords(ratio, "its twin")).toBe("2.1 ± 0.3 times its twin: oil it, or replace it");
    expect(frictionRatio({ value: 21, u95: 2 }, { value: 1, u95: 2 })).toBeNull();
    expect(frictionWords(null, "its twin")).toMatch(/can’t be told/);
  });

  it("is found in a log of its speed, after full speed and before it starts again; a log that samples too seldom is refused", () => {
    const times = Array.from({ length: 200 }, (_, k) => k * 0.2);
    const fall = coasting(times, 210, 9, 0.15, 0.0004);
    // Five seconds of full speed, the fall to a stand, and on again.
    const rpm = times.map((_, k) => (k < 25 ? 210 : k > 150 ? 209 : (fall[k - 25] ?? 0)) * (60 / (2 * Math.PI)));
    const { coast } = coastInLog(times, rpm);
    expect(Math.abs(coast.dry.value - 9)).toBeLessThan(Math.max(0.3, 1.5 * coast.dry.u95));
    const seldom = times.flatMap((time, k) => (k % 15 === 0 ? [{ time, rpm: rpm[k] ?? 0 }] : []));
    expect(() =>
      coastInLog(
        seldom.map(({ time }) => time),
        seldom.map((one) => one.rpm),
      ),
    ).toThrow(expect.objectContaining({ code: "too-slow" }));
    expect(() =>
      coastInLog(
        times,
        times.map(() => 0),
      ),
    ).toThrow(expect.objectContaining({ code: "no-coast" }));
  });

  it("that does not fall is refused", () => {
    expect(() =>
      fitCoast(
        TIMES,
        TIMES.map(() => 200),
      ),
    ).toThrow(expect.objectContaining({ code: "no-coast" }));
    expect(() => fitCoast([0, 1, 2], [200, 100, 50])).toThrow(expect.objectContaining({ code: "no-coast" }));
  });
});

const RATE = 16_000;

/** A recording: 2 s of full speed, then the fall; blades as a hum with harmonics, air noise that fades with the speed, mains hum. */
function recording(
  seed: number,
  blades: number,
  law: readonly [number, number, number],
  seconds: number,
): Float32Array {
  const chance = seeded(seed);
  const random = (): number => chance.uniform();
  const [a, b, c] = law;
  let [w, phase, low] = [2 * Math.PI * 33, 0, 0];
  return Float32Array.from({ length: seconds * RATE }, (_, k) => {
    if (k > 2 * RATE) w = Math.max(0, w - (a + b * w + c * w * w) / RATE);
    phase += (blades * w) / RATE;
    low = 0.97 * low + 0.03 * (random() - 0.5);
    const part = w / (2 * Math.PI * 33);
    return (
      0.05 * part ** 1.5 * (Math.sin(phase) + 0.4 * Math.sin(2 * phase + 1) + 0.2 * Math.sin(3 * phase + 2)) +
      0.5 * part ** 2 * low +
      0.004 * (random() - 0.5) +
      0.004 * Math.sin((2 * Math.PI * 50 * k) / RATE)
    );
  });
}

describe("the falling tone of a recording", () => {
  it.each([
    [1, 9, [6, 0.12, 0.0008]],
    [2, 11, [14, 0.08, 0.0004]],
    [3, 7, [9, 0.2, 0.0002]],
  ] as const)("seed %i: %i blades and a known law give its dry friction", (seed, blades, law) => {
    const { timeS, hz } = fallingLine(recording(seed, blades, law, 20), RATE);
    const found = fitCoast(
      timeS,
      hz.map((one) => (2 * Math.PI * one) / blades),
    );
    expect(Math.abs(found.dry.value - law[0])).toBeLessThan(Math.max(0.2 * law[0], 1.5 * found.dry.u95));
  });

  it("steady, or noise alone, is no falling tone", () => {
    const chance = seeded(5);
    const random = (): number => chance.uniform();
    const noise = Float32Array.from({ length: 5 * RATE }, () => random() - 0.5);
    const steady = Float32Array.from({ length: 5 * RATE }, (_, k) => 0.1 * Math.sin((2 * Math.PI * 300 * k) / RATE));
    for (const samples of [noise, steady, noise.subarray(0, 400)])
      expect(() => fallingLine(samples, RATE)).toThrow(expect.objectContaining({ code: "no-falling-tone" }));
  });
});

describe("a fan beside its twin, and one in place of another", () => {
  it("twins are alike within a few per cent, a slower one is named", () => {
    expect(twinWords([2000, 1950])).toMatch(/^Alike/);
    expect(dutyChange(30, 30.5)).toMatch(/^as in/);
    expect(dutyChange(30, 24)).toBe("20 % less than in the first run");
    expect(twinWords([1500, 2000, 1990])).toMatch(/^Fan 1 is 25 % slower/);
  });

  const OLD = { sizeMm: 90, holesMm: 42, thicknessMm: 12, plug: "4-pin", volts: 12, amperes: 0.35, fullRpm: 3000 };

  it("moves air as n·D³ and is heard by its speed (fan laws, AMCA; handbooks, from memory)", () => {
    expect(replaces(OLD, OLD)).toEqual({ against: [], unknown: [], airRatio: 1, levelDb: 0 });
    const { airRatio, levelDb } = replaces(OLD, { ...OLD, fullRpm: 1500 });
    expect([airRatio, levelDb]).toEqual([0.5, expect.closeTo(-15.05, 1)]);
    expect(replaces(OLD, { ...OLD, sizeMm: 99 }).airRatio).toBeCloseTo(1.331, 9);
  });

  it.each([
    [{ holesMm: 45 }, /holes/],
    [{ thicknessMm: 15 }, /3 mm thicker/],
    [{ plug: "2-pin" }, /plug/],
    [{ volts: 5 }, /5 V/],
    [{ amperes: 0.5 }, /0.5 A/],
  ])("%j does not fit", (more, words) => {
    expect(replaces(OLD, { ...OLD, ...more }).against.join()).toMatch(words);
  });

  it("is read from what the stores note of it, and nothing is made up", () => {
    expect(labelFrom("90 mm, holes 42 mm, 12 mm thick, 4-pin, 12 V, 0,35 A, 3000 rpm")).toEqual(OLD);
    expect(labelFrom("from a scrapped card")).toEqual({
      sizeMm: null,
      holesMm: null,
      thicknessMm: null,
      plug: "",
      volts: null,
      amperes: null,
      fullRpm: null,
    });
  });

  it("says what it could not compare", () => {
    expect(replaces({ ...OLD, amperes: null, fullRpm: null }, OLD)).toMatchObject({
      unknown: ["amperes", "full speed"],
      airRatio: null,
    });
  });
});
