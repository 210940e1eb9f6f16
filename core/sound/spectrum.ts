import { nth, squaredLines } from "../numeric/index.ts";

export interface Spectrum {
  /** Width of a line, Hz. */
  stepHz: number;
  /** Mean square of the signal per line; the sum is the mean square of the whole. */
  power: Float64Array;
}

const LONGEST_BLOCK = 16_384;

/**
 * Power spectrum by averaged, half-overlapping blocks with a Hann window (P. D. Welch, IEEE Trans. Audio Electroacoust. 15, 1967).
 * @param samples −1…1, mono, at least 256 samples; blocks have 16 384 or as many as there are
 */
export function spectrumOf(samples: Float32Array, rateHz: number): Spectrum {
  const block = Math.min(LONGEST_BLOCK, 2 ** Math.floor(Math.log2(samples.length)));
  const linesOf = squaredLines(block);
  const window = Float64Array.from({ length: block }, (_, k) => 0.5 - 0.5 * Math.cos((2 * Math.PI * k) / block));
  const gain = window.reduce((sum, value) => sum + value * value, 0);
  const power = new Float64Array(block / 2 + 1);
  const input = Array.from({ length: block }, () => 0);
  let blocks = 0;
  for (let at = 0; at + block <= samples.length; at += block / 2) {
    for (let k = 0; k < block; k++) input[k] = nth(samples, at + k) * nth(window, k);
    linesOf(input).forEach((squared, line) => {
      const sides = line === 0 || line === block / 2 ? 1 : 2;
      power[line] = nth(power, line) + (sides * squared) / (gain * block);
    });
    blocks++;
  }
  for (let line = 0; line < power.length; line++) power[line] = nth(power, line) / Math.max(1, blocks);
  return { stepHz: rateHz / block, power };
}
