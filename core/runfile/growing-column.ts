const FIRST = 256;
const WHOLE_SHARE = 0.9;
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

  /** Takes memory for so many values at once, where that is known. */
  reserve(length: number): void {
    if (length <= this.length) return;
    const used = this.length;
    const block = new Float64Array(length);
    block.set(this.take());
    this.#blocks.push(block);
    this.#last = block;
    this.#used = used;
  }

  /** Adds missing values until the column has `length` rows. */
  padTo(length: number): void {
    while (this.length < length) this.push(Number.NaN);
  }

  /** Hands the values over as one array and forgets them. */
  take(): Float64Array {
    const [only] = this.#blocks;
    // Memory that was taken for this length is handed over as it is.
    const whole = this.#blocks.length === 1 && only && this.#used > WHOLE_SHARE * only.length ? only : undefined;
    const all = whole?.subarray(0, this.#used) ?? new Float64Array(this.length);
    if (whole) this.#blocks.length = 0;
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
