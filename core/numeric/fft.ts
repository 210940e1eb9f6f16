import FFT from "fft.js";

/**
 * Squares of the absolute values of a real series' discrete Fourier transform, lines 0 to n/2.
 * @param length of every series, a power of two
 * @returns a function that may be called again and again; its result is overwritten by the next call
 * @throws Error unless the length is a power of two above 1
 * @example
 * ```ts
 * [...squaredLines(4)([1, 0, 0, 0])] // => [1, 1, 1]
 * ```
 */
export function squaredLines(length: number): (series: readonly number[]) => Float64Array {
  const fft = new FFT(length);
  const output = fft.createComplexArray();
  const power = new Float64Array(length / 2 + 1);
  return (series) => {
    fft.realTransform(output, series);
    for (let line = 0; line < power.length; line++)
      power[line] = (output[2 * line] as number) ** 2 + (output[2 * line + 1] as number) ** 2;
    return power;
  };
}
