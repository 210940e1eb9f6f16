import * as v from "valibot";
import { idText, listOf, numberFrom, readDocument, said } from "../problem/index.ts";

export interface Piece {
  id: string;
  widthMm: number;
  heightMm: number;
  quantity: number;
  thicknessMm: number;
  material: string;
}

export interface Sheet {
  id: string;
  thicknessMm: number;
  material: string;
  widthMm: number;
  heightMm: number;
  /** Null for as many as are bought. */
  quantity: number | null;
  price: number;
}

export interface CuttingTask {
  pieces: readonly Piece[];
  stock: readonly Sheet[];
  /** Needed between pieces, not at sheet edges, mm. */
  cutGapMm: number;
  rotate: boolean;
  /** Every cut goes edge to edge. */
  straightCuts: boolean;
}

/** What a bench cuts, with room to spare: within these a plan is there within the time that is asked for. */
const MOST = { kinds: 500, stock: 40, pieces: 2000, sizeMm: 10_000, price: 1e6, sheets: 1e6 };
const LEAST_MM = 0.1;

const size = numberFrom(LEAST_MM, MOST.sizeMm);
const whole = (most: number) =>
  v.pipe(numberFrom(0, most), v.integer(said("This is no whole number.", "Give whole pieces.")));
const flag = v.optional(v.boolean(said("This is neither true nor false.", "Give true or false.")), true);
const sized = {
  id: idText,
  widthMm: size,
  heightMm: size,
  thicknessMm: numberFrom(0.01, 1000),
  material: v.optional(v.pipe(v.string(said("This is no text.", "Name the material.")), v.maxLength(200)), ""),
};

const unlike = (all: ReadonlyArray<{ id: string }>): string | undefined => {
  const seen = new Set<string>();
  return all.find(({ id }) => seen.size === seen.add(id).size)?.id;
};
const twice = <E extends { id: string }>() =>
  v.check<E[], (issue: { input: E[] }) => string>(
    (all) => unlike(all) === undefined,
    ({ input }) => said(`“${unlike(input)}” is there twice.`, "Give every entry its own id."),
  );

const CutsFile = v.object({
  pieces: v.pipe(
    listOf(v.object({ ...sized, quantity: v.optional(whole(MOST.pieces), 1) }), MOST.kinds),
    twice<Piece>(),
    v.check(
      (all) => all.reduce((sum, one) => sum + one.quantity, 0) <= MOST.pieces,
      said(`These are more than ${MOST.pieces} pieces.`, "Part the task."),
    ),
  ),
  stock: v.pipe(
    listOf(
      v.object({
        ...sized,
        quantity: v.optional(v.nullable(whole(MOST.sheets)), null),
        price: v.optional(numberFrom(0, MOST.price), 0),
      }),
      MOST.stock,
    ),
    twice<Sheet>(),
  ),
  cutGapMm: v.optional(numberFrom(0, 1000), 0),
  rotate: flag,
  straightCuts: flag,
});

/**
 * Checks a cutting task as it was read from a file.
 * @throws Problem `bad-cuts` naming the field and the remedy
 */
export const readCuts = (input: unknown): CuttingTask => readDocument(CutsFile, input, "bad-cuts");
