import { Problem } from "../problem/index.ts";
import {
  type BandMatrix,
  deflectionAt,
  type Grid,
  linesThrough,
  PER_NODE,
  type PointOnPlate,
  plateStiffness,
  pointOn,
} from "./plate.ts";
import type { Material, Stack, StackComponent } from "./stack.ts";

/** Contact layer between die and cold plate: a micrometre at 1 MPa, kPa/mm; stands for a very stiff one. */
const DIE_KPA_PER_MM = 1e6;
/** The die's package against the board around it. */
const RIGID = 2e3;
/** kPa over mm² is a thousandth of a newton. */
const N_PER_KPA_MM2 = 1e-3;
const WIDEST_MM = 10;
const PAD_POINT_MM = 5;
const DIE_POINTS = 8;
const MOST_STEPS = 60;

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

/** What does not change when only gaps or pad thicknesses do: grid, plate and where everything lies on it. */
export interface Prepared {
  stack: Stack;
  grid: Grid;
  plate: BandMatrix;
  pads: Contact[];
  die: Contact[];
  corners: PointOnPlate[];
  screws: ScrewPoint[];
  /** Area of pad over component, mm². */
  padAreas: number[];
}

export interface Solved {
  unknowns: Float64Array;
  /** Extra separation of cooler and board at the die's corners, mm: lower left, lower right, upper right, upper left. */
  cornersMm: number[];
  diePressuresKPa: number[];
  pads: Array<{ contact: boolean; strain: number; forceN: number }>;
  pullsN: number[];
  steps: number;
}

const sides = (at: number, size: number): [number, number] => [at - size / 2, at + size / 2];

/** @param widestMm grid spacing at most; half of it must change nothing that matters */
export function prepare(stack: Stack, widestMm = WIDEST_MM): Prepared {
  const { board, die, screws, components } = stack;
  const [left, right] = sides(die.xMm, die.widthMm);
  const [lower, upper] = sides(die.yMm, die.heightMm);
  const grid: Grid = {
    xs: linesThrough(board.widthMm, [left, right, ...screws.map((screw) => screw.xMm)], widestMm),
    ys: linesThrough(board.heightMm, [lower, upper, ...screws.map((screw) => screw.yMm)], widestMm),
  };
  const rigidity = (board.youngGPa * 1e3 * board.thicknessMm ** 3) / (12 * (1 - board.poisson ** 2));
  const plate = plateStiffness(
    grid,
    (x, y) => (x > left && x < right && y > lower && y < upper ? RIGID : 1) * rigidity,
    board.poisson,
  );
  const pads: Contact[] = [];
  const padAreas = components.map((component, index) => {
    const over = padOver(component);
    if (!over) return 0;
    const nx = Math.max(2, Math.ceil(over.widthMm / PAD_POINT_MM));
    const ny = Math.max(2, Math.ceil(over.heightMm / PAD_POINT_MM));
    const areaMm2 = over.widthMm * over.heightMm;
    for (const [x, y] of spread(component, over, nx, ny))
      pads.push({ point: pointOn(grid, x, y), areaMm2: areaMm2 / (nx * ny), pad: index });
    return areaMm2;
  });
  return {
    stack,
    grid,
    plate,
    pads,
    padAreas,
    die: spread(die, die, DIE_POINTS, DIE_POINTS).map(([x, y]) => ({
      point: pointOn(grid, x, y),
      areaMm2: (die.widthMm * die.heightMm) / DIE_POINTS ** 2,
      pad: -1,
    })),
    corners: [
      [left, lower],
      [right, lower],
      [right, upper],
      [left, upper],
    ].map(([x = 0, y = 0]) => pointOn(grid, x, y)),
    screws: screws.map((screw) => ({ ...screw, point: pointOn(grid, screw.xMm, screw.yMm) })),
  };
}

/** A pad larger than its component counts only over the component. */
function padOver({ pad, widthMm, heightMm }: StackComponent): { widthMm: number; heightMm: number } | null {
  return pad && { widthMm: Math.min(pad.widthMm, widthMm), heightMm: Math.min(pad.heightMm, heightMm) };
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
}

export function asGiven({ components }: Stack): Variation {
  return {
    gapsMm: components.map((component) => component.gapMm),
    thicknessesMm: components.map(({ pad }) => (pad ? pad.thicknessMm * pad.layers : 0)),
  };
}

/**
 * Balance of plate, screws, pads and die, all together: the least of a convex energy, by Newton's method with step control.
 * In the cooler's frame the cooler stands still, so the board's deflection w toward it is the only unknown: separation is −w.
 * @throws Problem `no-balance` when nothing holds the board
 */
export function solveContact(prepared: Prepared, variation: Variation, start?: Float64Array): Solved {
  const { plate, die, pads, screws, stack } = prepared;
  const materials = stack.components.map(({ pad }) => (pad ? stack.materials[pad.material] : undefined));
  let unknowns = start ? Float64Array.from(start) : new Float64Array(plate.size);
  const forces = (at: Float64Array, tangent: BandMatrix | undefined): { residual: Float64Array } => {
    const residual = plate.times(at);
    const push = (point: PointOnPlate, force: number, stiffness: number): void => {
      for (let i = 0; i < 12; i++) {
        const dof = point.dofs[i] ?? 0;
        residual[dof] = (residual[dof] ?? 0) + force * (point.shape[i] ?? 0);
      }
      if (stiffness > 0) tangent?.addPoint(point, stiffness);
    };
    for (const { point, areaMm2 } of die) {
      const w = deflectionAt(point, at);
      if (w > 0) push(point, DIE_KPA_PER_MM * w * areaMm2 * N_PER_KPA_MM2, DIE_KPA_PER_MM * areaMm2 * N_PER_KPA_MM2);
    }
    for (const { point, areaMm2, pad } of pads) {
      const thickness = variation.thicknessesMm[pad] ?? 0;
      const material = materials[pad];
      if (!material || thickness <= 0) continue;
      const strain = 1 - ((variation.gapsMm[pad] ?? 0) - deflectionAt(point, at)) / thickness;
      if (strain <= 0) continue;
      const { kPa, slope } = pressureAt(material, strain);
      push(point, kPa * areaMm2 * N_PER_KPA_MM2, (slope / thickness) * areaMm2 * N_PER_KPA_MM2);
    }
    for (const { point, forceN, springNPerMm } of screws) {
      const pull = forceN - springNPerMm * deflectionAt(point, at);
      if (pull > 0) push(point, -pull, springNPerMm);
    }
    return { residual };
  };
  const scale = screws.reduce((sum, screw) => sum + screw.forceN, 0);
  let steps = 0;
  for (; steps < MOST_STEPS; steps++) {
    const tangent = plate.copy();
    const { residual } = forces(unknowns, tangent);
    // A trace of a spring to the ground: without any contact the board would float.
    const trace = 1e-7 * scale;
    for (let dof = 0; dof < tangent.size; dof += PER_NODE) tangent.add(dof, dof, trace);
    const step = tangent.solve(residual.map((value) => -value));
    if (!step) break;
    const slope0 = dot(residual, step);
    if (Math.abs(slope0) < 1e-12 * scale) return finish(prepared, variation, unknowns, steps);
    // The energy is convex: its slope along the step tells how far to go.
    let factor = 1;
    for (let half = 0; half < 12; half++) {
      const trial = unknowns.map((value, dof) => value + factor * (step[dof] ?? 0));
      const slope = dot(forces(trial, undefined).residual, step);
      if (slope <= 0.5 * Math.abs(slope0)) break;
      factor *= Math.max(0.1, Math.min(0.7, Math.abs(slope0) / (Math.abs(slope0) + slope)));
    }
    unknowns = unknowns.map((value, dof) => value + factor * (step[dof] ?? 0));
  }
  throw new Problem({
    code: "no-balance",
    what: "No balance of screws, pads and die was found.",
    remedy: "Check screw forces, springs and curves: something is far from what a card has.",
  });
}

const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let k = 0; k < a.length; k++) sum += (a[k] ?? 0) * (b[k] ?? 0);
  return sum;
};

function finish(prepared: Prepared, variation: Variation, unknowns: Float64Array, steps: number): Solved {
  const { stack, pads, die, screws, corners } = prepared;
  const found = stack.components.map(() => ({ contact: false, strain: 0, forceN: 0, points: 0 }));
  for (const { point, areaMm2, pad } of pads) {
    const thickness = variation.thicknessesMm[pad] ?? 0;
    const one = found[pad];
    const material = stack.materials[stack.components[pad]?.pad?.material ?? ""];
    if (!one || !material || thickness <= 0) continue;
    const strain = 1 - ((variation.gapsMm[pad] ?? 0) - deflectionAt(point, unknowns)) / thickness;
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
    pads: found.map(({ contact, strain, forceN, points }) => ({
      contact,
      strain: strain / Math.max(1, points),
      forceN,
    })),
    pullsN: screws.map(({ point, forceN, springNPerMm }) =>
      Math.max(0, forceN - springNPerMm * deflectionAt(point, unknowns)),
    ),
    steps,
  };
}
