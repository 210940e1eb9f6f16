import { nth } from "../numeric/index.ts";
import type { Random } from "../random/index.ts";
import { type Attempt, attemptOf, type Packer, type Used } from "./fill.ts";
import type { Item, Placed, Rules } from "./packing.ts";

const TRIES = 24;
const SLACK_MM = 1e-6;

const itemOf = ({ kind, widthMm, heightMm, rotated }: Placed): Item =>
  rotated ? { kind, widthMm: heightMm, heightMm: widthMm } : { kind, widthMm, heightMm };

/**
 * The same pieces on the same sheets, moved together so that a strip along one side of a sheet stays whole, if that is larger than
 * anything left over so far: sheets are packed anew as if they were narrower, by halving between what the pieces' area needs and what
 * would be no gain.
 * @param anyPacker another way to pack each time
 * @param ends whether to stop early
 */
export function withLargerLeftOver(
  attempt: Attempt,
  rules: Rules,
  anyPacker: (random: Random) => Packer,
  random: Random,
  ends: () => boolean,
): Attempt {
  let best = attempt;
  attempt.used.forEach((used, index) => {
    for (const side of ["widthMm", "heightMm"] as const) {
      const other = side === "widthMm" ? "heightMm" : "widthMm";
      const items = used.placed.map(itemOf);
      const areaMm2 = items.reduce((sum, one) => sum + one.widthMm * one.heightMm, 0);
      const most = used.sheet[side] - rules.cutGapMm - best.leftover / used.sheet[other];
      const lengths = lengthsOf(items, side, rules, areaMm2 / used.sheet[other], most);
      let [low, high] = [0, lengths.length];
      while (low < high && !ends()) {
        const middle = (low + high) >> 1;
        const found = packedInto(used, side, nth(lengths, middle), items, rules, anyPacker, random);
        if (!found) {
          low = middle + 1;
          continue;
        }
        high = middle;
        best = attemptOf(
          best.used.map((one, at) => (at === index ? found : one)),
          best.left,
        );
      }
    }
  });
  return best;
}

const MOST_LENGTHS = 400;

/** Sums of piece lengths between two lengths, rising. */
function lengthsOf(
  items: readonly Item[],
  side: "widthMm" | "heightMm",
  { rotate, cutGapMm: gap }: Rules,
  least: number,
  most: number,
): number[] {
  const single = new Set(items.flatMap((item) => (rotate ? [item.widthMm, item.heightMm] : [item[side]])));
  const sums = new Set([0]);
  for (const sum of sums)
    for (const one of single) {
      const next = Math.round((sum + (sum > 0 ? gap : 0) + one) * 1000) / 1000;
      if (next < most - SLACK_MM && sums.size < MOST_LENGTHS) sums.add(next);
    }
  return [...sums].filter((one) => one > 0 && one >= least - SLACK_MM).sort((a, b) => a - b);
}

function packedInto(
  { sheet }: Used,
  side: "widthMm" | "heightMm",
  lengthMm: number,
  items: readonly Item[],
  rules: Rules,
  anyPacker: (random: Random) => Packer,
  random: Random,
): Used | undefined {
  const narrow = { ...sheet, [side]: lengthMm };
  for (let turn = 0; turn < TRIES; turn++) {
    const { placed, left, spaces } = anyPacker(random)(turn === 0 ? items : random.shuffled(items), narrow);
    if (left.length > 0) continue;
    const from = lengthMm + rules.cutGapMm;
    const strip =
      side === "widthMm"
        ? { xMm: from, yMm: 0, widthMm: sheet.widthMm - from, heightMm: sheet.heightMm }
        : { xMm: 0, yMm: from, widthMm: sheet.widthMm, heightMm: sheet.heightMm - from };
    return { sheet, placed, spaces: [strip, ...spaces] };
  }
  return undefined;
}
