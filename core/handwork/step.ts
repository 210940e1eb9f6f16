import type { Layer } from "../boardmap/index.ts";
import type { Turn } from "../fasteners/index.ts";

/** What may hurt at a step; the words stand with all other cautions. */
export type HandCaution =
  | "open"
  | "levering"
  | "cables"
  | "ribbons"
  | "hotSurface"
  | "overTight"
  | "switchOnAgain"
  | "dirt"
  | "solvent"
  | "air"
  | "wet"
  | "liquidMetal"
  | "fans"
  | "static"
  | "sharpFins"
  | "warmAir"
  | "twoHands"
  | "coolant"
  | "blade";

export interface HandFigure {
  label: string;
  unit: string;
  least: number;
  most: number;
  /** It may stay empty. */
  optional: boolean;
  /** What it is taken for when left empty, as far as it is known here. */
  known?: number | undefined;
}

export interface HandChoice {
  value: string;
  label: string;
  /** What going on without a choice comes to. */
  usual?: true;
}

/** One thing to do with the hands, made from the map, the plan and what was done so far. */
export interface HandStep {
  /** The same for the same thing, whatever the plan becomes: marks are kept by it. */
  id: string;
  kind: "check" | "choice" | "figure" | "screw" | "turn" | "plug" | "lift" | "learn" | "imprint" | "place";
  /** What it belongs to, such as a layer. */
  group: string;
  /** One sentence. */
  text: string;
  detail: string;
  /** Ids of what it is about on the plan. */
  things: readonly string[];
  side: "front" | "back";
  layer: Layer | null;
  figure: HandFigure | null;
  choices: readonly HandChoice[];
  /** What a tap on the plan adds to the map; empty where a tap adds nothing. */
  learns: ReadonlyArray<"screw" | "plug">;
  /** All that may hurt at it, the worst first. */
  cautions: readonly HandCaution[];
  /** A photo is worth having here. */
  photo: boolean;
  /** The turn it makes, with the die's load after it. */
  turn: PlannedTurn | null;
}

/** A turn of the plan as it is kept with the service: what was begun goes on by the same plan. */
export type PlannedTurn = Turn;

export const handStep = (
  id: string,
  kind: HandStep["kind"],
  group: string,
  text: string,
  more: Partial<HandStep> = {},
): HandStep => ({
  id,
  kind,
  group,
  text,
  detail: "",
  things: [],
  side: "front",
  layer: null,
  figure: null,
  choices: [],
  learns: [],
  cautions: [],
  photo: false,
  turn: null,
  ...more,
});

/** Turns as a hand makes them, to an eighth. */
export function turnWords(turns: number): string {
  const eighths = Math.round(Math.abs(turns) * 8);
  const whole = Math.floor(eighths / 8);
  const part = ["", "⅛", "¼", "⅜", "½", "⅝", "¾", "⅞"][eighths % 8] ?? "";
  if (eighths === 0) return "a touch";
  return `${whole > 0 ? whole : ""}${part} ${eighths > 8 ? "turns" : "turn"}`;
}
