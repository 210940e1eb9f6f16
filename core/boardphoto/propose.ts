import { type Box, overlap, type Package, type PartKind } from "../boardmap/index.ts";
import { type Circle, circlesOf } from "./circles.ts";
import { CELL_MM, colouring, fieldOf } from "./field.ts";
import { memoryAndDie } from "./memory.ts";
import { MOST, sharpened, type Way, wayOf } from "./seen.ts";
import { smallParts } from "./small.ts";

/** Something that may be on the board: a part of a known size, the die, or a hole. */
export interface Proposal extends Box {
  what: "part" | "die" | "hole";
  kind: PartKind | null;
  /** Of the part, null where no package gives it. */
  tallMm: number | null;
  /** 0…1: how often such a one is there, on drawn boards. */
  confidence: number;
}

/**
 * @param pixels RGBA of the straightened photo, row by row from the top
 * @param place where the photo lies on the board
 * @param packages known sizes, each looked for upright and turned
 * @returns the surest first, none over another
 */
export function proposeParts(
  pixels: Uint8ClampedArray,
  width: number,
  height: number,
  place: Box,
  packages: readonly Package[],
): Proposal[] {
  const dark = wayOf(fieldOf(pixels, width, height, place));
  const grey = wayOf(fieldOf(pixels, width, height, place, colouring));
  const { ring, die } = memoryAndDie(dark, packages);
  const isFree = (one: Box): boolean => ![...ring, ...(die ? [die] : [])].some((other) => overlap(other, one));
  const small = smallParts(dark, grey, packages, isFree);
  const parts = [...ring.map((one) => ({ ...one, most: 0.98 })), ...small.parts].map((one) => ({
    ...one,
    ...middleBy(sharpened(one, dark, PART_REACH)),
  }));
  const holes = holesIn(dark).filter(
    (hole) => isFree(hole) && ![...parts, ...small.cans].some((part) => overlap(part, hole)),
  );
  const onBoard = (box: Box): Box => ({
    widthMm: box.widthMm,
    heightMm: box.heightMm,
    xMm: place.xMm - place.widthMm / 2 + box.xMm,
    yMm: place.yMm + place.heightMm / 2 - box.yMm,
  });
  const part = (one: Box & { pack: Package }, confidence: number): Proposal => ({
    ...onBoard(one),
    what: "part",
    kind: one.pack.kind,
    tallMm: one.pack.tallMm,
    confidence,
  });
  const other = (what: "die" | "hole", box: Box, confidence: number): Proposal => ({
    ...onBoard(box),
    what,
    kind: null,
    tallMm: null,
    confidence,
  });
  return [
    ...(die ? [other("die", die, sure(die.score))] : []),
    ...small.cans.map((one) => part(one, ROUND_SURE)),
    ...parts.map((one) => part(one, Math.min(one.most, sure(one.score)))),
    ...holes.map((hole) => other("hole", hole, hole.score === 1 ? 0.9 : 0.7)),
  ].toSorted((a, b) => b.confidence - a.confidence);
}

const HOLE_RADII_MM = [1.35, 1.6, 1.85];
/** Heads of the screws that usually go through them; what is cut into a head does not count. */
const HEAD_RADII_MM = [2.2, 2.45, 2.7];
const APART_MM = 5;

/** Holes, and heads of screws in them: of those that lie close together the best. */
function holesIn({ field, slopes }: Way): Array<Box & { score: number }> {
  return [...circlesOf(field, slopes, HOLE_RADII_MM), ...circlesOf(field, slopes, HEAD_RADII_MM, "ring")]
    .toSorted((a, b) => b.score - a.score)
    .reduce<Circle[]>((kept, one) => {
      const near = kept.some((known) => Math.hypot(one.x - known.x, one.y - known.y) * CELL_MM < APART_MM);
      return near || kept.length >= MOST ? kept : [...kept, one];
    }, [])
    .map(({ x, y, score }) => ({ xMm: x * CELL_MM, yMm: y * CELL_MM, widthMm: 3.2, heightMm: 3.2, score }));
}

/** From a score to how often it was right on drawn boards: coarse on purpose. */
const sure = (score: number): number => Math.min(0.98, Math.max(0.3, 0.4 + 1.5 * (score - 0.5)));
/** Round cans are not in the way of most coolers’ faces: asked about one by one. */
const ROUND_SURE = 0.7;

/** How far a side of a part may be off, cells. */
const PART_REACH = 4;

/** A package keeps its size: only its middle is corrected. */
const middleBy = ({ xMm, yMm }: Box): Pick<Box, "xMm" | "yMm"> => ({ xMm, yMm });
