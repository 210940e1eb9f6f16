import * as v from "valibot";
import { idText, listOf, numberFrom, Problem, readDocument, said } from "../problem/index.ts";

export interface Pad {
  material: string;
  thicknessMm: number;
  layers: number;
  widthMm: number;
  heightMm: number;
  /** Its centre off the component's; 0 where not given. */
  offXMm?: number;
  offYMm?: number;
}

export interface StackComponent {
  id: string;
  kind: string;
  xMm: number;
  yMm: number;
  widthMm: number;
  heightMm: number;
  /** Component top to cooler face when the die is fully seated. */
  gapMm: number;
  pad: Pad | null;
}

export interface Material {
  conductivityWPerMK: number;
  /** Compressive strain of the total thickness against pressure in kPa. */
  curve: ReadonlyArray<readonly [number, number]>;
}

/** Board, die, screws and padded parts; mm from the board's lower-left corner, seen from the component side, positions are centres. */
export interface Stack {
  board: { widthMm: number; heightMm: number; thicknessMm: number; youngGPa: number; poisson: number };
  die: { xMm: number; yMm: number; widthMm: number; heightMm: number };
  screws: ReadonlyArray<{ id: string; xMm: number; yMm: number; forceN: number; springNPerMm: number }>;
  components: readonly StackComponent[];
  materials: Readonly<Record<string, Material>>;
}

const bad = (what: string, where: string, remedy: string): Problem =>
  new Problem({ code: "bad-stack", what, where, remedy });

/** A gap this wide is more likely inches typed as millimetres, or a slip of the point. */
const DOUBTFUL_GAP_MM = 12;
/** What a card can be, with room to spare: within these a solution is found in seconds. */
const LEAST = { sizeMm: 0.05, padMm: 0.01 };
const MOST = {
  sizeMm: 1000,
  thicknessMm: 1000,
  padMm: 50,
  layers: 20,
  points: 200,
  materials: 200,
  screws: 100,
  components: 400,
  forceN: 100_000,
  springNPerMm: 1e6,
};

const place = numberFrom(-MOST.sizeMm, 2 * MOST.sizeMm);
const size = numberFrom(LEAST.sizeMm, MOST.sizeMm);

const PadFile = v.pipe(
  v.object({
    material: v.pipe(v.string(said("The pad has no material.", "Name one of materials.")), v.maxLength(200)),
    thicknessMm: numberFrom(LEAST.padMm, MOST.padMm),
    layers: v.optional(numberFrom(1, MOST.layers), 1),
    widthMm: v.optional(size),
    heightMm: v.optional(size),
    offXMm: v.optional(place, 0),
    offYMm: v.optional(place, 0),
  }),
);

const ComponentFile = v.pipe(
  v.object({
    id: idText,
    kind: v.fallback(v.string(), "other"),
    xMm: place,
    yMm: place,
    widthMm: size,
    heightMm: size,
    gapMm: v.pipe(
      v.number(said("The gap is no number.", "Give millimetres.")),
      v.minValue(0, said("A gap is negative.", "Measure from the component’s top to the cooler.")),
      v.maxValue(DOUBTFUL_GAP_MM, ({ input }) =>
        said(`A gap of ${input} mm is doubtful.`, "Was it typed in inches or without its point?"),
      ),
    ),
    pad: v.optional(v.nullable(PadFile), null),
  }),
  v.transform(
    ({ pad, ...one }): StackComponent => ({
      ...one,
      pad: pad && { ...pad, widthMm: pad.widthMm ?? one.widthMm, heightMm: pad.heightMm ?? one.heightMm },
    }),
  ),
);

const pairs = said("A point of a curve is no pair of numbers.", "Give [strain, kPa].");
const Curve = v.pipe(
  listOf(
    v.tuple([v.pipe(v.number(pairs), v.finite(pairs)), v.pipe(v.number(pairs), v.finite(pairs))], pairs),
    MOST.points,
  ),
  v.check(
    (curve) =>
      curve.length >= 2 &&
      curve.every(([strain, kPa], index) => {
        const before = curve[index - 1];
        return before === undefined || (strain > before[0] && kPa >= before[1]);
      }),
    said("A softness curve needs two points or more, rising.", "Start with [0, 0]."),
  ),
);

const StackFile = v.object({
  board: v.object({
    widthMm: size,
    heightMm: size,
    thicknessMm: numberFrom(LEAST.sizeMm, MOST.thicknessMm),
    youngGPa: numberFrom(1e-3, 1e9),
    poisson: v.number(said("Poisson’s ratio is no number.", "Give 0 or more and less than 0.5.")),
  }),
  die: v.object({ xMm: place, yMm: place, widthMm: size, heightMm: size }),
  screws: listOf(
    v.object({
      id: idText,
      xMm: place,
      yMm: place,
      forceN: numberFrom(0, MOST.forceN),
      springNPerMm: numberFrom(0, MOST.springNPerMm),
    }),
    MOST.screws,
  ),
  components: v.optional(listOf(ComponentFile, MOST.components), []),
  materials: v.optional(
    v.pipe(
      v.record(v.string(), v.object({ conductivityWPerMK: numberFrom(1e-4, 1e5), curve: Curve })),
      v.check(
        (all) => Object.keys(all).length <= MOST.materials,
        said(`These are more than ${MOST.materials} materials.`, "Give those that are used."),
      ),
    ),
    {},
  ),
});

/**
 * Checks a stack as it was read from a file.
 * @throws Problem `bad-stack` naming the field and the remedy
 */
export function readStack(input: unknown): Stack {
  const stack: Stack = readDocument(StackFile, input, "bad-stack");
  checkStack(stack);
  return stack;
}

/** @throws Problem `bad-stack` for what can't be on a card */
export function checkStack({ board, die, screws, components, materials: known }: Stack): void {
  if (screws.length === 0) throw bad("The die has no screws.", "screws", "Give the screws that pull the cooler on.");
  if (!screws.some((screw) => screw.forceN > 0))
    throw bad("No screw pulls.", "screws", "Give forceN of the screws when the die is seated.");
  if (!(board.poisson >= 0 && board.poisson < 0.5))
    throw bad("Poisson’s ratio is out of range.", "board.poisson", "Give 0 or more and less than 0.5.");
  const inside = (at: { xMm: number; yMm: number }, width: number, height: number): boolean =>
    at.xMm - width / 2 >= -1e-6 &&
    at.yMm - height / 2 >= -1e-6 &&
    at.xMm + width / 2 <= board.widthMm + 1e-6 &&
    at.yMm + height / 2 <= board.heightMm + 1e-6;
  if (!inside(die, die.widthMm, die.heightMm)) throw bad("The die lies off the board.", "die", "Check its position.");
  for (const screw of screws)
    if (!inside(screw, 0, 0)) throw bad(`Screw ${screw.id} lies off the board.`, "screws", "Check its position.");
  const ids = new Set<string>();
  components.forEach((one, index) => {
    const where = `components[${index}]`;
    if (ids.has(one.id)) throw bad(`“${one.id}” is there twice.`, where, "Give every component its own id.");
    ids.add(one.id);
    if (!inside(one, one.widthMm, one.heightMm))
      throw bad(`“${one.id}” lies off the board.`, where, "Check its position.");
    if (one.pad && !Object.hasOwn(known, one.pad.material))
      throw bad(
        `Pad material “${one.pad.material}” has no curve.`,
        `${where}.pad.material`,
        "Describe it under materials.",
      );
    const other = [{ ...die, id: "the die" }, ...components.slice(0, index)].find((before) => overlap(before, one));
    if (other) throw bad(`“${one.id}” overlaps ${other.id}.`, where, "Check positions and sizes.");
  });
}

export interface Box {
  xMm: number;
  yMm: number;
  widthMm: number;
  heightMm: number;
}

const TOUCHING_MM = 0.01;
const overlap = (a: Box, b: Box): boolean =>
  Math.abs(a.xMm - b.xMm) < (a.widthMm + b.widthMm) / 2 - TOUCHING_MM &&
  Math.abs(a.yMm - b.yMm) < (a.heightMm + b.heightMm) / 2 - TOUCHING_MM;
