import { Problem } from "../problem/index.ts";

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

const bad = (what: string, where: string, remedy: string): Problem =>
  new Problem({ code: "bad-cuts", what, where, remedy });
type Fields = Record<string, unknown>;

/**
 * Checks a cutting task as it was read from a file.
 * @throws Problem `bad-cuts` naming the field and the remedy
 */
export function readCuts(input: unknown): CuttingTask {
  const whole = fields(input, "the document");
  const task: CuttingTask = {
    pieces: list(whole.pieces, "pieces").map((entry, index) => {
      const where = `pieces[${index}]`;
      const one = fields(entry, where);
      return { ...sized(one, where), quantity: whole0(one.quantity ?? 1, `${where}.quantity`) };
    }),
    stock: list(whole.stock, "stock").map((entry, index) => {
      const where = `stock[${index}]`;
      const one = fields(entry, where);
      const quantity = one.quantity ?? null;
      return {
        ...sized(one, where),
        quantity: quantity === null ? null : whole0(quantity, `${where}.quantity`),
        price: number(one.price ?? 0, `${where}.price`, 0),
      };
    }),
    cutGapMm: number(whole.cutGapMm ?? 0, "cutGapMm", 0),
    rotate: flag(whole.rotate, "rotate"),
    straightCuts: flag(whole.straightCuts, "straightCuts"),
  };
  for (const [name, all] of [
    ["pieces", task.pieces],
    ["stock", task.stock],
  ] as const) {
    const ids = all.map((one) => one.id);
    const twice = ids.find((id, index) => ids.indexOf(id) !== index);
    if (twice !== undefined) throw bad(`“${twice}” is there twice.`, name, "Give every entry its own id.");
  }
  return task;
}

function fields(value: unknown, where: string): Fields {
  if (typeof value !== "object" || value === null || Array.isArray(value))
    throw bad(`“${where}” is no object.`, where, "See the file format.");
  return value as Fields;
}

function list(value: unknown, where: string): unknown[] {
  if (!Array.isArray(value)) throw bad(`“${where}” is no list.`, where, "Give a list, empty where there are none.");
  return value;
}

function number(value: unknown, where: string, least: number): number {
  if (typeof value !== "number" || !Number.isFinite(value) || value < least)
    throw bad(`“${where}” is no number from ${least} on.`, where, "Give a number in the unit its name says.");
  return value;
}

function above0(value: unknown, where: string): number {
  const found = number(value, where, 0);
  if (found === 0) throw bad(`“${where}” is 0.`, where, "Give a size above 0.");
  return found;
}

function whole0(value: unknown, where: string): number {
  const found = number(value, where, 0);
  if (!Number.isInteger(found)) throw bad(`“${where}” is no whole number.`, where, "Give whole pieces.");
  return found;
}

function flag(value: unknown, where: string): boolean {
  if (value === undefined) return true;
  if (typeof value !== "boolean") throw bad(`“${where}” is neither true nor false.`, where, "Give true or false.");
  return value;
}

function sized(one: Fields, where: string) {
  if (typeof one.id !== "string" || one.id === "") throw bad("It has no id.", where, "Give every entry an id.");
  return {
    id: one.id,
    widthMm: above0(one.widthMm, `${where}.widthMm`),
    heightMm: above0(one.heightMm, `${where}.heightMm`),
    thicknessMm: above0(one.thicknessMm, `${where}.thicknessMm`),
    material: String(one.material ?? ""),
  };
}
