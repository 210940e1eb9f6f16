import { useState } from "react";
import { Link } from "react-router";
import { API, type DayCardView, type DayView, urlOf } from "#contract";
import { api } from "../../app/api.ts";
import { BlockDetail } from "../../parts/day/block-detail.tsx";
import { type Picked, SPANS, type SpanId, TimeLine } from "../../parts/day/time-line.tsx";
import { useTerms } from "../../parts/day/use-day.ts";
import { momentWords } from "../../parts/day/words.ts";
import { FaultNote, Note } from "../../ui/note.tsx";

/** The plan of all that still comes, whether promises are kept, and what is held where. */
export function DayPart({ day }: { day: DayView }) {
  const [span, setSpan] = useState<SpanId>("hours");
  const [picked, setPicked] = useState<Picked | null>(null);
  const { keep, fault } = useTerms();
  const [endSearch] = api.useEndSearchMutation();
  const block =
    picked && day.plan?.blocks.find(({ serviceId, id }) => serviceId === picked.serviceId && id === picked.id);
  const card = block && day.cards.find(({ serviceId }) => serviceId === block.serviceId);
  const hold = (of: DayCardView, id: string, ms: number): void =>
    keep(of.serviceId, ({ held }) => ({ held: { ...held, [id]: new Date(ms).toISOString() } }));
  const letGo = (of: DayCardView, id: string): void =>
    keep(of.serviceId, ({ held: { [id]: _gone, ...held } }) => ({ held }));
  const { plan } = day;
  const atRisk = plan?.risk && day.cards.find(({ serviceId }) => serviceId === plan.risk?.serviceId);
  return (
    <>
      {plan?.risk && atRisk && (
        <Note
          kind="caution"
          title={`${atRisk.name} may come late: its promise is kept with ${Math.round(100 * plan.risk.chance)} %`}
        >
          {plan.risk.saves || "Neither going first nor staying two hours longer would save it: say it early."}
        </Note>
      )}
      {plan?.testsLate.map((serviceId) => {
        const late = day.cards.find((one) => one.serviceId === serviceId);
        return (
          late && (
            <Note
              key={serviceId}
              kind="caution"
              title={`${late.name} ${late.serial} can be given back until ${late.terms.returnBy}`}
            >
              Its baseline is planned for later than that. Test it first, or give it back untested.
            </Note>
          )
        );
      })}
      {day.problem && (
        <Note kind="fault" title={day.problem.what}>
          {day.problem.remedy} The plan below is the last one that could be made.
        </Note>
      )}
      <FaultNote fault={fault} />
      <section aria-label="Time line" className="mt-4">
        <div className="mb-2 flex flex-wrap items-center gap-2">
          <h2 className="mr-auto text-lg font-semibold">
            The plan
            <span className="ml-2 text-sm font-normal text-soft" role="status">
              {day.planning ? "planning…" : plan ? `as of ${momentWords(plan.madeMs, day.atMs)}` : ""}
            </span>
            {day.planning && (
              <span className="ml-2 inline-flex items-center gap-2 align-middle text-sm font-normal">
                <progress className="w-20" value={day.progress ?? 0} max={1} aria-label="Planning" />
                <button type="button" className="min-h-6 text-ice hover:underline" onClick={() => void endSearch()}>
                  Take what is found
                </button>
              </span>
            )}
          </h2>
          {SPANS.map(({ id, label }) => (
            <button
              key={id}
              type="button"
              aria-pressed={span === id}
              onClick={() => setSpan(id)}
              className={`min-h-11 rounded-lg border px-3 font-medium ${span === id ? "border-ice bg-frost text-ice" : "border-line bg-sheet hover:border-ice"}`}
            >
              {label}
            </button>
          ))}
          <a
            href={urlOf(API.calendar, {})}
            download
            className="min-h-11 content-center px-2 font-medium text-ice hover:underline"
          >
            Calendar
          </a>
          <Link to="/wall" className="min-h-11 content-center px-2 font-medium text-ice hover:underline">
            Wall view
          </Link>
        </div>
        <TimeLine day={day} span={span} picked={picked} onPick={setPicked} onHold={hold} onLetGo={letGo} />
        {block && card && (
          <div className="mt-3">
            <BlockDetail
              day={day}
              block={block}
              card={card}
              onTerms={(of, more) => keep(of.serviceId, () => more)}
              onLetGo={letGo}
            />
          </div>
        )}
      </section>
    </>
  );
}
