import { nanoid } from "@reduxjs/toolkit";

/**
 * What was sent and not answered yet, by ids that go with every change: so the server knows a change of this window again whose answer
 * was lost (a reload, a network gone) and does not take it for another window's.
 */
export class Unanswered {
  readonly #idOf = new WeakMap<object, string>();

  /** @param ids those of the page before a reload, the newest last */
  constructor(public ids: readonly string[] = []) {}

  /** From now on `value` is among them, the last; sent again, it keeps its id. */
  sending(value: object): void {
    const id = this.#idOf.get(value) ?? nanoid();
    this.#idOf.set(value, id);
    this.ids = [...this.ids.filter((one) => one !== id), id];
  }

  /** The server has said what it holds. */
  answered(): void {
    this.ids = [];
  }
}
