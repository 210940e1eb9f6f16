import { Problem } from "#core";

/** Work that costs a process of its own: one at a time, a few in line, and whoever comes after that is told so. */
export class Turns {
  #last: Promise<unknown> = Promise.resolve();
  #inLine = 0;

  constructor(private readonly most: number) {}

  /** @throws Problem `too-busy` where too many are in line */
  take<T>(work: () => Promise<T>): Promise<T> {
    if (this.#inLine >= this.most)
      throw new Problem({
        code: "too-busy",
        what: "Others are being served their copies of the whole workshop.",
        remedy: "Try again in a minute.",
      });
    this.#inLine++;
    const turn = this.#last.then(work).finally(() => this.#inLine--);
    this.#last = turn.catch(() => undefined);
    return turn;
  }
}
