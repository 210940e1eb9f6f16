import { pocketMm2, pocketsOf } from "./air.ts";
import { type Grid, gridOf, type Laid, layBeads } from "./beads.ts";
import { dryMm, Flow, wetted } from "./flow.ts";
import { type DieSize, doseUl, type SpreadInput } from "./input.ts";
import { outlineOf, type Polygon } from "./outline.ts";

export interface Pressing {
  bondLineUm: number;
  doseUl: number;
  doseMg: number | null;
  coveragePct: number;
  uncoveredMm2: number;
  squeezedOutUl: number;
  enclosedAirMm2: number;
  outline: Polygon[];
}

export interface Spread extends Pressing {
  /** Of the same pattern, all scaled by one factor, for 99 % of the die; null where ten times the bond line's own volume does not do. */
  leastDoseUl: number | null;
}

/** A moment of the closing. */
export interface Moment {
  gapMm: number;
  coveragePct: number;
  outline: Polygon[];
}

const COVERED = 0.99;
/** Of the bond line's own volume: more than so much is no dose. */
const MOST_FILLS = 10;
/** From one look at the closing to the next the gap falls by so much; where air is closed in between, it is halved so many times. */
const LOOK_STEP = 0.08;
const HALVINGS = 5;
const DOSE_STEPS = 24;
const DOSE_CLOSE = 2e-4;
/** Of the gap: how much a cell's content may be off in an answer, and where just pockets of air are looked for. */
const CLOSE = 2e-4;
const CLOSE_LOOK = 3e-3;
const MM_PER_UM = 1e-3;

/** A quarter of a millimetre, finer on small dies and coarser on large ones: some eight to sixteen thousand cells. */
const fineCellMm = ({ widthMm, heightMm }: DieSize): number =>
  Math.min(Math.max(0.25, Math.sqrt((widthMm * heightMm) / 16_000)), Math.sqrt((widthMm * heightMm) / 8000));

/** A pattern on a die's grid that can be pressed to any gap. Asked for falling gaps it goes on from the last one. */
class Pressed {
  readonly grid: Grid;
  readonly #laid: Laid;
  readonly #filmMm: number;
  readonly #flow: Flow;

  constructor({ die, beads, filmUm }: Pick<SpreadInput, "die" | "beads" | "filmUm">, cellMm: number) {
    this.grid = gridOf(die, cellMm);
    this.#filmMm = filmUm * MM_PER_UM;
    this.#laid = layBeads(this.grid, beads, this.#filmMm);
    this.#flow = new Flow(this.grid);
  }

  /** Where the plate first touches, mm. */
  get touchMm(): number {
    return this.#laid.topMm.reduce((top, one) => Math.max(top, one), 0);
  }

  /** Share of each cell that is wet at this gap. */
  at(gapMm: number, close = CLOSE): Float64Array {
    this.#flow.press(this.#laid, gapMm, close);
    return wetted(this.grid, this.#laid, this.#filmMm, gapMm, this.#flow);
  }

  /** µL that lie on the die, of which beyond its edge what is missing. */
  leftUl(wet: Float64Array, gapMm: number): number {
    const { dxMm, dyMm } = this.grid;
    let sum = 0;
    for (let k = 0; k < wet.length; k++) {
      const share = wet[k] as number;
      sum += share * gapMm + (1 - share) * dryMm(this.#laid, this.#filmMm, gapMm, k);
    }
    return sum * dxMm * dyMm;
  }
}

const shareOf = (wet: Float64Array): number => wet.reduce((sum, one) => sum + one, 0) / wet.length;

/**
 * Where the compound lies once the die is pressed to its bond line, and what got lost on the way.
 * @param cellMm side of a cell; the answer in full has `fineCellMm`
 * @example
 * ```ts
 * spread({ die: { widthMm: 20, heightMm: 22 }, beads: [], filmUm: 60, bondLineUm: 50, densityGPerMl: null }).coveragePct // => 100
 * ```
 */
export function spread(input: SpreadInput, cellMm = fineCellMm(input.die)): Spread {
  const { outline, ...figures } = pressing(input, cellMm);
  return { ...figures, leastDoseUl: leastDoseUl(input, cellMm), outline };
}

/** The same without the least dose: what answers while beads are dragged. */
export function pressing(input: SpreadInput, cellMm: number): Pressing {
  const pressed = new Pressed(input, cellMm);
  const bondLineMm = input.bondLineUm * MM_PER_UM;
  const enclosedAirMm2 = input.beads.length > 1 ? enclosedMm2(input, cellMm) : 0;
  const wet = pressed.at(bondLineMm);
  const dose = doseUl(input);
  const share = shareOf(wet);
  return {
    bondLineUm: input.bondLineUm,
    doseUl: dose,
    doseMg: input.densityGPerMl === null ? null : dose * input.densityGPerMl,
    coveragePct: 100 * share,
    uncoveredMm2: (1 - share) * input.die.widthMm * input.die.heightMm,
    squeezedOutUl: Math.max(0, dose - pressed.leftUl(wet, bondLineMm)),
    enclosedAirMm2,
    outline: outlineOf(pressed.grid, wet),
  };
}

/** A look for air goes over cells so many times as large first. */
const LOOK_CELLS = 2;
/** Large cells may see it closed so many looks too late (walls thinner than they are) or too early (fronts that are about to meet). */
const EARLIER = 11;
const LATER = 5;

/** The plan area of air at the moments when it was closed in, mm²: moments looked for on large cells, measured on small ones. */
function enclosedMm2(input: SpreadInput, cellMm: number): number {
  const large = new Pressed(input, cellMm * LOOK_CELLS);
  const gaps = looksFrom(large.touchMm, input.bondLineUm * MM_PER_UM);
  const closes: number[] = [];
  follow(large, gaps, 0, (_wet, _cells, index) => closes.push(index));
  if (closes.length === 0) return 0;
  let total = 0;
  const small = new Pressed(input, cellMm);
  const asked = gaps.slice(Math.max(0, Math.min(...closes) - EARLIER), Math.max(...closes) + LATER + 1);
  follow(small, asked, HALVINGS, (wet, cells) => {
    total += pocketMm2(small.grid, wet, cells);
  });
  return total;
}

function looksFrom(touchMm: number, bondLineMm: number): number[] {
  const gaps: number[] = [];
  for (let gap = touchMm; gap > bondLineMm; gap *= 1 - LOOK_STEP) gaps.push(gap);
  return [...gaps, bondLineMm];
}

/** Tells of every pocket at the moment it is closed in, to within a look halved so many times. */
function follow(
  pressed: Pressed,
  gaps: readonly number[],
  halvings: number,
  tell: (wet: Float64Array, cells: readonly number[], index: number) => void,
): void {
  let before: readonly number[][] = [];
  const fresh = (pockets: readonly number[][]): number[][] => {
    const known = new Set(before.flat());
    return pockets.filter((cells) => !cells.some((cell) => known.has(cell)));
  };
  const between = (wide: number, narrow: number, left: number, index: number): void => {
    const wet = pressed.at(narrow, CLOSE_LOOK);
    const pockets = pocketsOf(pressed.grid, wet);
    const closed = fresh(pockets);
    if (closed.length > 0 && left > 0) {
      const mid = Math.sqrt(wide * narrow);
      between(wide, mid, left - 1, index);
      between(mid, narrow, left - 1, index);
      return;
    }
    for (const cells of closed) tell(wet, cells, index);
    before = pockets;
  };
  for (const [index, gap] of gaps.entries()) between(gaps[index - 1] ?? gap, gap, index === 0 ? 0 : halvings, index);
}

const scaled = ({ beads, filmUm }: Pick<SpreadInput, "beads" | "filmUm">, factor: number) => ({
  beads: beads.map((bead) => ({ ...bead, volumeUl: bead.volumeUl * factor })),
  filmUm: filmUm * factor,
});

/**
 * The least dose of this pattern that covers 99 % of the die; null where ten times the bond line's own volume does not.
 * @returns µL
 */
export function leastDoseUl(input: SpreadInput, cellMm = fineCellMm(input.die)): number | null {
  const bondLineMm = input.bondLineUm * MM_PER_UM;
  const dose = doseUl(input);
  const fill = input.die.widthMm * input.die.heightMm * bondLineMm;
  const short = (factor: number): number =>
    COVERED - shareOf(new Pressed({ die: input.die, ...scaled(input, factor) }, cellMm).at(bondLineMm));
  let [low, high] = [0, (MOST_FILLS * fill) / dose];
  // A film that is as thick as the bond line wets all of it at once.
  if (input.filmUm > 0) high = Math.min(high, input.bondLineUm / input.filmUm);
  // No less than what fills 99 % can do; twice the fill does for most patterns.
  const least = (COVERED * fill) / dose;
  if (short(Math.min(2 * least, high)) <= 0) high = Math.min(2 * least, high);
  else if (short(high) > 0) return null;
  else low = 2 * least;
  let [lowShort, highShort] = [Math.max(short(Math.max(low, least * 0.9999)), 0), Math.min(short(high), 0)];
  low = Math.max(low, least * 0.9999);
  if (lowShort === 0) return low * dose;
  for (let k = 0; k < DOSE_STEPS && high - low > DOSE_CLOSE * high; k++) {
    // Between halving and the secant (Illinois), so that a jump of the curve costs no more than a few steps.
    const secant = low + ((high - low) * lowShort) / (lowShort - highShort);
    const mid =
      k % 3 === 2
        ? (low + high) / 2
        : Math.min(Math.max(secant, low + (high - low) * 0.05), high - (high - low) * 0.05);
    const midShort = short(mid);
    if (midShort <= 0) [high, highShort] = [mid, midShort];
    else [low, lowShort] = [mid, midShort];
  }
  return high * dose;
}

/** The closing in so many moments, from where the plate touches to the bond line, evenly by ratio. */
export function closing(input: SpreadInput, moments: number, cellMm: number): Moment[] {
  const pressed = new Pressed(input, cellMm);
  const bondLineMm = input.bondLineUm * MM_PER_UM;
  const touchMm = Math.max(pressed.touchMm, bondLineMm);
  return Array.from({ length: moments }, (_, k) => {
    const gapMm = touchMm * (bondLineMm / touchMm) ** (moments < 2 ? 1 : k / (moments - 1));
    const wet = pressed.at(gapMm);
    return { gapMm, coveragePct: 100 * shareOf(wet), outline: outlineOf(pressed.grid, wet) };
  });
}
