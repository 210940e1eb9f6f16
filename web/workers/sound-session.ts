import { WaveFile } from "wavefile";
import { type Coast, coastInLog, fitCoast } from "#core/fans/index.ts";
import { Problem, type ProblemDetail } from "#core/problem/index.ts";
import { readRun } from "#core/runfile/index.ts";
import { type FanHint, fallingLine, listen, type SoundFindings } from "#core/sound/index.ts";

export type SoundAnswer =
  | { findings: SoundFindings; seconds: number; notice: string | null }
  | { problem: ProblemDetail };

export interface CoastFound {
  coast: Coast;
  timeS: number[];
  rpm: number[];
}
export type CoastAnswer = { ok: CoastFound } | { problem: ProblemDetail };

/** Longest piece that is listened to; a fan is as loud in one minute as in ten. */
const LONGEST_S = 60;

/** Reads and judges recordings off the page's thread. */
export class SoundSession {
  wav(bytes: ArrayBuffer, fan: FanHint | null): SoundAnswer {
    return answer(() => {
      const { samples, rateHz, notice } = decodeWav(bytes);
      return { ...judge(samples, rateHz, fan), notice };
    });
  }

  coastWav(bytes: ArrayBuffer, blades: number): CoastAnswer {
    return coastAnswer(() => {
      const { samples, rateHz } = decodeWav(bytes);
      return coastOf(samples, rateHz, blades);
    });
  }

  /** A log of the fan's speed that samples fast enough. @param fan from 1 */
  coastLog(bytes: ArrayBuffer, fan: number): CoastAnswer {
    return coastAnswer(() => {
      const table = readRun([new Uint8Array(bytes)], { withoutTemperature: true });
      const speeds = table.columns.filter(({ role }) => role === "fanRpm");
      const column = speeds[fan - 1] ?? speeds[0];
      if (!column)
        throw new Problem({
          code: "no-speed",
          what: "This log shows no fan’s speed.",
          remedy: "Log the fan in rpm, or record its sound.",
        });
      return coastInLog(table.timeS, column.values);
    });
  }

  coastRecording(samples: Float32Array, rateHz: number, blades: number): CoastAnswer {
    return coastAnswer(() => coastOf(samples, rateHz, blades));
  }

  recording(samples: Float32Array, rateHz: number, fan: FanHint | null): SoundAnswer {
    return answer(() => ({ ...judge(samples, rateHz, fan), notice: null }));
  }
}

/** A fan that coasts down in a recording: its blade-pass line, followed, and the law of its fall. */
function coastOf(samples: Float32Array, rateHz: number, blades: number): CoastFound {
  const { timeS, hz } = fallingLine(samples.subarray(0, LONGEST_S * rateHz), rateHz);
  const turns = hz.map((one) => one / blades);
  const coast = fitCoast(
    timeS,
    turns.map((one) => 2 * Math.PI * one),
  );
  return { coast, timeS, rpm: turns.map((one) => 60 * one) };
}

function coastAnswer(work: () => CoastFound): CoastAnswer {
  try {
    return { ok: work() };
  } catch (error) {
    if (error instanceof Problem) return { problem: error.detail() };
    throw error;
  }
}

function judge(
  samples: Float32Array,
  rateHz: number,
  fan: FanHint | null,
): { findings: SoundFindings; seconds: number } {
  const used = samples.subarray(0, LONGEST_S * rateHz);
  return { findings: listen(used, rateHz, fan), seconds: used.length / rateHz };
}

function answer(work: () => SoundAnswer): SoundAnswer {
  try {
    return work();
  } catch (error) {
    if (error instanceof Problem) return { problem: error.detail() };
    throw error;
  }
}

/**
 * WAV of 8, 16, 24, 32 bits or float, mono or more (the first two channels are averaged). A file that was cut off is read as far
 * as it goes.
 * @throws Problem `not-wav`
 */
export function decodeWav(bytes: ArrayBuffer): { samples: Float32Array; rateHz: number; notice: string | null } {
  const { data, cut, long } = mended(new Uint8Array(bytes));
  const wave = new WaveFile();
  try {
    wave.fromBuffer(data);
    if (wave.bitDepth !== "32f") wave.toBitDepth("32f");
  } catch {
    throw notWav();
  }
  const { numChannels, sampleRate } = wave.fmt as { numChannels: number; sampleRate: number };
  const channels = wave.getSamples(false, Float32Array) as unknown as Float32Array | Float32Array[];
  const [left, right] = Array.isArray(channels) ? channels : [channels];
  if (!left || !(sampleRate > 0)) throw notWav();
  const samples = right ? left.map((value, index) => (value + (right[index] ?? 0)) / 2) : left;
  const notices = [
    cut ? "The file was cut off; what is there was read." : "",
    numChannels > 1 ? "Stereo: both sides were averaged." : "",
    long ? "The first minute was listened to." : "",
  ].filter(Boolean);
  return { samples, rateHz: sampleRate, notice: notices.join(" ") || null };
}

const notWav = (): Problem =>
  new Problem({
    code: "not-wav",
    what: "This is not a WAV recording that can be read.",
    remedy: "Export it as WAV with 16 or 24 bits, uncompressed.",
  });

/**
 * The part of a file that is listened to. Sizes in the head of a truncated file are larger than the file: they are set to what is
 * there.
 */
function mended(bytes: Uint8Array): { data: Uint8Array; cut: boolean; long: boolean } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const word = (at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));
  if (bytes.length < 44 || word(0) !== "RIFF" || word(8) !== "WAVE") throw notWav();
  let frame = 1;
  let most = Number.POSITIVE_INFINITY;
  for (let at = 12; at + 8 <= bytes.length; ) {
    const size = view.getUint32(at + 4, true);
    if (word(at) === "fmt ") {
      frame = Math.max(1, view.getUint16(at + 20, true));
      most = LONGEST_S * view.getUint32(at + 16, true);
    }
    if (word(at) === "data") {
      const there = bytes.length - at - 8;
      if (size <= Math.min(there, most)) return { data: bytes, cut: false, long: false };
      const wanted = Math.min(there, size, most);
      const whole = wanted - (wanted % frame);
      const copy = bytes.slice(0, at + 8 + whole);
      const out = new DataView(copy.buffer);
      out.setUint32(4, copy.length - 8, true);
      out.setUint32(at + 4, whole, true);
      return { data: copy, cut: size > there, long: size > most };
    }
    at += 8 + size + (size % 2);
  }
  throw notWav();
}
