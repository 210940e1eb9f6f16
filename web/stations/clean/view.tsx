import { useSearchParams } from "react-router";
import { USUAL_SETTINGS } from "#contract";
import { EMPTY_MAP } from "#core/boardmap/index.ts";
import { cleaningPlan, cleanSteps, currentStep, dryingClocks, type HandStep } from "#core/handwork/index.ts";
import { api } from "../../app/api.ts";
import { useNow } from "../../app/use-now.ts";
import { HandStationPage } from "../../parts/steps/hand-station.tsx";
import { StepPlan } from "../../parts/steps/step-plan.tsx";
import { useMarks } from "../../parts/steps/use-marks.ts";
import { Caution } from "../../ui/caution.tsx";
import { ClockLine } from "../../ui/clock.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet, Waiting } from "../../ui/page.tsx";
import { useClockTitle } from "../../ui/title.ts";
import type { StationProps } from "../station.ts";
import { MayTouch } from "./may-touch.tsx";
import { RoomAirSheet } from "./room-air.tsx";

/** Cleaning part by part; what was washed rests by its clock, what evaporates is held against the room. */
export function CleanStation(props: StationProps) {
  return <Cleaning key={`${props.service.id} ${props.service.attempts.length}`} {...props} />;
}

const EVERY_MS = 15_000;
const NO_CLOCKS = [] as const;

function Cleaning({ cardId, service }: StationProps) {
  const [search] = useSearchParams();
  const { data: card } = api.useCardQuery(cardId);
  const { data: job, error } = api.usePadsQuery(service.id);
  const { data: settings = USUAL_SETTINGS } = api.useSettingsQuery();
  const nowMs = useNow(EVERY_MS);
  const marks = useMarks(service.id, "clean", service.attempts.length, search.get("do") === "steps");
  const room = { airC: settings.roomC, humidityPct: settings.humidityPct };
  const map = job?.map ?? EMPTY_MAP;
  const input = { map, marks: marks.marks, folded: marks.folded, room, nowMs, msOf: Date.parse };
  const clocks = marks.ready ? dryingClocks(input) : NO_CLOCKS;
  const running = clocks.filter(({ id }) => !marks.folded.get(id)?.done);
  useClockTitle(running);
  if (!card || !job || !marks.ready)
    return error || marks.error ? <FaultNote error={error ?? marks.error} /> : <Waiting what="the steps" />;
  const steps = cleanSteps(input);
  const { dirt, school } = cleaningPlan(marks.folded);
  const isDrawn = job.map !== null && (map.die !== null || map.parts.length > 0);
  const picture = (step: HandStep | null) =>
    isDrawn && (step === null || step.things.length > 0) ? (
      <StepPlan map={map} step={step ?? { side: "front", things: [], text: "the board" }} isPast={() => false} />
    ) : running.length > 0 ? (
      <div className="space-y-2 text-lg">
        {running.map((clock) => (
          <ClockLine key={clock.id} clock={clock} />
        ))}
      </div>
    ) : null;
  return (
    <HandStationPage
      cardId={cardId}
      service={service}
      station="clean"
      path="clean"
      title={`Clean · ${card.maker} ${card.model}`}
      steps={steps}
      marks={marks}
      ended="Clean"
      above={marks.marks.length === 0 && service.closedAt === null && <Caution of="open" />}
      picture={picture(currentStep(steps, marks.folded) ?? null)}
      idle={picture(null)}
    >
      {running.length > 0 && (
        <Sheet title="Drying">
          {running.map((clock) => (
            <ClockLine key={clock.id} clock={clock} />
          ))}
          <p className="mt-2 text-sm text-soft">
            Water leaves a hole through the still air above it: four times as long at twice the depth, far sooner warm.
          </p>
        </Sheet>
      )}
      <RoomAirSheet marks={marks} settings={settings} />
      <MayTouch dirt={dirt} school={school} />
    </HandStationPage>
  );
}
