import { describe, expect, it } from "vitest";
import { bladePassHz } from "../fans/index.ts";
import { seeded } from "../random/index.ts";
import { spectrumOf } from "./index.ts";

const RATE = 16_000;

describe("power spectrum", () => {
  it("sums to the mean square of the signal (Parseval)", () => {
    const random = seeded(4);
    const noise = Float32Array.from({ length: RATE * 8 }, () => 0.1 * random.normal());
    const square = noise.reduce((sum, value) => sum + value * value, 0) / noise.length;
    const { power } = spectrumOf(noise, RATE);
    expect(power.reduce((sum, value) => sum + value, 0) / square).toBeCloseTo(1, 1);
  });

  it("puts a tone where it is, with half its squared amplitude", () => {
    const tone = Float32Array.from({ length: RATE * 4 }, (_, k) => 0.3 * Math.sin((2 * Math.PI * 1250 * k) / RATE));
    const { power, stepHz } = spectrumOf(tone, RATE);
    const top = power.indexOf(Math.max(...power));
    expect(Math.abs(top * stepHz - 1250)).toBeLessThan(stepHz);
    const around = power.subarray(top - 3, top + 4).reduce((sum, value) => sum + value, 0);
    expect(around).toBeCloseTo(0.09 / 2, 4);
  });

  it("does with recordings shorter than its usual block", () => {
    const short = new Float32Array(3000).fill(0.5);
    const { power, stepHz } = spectrumOf(short, RATE);
    expect(stepHz).toBeCloseTo(RATE / 2048, 6);
    expect(power.length).toBe(1025);
  });
});

describe("blade pass", () => {
  it("is blades times turns a second: 11 blades at 1800 rpm pass 330 times", () => {
    expect(bladePassHz(11, 1800)).toBe(330);
  });
});
