/**
 * A-weighting of IEC 61672-1 (annex E), dB: what the ear makes of a tone of a frequency, 0 dB at 1 kHz.
 * @param hz frequency, above 0
 * @example
 * ```ts
 * Math.round(aWeightingDb(1000) * 10) / 10 // => 0
 * ```
 */
export function aWeightingDb(hz: number): number {
  const f2 = hz * hz;
  const response =
    (12_194 ** 2 * f2 * f2) /
    ((f2 + 20.6 ** 2) * Math.sqrt((f2 + 107.7 ** 2) * (f2 + 737.9 ** 2)) * (f2 + 12_194 ** 2));
  return 20 * Math.log10(response) + 2;
}
