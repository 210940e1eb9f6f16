import { useState } from "react";
import { type CoolerPlan, MOST_LEAK_READINGS } from "#contract";
import { type Cooler, type LeakFound, leakTest, readLeakLog, SETTLE_MIN } from "#core/coolers/index.ts";
import { Problem, type ProblemDetail } from "#core/problem/index.ts";
import { useNow } from "../../app/use-now.ts";
import { Button } from "../../ui/button.tsx";
import { Caution } from "../../ui/caution.tsx";
import { numberOrNull, TextField } from "../../ui/field.tsx";
import { figure } from "../../ui/format.ts";
import { ImportFile } from "../../ui/import-file.tsx";
import { Note } from "../../ui/note.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";
import type { CoolerPartProps } from "./use-cooler-plan.ts";

type Leak = CoolerPlan["leak"];

function judged(leak: Leak, volumeMl: number | null): { ok: LeakFound } | { problem: ProblemDetail } | null {
  if (leak.readings.length === 0) return null;
  try {
    return { ok: leakTest({ ...leak, volumeMl }) };
  } catch (error) {
    if (error instanceof Problem) return { problem: error.detail() };
    throw error;
  }
}

const MINUTE_MS = 60_000;
const SECONDS = 1000;

/** Before power, under pressure: tight, leaking, or how many more minutes. */
export function LeakPart({ plan, cooler }: CoolerPartProps & { cooler: Cooler }) {
  const { leak, loop } = plan.value;
  const set = (more: Partial<Leak>): void => plan.change({ leak: { ...leak, ...more } });
  const volumeMl = loop
    ? loop.reservoirMl +
      (cooler.water?.insideMl ?? 0) +
      loop.radiators.reduce((sum, { insideMl }) => sum + insideMl, 0) +
      (Math.PI / 4) * loop.boreMm ** 2 * (loop.tubeMm / 1000)
    : null;
  const answer = judged(leak, volumeMl);
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <div className="space-y-4">
        <Verdict answer={answer} leak={leak} />
        <Readings leak={leak} onLeak={set} />
      </div>
      <div className="space-y-4">
        <Note kind="caution" title="Air under pressure, no power">
          The card stays unplugged. Stay below what block, tube and fittings are made for, {figure(KEPT_KPA, 0)} kPa are
          plenty; wear glasses. Go by the makers’ sheets and your local rules.
        </Note>
        <Caution of="coolant" />
        <Sheet title="Gauge and leak to look for">
          <div className="space-y-3">
            <NumberField
              label="A leak that must not be missed"
              unit="kPa an hour"
              value={leak.namedKPaPerH}
              least={0.2}
              most={100}
              onValue={(namedKPaPerH) => namedKPaPerH !== null && set({ namedKPaPerH })}
            />
            <NumberField
              label="Smallest step of the gauge"
              unit="kPa"
              value={leak.gaugeStepKPa}
              least={0.001}
              most={20}
              onValue={(gaugeStepKPa) => gaugeStepKPa !== null && set({ gaugeStepKPa })}
            />
            <NumberField
              label="Smallest step of the thermometer"
              unit="K"
              value={leak.airStepK}
              least={0.001}
              most={5}
              onValue={(airStepK) => airStepK !== null && set({ airStepK })}
            />
          </div>
        </Sheet>
        <GoOn leak={leak} isTight={answer !== null && "ok" in answer && answer.ok.verdict === "tight"} onLeak={set} />
      </div>
    </div>
  );
}

const KEPT_KPA = 40;
const WORDS = { tight: "Tight", leaking: "Leaking", "not known yet": "Not known yet" } as const;

function Verdict({ answer, leak }: { answer: ReturnType<typeof judged>; leak: Leak }) {
  if (answer === null)
    return (
      <Note title="Pump it up, then read gauge and air">
        Read them now and then for half an hour or so; the room’s temperature is taken out. The first {SETTLE_MIN}{" "}
        minutes do not count.
      </Note>
    );
  if ("problem" in answer)
    return (
      <Note kind="fault" live title={answer.problem.what}>
        {answer.problem.remedy} The readings are kept.
      </Note>
    );
  const { verdict, fallKPaPerH, u95KPaPerH, leakMlPerMin, moreMin, byTemperatureKPa, why } = answer.ok;
  return (
    <Sheet>
      <p className="text-sm text-soft">Before power</p>
      <div role="status">
        <h2 className={`text-3xl font-bold ${verdict === "leaking" ? "text-danger" : ""}`}>
          {verdict === "tight" ? "✓ " : verdict === "leaking" ? "✗ " : ""}
          {WORDS[verdict]}
          {moreMin !== null && `: ${moreMin} more ${moreMin === 1 ? "minute" : "minutes"}`}
        </h2>
      </div>
      <p className="mt-1">{why}</p>
      {fallKPaPerH !== null && (
        <p className="mt-2">
          {fallKPaPerH < 0 ? "Rises" : "Falls"} by{" "}
          <strong>{`${figure(Math.abs(fallKPaPerH), 2)} ± ${figure(u95KPaPerH, 2)} kPa an hour`}</strong>, temperature
          taken out; looked for: {figure(leak.namedKPaPerH, 1)} kPa an hour.
          {leakMlPerMin !== null && leakMlPerMin > 0 && ` That is ${figure(leakMlPerMin, 2)} mL of air a minute.`}
          {byTemperatureKPa !== null &&
            ` The room alone moved the gauge by ${figure(byTemperatureKPa, 2)} kPa over the test.`}
        </p>
      )}
      {verdict === "leaking" && (
        <p className="mt-2">
          Wipe fittings with soapy water and look for bubbles, mend it, let the pressure go, and begin a new test.
        </p>
      )}
    </Sheet>
  );
}

function Readings({ leak, onLeak }: { leak: Leak; onLeak: (more: Partial<Leak>) => void }) {
  const [pressure, setPressure] = useState("");
  const [air, setAir] = useState(String(leak.readings.at(-1)?.airC ?? ""));
  const nowMs = useNow(20 * SECONDS);
  const [kPa, airC] = [numberOrNull(pressure), numberOrNull(air)];
  const atMin = (ms: number): number =>
    leak.startedAt === null ? 0 : Math.round((100 * (ms - Date.parse(leak.startedAt))) / MINUTE_MS) / 100;
  const take = (): void => {
    if (kPa === null || airC === null) return;
    const ms = Date.now();
    const startedAt = leak.startedAt ?? new Date(ms).toISOString();
    const last = leak.readings.at(-1)?.atMin;
    const minutes = leak.startedAt === null ? 0 : atMin(ms);
    onLeak({
      startedAt,
      readings: [
        ...leak.readings,
        { atMin: last !== undefined && minutes <= last ? last + 0.01 : minutes, pressureKPa: kPa, airC },
      ],
    });
    setPressure("");
  };
  return (
    <Sheet
      title="Readings"
      action={
        leak.readings.length > 0 && (
          <Button look="quiet" onClick={() => onLeak({ readings: [], startedAt: null })}>
            Begin a new test
          </Button>
        )
      }
    >
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          take();
        }}
      >
        <TextField
          className="w-36"
          label="Gauge (kPa)"
          inputMode="decimal"
          value={pressure}
          onChange={(event) => setPressure(event.target.value)}
        />
        <TextField
          className="w-36"
          label="Air (°C)"
          inputMode="decimal"
          value={air}
          onChange={(event) => setAir(event.target.value)}
        />
        <Button
          look="main"
          type="submit"
          disabled={kPa === null || airC === null || leak.readings.length >= MOST_LEAK_READINGS}
        >
          {leak.readings.length === 0
            ? "Begin the test"
            : `Take reading, minute ${figure(Math.max(0, atMin(nowMs)), 0)}`}
        </Button>
        <LeakLog
          onReadings={(readings) => {
            // What is typed after it goes on from its last reading.
            const beganMs = Date.now() - (readings.at(-1)?.atMin ?? 0) * MINUTE_MS;
            onLeak({ readings, startedAt: new Date(beganMs).toISOString() });
          }}
        />
      </form>
      {leak.readings.length > 0 && (
        <table className="mt-3 w-full text-right">
          <thead>
            <tr className="text-sm text-soft">
              <th className="py-1 font-normal">Minute</th>
              <th className="font-normal">Gauge, kPa</th>
              <th className="font-normal">Air, °C</th>
              <th className="sr-only">Remove</th>
            </tr>
          </thead>
          <tbody>
            {leak.readings.slice(-SHOWN).map((one) => (
              <tr key={one.atMin} className="border-t border-line">
                <td className="py-1">{figure(one.atMin, 1)}</td>
                <td>{figure(one.pressureKPa, 2)}</td>
                <td>{figure(one.airC, 1)}</td>
                <td>
                  <Button
                    look="quiet"
                    aria-label={`Remove the reading of minute ${figure(one.atMin, 1)}`}
                    onClick={() => onLeak({ readings: leak.readings.filter((other) => other !== one) })}
                  >
                    Remove
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {leak.readings.length > SHOWN && (
        <p className="mt-1 text-sm text-soft">
          The last {SHOWN} of {leak.readings.length} readings.
        </p>
      )}
    </Sheet>
  );
}
const SHOWN = 12;

const LeakLog = ({ onReadings }: { onReadings: (readings: Leak["readings"]) => void }) => (
  <ImportFile
    button="From a log"
    accept=".csv,.txt,.tsv,text/csv,text/plain"
    label="Log of gauge and air"
    kept="The readings are as they were."
    onText={(_name, text) => onReadings(readLeakLog(new TextEncoder().encode(text), MOST_LEAK_READINGS))}
  />
);

/** Going on without a finished test is taken on by name, and stands on the record. */
function GoOn({ leak, isTight, onLeak }: { leak: Leak; isTight: boolean; onLeak: (more: Partial<Leak>) => void }) {
  const [reason, setReason] = useState("");
  if (leak.accepted !== "")
    return (
      <Note kind="caution" title="Power was allowed without a finished test">
        <p className="mb-2">{leak.accepted}</p>
        <Button onClick={() => onLeak({ accepted: "" })}>Take that back</Button>
      </Note>
    );
  if (isTight) return null;
  return (
    <details className="rounded-xl border border-line bg-sheet p-4">
      <summary className="min-h-9 cursor-pointer content-center font-medium text-ice">Go on without it</summary>
      <form
        className="mt-2 space-y-2"
        onSubmit={(event) => {
          event.preventDefault();
          onLeak({ accepted: reason.trim() });
        }}
      >
        <TextField
          label="Why, for the record"
          value={reason}
          maxLength={300}
          onChange={(event) => setReason(event.target.value)}
        />
        <Button look="danger" type="submit" disabled={reason.trim().length < 3}>
          I accept: power without a finished leak test
        </Button>
      </form>
    </details>
  );
}
