import { describe, expect, it } from "vitest";
import { WaveFile } from "wavefile";
import { decodeWav, SoundSession } from "../workers/sound-session.ts";

const RATE = 44_100;
const tone = (seconds: number, rate: number): number[] =>
  Array.from({ length: rate * seconds }, (_, k) => 0.5 * Math.sin((2 * Math.PI * 1000 * k) / rate));

/** A WAV file of a tone as recorders write it. */
function wav(depth: "8" | "16" | "24" | "32f", channels = 1, seconds = 3, rate = RATE): Uint8Array {
  const scale = { "8": 127, "16": 32_767, "24": 8_388_607, "32f": 1 }[depth];
  const values = tone(seconds, rate).map((value) =>
    depth === "8" ? Math.round(128 + value * scale) : depth === "32f" ? value : Math.round(value * scale),
  );
  const file = new WaveFile();
  file.fromScratch(channels, rate, depth, channels === 1 ? values : Array.from({ length: channels }, () => values));
  return file.toBuffer();
}
const buffer = (bytes: Uint8Array): ArrayBuffer => bytes.slice().buffer as ArrayBuffer;
const levelOf = (bytes: Uint8Array): number => {
  const answer = new SoundSession().wav(buffer(bytes), null);
  return "findings" in answer ? answer.findings.levelDbFs : Number.NaN;
};

describe("WAV recordings", () => {
  it.each([
    ["8-bit", "8", 1],
    ["16-bit", "16", 1],
    ["24-bit", "24", 1],
    ["float", "32f", 1],
    ["stereo", "16", 2],
  ] as const)("of a tone in %s have the level of the tone", (_, depth, channels) => {
    // Amplitude 0.5: mean square 1/8; A-weighting at 1 kHz is nought.
    expect(Math.abs(levelOf(wav(depth, channels)) - 10 * Math.log10(1 / 8))).toBeLessThan(0.15);
  });

  it("that were cut off are read as far as they go, and say so", () => {
    const whole = wav("24", 2, 4);
    const { samples, notice } = decodeWav(buffer(whole.subarray(0, Math.floor(whole.length * 0.7) + 1)));
    expect(samples.length / RATE).toBeCloseTo(2.8, 1);
    expect(notice).toMatch(/cut off.*Stereo/);
  });

  it("of two minutes are listened to for one", () => {
    const answer = new SoundSession().wav(buffer(wav("8", 1, 120, 8000)), null);
    expect("seconds" in answer && answer.seconds).toBe(60);
  });

  it("that are none are refused with what to do", () => {
    const answer = new SoundSession().wav(
      new TextEncoder().encode("not a recording".repeat(9)).buffer as ArrayBuffer,
      null,
    );
    expect("problem" in answer && answer.problem.code).toBe("not-wav");
  });
});
