import { useEffect, useLayoutEffect, useMemo, useReducer, useRef, useState } from "react";
import { currentStep, type Folded, foldMarks, type HandStep, handTime } from "#core/handwork/index.ts";
import { useKeys } from "../../app/keys.ts";
import { answerOf, heldAt, NEW_STEP, type StepAction, stepAfter, usualOf } from "./at-step.ts";
import type { MadeMark, Marks } from "./use-marks.ts";
import { useStepPhoto } from "./use-step-photo.tsx";

export interface StepWork {
  cardId: string;
  steps: readonly HandStep[];
  marks: Marks;
  isWaiting: boolean;
  /** What does not add up about an answer, in words; empty where it does. */
  faultAt?: ((stepId: string, folded: Folded) => string) | undefined;
  /** More that is marked with a step that is done. */
  onDone?: ((step: HandStep, value: string | null) => readonly MadeMark[]) | undefined;
}

/** The step that is next, what is held there, and what can be done: by key, pedal, finger or glove. */
export function useStepMode({ cardId, steps, marks, isWaiting, faultAt, onDone }: StepWork) {
  const { folded, mark } = marks;
  const step = currentStep(steps, folded);
  const at = step ? steps.indexOf(step) : steps.length;
  const stepId = step?.id;
  const [listed, setListed] = useState(false);
  const [held, dispatch] = useReducer(stepAfter, NEW_STEP);
  const here = heldAt(held, stepId);
  const put = (action: StepAction): void => dispatch({ ...action, stepId });
  const time = useMemo(() => handTime(marks.marks, Date.parse), [marks.marks]);
  const stage = useRef<HTMLHeadingElement>(null);
  const photo = useStepPhoto(cardId, step, mark);
  const isBegun = marks.marks.length > 0;
  useEffect(() => {
    // Minutes of hands count from here.
    if (!isBegun) mark({ stepId: "begin", what: "begun" });
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- once, when it opens
  }, []);
  const focus = (): void => {
    const field = document.querySelector<HTMLElement>("[data-step-field]");
    (field ?? stage.current)?.focus({ preventScroll: true });
  };
  // The next key is for the step, not for what was pressed last.
  useLayoutEffect(focus, [stepId]);
  const finish = (value: string | null): void => {
    if (!step) return;
    const made: MadeMark[] = value === null ? [] : [{ stepId: step.id, what: "value", value }];
    if (value !== null && here.doubt === "" && faultAt) {
      const now = { id: "now", stepId: step.id, what: "value" as const, value, text: "", at: "" };
      const words = faultAt(step.id, foldMarks([...marks.marks, now]));
      if (words !== "") {
        mark(...made);
        return put({ type: "doubt", words });
      }
    }
    mark(...made, ...(onDone?.(step, value) ?? []), { stepId: step.id, what: "done" });
  };
  const go = (): void => {
    if (!step || isWaiting || listed) return;
    const answer = answerOf(step, here.text);
    if ("ask" in answer) put({ type: "ask", words: answer.ask });
    else finish(answer.value);
  };
  const back = (): void => {
    const before = steps[at - 1];
    if (before) mark({ stepId: before.id, what: "undone" });
  };
  const openOdd = (): void => put({ type: "odd", open: true });
  const press = (key: string): boolean => {
    const choice = step?.choices[Number(key) - 1];
    if (choice) finish(choice.value);
    else if (key === " " || key === "PageDown" || key === "Enter") go();
    else if (key === "Backspace" || key === "PageUp") back();
    else if (key === "p") photo.open();
    else if (key === "x" && step) openOdd();
    else if (key === "l") setListed(!listed);
    else return false;
    return true;
  };
  useKeys((key, event) => {
    // A control that has the focus keeps its own keys.
    const onControl = event.target instanceof Element && event.target.closest("button, a, label") !== null;
    // A cell of a grid is changed with Enter; space goes on from it as from anywhere.
    const onCell = onControl && event.target.closest("[role=gridcell]") !== null;
    const isOwn = key === "Enter" || (key === " " && !onCell);
    if (onControl && isOwn) return;
    if (press(key)) event.preventDefault();
  }, "dialog");
  return {
    step,
    at,
    here,
    usual: usualOf(step),
    time,
    stage,
    photo,
    listed,
    setListed,
    focus,
    finish,
    go,
    back,
    press,
    openOdd,
    type: (text: string) => put({ type: "type", text }),
    closeOdd: () => {
      put({ type: "odd", open: false });
      stage.current?.focus();
    },
    tick: (one: HandStep, done: boolean) =>
      done
        ? mark(...(onDone?.(one, null) ?? []), { stepId: one.id, what: "done" })
        : mark({ stepId: one.id, what: "undone" }),
  };
}

export type StepHands = ReturnType<typeof useStepMode>;
