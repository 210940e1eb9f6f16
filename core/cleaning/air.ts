/** A solvent by what it does in a room's air. */
interface Solvent {
  gPerMl: number;
  gPerMol: number;
  /** Where the vapour can be lit, ppm by volume. */
  lowerFlammablePpm: number;
  /** Recommended limit of exposure over a working day, ppm. */
  limitPpm: number;
}

/** 2-propanol: NIOSH recommended exposure limit 400 ppm, lower flammable limit 2 % (NIOSH Pocket Guide, from memory). */
export const SOLVENTS = {
  isopropanol: { gPerMl: 0.785, gPerMol: 60.096, lowerFlammablePpm: 20_000, limitPpm: 400 },
} as const satisfies Record<string, Solvent>;

export interface SolventUse {
  kind: keyof typeof SOLVENTS;
  usedMl: number;
  /** Over which it evaporates, evenly. */
  minutes: number;
  roomM3: number;
  airChangesPerHour: number;
}

export interface AirLoad {
  /** At the end of those minutes, and over them. */
  peakPpm: number;
  meanPpm: number;
  lowerFlammablePpm: number;
  limitPpm: number;
}

const GAS_J_PER_MOL_K = 8.314_462_618;
const ZERO_C_K = 273.15;
/** Below so many air changes over the time a room counts as closed: the series is as good, and does not divide by nothing. */
const CLOSED = 1e-6;

/** Vapour in well-mixed air: V·dc/dt = q − n·V·c, from clean air on. */
export function airLoad(
  { kind, usedMl, minutes, roomM3, airChangesPerHour }: SolventUse,
  airC: number,
  pressureKPa: number,
): AirLoad {
  const { gPerMl, gPerMol, lowerFlammablePpm, limitPpm } = SOLVENTS[kind];
  const m3PerMol = (GAS_J_PER_MOL_K * (airC + ZERO_C_K)) / (pressureKPa * 1000);
  const closedPpm = (1e6 * ((usedMl * gPerMl) / gPerMol) * m3PerMol) / roomM3;
  const changes = (airChangesPerHour * minutes) / 60;
  const gone = changes < CLOSED ? 1 - changes / 2 : -Math.expm1(-changes) / changes;
  const mean = changes < CLOSED ? 0.5 - changes / 6 : (1 - gone) / changes;
  return { peakPpm: closedPpm * gone, meanPpm: closedPpm * mean, lowerFlammablePpm, limitPpm };
}

const MOST_CHANGES = 1000;
const HALVINGS = 50;

/**
 * Air changes an hour that keep the mean under the limit of exposure and the peak under a tenth of what can be lit (a usual margin, common
 * practice, no source); null where no window does.
 */
export function changesNeeded(use: SolventUse, airC: number, pressureKPa: number): number | null {
  const isFine = (airChangesPerHour: number): boolean => {
    const { peakPpm, meanPpm, limitPpm, lowerFlammablePpm } = airLoad({ ...use, airChangesPerHour }, airC, pressureKPa);
    return meanPpm <= limitPpm && peakPpm <= lowerFlammablePpm / 10;
  };
  if (isFine(0)) return 0;
  if (!isFine(MOST_CHANGES)) return null;
  let [low, high] = [0, MOST_CHANGES];
  for (let k = 0; k < HALVINGS; k++) {
    const mid = (low + high) / 2;
    if (isFine(mid)) high = mid;
    else low = mid;
  }
  return high;
}
