import type { Space } from "./packing.ts";

/** One cut along a ruler, from edge to edge of what is in hand. */
export interface CutLine {
  x0Mm: number;
  y0Mm: number;
  x1Mm: number;
  y1Mm: number;
}

const SLACK_MM = 1e-6;

interface Region extends Space {
  placed: readonly Space[];
}

/** Beyond so many parts in hand the next cut is chosen by what it frees at once. */
const MOST_REGIONS = 3000;

/**
 * The order of cuts that frees every piece: each goes from edge to edge of the part in hand; the part it leaves is cut next.
 * Of the cuts that cross no piece, those lead on that keep the largest whole left-over in the end; among them the one that frees most at
 * once comes first.
 * @returns cuts in their order and the rectangles that stay whole, largest first; where pieces can't be freed by straight cuts the
 * region is left uncut and `stuck` is true
 */
export function cutLines(
  sheet: { widthMm: number; heightMm: number },
  placed: readonly Space[],
): { cuts: CutLine[]; leftOvers: Space[]; stuck: boolean } {
  const cuts: CutLine[] = [];
  const leftOvers: Space[] = [];
  let stuck = false;
  const known = new Map<string, Best>();
  const open: Region[] = [{ xMm: 0, yMm: 0, widthMm: sheet.widthMm, heightMm: sheet.heightMm, placed }];
  for (let region = open.pop(); region; region = open.pop()) {
    const { xMm, yMm, widthMm, heightMm } = region;
    if (region.placed.length === 0) {
      leftOvers.push({ xMm, yMm, widthMm, heightMm });
      continue;
    }
    if (isPiece(region)) continue;
    const { cut } = bestOf(region, known);
    if (!cut) {
      stuck = true;
      continue;
    }
    cuts.push(
      cut.along === "x"
        ? { x0Mm: cut.at, y0Mm: yMm, x1Mm: cut.at, y1Mm: yMm + heightMm }
        : { x0Mm: xMm, y0Mm: cut.at, x1Mm: xMm + widthMm, y1Mm: cut.at },
    );
    open.push(cut.high, cut.low);
  }
  return { cuts, leftOvers: leftOvers.sort((a, b) => areaOf(b) - areaOf(a)), stuck };
}

const areaOf = ({ widthMm, heightMm }: Space): number => widthMm * heightMm;

function isPiece({ placed, widthMm, heightMm }: Region): boolean {
  const [only] = placed;
  return (
    only !== undefined &&
    placed.length === 1 &&
    Math.abs(only.widthMm - widthMm) < SLACK_MM &&
    Math.abs(only.heightMm - heightMm) < SLACK_MM
  );
}

interface Cut {
  along: "x" | "y";
  at: number;
  low: Region;
  high: Region;
}

interface Best {
  /** Largest left-over that this part comes to, mm². */
  whole: number;
  cut?: Cut;
}

function bestOf(region: Region, known: Map<string, Best>): Best {
  if (region.placed.length === 0) return { whole: areaOf(region) };
  if (isPiece(region)) return { whole: 0 };
  const key = [region.xMm, region.yMm, region.widthMm, region.heightMm].map((mm) => mm.toFixed(4)).join(" ");
  const seen = known.get(key);
  if (seen) return seen;
  const atOnce = ({ low, high }: Cut): number =>
    Math.max(0, ...[low, high].map((part) => (part.placed.length === 0 ? areaOf(part) : 0)));
  const cuts = cutsOf(region)
    .map((cut) => ({ cut, freed: atOnce(cut) }))
    .sort((a, b) => b.freed - a.freed);
  let best: Best = { whole: 0 };
  known.set(key, best);
  for (const { cut, freed } of cuts) {
    const whole =
      known.size > MOST_REGIONS ? freed : Math.max(bestOf(cut.low, known).whole, bestOf(cut.high, known).whole);
    if (!best.cut || whole > best.whole + SLACK_MM) best = { whole, cut };
  }
  known.set(key, best);
  return best;
}

/** Every cut from edge to edge that crosses no piece. */
function cutsOf(region: Region): Cut[] {
  return (["x", "y"] as const).flatMap((along) => {
    const start = along === "x" ? region.xMm : region.yMm;
    const length = along === "x" ? region.widthMm : region.heightMm;
    const from = (one: Space): number => (along === "x" ? one.xMm : one.yMm);
    const to = (one: Space): number => from(one) + (along === "x" ? one.widthMm : one.heightMm);
    return [...new Set(region.placed.flatMap((one) => [from(one), to(one)]))].flatMap((at): Cut[] => {
      if (at <= start + SLACK_MM || at >= start + length - SLACK_MM) return [];
      if (region.placed.some((one) => from(one) < at - SLACK_MM && to(one) > at + SLACK_MM)) return [];
      const low: Region = {
        ...region,
        ...(along === "x" ? { widthMm: at - start } : { heightMm: at - start }),
        placed: region.placed.filter((one) => to(one) <= at + SLACK_MM),
      };
      const high: Region = {
        ...region,
        ...(along === "x" ? { xMm: at, widthMm: start + length - at } : { yMm: at, heightMm: start + length - at }),
        placed: region.placed.filter((one) => to(one) > at + SLACK_MM),
      };
      return [{ along, at, low, high }];
    });
  });
}
