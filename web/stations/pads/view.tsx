import { useMemo } from "react";
import { Link, useSearchParams } from "react-router";
import type { PadJob } from "#contract";
import { type BoardMap, checkMap } from "#core/boardmap/index.ts";
import { placesOf } from "#core/padplan/index.ts";
import { api } from "../../app/api.ts";
import { padJobWith, useFitted } from "../../parts/cooler/fitted.ts";
import { OtherCoolerNote } from "../../parts/cooler/other-cooler-note.tsx";
import { gapsOf } from "../../parts/pads/gaps-of.ts";
import { OpeningCautions } from "../../parts/service/opening-cautions.tsx";
import { Skip } from "../../parts/service/skip.tsx";
import { LinkButton } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Waiting } from "../../ui/page.tsx";
import type { StationProps } from "../station.ts";
import { CutPads } from "./cut.tsx";
import { MeasurePads } from "./measure.tsx";
import { SeatPads } from "./seat.tsx";
import type { PadStepProps } from "./step-props.ts";
import { usePlan } from "./use-plan.ts";

/** Pads: measured, chosen so that the die seats, cut from what is there. */
export function PadsStation({ service, cardId }: StationProps) {
  const { data: ownJob, error } = api.usePadsQuery(service.id);
  const { ready, fitted } = useFitted(service.id);
  const mounted = useMemo(() => ownJob && padJobWith(ownJob, fitted), [ownJob, fitted]);
  const job = ready ? ownJob : undefined;
  if (!job || !mounted) return error ? <FaultNote error={error} /> : <Waiting what="the pads" />;
  // The caution about opening the card is shown until something has been measured.
  const unopened = !job.readings.some((one) => one.card === service.id);
  return (
    <div className="space-y-4">
      {unopened && service.closedAt === null && <OpeningCautions service={service} />}
      {job.boardModelId === null ? (
        <Note kind="caution" title="This card has no board model yet">
          Its map and its pad figures belong to the model. Name the model under{" "}
          <Link className="font-semibold text-ice underline" to={`/cards/${cardId}/take-in`}>
            Take in
          </Link>
          , then come back.
        </Note>
      ) : !job.map || !mounted.map || placesOf(job.map).length === 0 ? (
        <Note title={`The map of ${job.boardName} has no place for a pad yet`}>
          <p className="mb-2">
            Draw the die, its screws, the memory and the VRM parts; that takes some minutes and serves every card of
            this model.
          </p>
          <LinkButton to={`/boards/${job.boardModelId}/map`} look="main">
            Draw the board map
          </LinkButton>
        </Note>
      ) : (
        <>
          <OtherCoolerNote serviceId={service.id} cardId={cardId} />
          <PadWork
            key={service.id}
            job={{ ...job, map: mounted.map }}
            drawn={mounted.readings}
            map={mounted.map}
            cardId={cardId}
          />
        </>
      )}
      {service.stations.find((station) => station.id === "pads")?.state !== "done" && (
        <Skip service={service} station="pads" />
      )}
    </div>
  );
}

const STEPS = [
  { id: "measure", label: "Measure" },
  { id: "choose", label: "Will the die seat?" },
  { id: "cut", label: "Cut" },
] as const;

function PadWork({
  job,
  map,
  drawn,
  cardId,
}: {
  job: PadJob;
  map: BoardMap;
  /** Readings that count: those taken, or what another cooler’s drawing says. */
  drawn: PadJob["readings"];
  cardId: string;
}) {
  const [search] = useSearchParams();
  const step = STEPS.find((one) => one.id === search.get("do"))?.id ?? "measure";
  const plan = usePlan(job);
  const { refetch } = api.usePadsQuery(job.serviceId);
  const { serviceId } = job;
  const gaps = useMemo(() => gapsOf(map, { readings: drawn, serviceId }), [map, drawn, serviceId]);
  const hinders = checkMap(map).find((fault) => fault.hinders);
  const props: PadStepProps = { job, map, gaps, plan, cardId };
  return (
    <>
      <nav aria-label="Steps of the pad work" className="flex flex-wrap items-center gap-1">
        {STEPS.map(({ id, label }, index) => (
          <Link
            key={id}
            to={`?do=${id}`}
            aria-current={id === step ? "step" : undefined}
            className={`min-h-11 content-center rounded-lg border px-4 font-semibold ${id === step ? "border-ice bg-frost text-ice" : "border-line bg-sheet hover:border-ice"}`}
          >
            {index + 1}. {label}
          </Link>
        ))}
        <Link
          to={`/boards/${job.boardModelId}/map`}
          className="ml-auto min-h-11 content-center font-medium text-ice hover:underline"
        >
          Board map of {job.boardName}
        </Link>
      </nav>
      <FaultNote fault={plan.fault} />
      {hinders && step !== "measure" ? (
        <Note kind="fault" title={hinders.text}>
          <Link className="font-semibold text-ice underline" to={`/boards/${job.boardModelId}/map`}>
            Mend it on the board map
          </Link>
          ; readings and choices are kept.
        </Note>
      ) : step === "measure" ? (
        <MeasurePads {...props} />
      ) : step === "choose" ? (
        <SeatPads {...props} />
      ) : (
        <CutPads {...props} />
      )}
      <ConflictDialog
        open={plan.conflict}
        what="pad plan"
        onKeep={() => void refetch().then(({ data }) => data && plan.adopt(data))}
        onTakeOver={() => void refetch().then(({ data }) => data && plan.takeOver(data))}
      />
    </>
  );
}
