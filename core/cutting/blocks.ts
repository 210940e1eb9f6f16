import type { Random } from "../random/index.ts";
import type { Item, Packed, Placed, Rules, Space } from "./packing.ts";

/** How blocks are weighed in one filling. */
export interface Taste {
  /** Share of chance in each choice. */
  noise: number;
  /** How much a wide strip left beside a block counts against it. */
  strictness: number;
  /** The larger rest of a space stays whole with this probability. */
  keepLong: number;
}

export const anyTaste = (random: Random): Taste => ({
  noise: random.pick([0, 0.05, 0.15, 0.4]),
  strictness: random.pick([0.5, 1, 2, 4]),
  keepLong: random.pick([0, 0.5, 1]),
});

interface Block {
  kind: number;
  rotated: boolean;
  widthMm: number;
  heightMm: number;
  across: number;
  along: number;
}

const SLACK_MM = 1e-6;

/**
 * Fills one sheet with blocks: arrays of like pieces, laid so that a block ends where its space ends if it can; straight cuts only.
 * Where many pieces are alike this finds close packings that single pieces one after the other hardly do.
 */
export function packBlocks(
  items: readonly Item[],
  sheet: { widthMm: number; heightMm: number },
  rules: Pick<Rules, "cutGapMm" | "rotate">,
  taste: Taste,
  random: Random,
): Packed {
  const kinds = new Map<number, Item[]>();
  for (const item of items) kinds.set(item.kind, [...(kinds.get(item.kind) ?? []), item]);
  const open: Space[] = [{ xMm: 0, yMm: 0, widthMm: sheet.widthMm, heightMm: sheet.heightMm }];
  const placed: Placed[] = [];
  const spaces: Space[] = [];
  for (let space = takeSmallest(open); space; space = takeSmallest(open)) {
    const block = bestBlock(space, kinds, rules, taste, random);
    if (!block) {
      spaces.push(space);
      continue;
    }
    lay(block, space, kinds, rules.cutGapMm, placed);
    open.push(...rest(space, block, rules.cutGapMm, random.uniform() < taste.keepLong));
  }
  return { placed, left: [...kinds.values()].flat(), spaces };
}

/** Small spaces first: what fits them fits little else. */
function takeSmallest(open: Space[]): Space | undefined {
  let least = 0;
  open.forEach((one, index) => {
    const best = open[least];
    if (best && one.widthMm * one.heightMm < best.widthMm * best.heightMm) least = index;
  });
  return open.splice(least, 1)[0];
}

function bestBlock(
  space: Space,
  kinds: ReadonlyMap<number, readonly Item[]>,
  { cutGapMm: gap, rotate }: Pick<Rules, "cutGapMm" | "rotate">,
  { noise, strictness }: Taste,
  random: Random,
): Block | undefined {
  let best: Block | undefined;
  let bestScore = Number.NEGATIVE_INFINITY;
  for (const [kind, items] of kinds) {
    const [item] = items;
    if (!item) continue;
    for (const rotated of rotate && item.widthMm !== item.heightMm ? [false, true] : [false]) {
      const w = rotated ? item.heightMm : item.widthMm;
      const h = rotated ? item.widthMm : item.heightMm;
      const mostAcross = Math.floor((space.widthMm + gap + SLACK_MM) / (w + gap));
      const mostAlong = Math.floor((space.heightMm + gap + SLACK_MM) / (h + gap));
      for (let across = Math.min(mostAcross, items.length); across >= 1; across--) {
        const along = Math.min(mostAlong, Math.floor(items.length / across));
        if (along < 1) continue;
        const widthMm = across * (w + gap) - gap;
        const heightMm = along * (h + gap) - gap;
        // A strip narrower than any piece is lost; the share that is filled of the space's tighter side counts.
        const wide = widthMm / space.widthMm;
        const high = heightMm / space.heightMm;
        const score =
          Math.max(wide, high) ** (4 * strictness) + 0.3 * Math.min(wide, high) + noise * (random.uniform() - 0.5) * 2;
        if (score > bestScore) {
          bestScore = score;
          best = { kind, rotated, widthMm, heightMm, across, along };
        }
      }
    }
  }
  return best;
}

function lay(block: Block, space: Space, kinds: Map<number, Item[]>, gap: number, placed: Placed[]): void {
  const items = kinds.get(block.kind) ?? [];
  for (let column = 0; column < block.across; column++)
    for (let row = 0; row < block.along; row++) {
      const item = items.pop();
      if (!item) return;
      const widthMm = block.rotated ? item.heightMm : item.widthMm;
      const heightMm = block.rotated ? item.widthMm : item.heightMm;
      placed.push({
        ...item,
        widthMm,
        heightMm,
        xMm: space.xMm + column * (widthMm + gap),
        yMm: space.yMm + row * (heightMm + gap),
        rotated: block.rotated,
      });
    }
}

/** What is left of a space beside and above a block, parted by one cut from edge to edge. */
function rest(space: Space, { widthMm, heightMm }: Block, gap: number, keepLong: boolean): Space[] {
  const beside = space.widthMm - widthMm - gap;
  const above = space.heightMm - heightMm - gap;
  const upright = beside > above === keepLong;
  return [
    {
      xMm: space.xMm + widthMm + gap,
      yMm: space.yMm,
      widthMm: beside,
      heightMm: upright ? space.heightMm : heightMm,
    },
    {
      xMm: space.xMm,
      yMm: space.yMm + heightMm + gap,
      widthMm: upright ? widthMm : space.widthMm,
      heightMm: above,
    },
  ].filter((one) => one.widthMm > SLACK_MM && one.heightMm > SLACK_MM);
}
