import {
  asGiven,
  dieResultant,
  type Prepared,
  prepare,
  ReducedContact,
  type Solved,
  solveContact,
} from "../contact/index.ts";
import { type DieLoad, dieLoadOf } from "./load.ts";
import type { FastenStack } from "./stack.ts";

/** How far each screw is driven from its first bite, mm, in the stack's order. */
export type State = readonly number[];

/** The die's load in any state of the screws: in full, and nearly but much quicker. */
export class FastenModel {
  readonly #prepared: Prepared;
  #reduced: ReducedContact;
  readonly #springs: readonly number[];
  readonly #known = new Map<string, number>();
  readonly #loads = new Map<string, DieLoad>();
  #near: Float64Array | undefined;
  /** States looked at the quick way so far. */
  asked = 0;

  constructor({ stack, screws }: FastenStack) {
    this.#prepared = prepare(stack);
    this.#reduced = new ReducedContact(this.#prepared);
    this.#springs = screws.map(({ springNPerMm }) => springNPerMm);
  }

  /** Solves some states in full so that those like them are told better the quick way. */
  learn(states: readonly State[]): void {
    const seen = states.map((state) => this.#solved(state).unknowns);
    this.#reduced = new ReducedContact(this.#prepared, seen);
    this.#near = undefined;
    this.#known.clear();
  }

  #forces(state: State): number[] {
    return this.#springs.map((spring, index) => spring * (state[index] ?? 0));
  }

  /** Load of the worst corner, kPa, as a search needs it; infinite where it can't be told. */
  cornerKPa(state: State): number {
    const key = state.map((mm) => mm.toFixed(5)).join();
    const known = this.#known.get(key);
    if (known !== undefined) return known;
    this.asked++;
    const found = this.#reduced.solve(this.#forces(state), this.#near);
    if (found) this.#near = found.unknowns;
    const load = found
      ? dieLoadOf(this.#prepared.stack, found.forceN, found.xNmm, found.yNmm).cornerKPa
      : Number.POSITIVE_INFINITY;
    this.#known.set(key, load);
    return load;
  }

  /** @throws Problem `no-balance` */
  load(state: State): DieLoad {
    const key = state.join();
    const known = this.#loads.get(key) ?? this.#solve(state);
    this.#loads.set(key, known);
    return known;
  }

  #solve(state: State): DieLoad {
    const { forceN, xNmm, yNmm } = dieResultant(this.#prepared, this.#solved(state));
    return dieLoadOf(this.#prepared.stack, forceN, xNmm, yNmm);
  }

  #solved(state: State): Solved {
    const forcesN = this.#forces(state);
    const near = this.#reduced.solve(forcesN, this.#near)?.unknowns;
    return solveContact(
      this.#prepared,
      { ...asGiven(this.#prepared.stack), forcesN },
      near && this.#reduced.whole(near),
    );
  }
}
