import type { HandStation, StepMarkInput } from "#contract";
import type { BoardMap } from "#core/boardmap/index.ts";
import {
  type CloseUpInput,
  closeUpSteps,
  foldMarks,
  type HandStep,
  outId,
  STEP,
  type StepMark,
  stripFound,
  stripSteps,
} from "#core/handwork/index.ts";
import type { Context } from "#server/services/context.ts";
import { addSteps } from "#server/services/steps.ts";
import { decide } from "#server/stations/decide/decide.ts";
import { readPads } from "#server/stations/pads/pads.ts";
import type { FillStation } from "../station.ts";

/** Seconds of hands a step. */
const STEP_S = 42;
/** Answers of the steps that ask. */
const ANSWERS: Readonly<Record<string, string>> = {
  [STEP.seal]: "none",
  [STEP.compound]: "dry",
  // Bare at the upper right.
  [STEP.imprint]: `ccctbbcccttbccccct${"c".repeat(18)}`,
  [STEP.count]: "14",
  age: "25",
};

/** One card is being taken apart, another is being closed: one of its screws is of another size. */
export const fill: FillStation = async (context, serviceOf) => {
  const opening = serviceOf.get("BT12/83/0207");
  if (opening) {
    await decide(context, opening, { choice: "repaste", recommended: "repaste", reason: "" });
    const map = await mapOf(context, opening);
    const steps = stripSteps({ map, folded: foldMarks([]), turns: null, warmth: "" });
    await add(context, opening, "strip", until(steps, "layer:cooler"), 5);
  }
  const closing = serviceOf.get("OS40-5613");
  if (!closing) return;
  const map = await mapOf(context, closing);
  const steps = stripSteps({ map, folded: foldMarks([]), turns: null, warmth: "" });
  const odd = {
    stepId: outId("S3"),
    what: "odd",
    value: "another size",
    text: "M2.5 × 9, the others are 7 mm",
  } as const;
  const marks = await add(context, closing, "strip", steps, 95, [
    // Turned by the cross: what is begun so goes on so.
    { stepId: STEP.plan, what: "value", value: "cross", text: "" },
    odd,
  ]);
  const input: CloseUpInput = {
    map,
    folded: foldMarks([]),
    found: stripFound(map, foldMarks(marks)),
    turns: null,
    pads: { places: 0, films: 0 },
    compound: { name: "Grey paste, 8 W/mK", kind: "paste" },
    bow: null,
    apart: [],
    imprint: "",
  };
  await add(context, closing, "closeUp", until(closeUpSteps(input), "tighten:"), 8);
};

const until = (steps: readonly HandStep[], id: string): readonly HandStep[] =>
  steps.slice(
    0,
    Math.max(
      0,
      steps.findIndex((step) => step.id.startsWith(id)),
    ),
  );

async function mapOf(context: Context, serviceId: string): Promise<BoardMap> {
  const { map } = await readPads(context, serviceId);
  if (!map) throw new Error("This card of the demo has no map.");
  return map;
}

/** Marks of steps that were done one after the other, the last so many minutes ago. */
async function add(
  context: Context,
  serviceId: string,
  station: HandStation,
  steps: readonly HandStep[],
  endedMin: number,
  more: ReadonlyArray<Pick<StepMark, "stepId" | "what" | "value" | "text">> = [],
): Promise<StepMarkInput[]> {
  const begin = Date.now() - endedMin * 60_000 - steps.length * STEP_S * 1000;
  const made = [
    { stepId: "begin", what: "begun" as const, value: "", text: "", afterS: 0 },
    ...steps.flatMap(({ id }, index) => {
      const afterS = (index + 1) * STEP_S;
      const value = ANSWERS[id] ?? (id.startsWith("layer:") ? "off" : undefined);
      return [
        ...(value === undefined ? [] : [{ stepId: id, what: "value" as const, value, text: "", afterS }]),
        { stepId: id, what: "done" as const, value: "", text: "", afterS },
      ];
    }),
    ...more.map((mark) => ({ ...mark, afterS: steps.length * STEP_S })),
  ];
  const marks = made.map(
    ({ afterS, ...mark }): StepMarkInput => ({
      ...mark,
      id: context.store.newId(),
      station,
      attempt: 1,
      at: new Date(begin + 1000 * afterS).toISOString(),
    }),
  );
  await addSteps(context, serviceId, marks);
  return marks;
}
