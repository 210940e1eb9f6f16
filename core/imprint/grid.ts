/** Cells in rows from the upper edge of the die, as it is seen from the component side. */
export type Cell = "covered" | "thin" | "bare";
export type Imprint = readonly Cell[];

/** Columns and rows. */
export const IMPRINT_SIZE = 6;

const LETTERS = { covered: "c", thin: "t", bare: "b" } as const;
const CELLS: Readonly<Record<string, Cell>> = { c: "covered", t: "thin", b: "bare" };

/**
 * As it is kept: a letter a cell.
 * @example
 * ```ts
 * writeImprint(["covered", "thin", "bare"]) // => "ctb"
 * ```
 */
export const writeImprint = (cells: Imprint): string => cells.map((cell) => LETTERS[cell]).join("");

/** What was kept; undefined for anything that is no imprint. */
export function readImprint(text: string | null): Imprint | undefined {
  const cells = (text ?? "").split("").flatMap((letter) => CELLS[letter] ?? []);
  return cells.length === IMPRINT_SIZE ** 2 && text?.length === cells.length ? cells : undefined;
}

export interface ImprintFound {
  /** Shares of the die. */
  coveredShare: number;
  bareShare: number;
  /** Where contact was least: "upper left", "right"; empty where it was even. */
  side: string;
  /** From −1 to 1 across the die, x right, y up: where what is thin or bare lies. */
  leanX: number;
  leanY: number;
  /** A corner without any compound. */
  bareCorner: boolean;
  /** What it speaks for, in words; empty where it was whole. */
  words: string;
}

/** Below so much lean contact was even. */
const EVEN = 0.12;
/** Below so much of what is expected to lean, the screws press evenly. */
const EVEN_PRESSURE = 0.1;
const LOST = { covered: 0, thin: 0.5, bare: 1 } as const;

/**
 * Reads an imprint, and holds it against what the screws press.
 * @param pressed where the centre of pressure lies by the screws, as shares of half the die's sides (−1…1); null where nobody knows
 */
export function imprintFound(cells: Imprint, pressed: { x: number; y: number } | null): ImprintFound {
  const half = (IMPRINT_SIZE - 1) / 2;
  let [lost, leanX, leanY] = [0, 0, 0];
  cells.forEach((cell, index) => {
    const [column, row] = [index % IMPRINT_SIZE, Math.floor(index / IMPRINT_SIZE)];
    lost += LOST[cell];
    leanX += (LOST[cell] * (column - half)) / half;
    leanY -= (LOST[cell] * (row - half)) / half;
  });
  const share = (kind: Cell): number => cells.filter((cell) => cell === kind).length / Math.max(1, cells.length);
  const mean = { x: lost > 0 ? leanX / lost : 0, y: lost > 0 ? leanY / lost : 0 };
  // A single cell in a corner leans far and means little.
  const weight = Math.min(1, lost / (cells.length / 12));
  const lean = { x: mean.x * weight, y: mean.y * weight };
  const side = lost === 0 ? "" : sideOf(lean);
  const last = IMPRINT_SIZE - 1;
  const corners = [0, last, IMPRINT_SIZE * last, IMPRINT_SIZE ** 2 - 1];
  const found = {
    coveredShare: share("covered"),
    bareShare: share("bare"),
    side,
    leanX: lean.x,
    leanY: lean.y,
    bareCorner: corners.some((index) => cells[index] === "bare"),
  };
  return { ...found, words: wordsOf(found, lost / Math.max(1, cells.length), pressed) };
}

function sideOf({ x, y }: { x: number; y: number }): string {
  const up = y > EVEN ? "upper" : y < -EVEN ? "lower" : "";
  const across = x > EVEN ? "right" : x < -EVEN ? "left" : "";
  return [up, across].filter(Boolean).join(" ");
}

/** What was seen of it, for the card’s owner, who closes nothing; empty where it was whole. */
export function imprintForOwner({ coveredShare, bareShare, side }: ImprintFound): string {
  if (coveredShare === 1) return "";
  return `It was ${bareShare > 0 ? "bare" : "thin"} ${side ? `at the ${side}` : "in places"}.`;
}

function wordsOf(
  { side, leanX, leanY, bareShare }: Omit<ImprintFound, "words">,
  lost: number,
  pressed: { x: number; y: number } | null,
): string {
  if (lost === 0) return "";
  const how = bareShare > 0 ? "bare" : "thin";
  if (side === "")
    return `The compound was ${how} over ${Math.round(100 * lost)} % of the die, on no side more: too little of it, or pumped out.`;
  const where = `The compound was ${how} at the ${side}`;
  if (!pressed) return `${where}: look there when it is closed, and at the pads on that side.`;
  const along = pressed.x * leanX + pressed.y * leanY;
  if (Math.hypot(pressed.x, pressed.y) < EVEN_PRESSURE)
    return `${where}, though the screws press evenly: a pad on that side is too thick, or its screws were tightened last. Check both.`;
  return along < 0
    ? `${where}, where the screws press least: their pull is uneven. Check springs and washers there.`
    : `${where}, where the screws press most: something holds the cooler off there. Check the pads on that side.`;
}
