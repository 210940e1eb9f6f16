import type { State } from "./model.ts";
import type { Turned } from "./stack.ts";

/** A way from one end to the other, as a search knows it. */
export interface Course {
  /** Which screw is turned in each move. */
  order: readonly number[];
  /** How much of its travel each screw has behind it after each of its moves, mm; the last is all of it. */
  behindMm: ReadonlyMap<number, readonly number[]>;
}

export interface SearchInput {
  screws: readonly Turned[];
  /** Those that are turned, by index. */
  turned: readonly number[];
  /** Where the others stand meanwhile. */
  rest: State;
  way: "tighten" | "loosen";
  mostMoves: number;
  cornerKPa: (state: State) => number;
  /** How many states were asked for so far. */
  asked: () => number;
}

/** A move turns by a quarter at least; the last one of a screw may be shorter. */
export const LEAST_TURN = 0.25;
/** The peak, softened: a search sees where the next highest lies as well. */
export const SOFTENED = 20;

export const drivenMm = (screws: readonly Turned[], index: number, behind: number, way: SearchInput["way"]): number =>
  way === "tighten" ? behind : Math.max(0, (screws[index]?.travelMm ?? 0) - behind);
