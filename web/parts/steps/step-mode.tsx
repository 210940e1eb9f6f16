import { Dialog, DialogPanel } from "@headlessui/react";
import { ArrowLeft, Camera, Check, List, Shuffle, X } from "lucide-react";
import { type ReactNode, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { currentStep, type Folded, foldMarks, type HandStep, handTime } from "#core/handwork/index.ts";
import { api } from "../../app/api.ts";
import { type Fault, faultOf } from "../../app/fault.ts";
import { isTyping, useKeys } from "../../app/keys.ts";
import { Button } from "../../ui/button.tsx";
import { Caution } from "../../ui/caution.tsx";
import { numberOrNull, TextField } from "../../ui/field.tsx";
import { FileInput } from "../../ui/file-input.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { OddPanel } from "./odd-panel.tsx";
import { PauseQuestion } from "./pauses.tsx";
import { StepList } from "./step-list.tsx";
import type { MadeMark, Marks } from "./use-marks.ts";

export interface StepModeProps {
  title: string;
  cardId: string;
  steps: readonly HandStep[];
  marks: Marks;
  /** What is drawn at the step that is next. */
  picture: ReactNode;
  /** What it has beside picture and sentence. */
  body: ReactNode;
  /** What has to be waited for before it; null where nothing has. */
  waiting: ReactNode | null;
  /** What does not add up about an answer, in words; empty where it does. */
  faultAt?: (stepId: string, folded: Folded) => string;
  /** More that is marked with a step that is done. */
  onDone?: (step: HandStep, value: string | null) => readonly MadeMark[];
  onClose: () => void;
}

interface AtStep {
  stepId: string | undefined;
  text: string;
  wrong: string | undefined;
  /** An answer that does not add up, and was said all the same. */
  doubt: string;
  /** It is being said what is different. */
  odd: boolean;
}

const NEW: AtStep = { stepId: undefined, text: "", wrong: undefined, doubt: "", odd: false };

/** One step at a time over the whole screen: picture, sentence, at most one figure, what may hurt; by key, pedal, finger or glove. */
export function StepMode(props: StepModeProps) {
  const { title, steps, marks, picture, body, waiting, faultAt, onDone, onClose } = props;
  const { folded, mark } = marks;
  const step = currentStep(steps, folded);
  const at = step ? steps.indexOf(step) : steps.length;
  const [listed, setListed] = useState(false);
  /** What is typed and asked at a step, and nothing of the step before. */
  const [held, setHeld] = useState<AtStep>(NEW);
  const here = held.stepId === step?.id ? held : NEW;
  const { text, wrong, doubt, odd } = here;
  const put = (more: Partial<AtStep>): void => setHeld({ ...here, ...more, stepId: step?.id });
  const time = useMemo(() => handTime(marks.marks, Date.parse), [marks.marks]);
  const stage = useRef<HTMLHeadingElement>(null);
  const photo = usePhoto(props.cardId, step, mark);
  const stepId = step?.id;
  const isBegun = marks.marks.length > 0;
  useEffect(() => {
    // Minutes of hands count from here.
    if (!isBegun) mark({ stepId: "begin", what: "begun" });
    // oxlint-disable-next-line react-hooks/exhaustive-deps -- once, when it opens
  }, []);
  useLayoutEffect(() => {
    // The next key is for the step, not for what was pressed last.
    const field = document.querySelector<HTMLElement>("[data-step-field]");
    (field ?? stage.current)?.focus({ preventScroll: true });
  }, [stepId]);
  const usual = step?.choices.find((one) => one.usual)?.value;
  const finish = (value: string | null): void => {
    if (!step) return;
    const made: MadeMark[] = value === null ? [] : [{ stepId: step.id, what: "value", value }];
    if (value !== null && doubt === "" && faultAt) {
      const words = faultAt(
        step.id,
        foldMarks([...marks.marks, { id: "now", stepId: step.id, what: "value", value, text: "", at: "" }]),
      );
      if (words !== "") {
        mark(...made);
        return put({ doubt: words });
      }
    }
    mark(...made, ...(onDone?.(step, value) ?? []), { stepId: step.id, what: "done" });
  };
  const asked = (words: string): void => put({ wrong: words });
  const go = (): void => {
    if (!step || waiting !== null || listed) return;
    if (usual !== undefined) return finish(usual);
    if (step.choices.length > 0) return asked("Choose one of them.");
    if (!step.figure) return finish(null);
    const { least, most, optional, unit, known } = step.figure;
    const value = numberOrNull(text);
    if (value === null && known !== undefined) return finish(String(known));
    if (value === null) return optional ? finish(null) : asked("Type the figure first.");
    if (Number.isNaN(value)) return asked("Type a number.");
    if (value < least || value > most) return asked(`Between ${least} and ${most} ${unit}`.trim() + ".");
    finish(String(value));
  };
  const back = (): void => {
    const before = steps[at - 1];
    if (before) mark({ stepId: before.id, what: "undone" });
  };
  const press = (key: string): boolean => {
    const choice = step?.choices[Number(key) - 1];
    if (choice) finish(choice.value);
    else if (key === " " || key === "PageDown" || key === "Enter") go();
    else if (key === "Backspace" || key === "PageUp") back();
    else if (key === "p") photo.open();
    else if (key === "x" && step) put({ odd: true });
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
  return (
    <Dialog open onClose={onClose} aria-label={title} className="fixed inset-0 z-40">
      <DialogPanel
        className="flex h-full flex-col bg-paper"
        onKeyDown={(event) => {
          if (event.key !== "Escape" || !isTyping(event.target as Element)) return;
          // It leaves the field, not the steps.
          event.preventDefault();
          stage.current?.focus();
        }}
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          event.preventDefault();
          event.stopPropagation();
          photo.take(event.dataTransfer.files[0]);
        }}
      >
        <header className="flex items-center gap-3 border-b border-line bg-sheet px-3 py-2 sm:px-5">
          <div className="min-w-0 flex-1">
            <p className="truncate text-sm text-soft">{title}</p>
            <p className="truncate font-semibold">
              {step ? `${step.group} · ${at + 1} of ${steps.length}` : `All ${steps.length} steps done`}
            </p>
          </div>
          <p className="text-right text-sm text-soft">
            <span className="block">{Math.round(time.minutes)} min</span>
            <span role="status">{marks.unsaved > 0 ? `${marks.unsaved} waiting` : "saved"}</span>
          </p>
          <Button look="quiet" aria-pressed={listed} onClick={() => setListed(!listed)}>
            <List aria-hidden className="size-5" />
            <span className="max-sm:sr-only">{listed ? "One at a time" : "All steps"}</span>
          </Button>
          <Button look="quiet" onClick={onClose}>
            <X aria-hidden className="size-5" />
            <span className="max-sm:sr-only">Close</span>
          </Button>
        </header>
        <div
          role="progressbar"
          aria-label="Steps done"
          aria-valuemin={0}
          aria-valuemax={steps.length}
          aria-valuenow={at}
          className="h-1.5 bg-line"
        >
          <div className="h-full bg-ice" style={{ width: `${(100 * at) / Math.max(1, steps.length)}%` }} />
        </div>
        <div className="min-h-0 flex-1 overflow-y-auto p-3 sm:p-5" tabIndex={listed ? 0 : undefined}>
          <div className="mx-auto max-w-[110rem] space-y-3">
            <FaultNote fault={marks.fault} />
            {photo.note}
            <PauseQuestion time={time} mark={mark} />
            {listed ? (
              <StepList
                steps={steps}
                folded={folded}
                onTick={(one, done) =>
                  done
                    ? mark(...(onDone?.(one, null) ?? []), { stepId: one.id, what: "done" })
                    : mark({ stepId: one.id, what: "undone" })
                }
              />
            ) : step ? (
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
                  {step.caution && <Caution of={step.caution} />}
                  {waiting}
                  {step.choices.length > 0 && (
                    <div className="grid gap-2">
                      {step.choices.map(({ value, label }, index) => (
                        <Button
                          key={value}
                          look={(folded.get(step.id)?.value ?? usual) === value ? "main" : "plain"}
                          className="min-h-16 justify-start! text-left text-xl whitespace-normal!"
                          onClick={() => finish(value)}
                        >
                          <span aria-hidden className="opacity-70">
                            {index + 1}
                          </span>
                          {label}
                        </Button>
                      ))}
                      {wrong && (
                        <p role="alert" className="font-medium text-danger">
                          {wrong}
                        </p>
                      )}
                    </div>
                  )}
                  {step.figure && (
                    <TextField
                      data-step-field
                      label={step.figure.label}
                      inputMode="decimal"
                      autoComplete="off"
                      className="max-w-xs text-2xl"
                      hint={
                        step.figure.known !== undefined
                          ? `Left empty: ${step.figure.known}`
                          : step.figure.optional
                            ? "May stay empty"
                            : undefined
                      }
                      value={text}
                      error={wrong}
                      onChange={(event) => put({ text: event.target.value, wrong: undefined, doubt: "" })}
                      onKeyDown={(event) => {
                        // Digits are the field's, all else the step's.
                        const isOwn = /^[\d.,/"' ]$/.test(event.key) && event.key !== " ";
                        if (isOwn || event.ctrlKey || event.metaKey) return;
                        if (event.key === "Backspace" && text !== "") return;
                        if (event.key.length > 1 && !["Enter", "Backspace", "PageDown", "PageUp"].includes(event.key))
                          return;
                        event.preventDefault();
                        press(event.key);
                      }}
                    />
                  )}
                  {doubt && (
                    <Note kind="caution" live title={doubt}>
                      {step.figure ? "Correct the figure, or go on if it is so." : "Go on if it is so."}
                    </Note>
                  )}
                  <OddNote state={folded.get(step.id)} />
                  {odd && (
                    <OddPanel
                      what={step.things.length === 1 ? (step.things[0] ?? "This step") : "This step"}
                      held={folded.get(step.id)?.odd ?? null}
                      onCancel={() => {
                        put({ odd: false });
                        stage.current?.focus();
                      }}
                      onSave={(kind, words) => {
                        mark({ stepId: step.id, what: "odd", value: kind, text: words });
                        put({ odd: false });
                        stage.current?.focus();
                      }}
                    />
                  )}
                </div>
                <div className="min-w-0 lg:col-start-1 lg:row-span-2 lg:row-start-1">{picture}</div>
                <div className="min-w-0 space-y-4 empty:hidden lg:col-start-2 lg:row-start-2">{body}</div>
              </div>
            ) : (
              <div className="mx-auto max-w-xl space-y-4 py-10 text-center">
                <h2 ref={stage} tabIndex={-1} className="text-4xl font-bold outline-none">
                  All steps are done
                </h2>
                <Button look="main" className="min-h-16 px-8 text-xl" onClick={onClose}>
                  Back to the card
                </Button>
              </div>
            )}
          </div>
        </div>
        {photo.input}
        <footer className="grid grid-cols-[auto_auto_auto_minmax(0,1fr)] gap-2 border-t border-line bg-sheet p-2 sm:px-5 sm:py-3">
          <BigButton label="Back" hint="⌫" onPress={back} disabled={at === 0}>
            <ArrowLeft aria-hidden className="size-6" />
          </BigButton>
          <BigButton label="Different" hint="x" onPress={() => put({ odd: true })} disabled={!step || listed}>
            <Shuffle aria-hidden className="size-6" />
          </BigButton>
          <BigButton
            label={photo.busy ? "Keeping…" : "Photo"}
            hint="p"
            onPress={photo.open}
            disabled={!step || photo.busy}
            marked={step?.photo === true}
          >
            <Camera aria-hidden className="size-6" />
          </BigButton>
          <button
            type="button"
            className="flex min-h-18 items-center justify-center gap-3 rounded-xl bg-ice px-2 text-2xl font-bold whitespace-nowrap text-on-ice hover:bg-ice-deep disabled:opacity-55"
            disabled={!step || listed || waiting !== null || (step.choices.length > 0 && usual === undefined)}
            onClick={() => {
              go();
              (document.querySelector<HTMLElement>("[data-step-field]") ?? stage.current)?.focus({
                preventScroll: true,
              });
            }}
          >
            <Check aria-hidden className="size-7 max-sm:hidden" />
            Done
            <kbd className="rounded border border-current px-2 text-sm font-medium max-sm:hidden">space</kbd>
          </button>
        </footer>
      </DialogPanel>
    </Dialog>
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

function BigButton({
  label,
  hint,
  onPress,
  disabled,
  marked = false,
  children,
}: {
  label: string;
  hint: string;
  onPress: () => void;
  disabled: boolean;
  marked?: boolean;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      disabled={disabled}
      className={`flex min-h-18 min-w-14 flex-col items-center justify-center rounded-xl border bg-sheet px-1.5 text-sm font-semibold hover:border-ice disabled:opacity-55 sm:min-w-28 ${marked ? "border-2 border-ice text-ice" : "border-edge"}`}
      onClick={onPress}
    >
      {children}
      <span>
        {label}
        <kbd className="ml-1 text-soft max-sm:hidden">{hint}</kbd>
      </span>
    </button>
  );
}

/** A photo for the step: taken or chosen; one that can't be kept now waits to be sent again. */
function usePhoto(cardId: string, step: HandStep | undefined, mark: Marks["mark"]) {
  const [add, { isLoading }] = api.useAddPhotoMutation();
  const [fault, setFault] = useState<{ fault: Fault; file: File; of: HandStep } | null>(null);
  const chooser = useRef<HTMLInputElement>(null);
  /** @param of the step it was taken at, which may be done by the time it is sent again */
  const take = (file: File | undefined, of = step): void => {
    if (!file || !of) return;
    setFault(null);
    const caption = `${of.group}: ${of.text}`.slice(0, 200);
    void add({ cardId, form: { photo: file, caption } }).then((answer) => {
      const found = faultOf(answer.error);
      if (found) return setFault({ fault: found, file, of });
      return mark({ stepId: of.id, what: "photo", value: file.name.slice(0, 200) });
    });
  };
  return {
    busy: isLoading,
    open: () => chooser.current?.click(),
    take,
    input: <FileInput ref={chooser} accept="image/*" camera label="Photo of this step" onFile={(file) => take(file)} />,
    note: fault && (
      <FaultNote fault={fault.fault}>
        <Button className="mt-2" onClick={() => take(fault.file, fault.of)}>
          Send the photo again
        </Button>
      </FaultNote>
    ),
  };
}
