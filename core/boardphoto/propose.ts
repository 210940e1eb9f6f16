import { type Box, overlap, type Package, type PartKind } from "../boardmap/index.ts";
import { type Circle, circlesOf } from "./circles.ts";
import { CELL_MM, colouring, type Field, fieldOf, gradients } from "./field.ts";
import { cells, type Edges, edgesOf, sideScore, totals } from "./rectangles.ts";

/** Something that may be on the board: a part of a known size, the die, or a hole. */
export interface Proposal extends Box {
  what: "part" | "die" | "hole";
  kind: PartKind | null;
  /** Of the part, null where no package gives it. */
  tallMm: number | null;
  /** 0…1: how often such a one is there, on drawn boards. */
  confidence: number;
}

interface Candidate extends Box {
  pack: Package;
  score: number;
}

/** Found alone; found where a row or its mirror image asks for it. */
const SEEN = { alone: 0.66, expected: 0.46 };
/** A package is darker than what is around it, in log brightness. */
const DARKER = 0.08;
const MOST = 400;

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
  const field = fieldOf(pixels, width, height, place);
  const slopes = gradients(field);
  const edges = edgesOf(field, slopes);
  const toBoard = <T extends Box>(box: T): T => ({
    ...box,
    xMm: place.xMm - place.widthMm / 2 + box.xMm,
    yMm: place.yMm + place.heightMm / 2 - box.yMm,
  });
  const mean = totals(field);
  const dark: Way = { field, edges, mean, look: "dark" };
  const seen = sizesOf(packages).flatMap((pack) => rectangles(dark, pack));
  const memory = inCompany(oneSize(apart(seen.filter(({ pack }) => pack.kind === "memory"))));
  const rough = dieOf(edges, memory);
  const die = rough && sharpened(rough, slopes, field, DIE_REACH);
  const ring = withPartners(memory, die, dark);
  const isFree = (one: Box): boolean => !ring.some((chip) => overlap(chip, one)) && !(die && overlap(die, one));
  // Small packages differ by little more than the slack of their sides: of those that explain one place the size that is measured there.
  const bySize = (one: Candidate): number => {
    const { widthMm, heightMm } = sharpened(one, slopes, field, SIZE_REACH);
    const offMm = Math.abs(widthMm - one.widthMm) + Math.abs(heightMm - one.heightMm);
    return one.score - Math.min(MOST_OFF, OFF_A_MM * offMm);
  };
  const small = seen.filter(({ pack }) => pack.kind !== "memory");
  const others = inRows(apart(small, bySize).filter(isFree), packages);
  const colours = fieldOf(pixels, width, height, place, colouring);
  const colourSlopes = gradients(colours);
  const round = apart([...circlesIn(field, slopes, packages), ...circlesIn(colours, colourSlopes, packages)]).filter(
    isFree,
  );
  const grey: Way = { field: colours, edges: edgesOf(colours, colourSlopes), mean: totals(colours), look: "dark" };
  const rows = paleRows([{ ...dark, look: "bright" }, grey], packages).filter(
    (one) =>
      isFree(one) &&
      !round.some((can) => overlap(can, one)) &&
      !others.some((other) => other.most > PALE_MOST && overlap(other, one)),
  );
  // What is left of a row of cans is none.
  const pale = rows.filter((one) => inRow(one, rows) >= ROW.least);
  const beside = others.filter(
    (one) => one.most > PALE_MOST || ![...pale, ...round].some((other) => overlap(other, one)),
  );
  const parts = [...ring.map((one) => ({ ...one, most: 0.98 })), ...beside, ...pale].map((one) => ({
    ...one,
    ...middleBy(sharpened(one, slopes, field, PART_REACH)),
  }));
  const holes = [...circlesOf(field, slopes, HOLE_RADII_MM), ...circlesOf(field, slopes, HEAD_RADII_MM, "ring")]
    .toSorted((a, b) => b.score - a.score)
    .reduce<Circle[]>((kept, one) => {
      const near = kept.some((other) => Math.hypot(one.x - other.x, one.y - other.y) * CELL_MM < 5);
      return near || kept.length >= MOST ? kept : [...kept, one];
    }, [])
    .map(({ x, y, score }) => ({ xMm: x * CELL_MM, yMm: y * CELL_MM, widthMm: 3.2, heightMm: 3.2, score }))
    .filter((hole) => ![...parts, ...round].some((part) => overlap(part, hole)) && !(die && overlap(die, hole)));
  return [
    ...(die
      ? [{ ...toBoard(boxOf(die)), what: "die" as const, kind: null, tallMm: null, confidence: sure(die.score) }]
      : []),
    ...round.map(({ pack, ...box }) => ({
      ...toBoard(boxOf(box)),
      what: "part" as const,
      kind: pack.kind,
      tallMm: pack.tallMm,
      confidence: ROUND_SURE,
    })),
    ...parts.map((one) => ({
      ...toBoard(boxOf(one)),
      what: "part" as const,
      kind: one.pack.kind,
      tallMm: one.pack.tallMm,
      confidence: Math.min(one.most, sure(one.score)),
    })),
    ...holes.map(({ score, ...box }) => ({
      ...toBoard(box),
      what: "hole" as const,
      kind: null,
      tallMm: null,
      confidence: score === 1 ? 0.9 : 0.7,
    })),
  ].toSorted((a, b) => b.confidence - a.confidence);
}

const HOLE_RADII_MM = [1.35, 1.6, 1.85];
/** Heads of the screws that usually go through them; what is cut into a head does not count. */
const HEAD_RADII_MM = [2.2, 2.45, 2.7];

const boxOf = ({ xMm, yMm, widthMm, heightMm }: Box): Box => ({ xMm, yMm, widthMm, heightMm });

/** From a score to how often it was right on drawn boards: coarse on purpose. */
const sure = (score: number): number => Math.min(0.98, Math.max(0.3, 0.4 + 1.5 * (score - 0.5)));

/** Each size once; one that is not square also turned. */
function sizesOf(packages: readonly Package[]): Package[] {
  const all = packages.flatMap((pack) => [pack, { ...pack, widthMm: pack.heightMm, heightMm: pack.widthMm }]);
  return [...new Map(all.map((one) => [`${one.kind} ${one.widthMm} ${one.heightMm}`, one])).values()];
}

type Mean = ReturnType<typeof totals>;

/** What of a photo is looked at, and how things stand out of it. */
interface Way {
  field: Field;
  edges: Edges;
  mean: Mean;
  look: "dark" | "bright";
}

interface Can extends Box {
  pack: Package;
  score: number;
}
/** Round cans are not in the way of most coolers’ faces: asked about one by one. */
const ROUND_SURE = 0.7;

/** Capacitors of known widths: what is square among them is looked for as a rectangle. */
function circlesIn(field: Field, slopes: ReturnType<typeof gradients>, packages: readonly Package[]): Can[] {
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
function paleRows(ways: readonly Way[], packages: readonly Package[]): Array<Candidate & { most: number }> {
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

/** Where a package of this size shows all its sides; places beside a better one of the same size are left out. */
function rectangles({ field: { wide, high }, edges, mean, look }: Way, pack: Package): Candidate[] {
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

const boxAt = (x: number, y: number, w: number, h: number, size: { widthMm: number; heightMm: number }): Box => ({
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
function apart<T extends Box & { score: number }>(
  candidates: readonly T[],
  rank: (one: T) => number = ({ score }) => score,
): T[] {
  const kept: T[] = [];
  const ranked = candidates.map((one) => ({ one, at: rank(one) })).toSorted((a, b) => b.at - a.at);
  for (const { one } of ranked)
    if (kept.length < MOST && !kept.some((other) => overlap(one, other, 0.4))) kept.push(one);
  return kept;
}

/** Memory of one board is of one package: the size that is seen best, upright or turned. */
function oneSize(candidates: readonly Candidate[]): Candidate[] {
  const weight = new Map<string, number>();
  const key = ({ pack }: Candidate): string => [pack.widthMm, pack.heightMm].toSorted((a, b) => a - b).join(" ");
  for (const one of candidates) weight.set(key(one), (weight.get(key(one)) ?? 0) + one.score ** 4);
  const best = [...weight].toSorted((a, b) => b[1] - a[1])[0]?.[0];
  return candidates.filter((one) => key(one) === best);
}

const DIE = { leastMm: 10, mostMm: 34, fineMm: 0.5, coarseMm: 1 };

/** The rectangle, darker or brighter, that stands out best in the middle of the memory; of two around one middle the inner. */
function dieOf(edges: Edges, memory: readonly Candidate[]): (Box & { score: number }) | null {
  const { wide, high } = edges;
  const middle = middleOf(memory) ?? { x: (wide * CELL_MM) / 2, y: (high * CELL_MM) / 2 };
  const isKnown = memory.length >= 3;
  const reachMm = isKnown ? 10 : 40;
  // Where nothing says where to look, all of the board is looked at in larger steps.
  const hop = isKnown ? 2 : 4;
  const found: Array<Box & { score: number; weighed: number }> = [];
  const step = cells(isKnown ? DIE.fineMm : DIE.coarseMm);
  for (let w = cells(DIE.leastMm); w <= cells(DIE.mostMm); w += step)
    for (
      let h = Math.max(cells(DIE.leastMm), Math.round(w / 1.7));
      h <= Math.min(cells(DIE.mostMm), 1.7 * w);
      h += step
    ) {
      const x0 = Math.max(1, cells(middle.x - reachMm) - Math.floor(w / 2));
      const y0 = Math.max(1, cells(middle.y - reachMm) - Math.floor(h / 2));
      const x1 = Math.min(wide - w - 1, cells(middle.x + reachMm) - Math.floor(w / 2));
      const y1 = Math.min(high - h - 1, cells(middle.y + reachMm) - Math.floor(h / 2));
      for (let y = y0; y <= y1; y += hop)
        for (let x = x0; x <= x1; x += hop) {
          const score = Math.max(sideScore(edges, edges.dark, x, y, w, h), sideScore(edges, edges.bright, x, y, w, h));
          if (score < 0.6) continue;
          const box = boxAt(x, y, w, h, { widthMm: w * CELL_MM, heightMm: h * CELL_MM });
          if (memory.some((chip) => overlap(chip, box, 0.5))) continue;
          const off = Math.hypot(box.xMm - middle.x, box.yMm - middle.y) / reachMm;
          found.push({ ...box, score, weighed: score - 0.25 * off ** 2 });
        }
    }
  const best = found.toSorted((a, b) => b.weighed - a.weighed)[0];
  if (!best) return null;
  // The package of the die shows as well: what lies inside it and stands out nearly as much is the die.
  const inner = found
    .filter(
      (one) =>
        one.widthMm < best.widthMm - 4 &&
        one.heightMm < best.heightMm - 4 &&
        Math.hypot(one.xMm - best.xMm, one.yMm - best.yMm) < 6 &&
        one.weighed > best.weighed - 0.12,
    )
    .toSorted((a, b) => b.weighed - a.weighed)[0];
  return inner ?? best;
}

/** Chips of memory stand in a row with another, or across from one: what stands alone is something else. */
function inCompany(candidates: readonly Candidate[]): Candidate[] {
  return candidates.filter((one) =>
    candidates.some((other) => {
      const dx = Math.abs(other.xMm - one.xMm);
      const dy = Math.abs(other.yMm - one.yMm);
      return other !== one && other.pack === one.pack && Math.min(dx, dy) < 1.2 && Math.max(dx, dy) < 90;
    }),
  );
}

/** Where most pairs of memory are each other's mirror image, in both directions; null with too few. */
function middleOf(memory: readonly Candidate[]): { x: number; y: number } | null {
  if (memory.length < 3) return null;
  const axis = (along: "xMm" | "yMm", across: "xMm" | "yMm"): number => {
    const middles = memory.flatMap((one, index) =>
      memory
        .slice(index + 1)
        .flatMap((other) =>
          other.pack === one.pack && Math.abs(other[across] - one[across]) < 1.2
            ? [(one[along] + other[along]) / 2]
            : [],
        ),
    );
    const values = memory.map((one) => one[along]);
    const fallback = (Math.min(...values) + Math.max(...values)) / 2;
    const support = (at: number): number => middles.filter((one) => Math.abs(one - at) < 1).length;
    const best = middles.toSorted(
      (a, b) => support(b) - support(a) || Math.abs(a - fallback) - Math.abs(b - fallback),
    )[0];
    return best ?? fallback;
  };
  return { x: axis("xMm", "yMm"), y: axis("yMm", "xMm") };
}

/** How much worse a size counts by each millimetre it is off what is measured. */
const OFF_A_MM = 0.08;
const MOST_OFF = 0.25;
/** How far a side may be off, cells. */
const SIZE_REACH = 6;
const DIE_REACH = 7;
const PART_REACH = 4;

/** A package keeps its size: only its middle is corrected. */
const middleBy = ({ xMm, yMm }: Box): Pick<Box, "xMm" | "yMm"> => ({ xMm, yMm });

/** Each side moved to where the brightness changes most along it. */
function sharpened<T extends Box>(
  box: T,
  { gx, gy }: { gx: Float32Array; gy: Float32Array },
  { wide }: Field,
  reach: number,
): T {
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

/** Memory that is hard to see but stands where rows and mirror images of surer ones ask for it. */
function withPartners(memory: readonly Candidate[], die: Box | null, way: Way): Candidate[] {
  const kept = [...memory];
  for (let round = 0; round < 2; round++) {
    const asked = kept.flatMap((one): Candidate[] => {
      const mirrors = die
        ? [
            { ...one, xMm: 2 * die.xMm - one.xMm },
            { ...one, yMm: 2 * die.yMm - one.yMm },
          ]
        : [];
      const along = kept.flatMap((other) => {
        const [dx, dy] = [other.xMm - one.xMm, other.yMm - one.yMm];
        const far = Math.hypot(dx, dy);
        return far > 10 && far < 30 && Math.min(Math.abs(dx), Math.abs(dy)) < 1.5
          ? [{ ...other, xMm: other.xMm + dx, yMm: other.yMm + dy }]
          : [];
      });
      return [...mirrors, ...along];
    });
    for (const wish of asked) {
      if (kept.some((one) => overlap(one, wish, 0.4)) || (die && overlap(die, wish, 0.4))) continue;
      const best = near(wish, way);
      if (best && !kept.some((one) => overlap(one, best, 0.4))) kept.push(best);
    }
  }
  return kept;
}

/** The best place within a millimetre and a half of one that is asked for. */
function near(wish: Candidate, { edges, mean, look }: Way): Candidate | null {
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
function inRows(candidates: readonly Candidate[], packages: readonly Package[]): Array<Candidate & { most: number }> {
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
