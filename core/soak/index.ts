/**
 * Judges one run of a card under load: where the phases lie, when it is steady, how warm it is and how sure that is,
 * where it would settle if it was stopped early, and whether it throttled.
 *
 * Model: heating curve with one or two time constants; means with autocorrelation, display step and room air
 * (JCGM 100:2008). Units: °C, K, W, rpm, s; every interval is a 95 % half-width.
 * Limits: sensor calibration is not counted (the same sensor reads both runs); one load level at a time.
 */

export { analyse, judgeRun, windowFigures } from "./analyse.ts";
export type {
  AnalyseOptions,
  Analysis,
  LevelFigures,
  LoadInLog,
  PhaseStretch,
  TemperatureFigures,
} from "./analysis.ts";
export { SOAK_VERSION } from "./analysis.ts";
export { rowAt } from "./bins.ts";
export { resolutionOf } from "./clean.ts";
export type { FanDrive } from "./fan-drive.ts";
export { fanDriveOf } from "./fan-drive.ts";
export type { Settled } from "./figures.ts";
export { levelOf, settledOf, temperatureOf } from "./figures.ts";

export { fitHeatingCurve } from "./heating-curve.ts";
export type { Stretch } from "./load.ts";

export { correlationFactor, meanWithSpread, resolutionSpread } from "./mean.ts";
export type { PreparedRun } from "./prepare.ts";
export { prepareRun } from "./prepare.ts";
export type { TypedFigures } from "./typed.ts";
export { typedAnalysis } from "./typed.ts";
export type { Outlook } from "./watch.ts";
export { KNOWN_U95_K, lookAhead, PROMISED_K } from "./watch.ts";
