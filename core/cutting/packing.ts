import type { Random } from "../random/index.ts";

/** A rectangle to place; `kind` is its index among the pieces. */
export interface Item {
  kind: number;
  widthMm: number;
  heightMm: number;
}

export interface Placed extends Item {
  xMm: number;
  yMm: number;
  rotated: boolean;
}

export interface Space {
  xMm: number;
  yMm: number;
  widthMm: number;
  heightMm: number;
}

export interface Packed {
  placed: Placed[];
  /** Indices of the items that found no place, in the order they came. */
  left: Item[];
  /** Free rectangles that are left. */
  spaces: Space[];
}

export interface Rules {
  cutGapMm: number;
  rotate: boolean;
  straightCuts: boolean;
}

/** How the best space for a piece is told, and which way the rest is cut. */
export interface Manner {
  fit: "short-side" | "long-side" | "area" | "low" | "left";
  split: "long" | "short" | "across" | "along";
  /** Turned pieces are liked this much more (below 1) or less (above 1). */
  turn: number;
}

const FITS = ["short-side", "area", "low", "long-side", "left"] as const;
const SPLITS = ["long", "short", "across", "along"] as const;
export const MANNERS: readonly Manner[] = FITS.flatMap((fit) => SPLITS.map((split) => ({ fit, split, turn: 1 })));
export const anyManner = (random: Random): Manner => ({ fit: random.pick(FITS), split: random.pick(SPLITS), turn: 1 });

const SLACK_MM = 1e-6;

/**
 * Places items in their order on one sheet: straight cuts by splitting a free rectangle in two, else by keeping the largest free
 * rectangles (the idea of J. Jylänki's survey 'A thousand ways to pack the bin', 2010).
 */
export function packSheet(
  items: readonly Item[],
  sheet: { widthMm: number; heightMm: number },
  rules: Rules,
  mannerOf: (item: number) => Manner,
): Packed {
  let spaces: Space[] = [{ xMm: 0, yMm: 0, widthMm: sheet.widthMm, heightMm: sheet.heightMm }];
  const placed: Placed[] = [];
  const left: Item[] = [];
  for (const [index, item] of items.entries()) {
    const manner = mannerOf(index);
    const best = bestPlace(item, spaces, rules, manner);
    if (!best) {
      left.push(item);
      continue;
    }
    const space = spaces[best.index];
    if (!space) continue;
    const piece: Placed = { ...item, ...best.size, xMm: space.xMm, yMm: space.yMm, rotated: best.rotated };
    placed.push(piece);
    spaces = rules.straightCuts
      ? [...spaces.filter((_, place) => place !== best.index), ...split(space, piece, rules.cutGapMm, manner)]
      : largestFree(spaces, piece, rules.cutGapMm);
  }
  return { placed, left, spaces };
}

interface Place {
  index: number;
  rotated: boolean;
  size: { widthMm: number; heightMm: number };
  score: number;
}

function bestPlace(item: Item, spaces: readonly Space[], rules: Rules, { fit, turn }: Manner): Place | undefined {
  let best: Place | undefined;
  const turns = rules.rotate && item.widthMm !== item.heightMm ? [false, true] : [false];
  spaces.forEach((space, index) => {
    for (const rotated of turns) {
      const widthMm = rotated ? item.heightMm : item.widthMm;
      const heightMm = rotated ? item.widthMm : item.heightMm;
      const dx = space.widthMm - widthMm;
      const dy = space.heightMm - heightMm;
      if (dx < -SLACK_MM || dy < -SLACK_MM) continue;
      const score =
        (rotated ? turn : 1) *
        {
          "short-side": Math.min(dx, dy) * 1e4 + Math.max(dx, dy),
          "long-side": Math.max(dx, dy) * 1e4 + Math.min(dx, dy),
          area: space.widthMm * space.heightMm - widthMm * heightMm + Math.min(dx, dy) * 1e-3,
          low: (space.yMm + heightMm) * 1e4 + space.xMm,
          left: (space.xMm + widthMm) * 1e4 + space.yMm,
        }[fit];
      if (!best || score < best.score) best = { index, rotated, size: { widthMm, heightMm }, score };
    }
  });
  return best;
}

/** The rest of a space as two, parted by one cut from edge to edge. */
function split(space: Space, piece: Placed, gapMm: number, { split: way }: Manner): Space[] {
  const right = space.widthMm - piece.widthMm - gapMm;
  const above = space.heightMm - piece.heightMm - gapMm;
  const upright = way === "long" ? right > above : way === "short" ? right <= above : way === "along";
  // Upright: the cut runs up the whole space beside the piece.
  const beside: Space = {
    xMm: space.xMm + piece.widthMm + gapMm,
    yMm: space.yMm,
    widthMm: right,
    heightMm: upright ? space.heightMm : piece.heightMm,
  };
  const over: Space = {
    xMm: space.xMm,
    yMm: space.yMm + piece.heightMm + gapMm,
    widthMm: upright ? piece.widthMm : space.widthMm,
    heightMm: above,
  };
  return [beside, over].filter((one) => one.widthMm > SLACK_MM && one.heightMm > SLACK_MM);
}

/** All largest free rectangles around a new piece. */
function largestFree(spaces: readonly Space[], piece: Placed, gapMm: number): Space[] {
  const taken = {
    x0: piece.xMm - gapMm,
    y0: piece.yMm - gapMm,
    x1: piece.xMm + piece.widthMm + gapMm,
    y1: piece.yMm + piece.heightMm + gapMm,
  };
  const cut: Space[] = [];
  for (const space of spaces) {
    const x1 = space.xMm + space.widthMm;
    const y1 = space.yMm + space.heightMm;
    if (
      taken.x0 >= x1 - SLACK_MM ||
      taken.x1 <= space.xMm + SLACK_MM ||
      taken.y0 >= y1 - SLACK_MM ||
      taken.y1 <= space.yMm + SLACK_MM
    ) {
      cut.push(space);
      continue;
    }
    if (taken.x0 > space.xMm + SLACK_MM) cut.push({ ...space, widthMm: taken.x0 - space.xMm });
    if (taken.x1 < x1 - SLACK_MM) cut.push({ ...space, xMm: taken.x1, widthMm: x1 - taken.x1 });
    if (taken.y0 > space.yMm + SLACK_MM) cut.push({ ...space, heightMm: taken.y0 - space.yMm });
    if (taken.y1 < y1 - SLACK_MM) cut.push({ ...space, yMm: taken.y1, heightMm: y1 - taken.y1 });
  }
  return cut.filter(
    (one, index) =>
      !cut.some(
        (other, place) =>
          place !== index &&
          one.xMm >= other.xMm - SLACK_MM &&
          one.yMm >= other.yMm - SLACK_MM &&
          one.xMm + one.widthMm <= other.xMm + other.widthMm + SLACK_MM &&
          one.yMm + one.heightMm <= other.yMm + other.heightMm + SLACK_MM &&
          (place < index || !sameBox(one, other)),
      ),
  );
}

const sameBox = (a: Space, b: Space): boolean =>
  a.xMm === b.xMm && a.yMm === b.yMm && a.widthMm === b.widthMm && a.heightMm === b.heightMm;
