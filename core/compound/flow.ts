import type { Grid, Laid } from "./beads.ts";

/**
 * Where the compound is at a gap, without steps of time. Integrated over the closing (Baiocchi's transformation; Elliott & Janovský 1981, from
 * memory) the pressure becomes w with ∇²w = gap − laid where w > 0, w = 0 elsewhere and at the die's edge: an obstacle problem whose answer
 * does not depend on the way to that gap. Cells keep their volume: what a cell holds is laid + ∇²w, exactly the gap where it is full.
 *
 * Solved by truncated multigrid (after Kornhuber 1994, from memory): Gauss–Seidel held at zero, corrected by coarser grids of the cells that
 * flow. Beginning from nothing, the coarser grids are solved first.
 */
export class Flow {
  readonly #levels: [Level, ...Level[]];
  #begun = false;

  constructor(grid: Grid) {
    let { columns, rows, dxMm, dyMm } = grid;
    this.#levels = [levelOf(columns, rows, dxMm, dyMm)];
    while (columns % 2 === 0 && rows % 2 === 0 && Math.min(columns, rows) > FEWEST_CELLS) {
      [columns, rows, dxMm, dyMm] = [columns / 2, rows / 2, dxMm * 2, dyMm * 2];
      this.#levels.push(levelOf(columns, rows, dxMm, dyMm));
    }
  }

  /**
   * Goes on from the gap before; gaps asked for in falling order are quickest.
   * @param close of the gap: how much a cell's content may still be off
   */
  press({ meanMm }: Laid, gapMm: number, close: number): void {
    const [finest, ...coarser] = this.#levels;
    const { columns, rows, wide } = finest;
    for (let j = 0; j < rows; j++)
      for (let i = 0; i < columns; i++) finest.f[(j + 1) * wide + i + 1] = (meanMm[j * columns + i] as number) - gapMm;
    if (!this.#begun) {
      let fine = finest;
      for (const coarse of coarser) {
        restrict(fine, coarse, fine.f, coarse.f);
        fine = coarse;
      }
      for (let depth = coarser.length; depth > 0; depth--) {
        this.#settle(depth, close * gapMm);
        const [coarse, next] = [this.#levels[depth] as Level, this.#levels[depth - 1] as Level];
        next.wet.fill(1);
        refine(coarse, coarse.w, next, next.w);
        hold(next.w);
      }
      this.#begun = true;
    }
    this.#settle(0, close * gapMm);
  }

  /** The pressure's integral over the closing in cell (i, j). */
  wMm2(i: number, j: number): number {
    const { w, wide } = this.#levels[0];
    return w[(j + 1) * wide + i + 1] as number;
  }

  /** What has flowed into cell (i, j), mm, and whether it flows; less than nothing where more has left. */
  flowedMm(i: number, j: number): { flows: boolean; mm: number } {
    const level = this.#levels[0];
    const k = (j + 1) * level.wide + i + 1;
    const flows = (level.w[k] as number) > 0;
    return { flows, mm: around(level, level.w, k) - (level.w[k] as number) / (level.inverse[k] as number) };
  }

  /** @param enoughMm how much a cell's content may still be off */
  #settle(depth: number, enoughMm: number): void {
    const level = this.#levels[depth] as Level;
    for (let cycle = 0; cycle < MOST_CYCLES; cycle++) {
      smooth(level, level.w, level.f, true, SWEEPS);
      for (let k = 0; k < level.wet.length; k++) level.wet[k] = (level.w[k] as number) > 0 ? 1 : 0;
      lacking(level, level.w, level.f);
      if (worstOf(level) < enoughMm) return;
      this.#correct(depth, level.w);
      hold(level.w);
      smooth(level, level.w, level.f, true, SWEEPS);
    }
  }

  /** Adds to `w`, in the cells that flow, what the coarser grids find for what is lacking. */
  #correct(depth: number, w: Float64Array): void {
    const [fine, coarse] = [this.#levels[depth] as Level, this.#levels[depth + 1]];
    if (!coarse) return;
    for (let k = 0; k < fine.lack.length; k++) if (!fine.wet[k]) fine.lack[k] = 0;
    restrict(fine, coarse, fine.lack, coarse.rest);
    narrow(fine, coarse);
    coarse.more.fill(0);
    const last = depth + 2 >= this.#levels.length;
    smooth(coarse, coarse.more, coarse.rest, false, last ? COARSEST_SWEEPS : SWEEPS);
    if (!last) {
      lacking(coarse, coarse.more, coarse.rest);
      this.#correct(depth + 1, coarse.more);
      smooth(coarse, coarse.more, coarse.rest, false, SWEEPS);
    }
    refine(coarse, coarse.more, fine, w);
  }
}

/** A level's equations, −∇²w ≥ f and w ≥ 0, one of them equal; a rim of zeros one cell wide around it. */
interface Level {
  columns: number;
  rows: number;
  /** Cells from one row to the next. */
  wide: number;
  ax: number;
  ay: number;
  /** Of what a cell weighs in its own equation. The die's edge, where w = 0, lies half a cell away. */
  inverse: Float64Array;
  w: Float64Array;
  f: Float64Array;
  lack: Float64Array;
  /** Of a correction: where it is made, what for, and what it came to. */
  wet: Uint8Array;
  rest: Float64Array;
  more: Float64Array;
}

const FEWEST_CELLS = 8;
const SWEEPS = 2;
const COARSEST_SWEEPS = 20;
const MOST_CYCLES = 200;

function levelOf(columns: number, rows: number, dxMm: number, dyMm: number): Level {
  const wide = columns + 2;
  const array = (): Float64Array => new Float64Array(wide * (rows + 2));
  const [ax, ay] = [1 / dxMm ** 2, 1 / dyMm ** 2];
  const inverse = array().fill(1);
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const [atX, atY] = [i === 0 || i === columns - 1, j === 0 || j === rows - 1];
      inverse[(j + 1) * wide + i + 1] = 1 / (ax * (atX ? 3 : 2) + ay * (atY ? 3 : 2));
    }
  const wet = new Uint8Array(inverse.length);
  return {
    columns,
    rows,
    wide,
    ax,
    ay,
    inverse,
    wet,
    w: array(),
    f: array(),
    lack: array(),
    rest: array(),
    more: array(),
  };
}

const around = ({ ax, ay, wide }: Level, w: Float64Array, k: number): number =>
  ax * ((w[k - 1] as number) + (w[k + 1] as number)) + ay * ((w[k - wide] as number) + (w[k + wide] as number));

/** Gauss–Seidel, red and black: over all cells, held at zero, or freely over those that are wet. */
function smooth(level: Level, w: Float64Array, f: Float64Array, held: boolean, sweeps: number): void {
  const { columns, rows, wide, inverse, wet } = level;
  for (let half = 0; half < 2 * sweeps; half++)
    for (let j = 1; j <= rows; j++) {
      const end = j * wide + columns;
      for (let k = j * wide + 1 + ((half + j) & 1); k <= end; k += 2) {
        const next = (around(level, w, k) + (f[k] as number)) * (inverse[k] as number);
        if (held) w[k] = next > 0 ? next : 0;
        else if (wet[k]) w[k] = next;
      }
    }
}

/** Into `lack`: f + ∇²w. */
function lacking(level: Level, w: Float64Array, f: Float64Array): void {
  const { columns, rows, wide, inverse, lack } = level;
  for (let j = 1; j <= rows; j++)
    for (let k = j * wide + 1; k <= j * wide + columns; k++)
      lack[k] = around(level, w, k) + (f[k] as number) - (w[k] as number) / (inverse[k] as number);
}

function worstOf({ lack, wet }: Level): number {
  let worst = 0;
  for (let k = 0; k < lack.length; k++) {
    const one = lack[k] as number;
    if (one > worst) worst = one;
    else if (wet[k] && -one > worst) worst = -one;
  }
  return worst;
}

function hold(w: Float64Array): void {
  for (let k = 0; k < w.length; k++) if ((w[k] as number) < 0) w[k] = 0;
}

/** Each coarse cell gets the mean of its four. */
function restrict(fine: Level, coarse: Level, from: Float64Array, to: Float64Array): void {
  for (let j = 1; j <= coarse.rows; j++)
    for (let i = 1; i <= coarse.columns; i++) {
      const at = (2 * j - 1) * fine.wide + 2 * i - 1;
      const above = at + fine.wide;
      to[j * coarse.wide + i] =
        ((from[at] as number) + (from[at + 1] as number) + (from[above] as number) + (from[above + 1] as number)) / 4;
    }
}

/** A coarse cell flows where all its four do. */
function narrow(fine: Level, coarse: Level): void {
  const { wet } = fine;
  for (let j = 1; j <= coarse.rows; j++)
    for (let i = 1; i <= coarse.columns; i++) {
      const at = (2 * j - 1) * fine.wide + 2 * i - 1;
      const above = at + fine.wide;
      coarse.wet[j * coarse.wide + i] = wet[at] && wet[at + 1] && wet[above] && wet[above + 1] ? 1 : 0;
    }
}

/** Adds a coarse grid's values to the wet cells of the next finer one, bilinearly. */
function refine(coarse: Level, from: Float64Array, fine: Level, to: Float64Array): void {
  for (let y = 1; y <= fine.rows; y++) {
    const near = ((y + 1) >> 1) * coarse.wide;
    const far = near + (y & 1 ? -coarse.wide : coarse.wide);
    for (let x = 1; x <= fine.columns; x++) {
      const k = y * fine.wide + x;
      if (!fine.wet[k]) continue;
      const i = (x + 1) >> 1;
      const ni = x & 1 ? i - 1 : i + 1;
      to[k] =
        (to[k] as number) +
        (9 * (from[near + i] as number) +
          3 * ((from[near + ni] as number) + (from[far + i] as number)) +
          (from[far + ni] as number)) /
          16;
    }
  }
}

/** A film that was scaled to the gap is as thick as the gap. */
const ROUNDING = 1e-9;

/**
 * The share of each cell that is wet, 0…1. A front takes up what lies before it (film, beads the plate has not reached), so that a cell is as
 * far filled as its content has come from what was laid to the gap.
 */
export function wetted({ columns, rows }: Grid, laid: Laid, filmMm: number, gapMm: number, flow: Flow): Float64Array {
  const wet = new Float64Array(columns * rows);
  for (let j = 0, k = 0; j < rows; j++)
    for (let i = 0; i < columns; i++, k++) {
      const before = dryMm(laid, filmMm, gapMm, k);
      const { flows, mm } = flow.flowedMm(i, j);
      const holds = (laid.meanMm[k] as number) + mm;
      wet[k] =
        flows || before >= gapMm * (1 - ROUNDING) ? 1 : Math.min(1, Math.max(0, (holds - before) / (gapMm - before)));
    }
  return wet;
}

/** What lies in the dry part of a cell, mm: what was laid, or the film alone where the plate has reached its bead. */
export const dryMm = ({ meanMm, topMm }: Laid, filmMm: number, gapMm: number, cell: number): number =>
  (topMm[cell] as number) >= gapMm ? Math.min(filmMm, meanMm[cell] as number) : (meanMm[cell] as number);
