import { Problem } from "../problem/index.ts";

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

/**
 * Checks a stack as it was read from a file.
 * @throws Problem `bad-stack` naming the field and the remedy
 */
export function readStack(input: unknown): Stack {
  const whole = record(input, "the document");
  const board = record(whole.board, "board");
  const die = record(whole.die, "die");
  const stack: Stack = {
    board: {
      widthMm: positive(board, "board", "widthMm"),
      heightMm: positive(board, "board", "heightMm"),
      thicknessMm: positive(board, "board", "thicknessMm"),
      youngGPa: positive(board, "board", "youngGPa"),
      poisson: number(board, "board", "poisson"),
    },
    die: box(die, "die"),
    screws: list(whole.screws, "screws").map((entry, index) => {
      const one = record(entry, `screws[${index}]`);
      const where = `screws[${index}]`;
      return {
        id: name(one.id, where),
        xMm: number(one, where, "xMm"),
        yMm: number(one, where, "yMm"),
        forceN: atLeastNought(one, where, "forceN"),
        springNPerMm: atLeastNought(one, where, "springNPerMm"),
      };
    }),
    components: list(whole.components ?? [], "components").map((entry, index) =>
      component(record(entry, `components[${index}]`), `components[${index}]`),
    ),
    materials: materials(whole.materials ?? {}),
  };
  checkStack(stack);
  return stack;
}

type Fields = Record<string, unknown>;

function record(value: unknown, where: string): Fields {
  if (typeof value !== "object" || value === null || Array.isArray(value))
    throw bad(`“${where}” is missing.`, where, "Give it as an object; see the file format.");
  return value as Fields;
}

function list(value: unknown, where: string): unknown[] {
  if (!Array.isArray(value)) throw bad(`“${where}” is no list.`, where, "Give a list, empty where there are none.");
  return value;
}

function number(from: Fields, where: string, field: string): number {
  const value = from[field];
  if (typeof value !== "number" || !Number.isFinite(value))
    throw bad(`“${field}” is no number.`, `${where}.${field}`, "Give a number in the unit its name says.");
  return value;
}

function positive(from: Fields, where: string, field: string): number {
  const value = number(from, where, field);
  if (value <= 0) throw bad(`“${field}” is not above 0.`, `${where}.${field}`, "Give a number above 0.");
  return value;
}

function atLeastNought(from: Fields, where: string, field: string): number {
  const value = number(from, where, field);
  if (value < 0) throw bad(`“${field}” is negative.`, `${where}.${field}`, "Give 0 or more.");
  return value;
}

const name = (value: unknown, where: string): string => {
  if (typeof value === "string" && value !== "") return value;
  throw bad("It has no id.", where, "Give every screw and component an id.");
};

const box = (from: Fields, where: string) => ({
  xMm: number(from, where, "xMm"),
  yMm: number(from, where, "yMm"),
  widthMm: positive(from, where, "widthMm"),
  heightMm: positive(from, where, "heightMm"),
});

function component(from: Fields, where: string): StackComponent {
  const gapMm = number(from, where, "gapMm");
  if (gapMm < 0) throw bad("A gap is negative.", `${where}.gapMm`, "Measure from the component’s top to the cooler.");
  if (gapMm > DOUBTFUL_GAP_MM)
    throw bad(`A gap of ${gapMm} mm is doubtful.`, `${where}.gapMm`, "Was it typed in inches or without its point?");
  const at = box(from, where);
  const pad = from.pad === undefined || from.pad === null ? null : record(from.pad, `${where}.pad`);
  const layers = pad?.layers ?? 1;
  return {
    ...at,
    id: name(from.id, where),
    kind: typeof from.kind === "string" ? from.kind : "other",
    gapMm,
    pad: pad && {
      material: String(pad.material),
      thicknessMm: positive(pad, `${where}.pad`, "thicknessMm"),
      layers: positive({ layers }, `${where}.pad`, "layers"),
      widthMm: pad.widthMm === undefined ? at.widthMm : positive(pad, `${where}.pad`, "widthMm"),
      heightMm: pad.heightMm === undefined ? at.heightMm : positive(pad, `${where}.pad`, "heightMm"),
      offXMm: number({ offXMm: pad.offXMm ?? 0 }, `${where}.pad`, "offXMm"),
      offYMm: number({ offYMm: pad.offYMm ?? 0 }, `${where}.pad`, "offYMm"),
    },
  };
}

function materials(input: unknown): Record<string, Material> {
  return Object.fromEntries(
    Object.entries(record(input, "materials")).map(([key, value]) => {
      const where = `materials.${key}`;
      const one = record(value, where);
      const curve = list(one.curve, `${where}.curve`).map((point, index) => {
        const [strain, kPa] = list(point, `${where}.curve[${index}]`);
        if (typeof strain !== "number" || typeof kPa !== "number" || !Number.isFinite(strain) || !Number.isFinite(kPa))
          throw bad("A point of a curve is no pair of numbers.", `${where}.curve[${index}]`, "Give [strain, kPa].");
        return [strain, kPa] as const;
      });
      const rising = curve.every(
        ([strain, kPa], index) =>
          index === 0 || (strain > (curve[index - 1]?.[0] ?? 0) && kPa >= (curve[index - 1]?.[1] ?? 0)),
      );
      if (curve.length < 2 || !rising)
        throw bad("A softness curve needs two points or more, rising.", `${where}.curve`, "Start with [0, 0].");
      return [key, { conductivityWPerMK: positive(one, where, "conductivityWPerMK"), curve }];
    }),
  );
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
    if (one.pad && !known[one.pad.material])
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
