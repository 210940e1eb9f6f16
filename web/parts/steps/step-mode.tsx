import { Dialog, DialogPanel } from "@headlessui/react";
import type { ReactNode } from "react";
import { isTyping } from "../../app/keys.ts";
import { FaultNote } from "../../ui/note.tsx";
import { PauseQuestion } from "./pauses.tsx";
import { StepFooter, StepHeader } from "./step-frame.tsx";
import { StepList } from "./step-list.tsx";
import { AllDone, StepStage } from "./step-stage.tsx";
import { type StepWork, useStepMode } from "./use-step-mode.ts";

export interface StepModeProps extends Omit<StepWork, "isWaiting"> {
  title: string;
  /** What is drawn at the step that is next. */
  picture: ReactNode;
  /** What it has beside picture and sentence. */
  body: ReactNode;
  /** What has to be waited for before it; null where nothing has. */
  waiting: ReactNode | null;
  onClose: () => void;
}

/** One step at a time over the whole screen. */
export function StepMode({ title, picture, body, waiting, onClose, ...work }: StepModeProps) {
  const { steps, marks } = work;
  const hands = useStepMode({ ...work, isWaiting: waiting !== null });
  const { step, stage, photo, listed } = hands;
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
        <StepHeader title={title} count={steps.length} unsaved={marks.unsaved} hands={hands} onClose={onClose} />
        <div className="min-h-0 flex-1 overflow-y-auto p-3 sm:p-5" tabIndex={listed ? 0 : undefined}>
          <div className="mx-auto max-w-[110rem] space-y-3">
            <FaultNote fault={marks.fault} />
            {photo.note}
            <PauseQuestion time={hands.time} mark={marks.mark} />
            {listed && <StepList steps={steps} folded={marks.folded} onTick={hands.tick} />}
            {!listed && step && (
              <StepStage step={step} hands={hands} marks={marks} picture={picture} body={body} waiting={waiting} />
            )}
            {!listed && !step && <AllDone stage={stage} onClose={onClose} />}
          </div>
        </div>
        {photo.input}
        <StepFooter hands={hands} isWaiting={waiting !== null} />
      </DialogPanel>
    </Dialog>
  );
}
