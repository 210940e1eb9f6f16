import { type Box, overlap, type Package } from "../boardmap/index.ts";
import { circlesOf } from "./circles.ts";
import { CELL_MM } from "./field.ts";
import { apart, type Candidate, near, rectangles, sharpened, sizesOf, type Way } from "./seen.ts";

/** Of a part, the surest that can be said of it. */
export type SmallPart = Candidate & { most: number };

/**
 * All but memory and die: dark packages, rows of chokes that are seldom darker than a board, round cans.
 * @param dark the photo’s brightness; @param grey how coloured it is; @param isFree whether memory and die leave a place
 */
export function smallParts(
  dark: Way,
  grey: Way,
  packages: readonly Package[],
  isFree: (one: Box) => boolean,
): { parts: SmallPart[]; cans: Can[] } {
  const sizes = sizesOf(packages.filter(({ kind }) => kind !== "memory"));
  const seen = apart(
    sizes.flatMap((pack) => rectangles(dark, pack)),
    (one) => bySize(one, dark),
  );
  const plain = inRows(seen.filter(isFree), packages);
  const cans = apart([...circlesIn(dark, packages), ...circlesIn(grey, packages)]).filter(isFree);
  const rows = paleRows([{ ...dark, look: "bright" }, grey], packages).filter(
    (one) =>
      isFree(one) &&
      !cans.some((can) => overlap(can, one)) &&
      !plain.some((other) => other.most > PALE_MOST && overlap(other, one)),
  );
  // What is left of a row of cans is none.
  const pale = rows.filter((one) => inRow(one, rows) >= ROW.least);
  const beside = plain.filter(
    (one) => one.most > PALE_MOST || ![...pale, ...cans].some((other) => overlap(other, one)),
  );
  return { parts: [...beside, ...pale], cans };
}

/** How much worse a size counts by each millimetre it is off what is measured. */
const OFF_A_MM = 0.08;
const MOST_OFF = 0.25;
/** How far a side may be off, cells. */
const SIZE_REACH = 6;

/** Small packages differ by little more than the slack of their sides: of those that explain one place the size that is measured there. */
function bySize(one: Candidate, way: Way): number {
  const { widthMm, heightMm } = sharpened(one, way, SIZE_REACH);
  const offMm = Math.abs(widthMm - one.widthMm) + Math.abs(heightMm - one.heightMm);
  return one.score - Math.min(MOST_OFF, OFF_A_MM * offMm);
}

export interface Can extends Box {
  pack: Package;
  score: number;
}

/** Capacitors of known widths: what is square among them is looked for as a rectangle. */
function circlesIn({ field, slopes }: Way, packages: readonly Package[]): Can[] {
  const cans = packages.filter(({ kind, widthMm, heightMm }) => kind === "capacitor" && widthMm === heightMm);
  return cans.flatMap((pack) =>
    circlesOf(field, slopes, [pack.widthMm / 2]).map(({ x, y, score }) => ({
      xMm: x * CELL_MM,
      yMm: y * CELL_MM,
      widthMm: pack.widthMm,
      heightMm: pack.heightMm,
      pack,
      score,
    })),
  );
}

/** No surer than a row of dark ones. */
const PALE_MOST = 0.85;

/**
 * Rows of chokes: their bodies are seldom darker than a painted board, but greyer, or brighter than a black one. One way of seeing them holds
 * for a whole row, which has to be as long as one of dark parts.
 */
function paleRows(ways: readonly Way[], packages: readonly Package[]): SmallPart[] {
  const sizes = sizesOf(packages.filter(({ kind }) => kind === "choke"));
  return apart(
    ways.flatMap((way) => {
      const seen = apart(sizes.flatMap((pack) => rectangles(way, pack)));
      return filled(
        seen.filter((one) => inRow(one, seen) >= ROW.least),
        way,
      );
    }),
  ).map((one) => ({ ...one, most: PALE_MOST }));
}

/** Rows with what is hard to see in them: in a gap of two steps, and one step beyond either end. */
function filled(row: readonly Candidate[], way: Way): Candidate[] {
  const kept = [...row];
  for (const one of row)
    for (const other of row) {
      if (other === one || other.pack !== one.pack) continue;
      const [dx, dy] = [other.xMm - one.xMm, other.yMm - one.yMm];
      const [long, short] = [Math.max(Math.abs(dx), Math.abs(dy)), Math.min(Math.abs(dx), Math.abs(dy))];
      if (short > ROW.offMm || long > 2 * ROW.apartMm) continue;
      const wishes = [
        { ...one, xMm: one.xMm + dx / 2, yMm: one.yMm + dy / 2 },
        ...(long <= ROW.apartMm ? [{ ...other, xMm: other.xMm + dx, yMm: other.yMm + dy }] : []),
      ];
      for (const wish of wishes) {
        if (kept.some((known) => overlap(known, wish))) continue;
        const found = near(wish, way);
        if (found && !kept.some((known) => overlap(known, found))) kept.push(found);
      }
    }
  return kept;
}

/** So many of one size in line, each next to the other, are a row of power parts; clutter seldom is. */
const ROW = { least: 4, apartMm: 20, offMm: 0.9 };

/** How many of one size stand in line with it, each next to the other. */
function inRow(one: Candidate, all: readonly Candidate[]): number {
  const line = (along: "xMm" | "yMm", across: "xMm" | "yMm"): number => {
    const same = all
      .filter((other) => other.pack.kind === one.pack.kind && Math.abs(other[across] - one[across]) < ROW.offMm)
      .map((other) => other[along])
      .toSorted((a, b) => a - b);
    const at = same.indexOf(one[along]);
    let count = 1;
    for (let k = at; k > 0 && (same[k] ?? 0) - (same[k - 1] ?? 0) < ROW.apartMm; k--) count++;
    for (let k = at; k < same.length - 1 && (same[k + 1] ?? 0) - (same[k] ?? 0) < ROW.apartMm; k++) count++;
    return count;
  };
  return Math.max(line("xMm", "yMm"), line("yMm", "xMm"));
}

/** Chokes and controllers may be of one size: those in a row are chokes, a single one is a controller. */
const LIKELY = { row: "choke", single: "controller" } as const;

/** Small parts out of a row need to be seen better, and are never called sure. */
function inRows(candidates: readonly Candidate[], packages: readonly Package[]): SmallPart[] {
  return candidates.flatMap((one) => {
    const row = inRow(one, candidates);
    if (row < 2 && one.score < 0.86) return [];
    const likely = LIKELY[row < ROW.least ? "single" : "row"];
    const alike =
      one.pack.kind === LIKELY.row || one.pack.kind === LIKELY.single
        ? packages.find(
            ({ kind, widthMm, heightMm }) => kind === likely && widthMm === one.widthMm && heightMm === one.heightMm,
          )
        : undefined;
    return [{ ...one, pack: alike ?? one.pack, most: row >= ROW.least ? 0.9 : 0.6 }];
  });
}
