import type { HandStep } from "#core/handwork/index.ts";
import { numberOrNull } from "../../ui/field.tsx";

/** What is typed and asked at a step, and nothing of the step before. */
export interface AtStep {
  stepId: string | undefined;
  text: string;
  /** What is missing before it can be done. */
  wrong: string | undefined;
  /** An answer that does not add up, and was said all the same. */
  doubt: string;
  /** It is being said what is different. */
  odd: boolean;
}

export type StepAction =
  | { type: "type"; text: string }
  | { type: "ask"; words: string }
  | { type: "doubt"; words: string }
  | { type: "odd"; open: boolean };

export const NEW_STEP: AtStep = { stepId: undefined, text: "", wrong: undefined, doubt: "", odd: false };

/** What is held at this step; nothing where it was held at another. */
export const heldAt = (held: AtStep, stepId: string | undefined): AtStep => (held.stepId === stepId ? held : NEW_STEP);

/** Pure: what is held at a step once something was done there. */
export function stepAfter(held: AtStep, action: StepAction & { stepId: string | undefined }): AtStep {
  const { stepId } = action;
  const here = { ...heldAt(held, stepId), stepId };
  switch (action.type) {
    case "type":
      return { ...here, text: action.text, wrong: undefined, doubt: "" };
    case "ask":
      return { ...here, wrong: action.words };
    case "doubt":
      return { ...here, doubt: action.words };
    case "odd":
      return { ...here, odd: action.open };
  }
}

export const usualOf = (step: HandStep | undefined): string | undefined =>
  step?.choices.find((one) => one.usual)?.value;

/** What *Done* answers: the usual choice, or the figure as it is typed; or what has to be said first, in words. */
export function answerOf(step: HandStep, text: string): { value: string | null } | { ask: string } {
  const usual = usualOf(step);
  if (usual !== undefined) return { value: usual };
  if (step.choices.length > 0) return { ask: "Choose one of them." };
  if (!step.figure) return { value: null };
  const { least, most, optional, unit, known } = step.figure;
  const value = numberOrNull(text);
  if (value === null && known !== undefined) return { value: String(known) };
  if (value === null) return optional ? { value: null } : { ask: "Type the figure first." };
  if (Number.isNaN(value)) return { ask: "Type a number." };
  if (value < least || value > most) return { ask: `${`Between ${least} and ${most} ${unit}`.trim()}.` };
  return { value: String(value) };
}
