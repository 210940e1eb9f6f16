import { useMemo } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { CoolerJob } from "#contract";
import { isWet } from "#core/coolers/index.ts";
import { api } from "../../app/api.ts";
import { fittedOf } from "../../parts/cooler/fitted.ts";
import { fitHeadline, lostContacts } from "../../parts/cooler/words.ts";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { SelectField } from "../../ui/field.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Waiting } from "../../ui/page.tsx";
import { BringsPart } from "./brings.tsx";
import { FitPart } from "./fit.tsx";
import { HeatsinksPart } from "./heatsinks.tsx";
import { LeakPart } from "./leak.tsx";
import { LoopPart } from "./loop.tsx";
import { MountPart } from "./mount.tsx";
import { storedPlan, useCoolerPlan } from "./use-cooler-plan.ts";

/** Another cooler for one card: does it go on, with what, what does it bring, is it tight. */
export function OtherCoolerPage() {
  const { cardId = "" } = useParams();
  const { data: card, error } = api.useCardQuery(cardId);
  const serviceId = card?.serviceId ?? "";
  const { data: job, error: jobError } = api.useCoolerJobQuery(serviceId, { skip: serviceId === "" });
  if (!card || !job)
    return (
      <Page title="Another cooler">
        {error || jobError ? <FaultNote error={error ?? jobError} /> : <Waiting what="the cooler" />}
      </Page>
    );
  return <Plan key={serviceId} job={job} cardId={cardId} name={`${card.maker} ${card.model}`} />;
}

const PARTS = [
  { id: "fit", label: "Does it go on?" },
  { id: "mount", label: "Mount" },
  { id: "brings", label: "What it brings" },
  { id: "loop", label: "Water", wet: true },
  { id: "leak", label: "Leak test", wet: true },
  { id: "heatsinks", label: "Add-on heatsinks" },
] as const;

function Plan({ job, cardId, name }: { job: CoolerJob; cardId: string; name: string }) {
  const [search] = useSearchParams();
  const plan = useCoolerPlan(job);
  const { refetch } = api.useCoolerJobQuery(job.serviceId);
  const { data: coolers = [] } = api.useCoolersQuery();
  const goOn = coolers.filter(({ kind }) => kind !== "heatsink");
  const chosen = plan.value.coolerId;
  // Shown once the server knows what was chosen: drawing and choice belong together.
  const cooler = job.plan.coolerId === chosen ? job.cooler : null;
  const { map } = job;
  const { drawer } = plan.value;
  const answer = useMemo(
    () => fittedOf({ cooler, map, plan: { ...job.plan, drawer } }),
    [cooler, map, job.plan, drawer],
  );
  const parts = PARTS.filter((one) => !("wet" in one) || (cooler && isWet(cooler)));
  const asked = search.get("part");
  const part = parts.find((one) => one.id === asked)?.id ?? "fit";
  const fits = answer !== null && "ok" in answer && answer.ok.fit.fits && lostContacts(answer.ok) === "";
  const goesOn = answer !== null && "ok" in answer && answer.ok.fit.fits;
  return (
    <Page
      wide
      title={cooler ? cooler.name : "Another cooler"}
      lead={
        <>
          for <strong>{name}</strong>
          {job.boardName && `, ${job.boardName}`}
          {cooler && (
            <>
              {" · "}
              <span className={fits ? "" : `font-semibold ${goesOn ? "text-amber" : "text-danger"}`}>
                {fitHeadline(answer)}
              </span>
            </>
          )}
        </>
      }
      action={
        <Link to={`/cards/${cardId}`} className="no-print min-h-11 content-center font-medium text-ice hover:underline">
          Back to the card
        </Link>
      }
    >
      <div className="no-print mb-4 flex flex-wrap items-end gap-3">
        <div className="w-72">
          <SelectField
            label="Cooler that goes on"
            value={chosen ?? ""}
            onChange={(event) => plan.change({ coolerId: event.target.value || null })}
          >
            <option value="">The one it came with</option>
            {goOn.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </SelectField>
        </div>
        <Link
          to={chosen ? `/coolers/${chosen}` : "/coolers"}
          className="min-h-11 content-center font-medium text-ice hover:underline"
        >
          {chosen ? "Its drawing" : "Draw another cooler"}
        </Link>
      </div>
      <FaultNote fault={plan.fault} />
      <nav aria-label="Parts of the work on a cooler" className="no-print mb-4 flex flex-wrap gap-1">
        {parts.map(({ id, label }) => (
          <Link
            key={id}
            to={`?part=${id}`}
            replace
            aria-current={id === part ? "page" : undefined}
            className={`min-h-11 content-center rounded-lg border px-4 font-semibold ${id === part ? "border-ice bg-frost text-ice" : "border-line bg-sheet hover:border-ice"}`}
          >
            {label}
          </Link>
        ))}
      </nav>
      {part === "heatsinks" ? (
        <HeatsinksPart job={job} plan={plan} />
      ) : !cooler ? (
        <Note title="Choose the cooler that goes on">
          Whether it fits, which screw goes where, its pads and what it brings follow from its drawing and the board’s
          map. Screws and pads of the original stay known: it can come back.
        </Note>
      ) : part === "leak" ? (
        <LeakPart job={job} plan={plan} cooler={cooler} />
      ) : part === "loop" ? (
        <LoopPart job={job} plan={plan} cooler={cooler} />
      ) : part === "brings" ? (
        <BringsPart job={job} cooler={cooler} loop={plan.value.loop} answer={answer} />
      ) : part === "mount" ? (
        <MountPart job={job} cardName={name} answer={answer} plan={plan} />
      ) : (
        <FitPart job={job} plan={plan} cooler={cooler} answer={answer} />
      )}
      <ConflictDialog
        open={plan.conflict}
        what="plan of a cooler"
        onKeep={() => void refetch().then(({ data }) => data && plan.adopt(storedPlan(data)))}
        onTakeOver={() => void refetch().then(({ data }) => data && plan.takeOver(storedPlan(data)))}
      />
    </Page>
  );
}
