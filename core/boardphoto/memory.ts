import { type Box, overlap, type Package } from "../boardmap/index.ts";
import { CELL_MM } from "./field.ts";
import { cells, type Edges, sideScore } from "./rectangles.ts";
import { apart, boxAt, type Candidate, near, rectangles, sharpened, sizesOf, type Way } from "./seen.ts";

/** How far a side of the die may be off, cells. */
const DIE_REACH = 7;

/** The memory, and the die in its middle; null where none stands out. */
export function memoryAndDie(
  way: Way,
  packages: readonly Package[],
): { ring: Candidate[]; die: (Box & { score: number }) | null } {
  const sizes = sizesOf(packages.filter(({ kind }) => kind === "memory"));
  const memory = inCompany(oneSize(apart(sizes.flatMap((pack) => rectangles(way, pack)))));
  const rough = dieOf(way.edges, memory);
  const die = rough && sharpened(rough, way, DIE_REACH);
  return { ring: withPartners(memory, die, way), die };
}

/** Of a package, upright or turned. */
const sizeOf = ({ pack }: Candidate): string => [pack.widthMm, pack.heightMm].toSorted((a, b) => a - b).join(" ");

/** Memory of one board is of one package: the size that is seen best, upright or turned. */
function oneSize(candidates: readonly Candidate[]): Candidate[] {
  const weight = new Map<string, number>();
  for (const one of candidates) weight.set(sizeOf(one), (weight.get(sizeOf(one)) ?? 0) + one.score ** 4);
  const best = [...weight].toSorted((a, b) => b[1] - a[1])[0]?.[0];
  return candidates.filter((one) => sizeOf(one) === best);
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
