import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { useState } from "react";
import { FACTORS, type FactorId, type FindingsAsked, type FindingsView, type ResultLine } from "#contract";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { withUndo } from "../../app/with-undo.ts";
import { Button, LinkButton } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { SelectField, TextField } from "../../ui/field.tsx";
import { figure, signed, widthOf } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";
import { Forest, ResultLines } from "./forest.tsx";

const START: FindingsAsked = { by: "work", adjust: [], only: {}, measure: "die", paper: true };
const MEASURES = [
  { value: "die", label: "Die" },
  { value: "gap", label: "Hotspot gap" },
] as const;

/** What really works: each kind of work, compound and pad over all that was proved here. */
export function FindingsPage() {
  const [asked, setAsked] = useState(START);
  const { currentData, data = currentData, error, isFetching } = api.useFindingsQuery(asked);
  const [leaving, setLeaving] = useState<ResultLine | null>(null);
  const change = (more: Partial<FindingsAsked>): void => setAsked({ ...asked, ...more });
  const nothing =
    data && data.services + data.paper + data.leftOut.length === 0 && Object.keys(asked.only).length === 0;
  return (
    <Page
      wide
      title="Findings"
      lead="What each kind of work brought here, at equal conditions, over every card that was proved"
      action={<LinkButton to="/findings/paper">Bring in earlier cards</LinkButton>}
    >
      <FaultNote error={error} />
      {!data && !error && <Waiting what="the findings" />}
      {nothing ? (
        <Note title="Nothing is proved yet">
          A service counts as soon as a run before and one after the work can be compared. Results on paper and
          spreadsheets of earlier cards count too: bring them in.
        </Note>
      ) : (
        data && (
          <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_18rem]">
            <div className="space-y-4" aria-busy={isFetching}>
              <Answer data={data} asked={asked} onLeaveOut={setLeaving} />
            </div>
            <div>
              <Asking asked={asked} data={data} onChange={change} />
              <p className="mt-2 min-h-6 text-sm text-soft" role="status">
                {isFetching ? "Working it out…" : ""}
              </p>
            </div>
          </div>
        )
      )}
      {leaving && <LeaveOut key={leaving.id} line={leaving} onDone={() => setLeaving(null)} />}
    </Page>
  );
}

const labelOf = (id: FactorId): string => FACTORS.find((factor) => factor.id === id)?.label ?? id;

function Answer({
  data: { overall, found, problem, notices, lopsided, groups, contrasts, lines, leftOut },
  asked,
  onLeaveOut,
}: {
  data: FindingsView;
  asked: FindingsAsked;
  onLeaveOut: (line: ResultLine) => void;
}) {
  const mean = overall?.coefficients[0];
  const slope = found?.coefficients.find(({ name }) => name === asked.by);
  return (
    <>
      {mean && overall && (
        <p className="text-2xl font-semibold" role="status">
          {asked.measure === "die" ? "The die" : "The gap"}: {figure(Math.abs(mean.estimate))} ± {widthOf(mean.u95)} K{" "}
          {asked.measure === "die"
            ? mean.estimate < 0
              ? "cooler"
              : "warmer"
            : mean.estimate < 0
              ? "smaller"
              : "larger"}
          <span className="block text-base font-normal text-soft">
            over {overall.k} results; services differ by {figure(Math.sqrt(overall.tau2 + (overall.clusterTau2 ?? 0)))}{" "}
            K beyond their own errors
          </span>
        </p>
      )}
      {problem && <Note title={problem.what}>{problem.remedy}</Note>}
      {mean && overall && (
        <Sheet title={asked.by ? `By ${labelOf(asked.by).toLowerCase()}` : "All results"}>
          {groups.length > 0 ? (
            <Forest
              rows={groups.map(({ level, ...group }) => ({ label: level, ...group }))}
              overall={{ meanK: mean.estimate, u95K: mean.u95, k: overall.k }}
              onLeaveOut={onLeaveOut}
            />
          ) : (
            <>
              {slope && (
                <p className="mb-3 text-lg font-semibold">
                  {signed(slope.estimate, 2)} ± {widthOf(slope.u95, 2)} K for each more ({labelOf(asked.by ?? "age")})
                </p>
              )}
              <ResultLines lines={lines} onLeaveOut={onLeaveOut} />
            </>
          )}
          <Heterogeneity found={found ?? overall} />
        </Sheet>
      )}
      {lopsided.length > 0 && (
        <Note kind="caution" title={lopsided.length === 1 ? "A lopsided comparison" : "Lopsided comparisons"}>
          <ul className="list-disc space-y-1 pl-4">
            {lopsided.slice(0, MOST_WARNINGS).map(({ a, b, column, words }) => (
              <li key={`${a} ${b} ${column}`}>{words}</li>
            ))}
          </ul>
          {lopsided.length > MOST_WARNINGS && `and ${lopsided.length - MOST_WARNINGS} more`}
        </Note>
      )}
      {contrasts.length > 0 && (
        <Sheet title="Against each other">
          <ul className="space-y-1">
            {contrasts.map(({ a, b, words, pHolm }) => (
              <li key={`${a} ${b}`}>
                {words} <span className="text-sm text-soft">p {pHolm < 0.001 ? "< 0.001" : figure(pHolm, 3)}</span>
              </li>
            ))}
          </ul>
          {contrasts.length > 1 && (
            <p className="mt-2 text-sm text-soft">
              {contrasts.length} pairs were looked at: p is adjusted for that (Holm), so that none stands out by chance.
            </p>
          )}
        </Sheet>
      )}
      {notices.length > 0 && (
        <ul className="list-disc pl-5 text-sm text-soft">
          {notices.map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      )}
      {leftOut.length > 0 && <LeftOut lines={leftOut} />}
    </>
  );
}
const MOST_WARNINGS = 4;

function Heterogeneity({
  found: { i2Pct, clusterTau2, tau2, clusters },
}: {
  found: NonNullable<FindingsView["found"]>;
}) {
  return (
    <p className="mt-3 text-sm text-soft">
      {i2Pct < 25
        ? "They agree about as well as their own errors allow"
        : i2Pct < 75
          ? "They differ somewhat beyond their own errors"
          : "They differ far beyond their own errors: look for what sets them apart"}{" "}
      (I² {figure(i2Pct, 0)} %
      {clusterTau2 !== null && `; ${clusters} board models differ by ${figure(Math.sqrt(clusterTau2))} K`}
      {`; services by ${figure(Math.sqrt(tau2))} K`}).
    </p>
  );
}

function LeftOut({ lines }: { lines: FindingsView["leftOut"] }) {
  const [countAgain] = api.useCountAgainMutation();
  return (
    <Sheet title="Left out">
      <ul className="divide-y divide-line">
        {lines.map(({ id, name, serial, reason, changeK }) => (
          <li key={id} className="flex flex-wrap items-center justify-between gap-2 py-1">
            <span>
              {name} {serial} ({signed(changeK)} K): {reason}
            </span>
            <Button onClick={() => void countAgain(id)}>Let it count</Button>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

/** By what, adjusted for what, and which. */
function Asking({
  asked,
  data,
  onChange,
}: {
  asked: FindingsAsked;
  data: FindingsView;
  onChange: (more: Partial<FindingsAsked>) => void;
}) {
  return (
    <Sheet title="Look at">
      <div className="space-y-4">
        <SelectField
          label="Compare by"
          value={asked.by ?? ""}
          onChange={({ target }) => {
            const by = FACTORS.find(({ id }) => id === target.value)?.id ?? null;
            onChange({ by, adjust: asked.adjust.filter((id) => id !== by) });
          }}
        >
          <option value="">nothing: all results</option>
          {FACTORS.map(({ id, label }) => (
            <option key={id} value={id}>
              {label}
            </option>
          ))}
        </SelectField>
        <Choice
          label="What changed"
          value={asked.measure}
          options={MEASURES}
          onChange={(measure) => onChange({ measure })}
        />
        <details open={Object.keys(asked.only).length > 0}>
          <summary className="min-h-9 cursor-pointer font-medium text-ice">Only some of them</summary>
          <div className="mt-2 space-y-3">
            {data.values
              .filter(({ values }) => values.length > 1)
              .map(({ factor, values }) => (
                <SelectField
                  key={factor}
                  label={labelOf(factor)}
                  value={asked.only[factor] ?? ""}
                  onChange={({ target }) => {
                    const { [factor]: _old, ...rest } = asked.only;
                    onChange({ only: target.value === "" ? rest : { ...rest, [factor]: target.value } });
                  }}
                >
                  <option value="">all</option>
                  {values.map(({ value, k }) => (
                    <option key={value} value={value}>
                      {value} ({k})
                    </option>
                  ))}
                </SelectField>
              ))}
          </div>
        </details>
        <details open={asked.adjust.length > 0}>
          <summary className="min-h-9 cursor-pointer font-medium text-ice">At equal…</summary>
          <fieldset className="mt-2">
            <legend className="sr-only">Adjusted for</legend>
            {FACTORS.filter(({ id }) => id !== asked.by).map(({ id, label }) => (
              <label key={id} className="flex min-h-9 items-center gap-2">
                <input
                  type="checkbox"
                  className="size-5"
                  checked={asked.adjust.includes(id)}
                  onChange={({ target }) =>
                    onChange({
                      adjust: target.checked ? [...asked.adjust, id] : asked.adjust.filter((one) => one !== id),
                    })
                  }
                />
                {label.toLowerCase()}
              </label>
            ))}
          </fieldset>
        </details>
        <label className="flex min-h-9 items-center gap-2">
          <input
            type="checkbox"
            className="size-5"
            checked={asked.paper}
            onChange={({ target }) => onChange({ paper: target.checked })}
          />
          results on paper count too
        </label>
      </div>
    </Sheet>
  );
}

/** Leaves one result out, with a reason that stays. */
function LeaveOut({ line, onDone }: { line: ResultLine; onDone: () => void }) {
  const [leave, { error, isLoading }] = api.useLeaveOutMutation();
  const [countAgain] = api.useCountAgainMutation();
  const [reason, setReason] = useState("");
  const send = async (): Promise<void> => {
    const done = await withUndo("Left out", (forth) =>
      forth ? leave({ resultId: line.id, body: { reason } }) : countAgain(line.id),
    );
    if (done) onDone();
  };
  return (
    <Dialog open onClose={onDone} className="relative z-50">
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 flex items-center justify-center p-4">
        <DialogPanel className="w-full max-w-lg rounded-xl bg-sheet p-6 shadow-xl">
          <DialogTitle className="mb-3 text-lg font-bold">
            Leave out {line.name} {line.serial}
          </DialogTitle>
          <form
            className="space-y-4"
            onSubmit={(event) => {
              event.preventDefault();
              void send();
            }}
          >
            <TextField
              label="Why it does not count"
              hint="Stays with the result; it can count again at any time"
              value={reason}
              maxLength={300}
              error={faultOf(error)?.errors.reason}
              onChange={({ target }) => setReason(target.value)}
            />
            <div className="flex justify-end gap-2">
              <Button onClick={onDone}>Cancel</Button>
              <Button look="main" type="submit" disabled={isLoading || reason.trim().length < 3}>
                Leave it out
              </Button>
            </div>
          </form>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
