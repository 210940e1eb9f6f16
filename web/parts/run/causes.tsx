import type { Finding } from "#core";
import { CAUSE_WORDS } from "#core/diagnose/index.ts";
import { api } from "../../app/api.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Waiting } from "../../ui/page.tsx";

/** Likely causes of one run, most likely first. */
export function RunCauses({ runId }: { runId: string }) {
  const { data, error } = api.useDiagnosisQuery(runId);
  if (!data) return error ? <FaultNote error={error} /> : <Waiting what="the likely causes" />;
  return (
    <>
      <Causes {...data} />
      <p className="mt-3 text-sm text-soft">
        {data.cards > 0
          ? `Healthy figures are from ${data.cards} other ${data.cards === 1 ? "card" : "cards"} of this board model after service.`
          : "Healthy figures are those of usual cards: this board model has no other serviced card here yet."}
      </p>
    </>
  );
}

const LEAST_SHOWN = 0.02;

export function Causes({
  findings,
  limits,
  known,
  minutesNeeded,
}: {
  findings: readonly Finding[];
  limits: readonly string[];
  known: boolean;
  minutesNeeded: number | null;
}) {
  const shown = findings.filter((one, index) => index < 2 || one.probability >= LEAST_SHOWN).slice(0, 5);
  const [first] = shown;
  return (
    <div className="space-y-4">
      {!known && (
        <Note
          kind="caution"
          title={`Not known yet: run it ${minutesNeeded ? `${minutesNeeded} more ${minutesNeeded === 1 ? "minute" : "minutes"}` : "for longer"}`}
        >
          What shows slowly, as dust and pads do, can’t be told from so short a run.
        </Note>
      )}
      <ol className="space-y-2">
        {shown.map((one) => (
          <li key={one.cause} className="grid grid-cols-[minmax(0,1fr)_4rem] items-center gap-x-3">
            <span className="font-medium first-letter:uppercase">{CAUSE_WORDS[one.cause]}</span>
            <span className="text-right text-lg font-bold">{percent(one.probability)}</span>
            <span className="col-span-2 h-2 overflow-hidden rounded-full bg-line" aria-hidden>
              <span className="block h-full bg-ice" style={{ width: `${100 * one.probability}%` }} />
            </span>
          </li>
        ))}
      </ol>
      {first && (
        <div>
          <h3 className="font-semibold">What speaks for the first</h3>
          <ul className="list-disc space-y-1 pl-5 text-[0.95rem]">
            {first.evidence.map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
          <p className="mt-2 rounded-lg bg-frost px-3 py-2">
            <span className="font-semibold">Next check: </span>
            {first.nextCheck}
          </p>
        </div>
      )}
      {limits.length > 0 && (
        <details>
          <summary className="min-h-9 cursor-pointer font-medium text-ice">
            What this log can’t tell ({limits.length})
          </summary>
          <ul className="list-disc space-y-1 pl-5 text-sm text-soft">
            {limits.map((limit) => (
              <li key={limit}>{limit}</li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

const percent = (share: number): string => (share < 0.01 ? "< 1 %" : `${Math.round(100 * share)} %`);
