import type { BandMatrix } from "../numeric/index.ts";
import { Problem } from "../problem/index.ts";
import {
  addPoint,
  deflectionAt,
  forcesBack,
  type Grid,
  linesThrough,
  PER_NODE,
  type PointOnPlate,
  plateStiffness,
  pointOn,
  type Transfer,
  transferBetween,
  transferred,
} from "./plate.ts";
import type { Box, Material, Stack, StackComponent } from "./stack.ts";

/** Contact layer between die and cold plate: a micrometre at 1 MPa, kPa/mm; stands for a very stiff one. */
export const DIE_KPA_PER_MM = 1e6;
/** The die's package against the board around it. */
const RIGID = 2e3;
/** kPa over mm² is a thousandth of a newton. */
const N_PER_KPA_MM2 = 1e-3;
const WIDEST_MM = 10;
/** The grid on which a solution is looked for first is wider by this factor. */
const COARSER = 2.4;
const PAD_POINT_MM = 5;
const DIE_POINTS = 8;
const MOST_STEPS = 60;
/** Balanced where no force is left that is more than this share of the screws' pull. */
const BALANCED_SHARE = 1e-9;
/** A start with no more left unbalanced than this needs no coarse grid. */
const NEAR_SHARE = 0.2;
/** Of screws that are not driven in yet, this share of their full pull is what forces are held against. */
const SLACK_SHARE = 1e-3;

interface Contact {
  point: PointOnPlate;
  areaMm2: number;
  pad: number;
}

interface ScrewPoint {
  point: PointOnPlate;
  forceN: number;
  springNPerMm: number;
}

/** A plate on one grid and where everything lies on it. */
interface Bed {
  grid: Grid;
  plate: BandMatrix;
  pads: Contact[];
  die: Contact[];
  screws: ScrewPoint[];
}

/** What does not change when only gaps or pad thicknesses do. */
export interface Prepared extends Bed {
  stack: Stack;
  corners: PointOnPlate[];
  /** Corners of each pad, by component. */
  padCorners: PointOnPlate[][];
  /** Area of pad over component, mm². */
  padAreas: number[];
  /** The same on a wider grid, where a first solution costs little, and the way there and back. */
  coarse: Bed & { down: Transfer; up: Transfer };
}

export interface Solved {
  unknowns: Float64Array;
  /** Extra separation of cooler and board at the die's corners, mm: lower left, lower right, upper right, upper left. */
  cornersMm: number[];
  diePressuresKPa: number[];
  /** `clearanceMm`: the least distance of component and cooler over the pad's area. */
  pads: Array<{ contact: boolean; strain: number; forceN: number; clearanceMm: number }>;
  pullsN: number[];
  steps: number;
}

const sides = (at: number, size: number): [number, number] => [at - size / 2, at + size / 2];

/**
 * @param widestMm grid spacing at most; half of it must change nothing that matters
 * @param last an earlier stack: where board, die and screws lie the same, its plates are taken over
 */
export function prepare(stack: Stack, widestMm = WIDEST_MM, last?: Prepared): Prepared {
  const same = last && sameBed(last.stack, stack) ? last : undefined;
  const bed = bedOf(stack, same ?? plateOf(stack, widestMm));
  const wide = same?.coarse ?? plateOf(stack, COARSER * widestMm);
  const [left, right] = sides(stack.die.xMm, stack.die.widthMm);
  const [lower, upper] = sides(stack.die.yMm, stack.die.heightMm);
  const overs = stack.components.map(padOver);
  const cornersOf = (xs: readonly number[], ys: readonly number[]): PointOnPlate[] =>
    xs.flatMap((x) => ys.map((y) => pointOn(bed.grid, x, y)));
  return {
    ...bed,
    stack,
    padAreas: overs.map((over) => (over ? over.widthMm * over.heightMm : 0)),
    padCorners: overs.map((over) =>
      over ? cornersOf(sides(over.xMm, over.widthMm), sides(over.yMm, over.heightMm)) : [],
    ),
    corners: [
      [left, lower],
      [right, lower],
      [right, upper],
      [left, upper],
    ].map(([x = 0, y = 0]) => pointOn(bed.grid, x, y)),
    coarse: {
      ...bedOf(stack, wide),
      down: same?.coarse.down ?? transferBetween(bed.grid, wide.grid),
      up: same?.coarse.up ?? transferBetween(wide.grid, bed.grid),
    },
  };
}

function plateOf({ board, die, screws }: Stack, widestMm: number): Pick<Bed, "grid" | "plate"> {
  const [left, right] = sides(die.xMm, die.widthMm);
  const [lower, upper] = sides(die.yMm, die.heightMm);
  const grid: Grid = {
    xs: linesThrough(board.widthMm, [left, right, ...screws.map((screw) => screw.xMm)], widestMm),
    ys: linesThrough(board.heightMm, [lower, upper, ...screws.map((screw) => screw.yMm)], widestMm),
  };
  const rigidity = (board.youngGPa * 1e3 * board.thicknessMm ** 3) / (12 * (1 - board.poisson ** 2));
  const factor = (x: number, y: number): number => (x > left && x < right && y > lower && y < upper ? RIGID : 1);
  return { grid, plate: plateStiffness(grid, (x, y) => factor(x, y) * rigidity, board.poisson) };
}

function bedOf({ die, screws, components }: Stack, { grid, plate }: Pick<Bed, "grid" | "plate">): Bed {
  const pads = components.flatMap((component, pad): Contact[] => {
    const over = padOver(component);
    if (!over) return [];
    const nx = Math.max(2, Math.ceil(over.widthMm / PAD_POINT_MM));
    const ny = Math.max(2, Math.ceil(over.heightMm / PAD_POINT_MM));
    const areaMm2 = (over.widthMm * over.heightMm) / (nx * ny);
    return spread(over, over, nx, ny).map(([x, y]) => ({ point: pointOn(grid, x, y), areaMm2, pad }));
  });
  return {
    grid,
    plate,
    pads,
    die: spread(die, die, DIE_POINTS, DIE_POINTS).map(([x, y]) => ({
      point: pointOn(grid, x, y),
      areaMm2: (die.widthMm * die.heightMm) / DIE_POINTS ** 2,
      pad: -1,
    })),
    screws: screws.map((screw) => ({ ...screw, point: pointOn(grid, screw.xMm, screw.yMm) })),
  };
}

const bedKey = ({ board, die, screws }: Stack): string =>
  JSON.stringify([board, die, screws.map((screw) => [screw.xMm, screw.yMm])]);

/** Same board and die, screws in the same places: only then is the plate the same. */
function sameBed(a: Stack, b: Stack): boolean {
  return bedKey(a) === bedKey(b);
}

/** Where a pad lies over its component: a larger or off-centre one counts only there; null where it misses it. */
function padOver({ pad, xMm, yMm, widthMm, heightMm }: StackComponent): Box | null {
  if (!pad) return null;
  const x = common(widthMm, pad.offXMm ?? 0, pad.widthMm);
  const y = common(heightMm, pad.offYMm ?? 0, pad.heightMm);
  return x.size > 0 && y.size > 0
    ? { xMm: xMm + x.middle, yMm: yMm + y.middle, widthMm: x.size, heightMm: y.size }
    : null;
}

function common(part: number, off: number, pad: number): { middle: number; size: number } {
  const low = Math.max(-part / 2, off - pad / 2);
  const high = Math.min(part / 2, off + pad / 2);
  return { middle: (low + high) / 2, size: high - low };
}

function spread(
  at: { xMm: number; yMm: number },
  size: { widthMm: number; heightMm: number },
  nx: number,
  ny: number,
): Array<[number, number]> {
  const points: Array<[number, number]> = [];
  for (let i = 0; i < nx; i++)
    for (let j = 0; j < ny; j++)
      points.push([at.xMm + size.widthMm * ((i + 0.5) / nx - 0.5), at.yMm + size.heightMm * ((j + 0.5) / ny - 0.5)]);
  return points;
}

/** Pressure and its slope at a strain: straight lines between points, the last slope going on. */
export function pressureAt({ curve }: Material, strain: number): { kPa: number; slope: number } {
  if (strain <= 0) return { kPa: 0, slope: 0 };
  let index = 1;
  while (index + 1 < curve.length && strain > (curve[index]?.[0] ?? 0)) index++;
  const [e0, p0] = curve[index - 1] ?? [0, 0];
  const [e1, p1] = curve[index] ?? [1, 0];
  const slope = (p1 - p0) / (e1 - e0);
  return { kPa: Math.max(0, p0 + slope * (strain - e0)), slope };
}

/** What may differ from the prepared stack: gap and total pad thickness per component, mm. */
export interface Variation {
  gapsMm: readonly number[];
  thicknessesMm: readonly number[];
  /** Pull of each screw instead of the stack's. */
  forcesN?: readonly number[];
}

export function asGiven({ components }: Stack): Variation {
  return {
    gapsMm: components.map((component) => component.gapMm),
    thicknessesMm: components.map(({ pad }) => (pad ? pad.thicknessMm * pad.layers : 0)),
  };
}

/**
 * Balance of plate, screws, pads and die, all together: the least of a convex energy, by Newton's method with step control. The large
 * changes of contact are found on a coarse grid, corrected by what it leaves unbalanced on the fine one (the full approximation scheme
 * of two grids), and settled on the fine one.
 * In the cooler's frame the cooler stands still, so the board's deflection w toward it is the only unknown: separation is −w.
 * @throws Problem `no-balance` when nothing holds the board
 */
export function solveContact(prepared: Prepared, variation: Variation, start?: Float64Array): Solved {
  const { coarse, stack } = prepared;
  const [fine, wide] = [forcesOn(prepared, stack, variation), forcesOn(coarse, stack, variation)];
  const from = start ?? new Float64Array(prepared.plate.size);
  const unbalanced = fine.residual(from);
  if (start && unbalanced.every((value) => Math.abs(value) < NEAR_SHARE * fine.scale)) {
    const near = balanced(fine, from);
    if (near) return finish(prepared, variation, near.unknowns, near.steps);
  }
  const below = transferred(coarse.down, from);
  const off = forcesBack(coarse.up, unbalanced, below.length);
  const load = wide.residual(below).map((value, dof) => value - (off[dof] as number));
  const near = balanced(wide, below, load);
  const moved =
    near &&
    transferred(
      coarse.up,
      near.unknowns.map((value, dof) => value - (below[dof] as number)),
    );
  const solved = balanced(fine, moved ? from.map((value, dof) => value + (moved[dof] as number)) : from);
  if (!solved)
    throw new Problem({
      code: "no-balance",
      what: "No balance of screws, pads and die was found.",
      remedy: "Check screw forces, springs and curves: something is far from what a card has.",
    });
  return finish(prepared, variation, solved.unknowns, solved.steps);
}

const pullOf = (all: ReadonlyArray<{ forceN: number }>): number => all.reduce((sum, screw) => sum + screw.forceN, 0);

const pulling = (screws: readonly ScrewPoint[], { forcesN }: Variation): ScrewPoint[] =>
  screws.map((screw, index) => ({ ...screw, forceN: forcesN?.[index] ?? screw.forceN }));

interface Forces {
  plate: BandMatrix;
  /** Forces that come into play, N. */
  scale: number;
  /** Unbalanced forces at a deflection; their slopes are added to `tangent` where it is given. */
  residual: (at: Float64Array, tangent?: BandMatrix) => Float64Array;
}

function forcesOn(bed: Bed, stack: Stack, variation: Variation): Forces {
  const { plate, die, pads } = bed;
  const screws = pulling(bed.screws, variation);
  const materials = stack.components.map(({ pad }) => (pad ? stack.materials[pad.material] : undefined));
  const residual = (at: Float64Array, tangent?: BandMatrix): Float64Array => {
    const off = plate.times(at);
    const push = (point: PointOnPlate, force: number, stiffness: number): void => {
      for (let i = 0; i < 12; i++) {
        const dof = point.dofs[i] as number;
        off[dof] = (off[dof] as number) + force * (point.shape[i] as number);
      }
      if (stiffness > 0 && tangent) addPoint(tangent, point, stiffness);
    };
    for (const { point, areaMm2 } of die) {
      const w = deflectionAt(point, at);
      if (w > 0) push(point, DIE_KPA_PER_MM * w * areaMm2 * N_PER_KPA_MM2, DIE_KPA_PER_MM * areaMm2 * N_PER_KPA_MM2);
    }
    for (const { point, areaMm2, pad } of pads) {
      const thickness = variation.thicknessesMm[pad] as number;
      const material = materials[pad];
      if (!material || thickness <= 0) continue;
      const strain = 1 - ((variation.gapsMm[pad] as number) - deflectionAt(point, at)) / thickness;
      if (strain <= 0) continue;
      const { kPa, slope } = pressureAt(material, strain);
      push(point, kPa * areaMm2 * N_PER_KPA_MM2, (slope / thickness) * areaMm2 * N_PER_KPA_MM2);
    }
    for (const { point, forceN, springNPerMm } of screws) {
      const pull = forceN - springNPerMm * deflectionAt(point, at);
      if (pull > 0) push(point, -pull, springNPerMm);
    }
    return off;
  };
  // Also where all screws are slack something has to be balanced.
  return { plate, scale: Math.max(pullOf(screws), SLACK_SHARE * pullOf(stack.screws)), residual };
}

/** Where the forces balance `load` (nothing where it is not given); undefined when no such place is found. */
function balanced(
  { plate, scale, residual }: Forces,
  start: Float64Array,
  load?: Float64Array,
): { unknowns: Float64Array; steps: number } | undefined {
  const unbalanced = (at: Float64Array, tangent?: BandMatrix): Float64Array => {
    const off = residual(at, tangent);
    return load ? off.map((value, dof) => value - (load[dof] as number)) : off;
  };
  let unknowns = start;
  for (let steps = 0; steps < MOST_STEPS; steps++) {
    const tangent = plate.copy();
    const off = unbalanced(unknowns, tangent);
    if (off.every((value) => Math.abs(value) < BALANCED_SHARE * scale)) return { unknowns, steps };
    // A trace of a spring to the ground: without any contact the board would float.
    const trace = 1e-7 * scale;
    for (let dof = 0; dof < tangent.size; dof += PER_NODE) tangent.add(dof, dof, trace);
    const step = tangent.solve(off.map((value) => -value));
    if (!step) return undefined;
    const stepped = (factor: number): Float64Array =>
      unknowns.map((value, dof) => value + factor * (step[dof] as number));
    const slope0 = Math.abs(dot(off, step));
    if (slope0 < 1e-12 * scale) return { unknowns: stepped(1), steps };
    // The energy is convex: its slope along the step tells how far to go.
    let factor = 1;
    for (let half = 0; half < 12; half++) {
      const slope = dot(unbalanced(stepped(factor)), step);
      if (slope <= 0.5 * slope0) break;
      factor *= Math.max(0.1, Math.min(0.7, slope0 / (slope0 + slope)));
    }
    unknowns = stepped(factor);
  }
  return undefined;
}

const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let k = 0; k < a.length; k++) sum += (a[k] as number) * (b[k] as number);
  return sum;
};

function finish(prepared: Prepared, variation: Variation, unknowns: Float64Array, steps: number): Solved {
  const { stack, pads, die, screws, corners, padCorners } = prepared;
  const clearanceAt = (point: PointOnPlate, pad: number): number =>
    (variation.gapsMm[pad] as number) - deflectionAt(point, unknowns);
  const strainAt = (point: PointOnPlate, pad: number): number =>
    1 - clearanceAt(point, pad) / (variation.thicknessesMm[pad] as number);
  const found = stack.components.map((_, pad) => ({
    contact:
      (variation.thicknessesMm[pad] as number) > 0 && (padCorners[pad] ?? []).some((one) => strainAt(one, pad) > 0),
    clearanceMm: (padCorners[pad] ?? []).reduce(
      (least, one) => Math.min(least, clearanceAt(one, pad)),
      Number.POSITIVE_INFINITY,
    ),
    strain: 0,
    forceN: 0,
    points: 0,
  }));
  for (const { point, areaMm2, pad } of pads) {
    const thickness = variation.thicknessesMm[pad] as number;
    const one = found[pad];
    if (one) one.clearanceMm = Math.min(one.clearanceMm, clearanceAt(point, pad));
    const material = stack.materials[stack.components[pad]?.pad?.material ?? ""];
    if (!one || !material || thickness <= 0) continue;
    const strain = strainAt(point, pad);
    one.points++;
    if (strain <= 0) continue;
    one.contact = true;
    one.strain += strain;
    one.forceN += pressureAt(material, strain).kPa * areaMm2 * N_PER_KPA_MM2;
  }
  return {
    unknowns,
    cornersMm: corners.map((corner) => -deflectionAt(corner, unknowns)),
    diePressuresKPa: die.map(({ point }) => DIE_KPA_PER_MM * Math.max(0, deflectionAt(point, unknowns))),
    pads: found.map(({ contact, strain, forceN, points, clearanceMm }) => ({
      contact,
      clearanceMm,
      strain: strain / Math.max(1, points),
      forceN,
    })),
    pullsN: pulling(screws, variation).map(({ point, forceN, springNPerMm }) =>
      Math.max(0, forceN - springNPerMm * deflectionAt(point, unknowns)),
    ),
    steps,
  };
}
