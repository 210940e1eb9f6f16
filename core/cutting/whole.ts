import { nth } from "../numeric/index.ts";
import type { Random } from "../random/index.ts";
import { type Attempt, attemptOf, cheaperSets, type Used } from "./fill.ts";
import { fillByJoins, type Joined, kindsOf, lay } from "./joins.ts";
import type { Item, Placed, Rules } from "./packing.ts";
import type { Sheet } from "./problem.ts";

/**
 * Which pieces a rectangle is of. The counts of its kinds, read as the digits of one number where that is exact (a digit of each kind goes up
 * to as many as there are), so that marks of joined rectangles are sums; else written out.
 */
type Mark = number | string;

interface Block extends Joined {
  /** Sides in thousandths of a millimetre, so that equal ones are found. */
  width: number;
  height: number;
  /** Which pieces it is of: equal for the same ones only. */
  mark: Mark;
}

/**
 * How many rectangles are kept at most (forty different pieces give fewer; like pieces give more, and are packed well by other ways), and
 * how many choices of full sheets are tried for a set that leaves something over.
 */
const TIMED = { blocks: 120_000, draws: 400 };
const UNTIMED = { blocks: 10_000, draws: 20 };
type Effort = typeof TIMED & { stop: () => boolean };
const MOST_COUNT = 255;
const PER_MM = 1000;
/** The exact cover ends after so many full sheets were tried. */
const MOST_TRIED = 20_000;
/** Of the time, with one cheaper set of sheets to fill and with many. */
const MOST_SHARE = 0.6;
const LEAST_SHARE = 0.1;
/** Of so many full sheets drawn, the one with the rarest pieces is taken. */
const DRAWN = 3;
/** Rectangles joined for the sheets that are not filled whole. */
const MOST_JOINS = 600;
const EPSILON = 1e-9;

/**
 * A plan on cheaper sheets than those known, most of them filled to the last by straight cuts; undefined where none is found, or where
 * cuts take something away. Rectangles are joined only where their sides are equal, looked up by that side, so that even of many
 * different pieces all joins without waste are soon known. Where the pieces have the very area of the sheets, it is an exact cover which
 * of the full sheets go together, begun each time with the piece that is in the fewest of them; else the last sheet or two hold what the
 * full ones leave.
 * @param limits no plan costs less than `bound`; only those below `below` are wanted
 * @param stopAt tells when a share of the time is over; undefined where there is no clock
 */
export function byWholeSheets(
  items: readonly Item[],
  stock: readonly Sheet[],
  rules: Rules,
  { bound, below }: { bound: number; below: number },
  random: Random,
  stopAt: (share: number) => (() => boolean) | undefined,
): Attempt | undefined {
  const area = areaOf(items);
  const sets = rules.cutGapMm > 0 ? [] : cheaperSets(stock, area, bound, below);
  const kinds = kindsOf(items);
  if (sets.length === 0 || [...kinds.values()].some((own) => own.length > MOST_COUNT)) return undefined;
  const have = Uint8Array.from(kinds.values(), (own) => own.length);
  // Where many sets are cheaper, other ways find one of them as well.
  const stop = stopAt(Math.max(LEAST_SHARE, MOST_SHARE / sets.length));
  const effort = { ...(stop ? TIMED : UNTIMED), stop: stop ?? (() => false) };
  const sizes = new Map(sets.flat().map((sheet) => [sizeOf(sheet), sheet]));
  const full = new Map<string, Joined[]>([...sizes.keys()].map((size) => [size, []]));
  for (const block of blocksOf([...kinds.values()], have, [...sizes.values()], rules.rotate, effort))
    full.get(sizeOf(block))?.push(block);
  const cheapestFirst = sets
    .map((set) => ({ set, cost: set.reduce((sum, sheet) => sum + sheet.price, 0), room: areaOf(set) - area }))
    .sort((a, b) => a.cost - b.cost || b.room - a.room);
  for (const { set, room } of cheapestFirst) {
    if (effort.stop()) break;
    const found =
      room < area * EPSILON
        ? coverAll(set, full, items, have, random, effort)
        : coverSome(set, full, items, have, rules, room, random, effort);
    if (found) return attemptOf(found, []);
  }
  return undefined;
}

const areaOf = (all: ReadonlyArray<{ widthMm: number; heightMm: number }>): number =>
  all.reduce((sum, one) => sum + one.widthMm * one.heightMm, 0);

const thousandths = (mm: number): number => Math.round(mm * PER_MM);

const sizeOf = ({ widthMm, heightMm }: { widthMm: number; heightMm: number }): string =>
  `${thousandths(widthMm)} ${thousandths(heightMm)}`;

/** Every sheet of the set is full; which pieces are on which is an exact cover. */
function coverAll(
  set: readonly Sheet[],
  full: ReadonlyMap<string, readonly Joined[]>,
  items: readonly Item[],
  have: Uint8Array,
  random: Random,
  { stop }: Effort,
): Used[] | undefined {
  const choices = random.shuffled([...full].flatMap(([size, blocks]) => blocks.map((block) => ({ block, size }))));
  let tried = 0;
  const picks = cover(choices, have, set.map(sizeOf), () => tried++ > MOST_TRIED || stop());
  if (!picks) return undefined;
  const open = [...set];
  const kinds = kindsOf(items);
  return picks.map(({ block, size }) => {
    const at = open.findIndex((one) => sizeOf(one) === size);
    const [sheet] = open.splice(at, 1);
    return laidOn(sheet as Sheet, block, kinds);
  });
}

/** All sheets but one or two are full, drawn by chance; those hold the rest, joined with what waste there may be. */
function coverSome(
  set: readonly Sheet[],
  full: ReadonlyMap<string, readonly Joined[]>,
  items: readonly Item[],
  have: Uint8Array,
  rules: Rules,
  room: number,
  random: Random,
  { draws, stop }: Effort,
): Used[] | undefined {
  const held = new Float64Array(have.length);
  for (const blocks of full.values())
    for (const { counts } of blocks)
      for (let kind = 0; kind < held.length; kind++) held[kind] = nth(held, kind) + nth(counts, kind);
  const rarity = ({ counts }: Joined): number =>
    counts.reduce((sum, count, kind) => sum + (count > 0 ? count / nth(held, kind) : 0), 0);
  for (let draw = 0; draw < draws && !stop(); draw++) {
    const sheets = random.shuffled(set);
    const last = sheets.splice(0, Math.min(sheets.length, draw % 4 === 3 ? 2 : 1));
    let left = have;
    let open = full;
    const kinds = kindsOf(items);
    const used: Used[] = [];
    for (const sheet of sheets) {
      const own = open.get(sizeOf(sheet)) ?? [];
      if (own.length === 0) break;
      const drawn = Array.from({ length: DRAWN }, () => own[Math.floor(random.uniform() * own.length)] as Joined);
      const block = drawn.reduce((best, one) => (rarity(one) > rarity(best) ? one : best));
      left = left.map((count, kind) => count - nth(block.counts, kind));
      open = new Map([...open].map(([size, blocks]) => [size, blocks.filter((one) => within(one.counts, left))]));
      used.push(laidOn(sheet, block, kinds));
    }
    if (used.length < sheets.length) continue;
    const waste = Math.min(0.3, room / areaOf(last));
    const taste = { waste, most: MOST_JOINS, loose: 0.01 };
    const rest = fillByJoins([...kinds.values()].flat(), last, rules, taste, random);
    if (rest.left.length === 0) return [...used, ...rest.used];
  }
  return undefined;
}

const within = (counts: Uint8Array, left: Uint8Array): boolean =>
  counts.every((count, kind) => count <= nth(left, kind));

function laidOn(sheet: Sheet, block: Joined, kinds: Map<number, Item[]>): Used {
  const placed: Placed[] = [];
  lay(block, 0, 0, kinds, 0, placed);
  return { sheet, placed, spaces: [] };
}

const SIDES = 2 ** 21;

/** Rectangles by their sides. */
class Shelf {
  readonly #rows = new Map<number, Map<number, Block[]>>();
  readonly #seen = new Map<number, Set<Mark>>();

  /** False where the same pieces have made this size before. */
  isNew(width: number, height: number, mark: Mark): boolean {
    const size = width * SIDES + height;
    const known = this.#seen.get(size) ?? new Set<Mark>();
    this.#seen.set(size, known);
    if (known.has(mark)) return false;
    known.add(mark);
    return true;
  }

  put(side: number, other: number, block: Block): void {
    const row = this.#rows.get(side) ?? new Map<number, Block[]>();
    this.#rows.set(side, row);
    const own = row.get(other);
    if (own) own.push(block);
    else row.set(other, [block]);
  }

  /** Those with this side, the other no longer than `most`. */
  each(side: number, most: number, visit: (block: Block) => void): void {
    this.#rows.get(side)?.forEach((own, other) => {
      if (other > most) return;
      for (let at = 0, end = own.length; at < end; at++) visit(own[at] as Block);
    });
  }
}

/** What one piece of each kind counts in a mark; undefined where so many pieces need more than a number holds exactly. */
function digitsOf(have: Uint8Array): number[] | undefined {
  let place = 1;
  const digits = Array.from(have, (count) => {
    const digit = place;
    place *= count + 1;
    return digit;
  });
  return place <= Number.MAX_SAFE_INTEGER ? digits : undefined;
}

const joinedMark = (first: Block, second: Block): Mark =>
  typeof first.mark === "number" && typeof second.mark === "number"
    ? first.mark + second.mark
    : String.fromCharCode(...first.counts.map((count, kind) => count + nth(second.counts, kind)));

function blocksOf(
  kinds: readonly Item[][],
  have: Uint8Array,
  sheets: readonly Sheet[],
  rotate: boolean,
  { blocks, stop }: Effort,
): Joined[] {
  const digits = digitsOf(have);
  const all: Block[] = [];
  const byHeight = new Shelf();
  const byWidth = new Shelf();
  const sizes = sheets.map((sheet) => [thousandths(sheet.widthMm), thousandths(sheet.heightMm)] as const);
  const widest = Math.max(...sizes.map(([width]) => width));
  const highest = Math.max(...sizes.map(([, height]) => height));
  const add = (block: Block): void => {
    all.push(block);
    byHeight.put(block.height, block.width, block);
    byWidth.put(block.width, block.height, block);
  };
  const goesOn = (width: number, height: number): boolean =>
    sizes.some((size) => width <= size[0] && height <= size[1]);
  const enough = (first: Uint8Array, second: Uint8Array): boolean => {
    for (let kind = 0; kind < have.length; kind++)
      if ((first[kind] as number) + (second[kind] as number) > (have[kind] as number)) return false;
    return true;
  };
  const join = (first: Block, second: Block, across: boolean): void => {
    const width = across ? first.width + second.width : first.width;
    const height = across ? first.height : first.height + second.height;
    if (!goesOn(width, height) || !enough(first.counts, second.counts)) return;
    const mark = joinedMark(first, second);
    if (!byHeight.isNew(width, height, mark)) return;
    add({
      width,
      height,
      mark,
      widthMm: across ? first.widthMm + second.widthMm : first.widthMm,
      heightMm: across ? first.heightMm : first.heightMm + second.heightMm,
      areaMm2: first.areaMm2 + second.areaMm2,
      counts: first.counts.map((count, kind) => count + (second.counts[kind] as number)),
      made: { across, first, second },
    });
  };
  kinds.forEach(([item], kind) => {
    if (!item) return;
    const mark = digits ? nth(digits, kind) : String.fromCharCode(...kinds.map((_, other) => Number(other === kind)));
    for (const rotated of rotate && item.widthMm !== item.heightMm ? [false, true] : [false]) {
      const widthMm = rotated ? item.heightMm : item.widthMm;
      const heightMm = rotated ? item.widthMm : item.heightMm;
      const counts = new Uint8Array(kinds.length);
      counts[kind] = 1;
      const [width, height] = [thousandths(widthMm), thousandths(heightMm)];
      if (goesOn(width, height))
        add({
          width,
          height,
          mark,
          widthMm,
          heightMm,
          areaMm2: widthMm * heightMm,
          counts,
          made: { kind: item.kind, rotated },
        });
    }
  });
  for (let at = 0; at < all.length && all.length < blocks && !stop(); at++) {
    const block = all[at] as Block;
    byHeight.each(block.height, widest - block.width, (other) => join(block, other, true));
    byWidth.each(block.width, highest - block.height, (other) => join(block, other, false));
  }
  return all;
}

interface Choice {
  block: Joined;
  size: string;
}

/** Choices that hold every piece exactly once, one for each wanted size; undefined where there are none or the time is up. */
function cover(
  choices: readonly Choice[],
  left: Uint8Array,
  wanted: readonly string[],
  stop: () => boolean,
): Choice[] | undefined {
  if (wanted.length === 0) return left.every((count) => count === 0) ? [] : undefined;
  const fit = choices.filter(({ block, size }) => wanted.includes(size) && within(block.counts, left));
  const held = new Uint32Array(left.length);
  for (const { block } of fit)
    for (let kind = 0; kind < held.length; kind++) if (block.counts[kind]) held[kind] = nth(held, kind) + 1;
  let rarest = -1;
  left.forEach((count, kind) => {
    if (count > 0 && (rarest < 0 || nth(held, kind) < nth(held, rarest))) rarest = kind;
  });
  for (const choice of fit) {
    const { counts } = choice.block;
    if (!counts[rarest]) continue;
    if (stop()) return undefined;
    const open = [...wanted];
    open.splice(open.indexOf(choice.size), 1);
    const more = cover(
      fit,
      left.map((count, kind) => count - nth(counts, kind)),
      open,
      stop,
    );
    if (more) return [choice, ...more];
  }
  return undefined;
}
