import { type Box, overlap, type Package } from "../boardmap/index.ts";
import { CELL_MM, type Field, gradients } from "./field.ts";
import { cells, type Edges, edgesOf, sideScore, totals } from "./rectangles.ts";

/** A package where a photo shows its sides. */
export interface Candidate extends Box {
  pack: Package;
  score: number;
}

/** Found alone; found where a row or its mirror image asks for it. */
const SEEN = { alone: 0.66, expected: 0.46 };
/** A package is darker than what is around it, in log brightness. */
const DARKER = 0.08;
export const MOST = 400;

type Mean = ReturnType<typeof totals>;
type Slopes = ReturnType<typeof gradients>;

/** What of a photo is looked at, and how things stand out of it. */
export interface Way {
  field: Field;
  slopes: Slopes;
  edges: Edges;
  mean: Mean;
  look: "dark" | "bright";
}

export function wayOf(field: Field): Way {
  const slopes = gradients(field);
  return { field, slopes, edges: edgesOf(field, slopes), mean: totals(field), look: "dark" };
}

/** Each size once; one that is not square also turned. */
export function sizesOf(packages: readonly Package[]): Package[] {
  const all = packages.flatMap((pack) => [pack, { ...pack, widthMm: pack.heightMm, heightMm: pack.widthMm }]);
  return [...new Map(all.map((one) => [`${one.kind} ${one.widthMm} ${one.heightMm}`, one])).values()];
}

/** Where a package of this size shows all its sides; places beside a better one of the same size are left out. */
export function rectangles({ field: { wide, high }, edges, mean, look }: Way, pack: Package): Candidate[] {
  const w = cells(pack.widthMm);
  const h = cells(pack.heightMm);
  const scores = new Float32Array(wide * high);
  for (let y = 1; y + h < high; y++)
    for (let x = 1; x + w < wide; x++) scores[y * wide + x] = sideScore(edges, edges[look], x, y, w, h);
  const found: Candidate[] = [];
  for (let y = 1; y + h < high; y++)
    for (let x = 1; x + w < wide; x++) {
      const score = scores[y * wide + x] ?? 0;
      if (score < SEEN.alone || !isPeak(scores, wide, x, y, score)) continue;
      if (standsOut(mean, look, x, y, w, h)) found.push({ ...boxAt(x, y, w, h, pack), pack, score });
    }
  return found;
}

export const boxAt = (
  x: number,
  y: number,
  w: number,
  h: number,
  size: { widthMm: number; heightMm: number },
): Box => ({
  xMm: (x + w / 2 + 0.5) * CELL_MM,
  yMm: (y + h / 2 + 0.5) * CELL_MM,
  widthMm: size.widthMm,
  heightMm: size.heightMm,
});

function isPeak(scores: Float32Array, wide: number, x: number, y: number, score: number): boolean {
  for (let oy = -3; oy <= 3; oy++)
    for (let ox = -3; ox <= 3; ox++) if ((scores[(y + oy) * wide + x + ox] ?? 0) > score) return false;
  return true;
}

/** A frame of one and a half millimetres around it is brighter (or, where it is bright, darker) on at least three sides. */
function standsOut(mean: Mean, look: Way["look"], x: number, y: number, w: number, h: number): boolean {
  const sign = look === "dark" ? 1 : -1;
  const inside = mean(x + 2, y + 2, x + w - 1, y + h - 1);
  const out = 6;
  const sides = [
    mean(x - out, y, x - 1, y + h),
    mean(x + w + 1, y, x + w + out, y + h),
    mean(x, y - out, x + w, y - 1),
    mean(x, y + h + 1, x + w, y + h + out),
  ];
  return sides.filter((side) => sign * (side - inside) > DARKER).length >= 3;
}

/** The best of those that lie over one another. */
export function apart<T extends Box & { score: number }>(
  candidates: readonly T[],
  rank: (one: T) => number = ({ score }) => score,
): T[] {
  const kept: T[] = [];
  const ranked = candidates.map((one) => ({ one, at: rank(one) })).toSorted((a, b) => b.at - a.at);
  for (const { one } of ranked)
    if (kept.length < MOST && !kept.some((other) => overlap(one, other, 0.4))) kept.push(one);
  return kept;
}

/** Each side moved to where the brightness changes most along it. */
export function sharpened<T extends Box>(box: T, { slopes: { gx, gy }, field: { wide } }: Way, reach: number): T {
  const sides = {
    left: Math.round((box.xMm - box.widthMm / 2) / CELL_MM),
    right: Math.round((box.xMm + box.widthMm / 2) / CELL_MM),
    upper: Math.round((box.yMm - box.heightMm / 2) / CELL_MM),
    lower: Math.round((box.yMm + box.heightMm / 2) / CELL_MM),
  };
  const strongest = (from: Float32Array, at: number, low: number, high: number, down: boolean): number => {
    let best = at;
    let most = 0;
    for (let off = at - reach; off <= at + reach; off++) {
      let sum = 0;
      for (let k = low + 4; k <= high - 4; k++) sum += from[down ? k * wide + off : off * wide + k] ?? 0;
      if (Math.abs(sum) > most) {
        most = Math.abs(sum);
        best = off;
      }
    }
    return best;
  };
  const left = strongest(gx, sides.left, sides.upper, sides.lower, true);
  const right = strongest(gx, sides.right, sides.upper, sides.lower, true);
  const upper = strongest(gy, sides.upper, sides.left, sides.right, false);
  const lower = strongest(gy, sides.lower, sides.left, sides.right, false);
  return {
    ...box,
    xMm: ((left + right + 1) / 2) * CELL_MM,
    yMm: ((upper + lower + 1) / 2) * CELL_MM,
    widthMm: (right - left) * CELL_MM,
    heightMm: (lower - upper) * CELL_MM,
  };
}

/** The best place within a millimetre and a half of one that is asked for. */
export function near(wish: Candidate, { edges, mean, look }: Way): Candidate | null {
  const w = cells(wish.widthMm);
  const h = cells(wish.heightMm);
  const x0 = Math.round(wish.xMm / CELL_MM - w / 2 - 0.5);
  const y0 = Math.round(wish.yMm / CELL_MM - h / 2 - 0.5);
  let best: Candidate | null = null;
  for (let y = y0 - 6; y <= y0 + 6; y++)
    for (let x = x0 - 6; x <= x0 + 6; x++) {
      const score = sideScore(edges, edges[look], x, y, w, h);
      if (score >= SEEN.expected && score > (best?.score ?? 0) && standsOut(mean, look, x, y, w, h))
        best = { ...wish, ...boxAt(x, y, w, h, wish), score };
    }
  return best;
}
