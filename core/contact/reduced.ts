import { cholesky, last, solveCholesky } from "../numeric/index.ts";
import { deflectionAt, PER_NODE, type PointOnPlate } from "./plate.ts";
import { asGiven, DIE_KPA_PER_MM, type Prepared, pressureAt, type Solved } from "./solve.ts";
import type { Material, Stack } from "./stack.ts";

/** Force on the die and its moments about the die's middle: N and N·mm. */
export interface DieResultant {
  forceN: number;
  xNmm: number;
  yNmm: number;
}

/** What the die of a solved stack carries. */
export function dieResultant({ stack: { die } }: Pick<Prepared, "stack">, { diePressuresKPa }: Solved): DieResultant {
  const side = Math.round(Math.sqrt(diePressuresKPa.length));
  const areaMm2 = (die.widthMm * die.heightMm) / diePressuresKPa.length;
  let [forceN, xNmm, yNmm] = [0, 0, 0];
  diePressuresKPa.forEach((kPa, index) => {
    const force = kPa * areaMm2 * 1e-3;
    forceN += force;
    xNmm += force * die.widthMm * ((Math.floor(index / side) + 0.5) / side - 0.5);
    yNmm += force * die.heightMm * (((index % side) + 0.5) / side - 0.5);
  });
  return { forceN, xNmm, yNmm };
}

/** Pads bend the plate by groups, as they lie around the die: so many. */
const PAD_GROUPS = 6;
const MOST_STEPS = 60;
/** Balanced up to this share of the forces at play. */
const BALANCED_SHARE = 1e-6;

/**
 * A stack's balance in some dozens of unknowns instead of a thousand: the plate's shapes under each screw, each pad and parts of the die,
 * put together so that the energy is least (Rayleigh and Ritz). For searches that ask thousands of times; what comes of them is solved in full.
 */
export class ReducedContact {
  readonly #stack: Stack;
  readonly #size: number;
  readonly #shapes: readonly Float64Array[];
  /** Plate among the shapes, size × size. */
  readonly #plate: Float64Array;
  /** Deflection at each point by each shape, row by row. */
  readonly #screws: Float64Array;
  readonly #die: Float64Array;
  /** The whole die pressed, size × size, its lower half: Σ of each point's row by itself. */
  readonly #wholeDie: Float64Array;
  readonly #pads: Float64Array;
  readonly #dieAreaMm2: number;
  readonly #padPoints: ReadonlyArray<{ areaMm2: number; gapMm: number; thicknessMm: number; material: Material }>;

  /** @param seen solutions in full of states like those that will be asked for: with their shapes it is nearest to the truth */
  constructor(prepared: Prepared, seen: readonly Float64Array[] = []) {
    const { plate, stack, screws, die, pads } = prepared;
    this.#stack = stack;
    const shapes = shapesOf(prepared, seen);
    const m = shapes.length;
    this.#shapes = shapes;
    this.#size = m;
    this.#plate = new Float64Array(m * m);
    shapes.forEach((shape, i) => {
      const force = plate.times(shape);
      for (let j = 0; j <= i; j++) {
        const other = shapes[j] as Float64Array;
        let sum = 0;
        for (let k = 0; k < force.length; k++) sum += (force[k] as number) * (other[k] as number);
        this.#plate[i * m + j] = sum;
        this.#plate[j * m + i] = sum;
      }
    });
    const rows = (points: ReadonlyArray<{ point: PointOnPlate }>): Float64Array =>
      Float64Array.from(points.flatMap(({ point }) => shapes.map((shape) => deflectionAt(point, shape))));
    this.#screws = rows(screws);
    this.#die = rows(die);
    this.#wholeDie = new Float64Array(m * m);
    for (let from = 0; from < this.#die.length; from += m)
      for (let i = 0; i < m; i++)
        for (let j = 0; j <= i; j++)
          this.#wholeDie[i * m + j] =
            (this.#wholeDie[i * m + j] as number) + (this.#die[from + i] as number) * (this.#die[from + j] as number);
    const { gapsMm, thicknessesMm } = asGiven(stack);
    // A pad counts as a whole: pressed by as much as it is on average.
    const pressing = stack.components.flatMap((component, index) => {
      const own = pads.filter(({ pad }) => pad === index);
      const material = stack.materials[component.pad?.material ?? ""];
      const thicknessMm = thicknessesMm[index] ?? 0;
      if (own.length === 0 || !material || thicknessMm <= 0) return [];
      const areaMm2 = own.reduce((sum, one) => sum + one.areaMm2, 0);
      return [{ own, material, thicknessMm, areaMm2, gapMm: gapsMm[index] ?? 0 }];
    });
    this.#pads = Float64Array.from(
      pressing.flatMap(({ own }) =>
        shapes.map((shape) => own.reduce((sum, { point }) => sum + deflectionAt(point, shape), 0) / own.length),
      ),
    );
    this.#padPoints = pressing;
    this.#dieAreaMm2 = die[0]?.areaMm2 ?? 0;
  }

  /**
   * @param forcesN each screw's spring times its travel
   * @param start unknowns of a state nearby
   * @returns undefined where no balance was found
   */
  solve(forcesN: readonly number[], start?: Float64Array): (DieResultant & { unknowns: Float64Array }) | undefined {
    const m = this.#size;
    const scale = Math.max(
      forcesN.reduce((sum, one) => sum + one, 0),
      1e-3 * this.#stack.screws.reduce((sum, one) => sum + one.forceN, 0),
    );
    let unknowns: Float64Array = start ?? new Float64Array(m);
    const off = new Float64Array(m);
    const tangent = new Float64Array(m * m);
    const trial = new Float64Array(m);
    this.#unbalanced(unknowns, forcesN, off, tangent);
    for (let steps = 0; steps < MOST_STEPS; steps++) {
      if (off.every((value) => Math.abs(value) < BALANCED_SHARE * scale))
        return { ...this.#resultant(unknowns), unknowns };
      for (let k = 0; k < m; k++) tangent[k * m + k] = (tangent[k * m + k] as number) + 1e-7 * scale;
      const lower = cholesky(tangent, m);
      if (!lower) return undefined;
      const step = solveCholesky(
        lower,
        off.map((value) => -value),
      );
      let slope0 = 0;
      for (let k = 0; k < m; k++) slope0 -= (off[k] as number) * (step[k] as number);
      if (slope0 < 1e-12 * scale) return { ...this.#resultant(unknowns), unknowns };
      let factor = 1;
      for (let half = 0; half < 12; half++) {
        for (let k = 0; k < m; k++) trial[k] = (unknowns[k] as number) + factor * (step[k] as number);
        // Mostly the whole step is taken, and the next one begins with what is found here.
        this.#unbalanced(trial, forcesN, off, tangent);
        let slope = 0;
        for (let k = 0; k < m; k++) slope += (off[k] as number) * (step[k] as number);
        if (slope <= 0.5 * slope0) break;
        factor *= Math.max(0.1, Math.min(0.7, slope0 / (slope0 + slope)));
      }
      unknowns = trial.slice();
    }
    return undefined;
  }

  /** The whole plate's unknowns, for `solveContact` to start from. */
  whole(unknowns: Float64Array): Float64Array {
    const all = new Float64Array(this.#shapes[0]?.length ?? 0);
    this.#shapes.forEach((shape, k) => {
      const share = unknowns[k] as number;
      for (let dof = 0; dof < all.length; dof++) all[dof] = (all[dof] as number) + share * (shape[dof] as number);
    });
    return all;
  }

  #unbalanced(at: Float64Array, forcesN: readonly number[], off: Float64Array, tangent: Float64Array): void {
    const m = this.#size;
    const plate = this.#plate;
    for (let i = 0; i < m; i++) {
      let sum = 0;
      for (let j = 0; j < m; j++) sum += (plate[i * m + j] as number) * (at[j] as number);
      off[i] = sum;
    }
    tangent.set(plate);
    const push = (rows: Float64Array, from: number, force: number, stiffness: number): void => {
      for (let i = 0; i < m; i++) off[i] = (off[i] as number) + force * (rows[from + i] as number);
      if (stiffness === 0) return;
      for (let i = 0; i < m; i++) {
        const share = stiffness * (rows[from + i] as number);
        // The lower half is all that is asked for.
        for (let j = 0, at = i * m; j <= i; j++, at++)
          tangent[at] = (tangent[at] as number) + share * (rows[from + j] as number);
      }
    };
    const dieStiffness = DIE_KPA_PER_MM * this.#dieAreaMm2 * 1e-3;
    const points = this.#die.length / m;
    const depths = new Float64Array(points);
    let pressed = 0;
    for (let k = 0; k < points; k++) {
      depths[k] = deflected(this.#die, k * m, at);
      if ((depths[k] as number) > 0) pressed++;
    }
    // Mostly nearly all of it is pressed, or nearly none: the fewer are added, or taken from the whole.
    const isMost = 2 * pressed > points;
    if (isMost) {
      const whole = this.#wholeDie;
      for (let k = 0; k < whole.length; k++) tangent[k] = (tangent[k] as number) + dieStiffness * (whole[k] as number);
      for (let i = 0; i < m; i++)
        for (let j = 0; j <= i; j++) {
          const share = dieStiffness * (whole[i * m + j] as number);
          off[i] = (off[i] as number) + share * (at[j] as number);
          if (j < i) off[j] = (off[j] as number) + share * (at[i] as number);
        }
    }
    for (let k = 0; k < points; k++) {
      const w = depths[k] as number;
      if (w > 0 === isMost) continue;
      const stiffness = isMost ? -dieStiffness : dieStiffness;
      push(this.#die, k * m, stiffness * w, stiffness);
    }
    this.#padPoints.forEach(({ areaMm2, gapMm, thicknessMm, material }, index) => {
      const strain = 1 - (gapMm - deflected(this.#pads, index * m, at)) / thicknessMm;
      if (strain <= 0) return;
      const { kPa, slope } = pressureAt(material, strain);
      push(this.#pads, index * m, kPa * areaMm2 * 1e-3, (slope / thicknessMm) * areaMm2 * 1e-3);
    });
    this.#stack.screws.forEach(({ springNPerMm }, index) => {
      const pull = (forcesN[index] as number) - springNPerMm * deflected(this.#screws, index * m, at);
      if (pull > 0) push(this.#screws, index * m, -pull, springNPerMm);
    });
  }

  #resultant(at: Float64Array): DieResultant {
    const m = this.#size;
    const diePressuresKPa: number[] = [];
    for (let from = 0; from < this.#die.length; from += m)
      diePressuresKPa.push(DIE_KPA_PER_MM * Math.max(0, deflected(this.#die, from, at)));
    return dieResultant({ stack: this.#stack }, { diePressuresKPa } as Solved);
  }
}

function deflected(rows: Float64Array, from: number, at: Float64Array): number {
  let sum = 0;
  for (let k = 0; k < at.length; k++) sum += (rows[from + k] as number) * (at[k] as number);
  return sum;
}

const middle = (lines: Float64Array): number => ((lines[0] ?? 0) + last(lines)) / 2;

/** Moved and tilted as a whole, and the plate's shapes under single loads; each unlike all before it. */
function shapesOf({ plate, grid, screws, die, pads, stack }: Prepared, seen: readonly Float64Array[]): Float64Array[] {
  const nodes = plate.size / PER_NODE;
  const rigid = [0, 1, 2].map((kind) => {
    const shape = new Float64Array(plate.size);
    for (let node = 0; node < nodes; node++) {
      const x = (grid.xs[Math.floor(node / grid.ys.length)] ?? 0) - middle(grid.xs);
      const y = (grid.ys[node % grid.ys.length] ?? 0) - middle(grid.ys);
      shape[PER_NODE * node] = [1, x, y][kind] ?? 0;
      if (kind > 0) shape[PER_NODE * node + kind] = 1;
    }
    return shape;
  });
  const side = Math.round(Math.sqrt(die.length));
  const [low, mid, high] = [0, Math.floor(side / 2), side - 1];
  const dieParts = [
    [low, low],
    [high, low],
    [high, high],
    [low, high],
    [mid, mid],
  ].map(([i = 0, j = 0]) => die[i * side + j]);
  const loads: ReadonlyArray<ReadonlyArray<{ point: PointOnPlate }>> = [
    ...screws.map((one) => [one]),
    ...dieParts.map((one) => (one ? [one] : [])),
    // What pads do to it shows in what was seen.
    ...(seen.length === 0 ? padGroups(stack, pads) : []),
  ];
  // A soft bed under all of it: alone the plate would float.
  const bedded = plate.copy();
  for (let node = 0; node < nodes; node++) bedded.add(PER_NODE * node, PER_NODE * node, 1 / nodes);
  const bent = loads.flatMap((points) => {
    if (points.length === 0) return [];
    const force = new Float64Array(plate.size);
    for (const { point } of points)
      for (let i = 0; i < 12; i++) {
        const dof = point.dofs[i] as number;
        force[dof] = (force[dof] as number) + (point.shape[i] as number);
      }
    const shape = bedded.copy().solve(force);
    return shape ? [shape] : [];
  });
  return apart([...rigid, ...seen, ...bent]);
}

/** The pads in groups of neighbours around the die. */
function padGroups<P extends { pad: number }>({ die, components }: Stack, pads: readonly P[]): P[][] {
  const angle = ({ pad }: P): number => {
    const part = components[pad];
    return part ? Math.atan2(part.yMm - die.yMm, part.xMm - die.xMm) : 0;
  };
  const around = pads.toSorted((a, b) => angle(a) - angle(b));
  const size = Math.ceil(around.length / PAD_GROUPS);
  return Array.from({ length: size === 0 ? 0 : Math.ceil(around.length / size) }, (_, k) =>
    around.slice(k * size, (k + 1) * size),
  );
}

/** Gram and Schmidt, twice over; what is left of nothing new is dropped. */
function apart(shapes: readonly Float64Array[]): Float64Array[] {
  const kept: Float64Array[] = [];
  for (const shape of shapes) {
    const own = shape.slice();
    const length = norm(own);
    for (let round = 0; round < 2; round++)
      for (const other of kept) {
        let share = 0;
        for (let k = 0; k < own.length; k++) share += (own[k] as number) * (other[k] as number);
        for (let k = 0; k < own.length; k++) own[k] = (own[k] as number) - share * (other[k] as number);
      }
    const left = norm(own);
    if (left > 1e-9 * length) kept.push(own.map((value) => value / left));
  }
  return kept;
}

const norm = (values: Float64Array): number => Math.sqrt(values.reduce((sum, value) => sum + value * value, 0));
