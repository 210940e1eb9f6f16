import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { aWeightingDb, listen } from "./index.ts";

const RATE = 48_000;
const tone = (hz: number, seconds = 4): Float32Array =>
  Float32Array.from({ length: RATE * seconds }, (_, k) => 0.5 * Math.sin((2 * Math.PI * hz * k) / RATE));

describe("A-weighting (IEC 61672-1, table of nominal octave frequencies)", () => {
  it.each([
    [31.5, -39.4],
    [63, -26.2],
    [125, -16.1],
    [250, -8.6],
    [500, -3.2],
    [1000, 0],
    [2000, 1.2],
    [4000, 1],
    [8000, -1.1],
    [16_000, -6.6],
  ])("at %s Hz is %s dB, in the formula and in the level of a recorded tone", (hz, db) => {
    expect(Math.abs(aWeightingDb(hz) - db)).toBeLessThanOrEqual(0.2);
    // A sine of amplitude 0.5 has a mean square of 1/8.
    const { levelDbFs } = listen(tone(hz), RATE, null);
    expect(Math.abs(levelDbFs - 10 * Math.log10(1 / 8) - db)).toBeLessThanOrEqual(0.25);
  });
});

describe("levels", () => {
  it("of two equal, unrelated sources add 3.01 dB", () => {
    const random = seeded(1);
    const noise = Float32Array.from({ length: RATE * 6 }, () => 0.05 * random.normal());
    const other = Float32Array.from(noise, (value) => value + 0.05 * random.normal());
    expect(listen(other, RATE, null).levelDbFs - listen(noise, RATE, null).levelDbFs).toBeCloseTo(3.01, 1);
  });

  it("put a tone into its third-octave band", () => {
    const { bands } = listen(tone(1000), RATE, null);
    const loudest = bands.reduce((top, band) => (band.levelDbFs > top.levelDbFs ? band : top));
    expect(loudest.hz).toBeCloseTo(1000, 6);
  });
});

/** Fan noise with a click of 2 ms once per turn; `ratioDb` is the clicks' mean power relative to the noise. */
function fanSound(seed: number, rpm: number, ratioDb: number | null, seconds = 12): Float32Array {
  const random = seeded(seed);
  const period = (60 / rpm) * RATE;
  const click = 0.002 * RATE;
  const size = ratioDb === null ? 0 : 0.05 * Math.sqrt((10 ** (ratioDb / 10) * period) / click);
  return Float32Array.from({ length: RATE * seconds }, (_, k) => {
    const inClick = k % period < click;
    return 0.05 * random.normal() + (inClick ? size * random.normal() : 0);
  });
}

describe("tick once per turn", () => {
  it("is found 12 dB below the noise at a known rate, the speed being known to 2 %", () => {
    for (const rpm of [900, 1500, 2400]) {
      const { tick } = listen(fanSound(rpm, rpm, -12), RATE, { rpm: rpm * 1.02, blades: null });
      expect(tick?.found).toBe(true);
      expect(Math.abs((tick?.perMinute ?? 0) / rpm - 1)).toBeLessThan(0.01);
    }
  });

  it("is ruled out in plain noise", () => {
    for (let seed = 0; seed < 8; seed++)
      expect(listen(fanSound(seed, 1500, null, 8), RATE, { rpm: 1500, blades: null }).tick?.found).toBe(false);
  });
});

describe("blade pass (blades · rpm / 60)", () => {
  it("is matched where the line is, and missed where there is none", () => {
    const random = seeded(3);
    // 9 blades at 1500 rpm: 225 Hz.
    const hum = Float32Array.from(
      { length: RATE * 8 },
      (_, k) => 0.03 * random.normal() + 0.01 * Math.sin((2 * Math.PI * 227 * k) / RATE),
    );
    const found = listen(hum, RATE, { rpm: 1500, blades: 9 }).bladePass;
    expect(found?.expectedHz).toBe(225);
    expect(Math.abs((found?.foundHz ?? 0) - 227)).toBeLessThan(4);
    expect(listen(hum, RATE, { rpm: 1500, blades: 5 }).bladePass?.foundHz).toBeNull();
  });
});

describe("bad recordings", () => {
  it("say what is wrong", () => {
    expect(() => listen(tone(1000, 1), RATE, null)).toThrow(/shorter than two seconds/);
    expect(() => listen(new Float32Array(RATE * 3), RATE, null)).toThrow(/silent/);
    const loud = tone(400).map((value) => Math.max(-1, Math.min(1, value * 4)));
    expect(listen(loud, RATE, null).clippedShare).toBeGreaterThan(0.3);
  });
});
