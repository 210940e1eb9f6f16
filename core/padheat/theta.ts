import { BandMatrix, nth, SolveFailed } from "../numeric/index.ts";

/** One part under its pad. Lengths in mm. */
export interface PadHeatInput {
  widthMm: number;
  heightMm: number;
  powerW: number;
  /** Pad over the part: size and offset of its centre from the part's; null without one. */
  pad: {
    widthMm: number;
    heightMm: number;
    offXMm: number;
    offYMm: number;
    /** Thickness once mounted. */
    bondLineMm: number;
    conductivityWPerMK: number;
    pressureKPa: number;
    /** Joints: two faces, one more per further layer. */
    joints: number;
    filmLeft: boolean;
  } | null;
}

export interface PadHeat {
  /** Silicon over cooler face, K/W. */
  thetaKPerW: number;
  /** Silicon over cooler face, K. */
  riseK: number;
  /** Heat that leaves through the pad, W; the rest goes into the board. */
  throughPadW: number;
}

/** Silicon takes the middle of a package, this share of each side; common build, from memory. */
const SILICON_SHARE = 0.7;
/** Sideways conductance of the silicon (0.3 mm of 148 W/mK) and of the package around it (moulding and copper), W/K per square. */
const SILICON_SHEET = 0.3e-3 * 148;
const PACKAGE_SHEET = 4e-3;
/** Moulding above the silicon, m²K/W: 0.2 mm of 0.9 W/mK (from memory). */
const MOULD = 0.2e-3 / 0.9;
/** Into the board and its copper, K/W for 168 mm² of part (common practice). */
const BOARD_K_PER_W = 30;
const BOARD_AREA_MM2 = 168;
/** Polyester film left on, m²K/W: 0.05 mm of 0.15 W/mK (from memory). */
const FILM = 0.05e-3 / 0.15;
const CELL_MM = 0.5;
const MOST_CELLS = 40;

const cellsOf = (spanMm: number): number => Math.min(MOST_CELLS, Math.max(4, Math.round(spanMm / CELL_MM)));

/**
 * A joint's resistance, m²K/W: falls with pressure as the pad wets the face (common practice: 12 to 40 mm²K/W).
 * @example
 * ```ts
 * Math.round(jointM2KPerW(0) * 1e6) // => 40
 * ```
 */
export const jointM2KPerW = (pressureKPa: number): number => (12 + 28 * Math.exp(-pressureKPa / 30)) * 1e-6;

/**
 * Thermal resistance from a part's silicon to the cooler face, as a sheet that spreads heat sideways (finite differences): silicon in
 * the middle feeds it, the pad drains it where it lies, the board everywhere. R of the pad = bond line / (k A) + joints, the model
 * behind ASTM D5470.
 */
export function padHeat({ widthMm, heightMm, powerW, pad }: PadHeatInput): PadHeat {
  // With a centred pad each quarter is like the others: one is enough.
  const quarters = !pad || (pad.offXMm === 0 && pad.offYMm === 0) ? 4 : 1;
  const [left, lower] = quarters === 4 ? [0, 0] : [-widthMm / 2, -heightMm / 2];
  const [nx, ny] = [cellsOf(widthMm / 2 - left), cellsOf(heightMm / 2 - lower)];
  const [dx, dy] = [(widthMm / 2 - left) / nx, (heightMm / 2 - lower) / ny];
  const cellM2 = dx * dy * 1e-6;
  const matrix = new BandMatrix(nx * ny, ny);
  const right = new Float64Array(nx * ny);
  const drains = new Float64Array(nx * ny);
  const through = pad
    ? MOULD +
      (pad.bondLineMm * 1e-3) / pad.conductivityWPerMK +
      pad.joints * jointM2KPerW(pad.pressureKPa) +
      (pad.filmLeft ? FILM : 0)
    : Number.POSITIVE_INFINITY;
  const toBoard = (dx * dy) / BOARD_AREA_MM2 / BOARD_K_PER_W;
  const x = (i: number): number => left + (i + 0.5) * dx;
  const y = (j: number): number => lower + (j + 0.5) * dy;
  const silicon = (i: number, j: number): boolean =>
    Math.abs(x(i)) <= (SILICON_SHARE * widthMm) / 2 && Math.abs(y(j)) <= (SILICON_SHARE * heightMm) / 2;
  let fed = 0;
  for (let i = 0; i < nx; i++) for (let j = 0; j < ny; j++) if (silicon(i, j)) fed++;
  const link = (a: number, b: number, conductance: number): void => {
    matrix.add(a, a, conductance);
    matrix.add(b, b, conductance);
    matrix.add(a, b, -conductance);
    matrix.add(b, a, -conductance);
  };
  for (let i = 0; i < nx; i++)
    for (let j = 0; j < ny; j++) {
      const cell = i * ny + j;
      const share = pad ? covered(x(i), dx, pad.offXMm, pad.widthMm) * covered(y(j), dy, pad.offYMm, pad.heightMm) : 0;
      drains[cell] = (share * cellM2) / through;
      matrix.add(cell, cell, nth(drains, cell) + toBoard);
      right[cell] = silicon(i, j) ? powerW / quarters / fed : 0;
      const sheet = (di: number, dj: number): number =>
        silicon(i, j) && silicon(i + di, j + dj) ? SILICON_SHEET : PACKAGE_SHEET;
      if (i + 1 < nx) link(cell, cell + ny, (sheet(1, 0) * dy) / dx);
      if (j + 1 < ny) link(cell, cell + 1, (sheet(0, 1) * dx) / dy);
    }
  const rises = matrix.solve(right);
  if (!rises) throw new SolveFailed("the part under its pad");
  let hottest = 0;
  let throughPadW = 0;
  rises.forEach((rise, cell) => {
    hottest = Math.max(hottest, rise);
    throughPadW += quarters * rise * nth(drains, cell);
  });
  return { thetaKPerW: powerW > 0 ? hottest / powerW : 0, riseK: hottest, throughPadW };
}

/** Share of a cell of width `d` about `at` that a pad of width `size` about `off` covers. */
function covered(at: number, d: number, off: number, size: number): number {
  const low = Math.max(at - d / 2, off - size / 2);
  const high = Math.min(at + d / 2, off + size / 2);
  return Math.max(0, high - low) / d;
}
