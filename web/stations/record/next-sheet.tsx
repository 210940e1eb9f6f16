import * as Comlink from "comlink";
import { format, parseISO } from "date-fns";
import { useEffect, useEffectEvent, useState } from "react";
import { INTERFACES, type NextServiceInput, type NextView } from "#contract";
import type { ProblemDetail } from "#core";
import { asTyped } from "#core/units/index.ts";
import { api } from "../../app/api.ts";
import { documentKind, useDocument } from "../../app/document.ts";
import { mergeChanges } from "../../app/merge.ts";
import { Button } from "../../ui/button.tsx";
import { numberOrNull, SelectField, TextField } from "../../ui/field.tsx";
import { FileDrop } from "../../ui/file-drop.tsx";
import { figure, widthOf } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import type { Answer } from "../../workers/run-session.ts";
import { useRunSession } from "../../workers/use-run-session.ts";

const month = (iso: string): string => format(parseISO(iso), "MMM yyyy");

const of = ({ version, told }: NextView) => ({ version, value: told });

/** How a card is used, from which it follows when it is due. */
const NEXT = documentKind<NextServiceInput, NextView>({
  name: "next-service",
  read: "next",
  of,
  send: (serviceId, { value, version, changes }, dispatch) =>
    dispatch(api.endpoints.changeNext.initiate({ serviceId, body: { ...value, version, changes } }, { track: false })),
  merge: mergeChanges,
});

/** When the card is due again, from its use and what this shop has seen of such layers. */
export function NextSheet({ serviceId, next }: { serviceId: string; next: NextView }) {
  const { change: keep, fault, unsaved } = useDocument(NEXT, serviceId, of(next));
  const [hours, setHours] = useState(asTyped(next.use.hoursPerWeek));
  const [sessions, setSessions] = useState(asTyped(next.use.sessionsPerDay));
  const { wear, cyclesPerMonth } = next.next;
  const [isIncomplete, setIncomplete] = useState(false);
  const missing = (text: string): string | undefined => {
    const value = numberOrNull(text);
    return isIncomplete && (value === null || Number.isNaN(value)) ? "Type a number." : undefined;
  };
  const keepUse = (cyclesPerHour: number | null): void => {
    const [hoursPerWeek, sessionsPerDay] = [numberOrNull(hours), numberOrNull(sessions)];
    const isGood = [hoursPerWeek, sessionsPerDay].every((one) => one !== null && !Number.isNaN(one));
    setIncomplete(!isGood);
    if (!isGood || hoursPerWeek === null || sessionsPerDay === null) return;
    keep({ use: { hoursPerWeek, sessionsPerDay, cyclesPerHour } });
  };
  return (
    <Sheet title="Next service">
      {next.foretold ? (
        <>
          <p className="text-2xl font-semibold" role="status">
            {month(next.dueOn)}
            <span className="ml-2 text-base font-normal text-soft">
              95 %: {month(next.lowOn)} to {next.highOn ? month(next.highOn) : "beyond five years"}
            </span>
          </p>
          <p className="mt-1 text-sm">{next.reason}</p>
        </>
      ) : (
        <p role="status">
          <strong>None is foretold: no layer was renewed in this service.</strong> Say below which one lies on the die,
          if somebody knows.
        </p>
      )}
      <div className="mt-3 grid gap-3 sm:grid-cols-3">
        <SelectField
          label="Layer on the die"
          value={next.foretold ? next.compound : ""}
          onChange={({ target }) => keep({ compound: INTERFACES.find((one) => one === target.value) ?? null })}
        >
          {!next.foretold && <option value="">not known</option>}
          {INTERFACES.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </SelectField>
        <TextField
          label="Hours a week"
          inputMode="decimal"
          value={hours}
          error={missing(hours) ?? fault?.errors["use.hoursPerWeek"]}
          onChange={({ target }) => setHours(target.value)}
          onBlur={() => {
            if (numberOrNull(hours) !== next.use.hoursPerWeek) keepUse(next.use.cyclesPerHour);
          }}
        />
        <TextField
          label="Sessions a day"
          inputMode="decimal"
          value={sessions}
          error={missing(sessions) ?? fault?.errors["use.sessionsPerDay"]}
          hint={next.use.cyclesPerHour === null ? undefined : "Not used: cycles are counted"}
          onChange={({ target }) => setSessions(target.value)}
          onBlur={() => {
            if (numberOrNull(sessions) !== next.use.sessionsPerDay) keepUse(null);
          }}
        />
      </div>
      <CountFromLog onCounted={keepUse} />
      {next.use.cyclesPerHour !== null && (
        <p className="mt-2 flex flex-wrap items-center gap-2 text-sm">
          Counted from a log: {figure(next.use.cyclesPerHour, 2)} cycles of 40 K an hour.
          <Button look="quiet" disabled={unsaved} onClick={() => keepUse(null)}>
            From sessions instead
          </Button>
        </p>
      )}
      {fault && Object.keys(fault.errors).length === 0 && <FaultNote fault={fault} />}
      <dl className="mt-3 grid grid-cols-[1fr_auto] gap-x-3 gap-y-1 text-sm">
        <dt>Cycles of 40 K a month ({next.useSource === "usual" ? "usual for its use" : next.useSource})</dt>
        <dd className="text-right font-semibold">{figure(cyclesPerMonth, 0)}</dd>
        <dt>
          Hotspot gap grows in 1000 cycles (
          {wear.cards === 0 ? "usual" : wear.cards === 1 ? "1 card came back" : `${wear.cards} cards came back`})
        </dt>
        <dd className="text-right font-semibold">
          {figure(wear.driftPer1000K)} ± {widthOf(wear.u95Per1000K)} K
        </dd>
        {next.heatFactor !== null && next.heatFactor > 1.05 && (
          <>
            <dt>Ages by temperature so many times slower than before (0.7 eV assumed; relative, no life)</dt>
            <dd className="text-right font-semibold">{figure(next.heatFactor)} ×</dd>
          </>
        )}
      </dl>
    </Sheet>
  );
}

/** Cycles an hour from a log of the card's own use. */
function CountFromLog({ onCounted }: { onCounted: (cyclesPerHour: number) => void }) {
  const [file, setFile] = useState<File | null>(null);
  const [problem, setProblem] = useState<ProblemDetail | null>(null);
  return (
    <div className="mt-3">
      <FileDrop
        className="min-h-11 border px-3 py-2 text-sm"
        onFiles={([dropped]) => {
          setProblem(null);
          setFile(dropped ?? null);
        }}
      >
        <span>{file ? "Counting…" : "Or count its cycles from a log of its use: drop it here"}</span>
      </FileDrop>
      {file && (
        <Counting
          key={`${file.name} ${file.lastModified} ${file.size}`}
          file={file}
          onDone={(found) => {
            setFile(null);
            if ("problem" in found) setProblem(found.problem);
            else onCounted(found.ok);
          }}
        />
      )}
      {problem && (
        <div className="mt-2">
          <Note kind="fault" title={problem.what} live>
            {problem.remedy}
          </Note>
        </div>
      )}
    </div>
  );
}

/** Has one log counted in a worker that is there for it only. */
function Counting({ file, onDone }: { file: File; onDone: (found: Answer<number>) => void }) {
  const session = useRunSession();
  const done = useEffectEvent(onDone);
  useEffect(() => {
    if (!session) return;
    void (async () => {
      const opened = await session.limited((remote) =>
        remote.openFile(
          file,
          Comlink.proxy(() => undefined),
        ),
      );
      done("problem" in opened ? opened : await session.limited((remote) => remote.cycles()));
    })();
  }, [session, file]);
  return null;
}
