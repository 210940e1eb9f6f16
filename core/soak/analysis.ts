import type { Notice } from "../problem/index.ts";
import type { CardInLog, LevelRole, RunStart, TemperatureRole } from "../runfile/index.ts";
import type { FanDrive } from "./fan-drive.ts";
import type { Stretch } from "./load.ts";
import type { MeanWithSpread } from "./mean.ts";
import type { Throttling } from "./throttling.ts";

/** Version of the computation; stored with derived figures so that history can be computed anew. */
export const SOAK_VERSION = 3;

export interface AnalyseOptions {
  /** Room air typed by hand, °C; overrules a column. */
  ambientC?: number | undefined;
  /** Half-width of its 95 % interval, K; by default 0.6 for a column and 1.0 typed. */
  ambientU95K?: number | undefined;
  /** Room air read again at the end, °C; between the two it is taken to have changed evenly. */
  ambientEndC?: number | undefined;
  /** Which of several loads, from 1; the longest that reached steady, else the longest, when left out. */
  load?: number | undefined;
  /** A window set by hand; steady state is then taken as reached. */
  windowS?: Stretch | undefined;
}

export interface TemperatureFigures {
  meanC: number | null;
  u95K: number | null;
  maxC: number | null;
  riseK: number | null;
  riseU95K: number | null;
  thetaKPerW: number | null;
  finalC: number | null;
  finalU95K: number | null;
  budget: MeanWithSpread["budget"] | null;
  timeConstantsS: number[];
}

export interface LevelFigures {
  mean: number | null;
  u95: number | null;
}

export interface PhaseStretch extends Stretch {
  kind: "idle" | "warmup" | "steady" | "cooldown";
}

/** Temperatures and levels, each role with figures of its own kind; roles that the log lacks are missing. */
export type RoleFigures = { [R in TemperatureRole]?: TemperatureFigures } & { [R in LevelRole]?: LevelFigures };

/** One load of a log: the card idled before and after it, or its power or fan was set anew. */
export interface LoadInLog extends Stretch {
  index: number;
  meanPowerW: number | null;
  steady: boolean;
  chosen: boolean;
}

export interface Analysis {
  /** Figures typed from paper: there is no log. */
  typed?: true | undefined;
  samples: number;
  durationS: number;
  /** When it began by the log's own clock; null where it tells no date, missing in runs from before it was read. */
  start?: RunStart | null | undefined;
  intervalS: number;
  columns: Array<{ header: string; role: string | null; unit: string | null; sure: boolean; mean: number | null }>;
  /** The cards of the log, one in the usual one; runs from before they were told apart have none. */
  cards?: CardInLog[] | undefined;
  /** The loads of the log, one in the usual one; runs from before they were told apart have none. */
  loads?: LoadInLog[] | undefined;
  phases: PhaseStretch[];
  ambient: { valueC: number; u95K: number; source: "column" | "option" } | null;
  steady: { reached: boolean; fromS: number | null; toS: number | null; minutesNeeded: number | null; byHand: boolean };
  roles: RoleFigures;
  probes: Array<{ header: string } & TemperatureFigures>;
  hotspotGapK: { mean: number; u95: number } | null;
  throttling: Throttling;
  /** How the fan was driven; null where the log does not tell, missing in runs from before it was read. */
  fanDrive?: FanDrive | null | undefined;
  spikes: number;
  notices: Notice[];
  /** The same for the same samples only; runs from before there was one have none. */
  fingerprint?: string | undefined;
  version: number;
}
