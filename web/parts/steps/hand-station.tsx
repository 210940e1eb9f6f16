import type { ReactNode } from "react";
import { useNavigate, useSearchParams } from "react-router";
import type { ServiceView, SkippableId } from "#contract";
import { currentStep, type Folded, type HandStep, handTime } from "#core/handwork/index.ts";
import { Caution } from "../../ui/caution.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { NextLink } from "../service/next-link.tsx";
import { Skip } from "../service/skip.tsx";
import { WorkNotes } from "../work/work-notes.tsx";
import { PauseQuestion } from "./pauses.tsx";
import { StepMode } from "./step-mode.tsx";
import { StepsSheet } from "./steps-sheet.tsx";
import type { MadeMark, Marks } from "./use-marks.ts";

interface Props {
  cardId: string;
  service: ServiceView;
  station: SkippableId;
  /** Station and card, over the steps. */
  title: string;
  path: string;
  steps: readonly HandStep[];
  marks: Marks;
  ended: string;
  /** What is drawn at the step that is next, and on the sheet. */
  picture: ReactNode;
  idle: ReactNode;
  faultAt?: (stepId: string, folded: Folded) => string;
  onDone?: (step: HandStep, value: string | null) => readonly MadeMark[];
  above?: ReactNode;
  below?: ReactNode;
  /** Beside the steps. */
  children: ReactNode;
}

/** A station between opening and closing: its steps, what is computed beside them, notes by hand below. */
export function HandStationPage(props: Props) {
  const { cardId, service, station, title, path, steps, marks, ended, picture, idle, above, below, children } = props;
  const [search] = useSearchParams();
  const go = useNavigate();
  const next = currentStep(steps, marks.folded);
  const isBegun = marks.marks.length > 0;
  const baseline = service.stations.find(({ id }) => id === "baseline");
  // Nothing is touched before it has run, or without a reason on record why it did not.
  const mayBegin = baseline?.state === "done" || baseline?.state === "skipped";
  const here = service.stations.find(({ id }) => id === station);
  return (
    <div className="space-y-4">
      <FaultNote fault={marks.fault} />
      <PauseQuestion time={handTime(marks.marks, Date.parse)} mark={marks.mark} />
      {!mayBegin && service.closedAt === null && <Caution of="noBaseline" />}
      {above}
      <div
        className={`grid items-start gap-4 ${steps.length > 0 ? "lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]" : "max-w-3xl"}`}
      >
        <div className="min-w-0 space-y-4 empty:hidden">
          {steps.length > 0 && (
            <StepsSheet steps={steps} marks={marks} ended={ended} mayBegin={mayBegin}>
              {idle}
            </StepsSheet>
          )}
          {below}
        </div>
        <div className="min-w-0 space-y-4">{children}</div>
      </div>
      {!next && steps.length > 0 && service.notes.length === 0 && (
        <NextLink cardId={cardId} service={service} from={station} />
      )}
      <WorkNotes cardId={cardId} service={service} from={station} />
      {!isBegun && here?.state !== "done" && <Skip service={service} station={station} />}
      {search.get("do") === "steps" && mayBegin && steps.length > 0 && (
        <StepMode
          title={title}
          cardId={cardId}
          steps={steps}
          marks={marks}
          picture={picture}
          body={null}
          waiting={null}
          {...(props.faultAt ? { faultAt: props.faultAt } : {})}
          {...(props.onDone ? { onDone: props.onDone } : {})}
          onClose={() => void go(`/cards/${cardId}/${path}`)}
        />
      )}
    </div>
  );
}
