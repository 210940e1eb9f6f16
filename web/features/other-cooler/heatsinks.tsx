import type { CoolerJob, CoolerLine, CoolerPlan } from "#contract";
import { type Fins, type HeatsinkFound, heatsink } from "#core/coolers/index.ts";
import { cureClocks } from "#core/handwork/index.ts";
import { Problem, type ProblemDetail } from "#core/problem/index.ts";
import { api } from "../../app/api.ts";
import { FIN_FIELDS, FinFields } from "../../parts/cooler/fin-fields.tsx";
import { fittedOf } from "../../parts/cooler/fitted.ts";
import { Glue } from "../../parts/steps/glue.tsx";
import { useMarks } from "../../parts/steps/use-marks.ts";
import { Button } from "../../ui/button.tsx";
import { SelectField } from "../../ui/field.tsx";
import { figure } from "../../ui/format.ts";
import { Note } from "../../ui/note.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";
import type { CoolerPartProps } from "./use-cooler-plan.ts";

type Sink = CoolerPlan["heatsinks"][number];

const NEW: Omit<Sink, "id" | "partId"> = {
  fins: { widthMm: 14, lengthMm: 12, baseMm: 1.5, finHeightMm: 5, finThickMm: 1, count: 5 },
  air: "stream",
  speedMS: 1.5,
  joint: { thicknessMm: 0.2, conductivityWPerMK: 1.2 },
  glued: true,
  powerW: 2,
  riseNowK: 50,
  bridge: null,
};
/** Of a pad that joins a spreader to the main heatsink. */
const BRIDGE = { padMm: 1.5, layers: 1, conductivityWPerMK: 5, widthMm: 14, heightMm: 12, coolerRiseK: 25 } as const;

function found(
  sink: Sink,
  chip: { widthMm: number; heightMm: number },
): { ok: HeatsinkFound } | { problem: ProblemDetail } {
  try {
    const air = sink.air === "stream" ? { kind: sink.air, speedMS: sink.speedMS } : { kind: sink.air };
    return { ok: heatsink({ ...sink, air, chip }) };
  } catch (error) {
    if (error instanceof Problem) return { problem: error.detail() };
    throw error;
  }
}

/** Room above a part under the cooler that goes on, mm; null in free air or where nobody knows. */
function roomAbove(job: CoolerJob, partId: string): number | null {
  const answer = fittedOf(job);
  if (!answer || "problem" in answer) return null;
  return answer.ok.fit.headroom.find((one) => one.partId === partId)?.roomMm ?? null;
}

/** The clock of the adhesive, which also stands on the Bench and holds Close up. */
function Setting({ serviceId }: { serviceId: string }) {
  const { data: service } = api.useServiceQuery(serviceId);
  return service ? <SettingNow serviceId={serviceId} attempt={service.attempts.length} /> : null;
}

function SettingNow({ serviceId, attempt }: { serviceId: string; attempt: number }) {
  const marks = useMarks(serviceId, "compound", attempt, false);
  const [clock] = cureClocks({ marks: marks.marks, folded: marks.folded, msOf: Date.parse });
  return marks.ready ? <Glue marks={marks} clock={clock} /> : null;
}

type BridgeOf = NonNullable<Sink["bridge"]>;

function BridgeFields({ bridge, onBridge }: { bridge: BridgeOf; onBridge: (bridge: BridgeOf) => void }) {
  return BRIDGE_FIELDS.map(([key, label, unit, least, most]) => (
    <NumberField
      key={key}
      label={label}
      unit={unit}
      value={bridge[key]}
      least={least}
      most={most}
      onValue={(value) => value !== null && onBridge({ ...bridge, [key]: value })}
    />
  ));
}

const BRIDGE_FIELDS = [
  ["padMm", "Each pad", "mm", 0.1, 12],
  ["conductivityWPerMK", "Pads", "W/mK", 0.1, 100],
  ["widthMm", "Pads across", "mm", 0.1, 200],
  ["heightMm", "Pads along", "mm", 0.1, 200],
  ["coolerRiseK", "Main one over room", "K", 0.5, 150],
] as const;

const sameFins = (a: Fins | null, b: Fins): boolean => a !== null && FIN_FIELDS.every(([key]) => a[key] === b[key]);

type Chip = NonNullable<CoolerJob["map"]>["parts"][number];

function SinkFields({
  sink,
  parts,
  known,
  onSink,
}: {
  sink: Sink;
  parts: readonly Chip[];
  known: readonly CoolerLine[];
  onSink: (more: Partial<Sink>) => void;
}) {
  return (
    <div className="grid grid-cols-2 items-end gap-2 sm:grid-cols-4">
      {parts.length > 0 && (
        <SelectField label="On" value={sink.partId} onChange={(event) => onSink({ partId: event.target.value })}>
          {!parts.some(({ id }) => id === sink.partId) && <option>{sink.partId}</option>}
          {parts.map(({ id }) => (
            <option key={id}>{id}</option>
          ))}
        </SelectField>
      )}
      {known.length > 0 && (
        <SelectField
          label="Heatsink"
          value={known.find(({ fins }) => sameFins(fins, sink.fins))?.id ?? ""}
          onChange={(event) => {
            const fins = known.find(({ id }) => id === event.target.value)?.fins;
            if (fins) onSink({ fins });
          }}
        >
          <option value="">as typed here</option>
          {known.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
      )}
      <FinFields fins={sink.fins} onFins={(fins) => onSink({ fins })} />
      <SelectField
        label="Air around it"
        value={sink.air}
        onChange={(event) => onSink({ air: event.target.value as Sink["air"] })}
      >
        <option value="still">stands still</option>
        <option value="stream">streams along it</option>
        <option value="blocked">blocked on all sides</option>
      </SelectField>
      {sink.air === "stream" && (
        <NumberField
          label="Stream"
          unit="m/s"
          value={sink.speedMS}
          least={0.05}
          most={30}
          onValue={(speedMS) => speedMS !== null && onSink({ speedMS })}
        />
      )}
      <SelectField
        label="Held by"
        value={sink.glued ? "adhesive" : "pad"}
        onChange={(event) => onSink({ glued: event.target.value === "adhesive" })}
      >
        <option value="adhesive">adhesive</option>
        <option value="pad">adhesive pad</option>
      </SelectField>
      <NumberField
        label="Joint"
        unit="mm"
        value={sink.joint.thicknessMm}
        least={0.01}
        most={5}
        onValue={(value) => value !== null && onSink({ joint: { ...sink.joint, thicknessMm: value } })}
      />
      <NumberField
        label="It conducts"
        unit="W/mK"
        value={sink.joint.conductivityWPerMK}
        least={0.1}
        most={100}
        onValue={(value) => value !== null && onSink({ joint: { ...sink.joint, conductivityWPerMK: value } })}
      />
      <NumberField
        label="Chip gives off"
        unit="W"
        value={sink.powerW}
        least={0.05}
        most={100}
        onValue={(powerW) => powerW !== null && onSink({ powerW })}
      />
      <NumberField
        label="Over room now"
        unit="K"
        value={sink.riseNowK}
        least={0.5}
        most={200}
        onValue={(riseNowK) => riseNowK !== null && onSink({ riseNowK })}
      />
      <SelectField
        label="To the main heatsink"
        value={sink.bridge?.layers ?? 0}
        onChange={(event) => {
          const layers = Number(event.target.value);
          onSink({
            bridge: layers === 0 ? null : { ...(sink.bridge ?? BRIDGE), layers: layers === 2 ? 2 : 1 },
          });
        }}
      >
        <option value={0}>not joined</option>
        <option value={1}>one pad</option>
        <option value={2}>two stacked</option>
      </SelectField>
      {sink.bridge && <BridgeFields bridge={sink.bridge} onBridge={(bridge) => onSink({ bridge })} />}
    </div>
  );
}

/** What it brings at its chip, and whether the cooler still closes over it. */
function SinkBrings({ sink, part, room }: { sink: Sink; part: Chip | undefined; room: number | null }) {
  const answer = found(sink, part ?? { widthMm: 14, heightMm: 12 });
  const padsMm = sink.bridge ? sink.bridge.layers * sink.bridge.padMm : 0;
  const tallMm = sink.joint.thicknessMm + sink.fins.baseMm + sink.fins.finHeightMm + padsMm;
  return (
    <div>
      {"problem" in answer ? (
        <Note kind="fault" title={answer.problem.what}>
          {answer.problem.remedy}
        </Note>
      ) : (
        <>
          <p className="text-sm text-soft">Expected at the chip</p>
          <p className="text-2xl font-bold">
            −{figure(answer.ok.bringsK)} K{" "}
            <span className="text-base font-normal">
              ({figure(answer.ok.lowK)} to {figure(answer.ok.highK)})
            </span>
          </p>
          <p className="mt-1">{answer.ok.why}</p>
          <p className="mt-1 text-sm text-soft">
            {figure(answer.ok.kPerW)} K/W: fins {figure(answer.ok.finsKPerW)}, joint {figure(answer.ok.jointKPerW)},
            spreading {figure(answer.ok.spreadKPerW)}; surface {figure(answer.ok.areaMm2 / 100, 0)} cm².
            {answer.ok.bridgeKPerW !== null && ` Pads to the main heatsink ${figure(answer.ok.bridgeKPerW)} K/W.`}
          </p>
        </>
      )}
      <p className={`mt-2 ${room !== null && room < tallMm ? "font-medium text-danger" : ""}`}>
        {room === null
          ? `Stands ${figure(tallMm, 1)} mm above the chip: lay the cooler over it on trial before the adhesive sets.`
          : room < tallMm
            ? `Stands ${figure(tallMm, 1)} mm above the chip, the cooler leaves ${figure(room, 1)} mm: it does not close over it.`
            : `Stands ${figure(tallMm, 1)} mm above the chip, the cooler leaves ${figure(room, 1)} mm.`}
      </p>
    </div>
  );
}

/** Heatsinks on single chips: what each brings in its air, and whether the cooler still closes over it. */
export function HeatsinksPart({ job, plan }: CoolerPartProps) {
  const { heatsinks } = plan.value;
  const { data: coolers = [] } = api.useCoolersQuery();
  const known = coolers.filter(({ fins }) => fins !== null);
  const parts = job.map?.parts.filter(({ side, kind }) => side === "front" && kind !== "capacitor") ?? [];
  const set = (index: number, more: Partial<Sink>): void =>
    plan.change({ heatsinks: heatsinks.map((one, at) => (at === index ? { ...one, ...more } : one)) });
  const add = (): void => {
    let number = heatsinks.length + 1;
    while (heatsinks.some(({ id }) => id === `H${number}`)) number++;
    const part = parts.find(({ id }) => !heatsinks.some(({ partId }) => partId === id)) ?? parts[0];
    const last = heatsinks.at(-1);
    plan.change({
      heatsinks: [...heatsinks, { ...NEW, ...last, id: `H${number}`, partId: part?.id ?? "part" }],
    });
  };
  return (
    <div className="space-y-4">
      {heatsinks.length === 0 && (
        <Note title="No add-on heatsink yet">
          Their surface counts only where air moves. Say how many fins, which air, and what holds it: what it brings is
          worked out before anything is glued.
        </Note>
      )}
      {heatsinks.map((sink, index) => {
        const part = parts.find(({ id }) => id === sink.partId);
        return (
          <Sheet
            key={sink.id}
            title={`Heatsink ${sink.id} on ${sink.partId}`}
            action={
              <Button
                look="quiet"
                onClick={() => plan.change({ heatsinks: heatsinks.filter((_, at) => at !== index) })}
              >
                Remove
              </Button>
            }
          >
            <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_20rem]">
              <SinkFields sink={sink} parts={parts} known={known} onSink={(more) => set(index, more)} />
              <SinkBrings sink={sink} part={part} room={roomAbove(job, sink.partId)} />
            </div>
          </Sheet>
        );
      })}
      <Button disabled={heatsinks.length >= 40} onClick={add}>
        Add a heatsink
      </Button>
      {heatsinks.some(({ glued }) => glued) && <Setting serviceId={job.serviceId} />}
    </div>
  );
}
