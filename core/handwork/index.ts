/**
 * The steps of taking a card apart and closing it, made from the map, the plan and what was done so far; what hands marked; their minutes.
 *
 * Model: marks are only ever added to, and every state is a fold of them, so that devices that were apart agree once their marks are
 * together. Steps keep their ids whatever the map becomes. Units: mm, °C, minutes.
 */
export { cleaningPlan, cleanProgress, cleanSteps, dryingClocks, restWords } from "./clean.ts";
export type { CloseUpInput, CompoundOn, OtherCooler } from "./close-up.ts";
export { backId, closeUpFault, closeUpSteps, stripFault } from "./close-up.ts";
export type { CompoundPlan } from "./compound.ts";
export {
  COMPOUND,
  compoundFault,
  compoundProgress,
  compoundSteps,
  cureClocks,
  doseWords,
  GLUE,
  readCompoundPlan,
  sheetSize,
  usedGrams,
} from "./compound.ts";
export { CYCLES_NEEDED, heatCycles } from "./cycles.ts";
export { ENDS } from "./ends.ts";
export { closeUpProgress, stripProgress } from "./facts.ts";
export { fanCount, fanSteps, fansProgress, fanWord } from "./fans.ts";
export type { Folded, HandTime, StepMark } from "./marks.ts";
export { currentStep, foldMarks, handTime, isDone, ODD_KINDS, valueOf } from "./marks.ts";
export { openedOf } from "./seen.ts";
export type { HandStep, PlannedTurn } from "./step.ts";
export { turnWords } from "./step.ts";
export { allFound, LAYER_WORDS, layerId, learnId, outId, STEP, stripFound, stripSteps } from "./strip.ts";
export type { HandSummary } from "./summary.ts";
export { handSummary } from "./summary.ts";
export { toldByHands } from "./told.ts";
export { TRAY_R_MM, traySheets } from "./tray.ts";
export { assumedWords, fastenStackOf, guessedScrews } from "./turns.ts";
export type { Warmth } from "./warmth.ts";
export { HOT_C, WAIT_C, warmthOf, warmthWords } from "./warmth.ts";
