import * as v from "valibot";
import { CAUSES } from "#core/diagnose/index.ts";
import { CHOICE_IDS } from "./choices.ts";
import { Advice } from "./shapes-of-plans.ts";
import { Finding } from "./shapes-of-runs.ts";

/** First power-on, before anything is opened. Things to rule out stand in the order in which they are tried. Common practice. */
export const POWER_ON_ITEMS = [
  {
    id: "supply",
    label: "Supply and connectors",
    fails: "Supply or connectors",
    ask: "Watts and connectors enough for the card, all pushed home?",
    ruleOut: [
      "Add up the card’s need and leave a third to spare",
      "One cable per connector, none split",
      "Connectors click home",
    ],
  },
  {
    id: "picture",
    label: "Picture",
    fails: "No picture",
    ask: "A picture on the screen?",
    ruleOut: [
      "Supply’s own switch on",
      "Cable and input of the screen",
      "Power connectors of the card",
      "Another slot, or the board’s settings reset",
      "Another display output: a corrupt firmware may still show there",
      "The card in another computer",
    ],
  },
  {
    id: "firmware",
    label: "Firmware",
    fails: "Firmware not as it should be",
    ask: "Does the card report its own name, memory size and clocks?",
    ruleOut: [
      "Read the firmware’s name and checksum",
      "Look for the second firmware’s switch",
      "Writing firmware can brick a card: keep a copy first",
    ],
  },
  {
    id: "drivers",
    label: "Drivers",
    fails: "Drivers do not stay",
    ask: "Do the drivers install and stay?",
    ruleOut: ["Remove old drivers fully", "Another driver version", "Refused again and again: suspect the memory"],
  },
  {
    id: "memory",
    label: "Memory",
    fails: "Memory faults on the screen",
    ask: "Free of stripes, squares and wrong colours, also under load?",
    ruleOut: ["Another cable and screen", "Lower the memory clock: if they go, the memory is failing"],
  },
  {
    id: "fans",
    label: "Fans",
    fails: "A fan does not turn as it should",
    ask: "All fans turning, at the same speed, at an equal fixed duty of 60 %?",
    ruleOut: [
      "Zero-fan mode: fans stand still below some 50 °C, that is no fault; set a fixed duty",
      "Something touching a blade",
      "The fan’s plug",
    ],
  },
] as const;

export const SET_ASIDE_REASONS = ["return to seller", "firmware", "memory", "fan", "supply or slot", "other"] as const;

export const PowerOnInput = v.object({
  answers: v.pipe(
    v.array(
      v.object({
        id: v.picklist(POWER_ON_ITEMS.map((item) => item.id)),
        answer: v.picklist(["open", "yes", "no"]),
        note: v.pipe(v.string(), v.trim(), v.maxLength(500)),
        /** What was ruled out, by its place in the list. */
        tried: v.optional(v.pipe(v.array(v.pipe(v.number(), v.integer(), v.minValue(0))), v.maxLength(20)), []),
      }),
    ),
    v.maxLength(20),
  ),
  /** Set aside, with its reason; null while the card goes on. */
  setAside: v.nullable(v.picklist(SET_ASIDE_REASONS)),
  setAsideNote: v.pipe(v.string(), v.trim(), v.maxLength(500)),
});
export type PowerOnInput = v.InferOutput<typeof PowerOnInput>;
export const EMPTY_POWER_ON: PowerOnInput = {
  answers: POWER_ON_ITEMS.map((item) => ({ id: item.id, answer: "open", note: "", tried: [] })),
  setAside: null,
  setAsideNote: "",
};

export const DecisionInput = v.pipe(
  v.object({
    choice: v.picklist(CHOICE_IDS),
    /** What was recommended when it was decided. */
    recommended: v.picklist(CHOICE_IDS),
    reason: v.pipe(v.string(), v.trim(), v.maxLength(500)),
  }),
  v.forward(
    v.check(
      ({ choice, recommended, reason }) => choice === recommended || reason.length >= 3,
      "Overruling needs a reason: say why in a few words.",
    ),
    ["reason"],
  ),
);
export type DecisionInput = v.InferOutput<typeof DecisionInput>;

export const Decision = v.object({ ...DecisionInput.pipe[0].entries, at: v.string() });
export type Decision = v.InferOutput<typeof Decision>;

/** How far a log can be told from at all. */
export const Told = v.object({
  /** False while the run is too short; then `minutesNeeded` more would do, where anybody can say. */
  known: v.boolean(),
  minutesNeeded: v.nullable(v.number()),
  /** Causes whose sensors the log lacks. */
  notJudged: v.array(v.picklist(CAUSES)),
});
export type Told = v.InferOutput<typeof Told>;

export const RunDiagnosis = v.object({
  ...Told.entries,
  findings: v.array(Finding),
  limits: v.array(v.string()),
  /** What healthy figures were taken from, and on how many cards they rest. */
  source: v.string(),
  cards: v.number(),
});
export type RunDiagnosis = v.InferOutput<typeof RunDiagnosis>;

/** All that the Decide page shows. */
export const Advised = v.object({
  ...Told.entries,
  /** The baseline run that it rests on; null while there is none. */
  runId: v.nullable(v.string()),
  advice: v.nullable(Advice),
  findings: v.array(Finding),
  limits: v.array(v.string()),
  roles: v.array(
    v.object({
      role: v.string(),
      valueC: v.number(),
      riseK: v.nullable(v.number()),
      riseU95K: v.nullable(v.number()),
      limitC: v.nullable(v.number()),
    }),
  ),
  model: v.nullable(
    v.object({
      meanK: v.number(),
      sdK: v.number(),
      cards: v.number(),
    }),
  ),
  decision: v.nullable(Decision),
});
export type Advised = v.InferOutput<typeof Advised>;
