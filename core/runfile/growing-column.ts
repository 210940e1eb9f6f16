const FIRST = 256;
const LARGEST_BLOCK = 65_536;

/** A column of numbers that grows block by block, so that no row is ever copied twice; blocks grow with it, so that many short columns stay small. */
export class GrowingColumn {
  readonly #blocks: Float64Array[] = [];
  #last = new Float64Array(0);
  #used = 0;
  #full = 0;

  get length(): number {
    return this.#full + this.#used;
  }

  push(value: number): void {
    if (this.#used === this.#last.length) {
      this.#full += this.#used;
      this.#last = new Float64Array(Math.min(LARGEST_BLOCK, Math.max(FIRST, this.#full)));
      this.#blocks.push(this.#last);
      this.#used = 0;
    }
    this.#last[this.#used++] = value;
  }

  /** Adds missing values until the column has `length` rows. */
  padTo(length: number): void {
    while (this.length < length) this.push(Number.NaN);
  }

  /** Hands the values over as one array and forgets them. */
  take(): Float64Array {
    const all = new Float64Array(this.length);
    let at = 0;
    while (this.#blocks.length > 0) {
      const block = this.#blocks.shift();
      if (!block) break;
      const part = this.#blocks.length === 0 ? block.subarray(0, this.#used) : block;
      all.set(part, at);
      at += part.length;
    }
    this.#last = new Float64Array(0);
    this.#used = 0;
    this.#full = 0;
    return all;
  }
}
