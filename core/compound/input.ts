import * as v from "valibot";
import { listOf, numberFrom, Problem, readDocument } from "../problem/index.ts";
import { bondLineUm } from "./bond-line.ts";

/** A wall of compound with upright sides, as wide as it is high, with round ends; from a point to the same point it is a dot. */
export interface Bead {
  x1Mm: number;
  y1Mm: number;
  x2Mm: number;
  y2Mm: number;
  volumeUl: number;
}

export interface DieSize {
  widthMm: number;
  heightMm: number;
}

/** Millimetres from the die's lower-left corner. */
export interface SpreadInput {
  die: DieSize;
  beads: readonly Bead[];
  filmUm: number;
  bondLineUm: number;
  densityGPerMl: number | null;
}

const MOST_BEADS = 200;
/** More than a whole syringe of the larger size; nobody puts that on a die. */
const MOST_DOSE_UL = 1000;
const coordinate = numberFrom(-1000, 1000);
const known = <S extends v.GenericSchema>(schema: S) => v.optional(v.nullable(schema), null);

const SpreadFile = v.object({
  die: v.object({ widthMm: numberFrom(1, 100), heightMm: numberFrom(1, 100) }),
  beads: v.optional(
    listOf(
      v.object({
        x1Mm: coordinate,
        y1Mm: coordinate,
        x2Mm: coordinate,
        y2Mm: coordinate,
        volumeUl: numberFrom(1e-3, 1e5, "Give each bead its volume in microlitres, above 0."),
      }),
      MOST_BEADS,
    ),
    [],
  ),
  filmUm: v.optional(v.nullable(numberFrom(0, 1000)), 0),
  bondLineUm: known(numberFrom(1, 1000)),
  pressureKPa: known(numberFrom(0.1, 100_000)),
  yieldPa: known(numberFrom(1e-3, 1e7)),
  densityGPerMl: known(numberFrom(0.5, 20)),
});

const bad = (what: string, where: string, remedy: string, code = "bad-spread"): Problem =>
  new Problem({ code, what, where, remedy });

/**
 * A task of pressing compound as it stands in a file.
 * @throws Problem `bad-spread` naming the field, also where neither bond line nor pressure and yield stress are given; `no-dose`, `large-dose`,
 * `off-die`
 */
export function readSpread(input: unknown): SpreadInput {
  const { bondLineUm: given, pressureKPa, yieldPa, filmUm, ...found } = readDocument(SpreadFile, input, "bad-spread");
  if (given === null && (pressureKPa === null || yieldPa === null))
    throw bad(
      "How thin it is pressed is not known.",
      "bondLineUm",
      "Give the bond line, or the pressure and the compound’s yield stress.",
    );
  const read = {
    ...found,
    filmUm: filmUm ?? 0,
    bondLineUm: given ?? bondLineUm(yieldPa ?? Number.NaN, pressureKPa ?? Number.NaN),
  };
  checkDose(read);
  return read;
}

/** What lies on the die, µL. */
export const doseUl = ({ die, beads, filmUm }: Pick<SpreadInput, "die" | "beads" | "filmUm">): number =>
  beads.reduce((sum, { volumeUl }) => sum + volumeUl, (die.widthMm * die.heightMm * filmUm) / 1000);

/** @throws Problem as `readSpread` */
export function checkDose(input: Pick<SpreadInput, "die" | "beads" | "filmUm">): void {
  const { die, beads } = input;
  for (const [index, { x1Mm, y1Mm, x2Mm, y2Mm }] of beads.entries()) {
    const inside = (x: number, y: number): boolean => x >= 0 && y >= 0 && x <= die.widthMm && y <= die.heightMm;
    if (!inside(x1Mm, y1Mm) || !inside(x2Mm, y2Mm))
      throw bad(
        "This bead does not lie on the die.",
        `beads[${index}]`,
        `Put its ends within ${die.widthMm} × ${die.heightMm} mm.`,
        "off-die",
      );
  }
  const dose = doseUl(input);
  if (dose <= 0) throw bad("There is no compound on the die.", "beads", "Put on a bead or a film.", "no-dose");
  if (dose > MOST_DOSE_UL)
    throw bad(
      `${Math.round(dose)} µL is no dose for a die.`,
      "beads",
      `Give at most ${MOST_DOSE_UL} µL (1 mL is 1000 µL); some twenty are usual.`,
      "large-dose",
    );
}
