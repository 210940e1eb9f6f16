declare module "fft.js" {
  /** Fast Fourier transform of a length that is a power of two. */
  export default class FFT {
    constructor(size: number);
    createComplexArray(): number[];
    realTransform(output: number[], input: readonly number[]): void;
  }
}
