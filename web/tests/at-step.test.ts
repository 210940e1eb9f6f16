import { expect, it } from "vitest";
import type { HandStep } from "#core/handwork/index.ts";
import { answerOf, heldAt, NEW_STEP, stepAfter } from "../parts/steps/at-step.ts";

const step = (more: Partial<HandStep> = {}): HandStep =>
  ({ id: "weigh", group: "Paste", text: "Weigh it", choices: [], things: [], ...more }) as HandStep;
const figure = { label: "Dose", unit: "mg", least: 5, most: 500, optional: false };
const two: HandStep["choices"] = [
  { value: "kept", label: "Kept" },
  { value: "new", label: "New", usual: true },
];

it("done answers with the usual choice, what is typed, or what is known; else it asks for what is missing", () => {
  expect(answerOf(step(), "")).toEqual({ value: null });
  expect(answerOf(step({ choices: two }), "")).toEqual({ value: "new" });
  expect(answerOf(step({ choices: two.slice(0, 1) }), "")).toEqual({ ask: "Choose one of them." });
  expect(answerOf(step({ figure }), "12,5")).toEqual({ value: "12.5" });
  expect(answerOf(step({ figure: { ...figure, known: 40 } }), "")).toEqual({ value: "40" });
  expect(answerOf(step({ figure: { ...figure, optional: true } }), "")).toEqual({ value: null });
  expect(answerOf(step({ figure }), "")).toEqual({ ask: "Type the figure first." });
  expect(answerOf(step({ figure }), "some")).toEqual({ ask: "Type a number." });
  expect(answerOf(step({ figure }), "4")).toEqual({ ask: "Between 5 and 500 mg." });
  expect(answerOf(step({ figure: { ...figure, unit: "" } }), "501")).toEqual({ ask: "Between 5 and 500." });
});

it("what is typed takes question and doubt away, and what was held at one step is not at another", () => {
  let held = stepAfter(NEW_STEP, { type: "ask", words: "Type a number.", stepId: "a" });
  held = stepAfter(held, { type: "doubt", words: "That is twice the usual.", stepId: "a" });
  held = stepAfter(held, { type: "odd", open: true, stepId: "a" });
  expect(heldAt(held, "a")).toMatchObject({ wrong: "Type a number.", doubt: "That is twice the usual.", odd: true });
  expect(stepAfter(held, { type: "type", text: "12", stepId: "a" })).toEqual({
    stepId: "a",
    text: "12",
    wrong: undefined,
    doubt: "",
    odd: true,
  });
  expect(heldAt(held, "b")).toEqual(NEW_STEP);
  expect(stepAfter(held, { type: "type", text: "7", stepId: "b" })).toEqual({ ...NEW_STEP, stepId: "b", text: "7" });
});
