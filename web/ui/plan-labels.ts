import { DIE_ID, type Thing } from "#core/boardmap/index.ts";

/** What is written on a thing or beside it; mm, y up, the middle of the words. */
export interface PlanLabel {
  lines: string[];
  sizeMm: number;
  xMm: number;
  yMm: number;
  outside: boolean;
}

interface Area {
  left: number;
  right: number;
  low: number;
  high: number;
}

/** Words of this size can be read at a glance, smaller ones hardly; pixels. */
const READABLE_PX = 10.3;
const SMALLEST_PX = 5.8;
const LARGEST_MM = 5;
/** Of a figure, as a share of its size. */
const LETTER = 0.64;
const LINE = 1.1;
const AWAY_MM = 0.9;
/** Two figures in one line stay two: a blank half as wide as the figures are high. */
const APART = "\u2002";

const areaOf = ({ xMm, yMm, widthMm, heightMm }: Omit<Thing, "id" | "type" | "side">): Area => ({
  left: xMm - widthMm / 2,
  right: xMm + widthMm / 2,
  low: yMm - heightMm / 2,
  high: yMm + heightMm / 2,
});

const meet = (a: Area, b: Area): boolean => a.left < b.right && b.left < a.right && a.low < b.high && b.low < a.high;

/**
 * Words for every part: inside where they can be read, else beside the part where nothing lies, else inside as small as must be.
 * @param pxPerMm how large the plan is shown
 */
export function planLabels(
  things: readonly Thing[],
  textOf: (id: string) => string | undefined,
  board: { widthMm: number; heightMm: number },
  pxPerMm: number,
): Map<string, PlanLabel> {
  const labels = new Map<string, PlanLabel>();
  const parts = things.filter((thing) => thing.type !== "screw");
  const taken = things.map(areaOf);
  const small: Thing[] = [];
  for (const thing of parts) {
    const words = wordsOf(thing, textOf);
    const sizeMm = insideSize(words, thing);
    if (sizeMm >= READABLE_PX / pxPerMm || words.length === 0) labels.set(thing.id, inside(words, sizeMm, thing));
    else small.push(thing);
  }
  for (const thing of small) {
    const words = wordsOf(thing, textOf);
    const beside = besidePart(words, thing, READABLE_PX / pxPerMm, (area) => {
      const onBoard =
        area.left > -2 && area.right < board.widthMm + 2 && area.low > -2 && area.high < board.heightMm + 2;
      return onBoard && !taken.some((other) => meet(area, other));
    });
    if (beside) taken.push(beside.area);
    labels.set(thing.id, beside?.label ?? shortened(words, thing, SMALLEST_PX / pxPerMm));
  }
  return labels;
}

function wordsOf({ id }: Thing, textOf: (id: string) => string | undefined): string[] {
  return (textOf(id) ?? (id === DIE_ID ? "Die" : id)).split(" ").filter((word) => word !== "");
}

const longest = (lines: readonly string[]): number => Math.max(2, ...lines.map((line) => line.length));

const insideSize = (lines: readonly string[], { widthMm, heightMm }: Thing): number =>
  Math.min(LARGEST_MM, (heightMm * 0.72) / (LINE * lines.length), (widthMm * 0.92) / (longest(lines) * LETTER));

const inside = (lines: string[], sizeMm: number, { xMm, yMm }: Thing): PlanLabel => ({
  lines,
  sizeMm,
  xMm,
  yMm,
  outside: false,
});

/** The last word, a leading 0 and then all of it gives way. */
function shortened(words: string[], thing: Thing, smallestMm: number): PlanLabel {
  const first = words.slice(0, 1);
  const tried = [words, first, first.map((word) => word.replace(/^0(?=\.)/, ""))];
  const lines = tried.find((one) => insideSize(one, thing) >= smallestMm) ?? [];
  return inside(lines, insideSize(lines, thing), thing);
}

function besidePart(
  words: string[],
  thing: Thing,
  sizeMm: number,
  free: (area: Area) => boolean,
): { label: PlanLabel; area: Area } | undefined {
  const own = areaOf(thing);
  for (const lines of words.length > 1 ? [[words.join(APART)], words] : [words]) {
    const width = longest(lines) * LETTER * sizeMm;
    const height = LINE * lines.length * sizeMm;
    for (const [xMm, yMm] of [
      [own.right + AWAY_MM + width / 2, thing.yMm],
      [own.left - AWAY_MM - width / 2, thing.yMm],
      [thing.xMm, own.high + AWAY_MM + height / 2],
      [thing.xMm, own.low - AWAY_MM - height / 2],
    ] as const) {
      const area = areaOf({ xMm, yMm, widthMm: width, heightMm: height });
      if (free(area)) return { label: { lines, sizeMm, xMm, yMm, outside: true }, area };
    }
  }
  return undefined;
}
