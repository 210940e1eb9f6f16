import type { HandStation, StepMarkInput } from "#contract";
import type { BoardMap } from "#core/boardmap/index.ts";
import { type HandStep, STEP, type StepMark } from "#core/handwork/index.ts";
import type { Context } from "#server/services/context.ts";
import { addSteps } from "#server/services/steps.ts";
import { readPads } from "#server/stations/pads/pads.ts";

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
  "pads-off": "off",
  dirt: "smoke",
  school: "wash",
  "finger:1": "free",
  "finger:2": "stiff",
  "bearing:1": "sleeve",
  "bearing:2": "sleeve",
  "deed:1": "leave",
  "blades:1": "whole",
  "blades:2": "whole",
  "cable:1": "fine",
  "cable:2": "fine",
};

/** The steps before the first whose id begins so. */
export const until = (steps: readonly HandStep[], id: string): readonly HandStep[] =>
  steps.slice(
    0,
    Math.max(
      0,
      steps.findIndex((step) => step.id.startsWith(id)),
    ),
  );

export async function mapOf(context: Context, serviceId: string): Promise<BoardMap> {
  const { map } = await readPads(context, serviceId);
  if (!map) throw new Error("This card of the demo has no map.");
  return map;
}

/** Marks of steps that were done one after the other, the last so many minutes ago. */
export async function addMarks(
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
