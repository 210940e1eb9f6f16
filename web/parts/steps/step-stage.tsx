import type { ReactNode } from "react";
import type { Folded, HandStep } from "#core/handwork/index.ts";
import { Button } from "../../ui/button.tsx";
import { Caution } from "../../ui/caution.tsx";
import { TextField } from "../../ui/field.tsx";
import { Note } from "../../ui/note.tsx";
import { OddPanel } from "./odd-panel.tsx";
import type { Marks } from "./use-marks.ts";
import type { StepHands } from "./use-step-mode.ts";

/** One step: picture, sentence, at most one figure, what may hurt. */
export function StepStage({
  step,
  hands,
  marks: { folded, mark },
  picture,
  body,
  waiting,
}: {
  step: HandStep;
  hands: StepHands;
  marks: Marks;
  picture: ReactNode;
  body: ReactNode;
  waiting: ReactNode | null;
}) {
  const { here, stage, closeOdd } = hands;
  const state = folded.get(step.id);
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)] lg:grid-rows-[auto_1fr]">
      <div className="min-w-0 space-y-4 lg:col-start-2 lg:row-start-1">
        <h2
          ref={stage}
          tabIndex={-1}
          aria-live="polite"
          className="text-3xl leading-tight font-bold break-words outline-none! sm:text-4xl"
        >
          {waiting === null ? step.text : "A moment, before you turn a screw"}
        </h2>
        {waiting === null && step.detail && <p className="text-xl break-words text-soft">{step.detail}</p>}
        {step.cautions.map((caution) => (
          <Caution key={caution} of={caution} />
        ))}
        {waiting}
        {step.choices.length > 0 && <StepChoices step={step} chosen={state?.value ?? hands.usual} hands={hands} />}
        {step.figure && <StepFigure figure={step.figure} hands={hands} />}
        {here.doubt && (
          <Note kind="caution" live title={here.doubt}>
            {step.figure ? "Correct the figure, or go on if it is so." : "Go on if it is so."}
          </Note>
        )}
        <OddNote state={state} />
        {here.odd && (
          <OddPanel
            what={step.things.length === 1 ? (step.things[0] ?? "This step") : "This step"}
            held={state?.odd ?? null}
            onCancel={closeOdd}
            onSave={(kind, words) => {
              mark({ stepId: step.id, what: "odd", value: kind, text: words });
              closeOdd();
            }}
          />
        )}
      </div>
      <div className="min-w-0 lg:col-start-1 lg:row-span-2 lg:row-start-1">{picture}</div>
      <div className="min-w-0 space-y-4 empty:hidden lg:col-start-2 lg:row-start-2">{body}</div>
    </div>
  );
}

function StepChoices({
  step: { choices },
  chosen,
  hands: { finish, here },
}: {
  step: HandStep;
  chosen: string | undefined;
  hands: StepHands;
}) {
  return (
    <div className="grid gap-2">
      {choices.map(({ value, label }, index) => (
        <Button
          key={value}
          look={chosen === value ? "main" : "plain"}
          className="min-h-16 justify-start! text-left text-xl whitespace-normal!"
          onClick={() => finish(value)}
        >
          <span aria-hidden className="opacity-70">
            {index + 1}
          </span>
          {label}
        </Button>
      ))}
      {here.wrong && (
        <p role="alert" className="font-medium text-danger">
          {here.wrong}
        </p>
      )}
    </div>
  );
}

/** Keys of a field that are the step's all the same. */
const STEP_KEYS = ["Enter", "Backspace", "PageDown", "PageUp"];

function StepFigure({
  figure: { label, known, optional },
  hands: { here, type, press },
}: {
  figure: NonNullable<HandStep["figure"]>;
  hands: StepHands;
}) {
  const empty = optional ? "May stay empty" : undefined;
  return (
    <TextField
      data-step-field
      label={label}
      inputMode="decimal"
      autoComplete="off"
      className="max-w-xs text-2xl"
      hint={known !== undefined ? `Left empty: ${known}` : empty}
      value={here.text}
      error={here.wrong}
      onChange={(event) => type(event.target.value)}
      onKeyDown={(event) => {
        // Digits are the field's, all else the step's.
        const isOwn = /^[\d.,/"']$/.test(event.key);
        if (isOwn || event.ctrlKey || event.metaKey) return;
        if (event.key === "Backspace" && here.text !== "") return;
        if (event.key.length > 1 && !STEP_KEYS.includes(event.key)) return;
        event.preventDefault();
        press(event.key);
      }}
    />
  );
}

function OddNote({ state }: { state: ReturnType<Folded["get"]> }) {
  if (!state?.odd) return null;
  return (
    <p className="text-lg font-semibold text-amber">
      Noted: {state.odd.kind}
      {state.odd.text && `, ${state.odd.text}`}
    </p>
  );
}

export function AllDone({ stage, onClose }: { stage: StepHands["stage"]; onClose: () => void }) {
  return (
    <div className="mx-auto max-w-xl space-y-4 py-10 text-center">
      <h2 ref={stage} tabIndex={-1} className="text-4xl font-bold outline-none">
        All steps are done
      </h2>
      <Button look="main" className="min-h-16 px-8 text-xl" onClick={onClose}>
        Back to the card
      </Button>
    </div>
  );
}
