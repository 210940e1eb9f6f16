import type { Cooler } from "#core/coolers/index.ts";
import { LossRows } from "../../parts/cooler/loss-rows.tsx";
import { Button } from "../../ui/button.tsx";
import { TextField } from "../../ui/field.tsx";
import { figure } from "../../ui/format.ts";
import { Note } from "../../ui/note.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";
import { RowsField } from "../../ui/rows-field.tsx";
import { type Loop, loopAnswer, USUAL_POWER_W } from "./loop-answer.ts";
import type { CoolerPartProps } from "./use-cooler-plan.ts";

/** Usual of a small loop: to be changed to what stands on the sheets. */
const USUAL_LOOP: Loop = {
  pump: [
    { lPerMin: 0, kPa: 30 },
    { lPerMin: 8, kPa: 0 },
  ],
  radiators: [
    {
      name: "Radiator",
      insideMl: 120,
      losses: [{ lPerMin: 4, kPa: 2 }],
      cooling: [
        { fanRpm: 800, wPerK: 12, dba: null },
        { fanRpm: 1600, wPerK: 19, dba: null },
      ],
    },
  ],
  tubeMm: 1500,
  boreMm: 10,
  bends: 6,
  reservoirMl: 150,
  fanRpm: 1000,
};

type Radiator = Loop["radiators"][number];

function RadiatorSheet({
  radiator,
  fallback,
  onRadiator,
  onRemove,
}: {
  radiator: Radiator;
  /** What it is called while it has no name. */
  fallback: string;
  onRadiator: (more: Partial<Radiator>) => void;
  onRemove: () => void;
}) {
  return (
    <Sheet title={radiator.name || fallback}>
      <div className="space-y-4">
        <div className="grid grid-cols-2 items-end gap-2">
          <TextField
            label="Name"
            key={radiator.name}
            defaultValue={radiator.name}
            maxLength={60}
            onBlur={(event) => event.target.value !== radiator.name && onRadiator({ name: event.target.value })}
          />
          <NumberField
            label="Holds"
            unit="mL"
            value={radiator.insideMl}
            least={0}
            most={5000}
            onValue={(insideMl) => insideMl !== null && onRadiator({ insideMl })}
          />
        </div>
        <RowsField
          label="Watts per kelvin of coolant over room air"
          rows={radiator.cooling}
          columns={[
            { key: "fanRpm", label: "Fans", unit: "rpm", least: 1, most: 20_000 },
            { key: "wPerK", unit: "W/K", least: 0.01, most: 1000 },
            { key: "dba", unit: "dBA", most: 120, optional: true },
          ]}
          fresh={(last) => last ?? { fanRpm: 1000, wPerK: 14, dba: null }}
          most={20}
          add="Add a fan speed"
          onRows={(cooling) => onRadiator({ cooling })}
        />
        <LossRows rows={radiator.losses} first={{ lPerMin: 4, kPa: 2 }} onRows={(losses) => onRadiator({ losses })} />
        <Button look="quiet" onClick={onRemove}>
          Remove this radiator
        </Button>
      </div>
    </Sheet>
  );
}

/** Where the loop comes to rest. */
function AtRest({
  loop,
  cooler,
  powerW,
  onFan,
}: {
  loop: Loop;
  cooler: Cooler;
  powerW: number;
  onFan: (fanRpm: number) => void;
}) {
  const answer = loopAnswer(loop, cooler, powerW, loop.fanRpm);
  return (
    <Sheet title={`At ${figure(powerW, 0)} W`}>
      <NumberField
        label="Radiator fans"
        unit="rpm"
        value={loop.fanRpm}
        least={1}
        most={20_000}
        onValue={(fanRpm) => fanRpm !== null && onFan(fanRpm)}
      />
      {"problem" in answer ? (
        <div className="mt-3">
          <Note kind="fault" title={answer.problem.what}>
            {answer.problem.remedy}
          </Note>
        </div>
      ) : (
        <dl className="mt-3 space-y-2">
          <Row
            label="Die over room air"
            value={`${figure(answer.ok.dieOverRoomK)} ± ${figure(answer.ok.u95K)} K`}
            big
          />
          <Row
            label="Coolant over room air, as it enters the block"
            value={`${figure(answer.ok.coolantOverRoomK)} K`}
          />
          <Row label="It warms in the block by" value={`${figure(answer.ok.warmingK)} K`} />
          <Row label="Die over coolant" value={`${figure(answer.ok.dieOverCoolantK)} K`} />
          <Row
            label="Flow"
            value={`${figure(answer.ok.flowLPerMin, 2)} L/min against ${figure(answer.ok.lostKPa)} kPa`}
          />
          <Row label="To fill" value={`${figure(answer.ok.fillMl, 0)} mL`} />
        </dl>
      )}
    </Sheet>
  );
}

/** Pump, block, radiators, tube: where it comes to rest. */
export function LoopPart({ job, plan, cooler }: CoolerPartProps & { cooler: Cooler }) {
  const { loop } = plan.value;
  if (!loop)
    return (
      <Note title="No loop is described yet">
        <p className="mb-2">Pump, radiators and tube from their sheets give flow, coolant and die over room air.</p>
        <Button look="main" onClick={() => plan.change({ loop: USUAL_LOOP })}>
          Begin with usual figures
        </Button>
      </Note>
    );
  const set = (more: Partial<Loop>): void => plan.change({ loop: { ...loop, ...more } });
  const powerW = job.now?.powerW ?? USUAL_POWER_W;
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <div className="space-y-4">
        <Sheet title="Pump and tube">
          <div className="space-y-4">
            <RowsField
              label="Head of the pump"
              hint="When shut, into the open, and between where its sheet says so."
              rows={loop.pump}
              columns={[
                { key: "lPerMin", unit: "L/min", most: 100 },
                { key: "kPa", unit: "kPa", most: 500 },
              ]}
              fresh={(last) => ({ lPerMin: (last?.lPerMin ?? 0) + 1, kPa: last?.kPa ?? 30 })}
              most={20}
              add="Add a point"
              onRows={(pump) => set({ pump })}
            />
            <div className="grid grid-cols-2 items-end gap-2 sm:grid-cols-4">
              {(
                [
                  ["tubeMm", "Tube", "mm", 1, 20_000],
                  ["boreMm", "Bore", "mm", 2, 30],
                  ["bends", "Bends", "", 0, 100],
                  ["reservoirMl", "Reservoir", "mL", 0, 5000],
                ] as const
              ).map(([key, label, unit, least, most]) => (
                <NumberField
                  key={key}
                  label={label}
                  unit={unit}
                  value={loop[key]}
                  least={least}
                  most={most}
                  onValue={(value) => value !== null && set({ [key]: value })}
                />
              ))}
            </div>
          </div>
        </Sheet>
        {loop.radiators.map((radiator, index) => (
          <RadiatorSheet
            // oxlint-disable-next-line react/no-array-index-key -- radiators have no other name that stays
            key={index}
            radiator={radiator}
            fallback={`Radiator ${index + 1}`}
            onRadiator={(more) =>
              set({ radiators: loop.radiators.map((one, at) => (at === index ? { ...one, ...more } : one)) })
            }
            onRemove={() => set({ radiators: loop.radiators.filter((_, at) => at !== index) })}
          />
        ))}
        <Button
          disabled={loop.radiators.length >= 6}
          onClick={() =>
            set({
              radiators: [
                ...loop.radiators,
                { name: `Radiator ${loop.radiators.length + 1}`, insideMl: 120, losses: [], cooling: [] },
              ],
            })
          }
        >
          Add a radiator
        </Button>
      </div>
      <AtRest loop={loop} cooler={cooler} powerW={powerW} onFan={(fanRpm) => set({ fanRpm })} />
    </div>
  );
}

const Row = ({ label, value, big = false }: { label: string; value: string; big?: boolean }) => (
  <div>
    <dt className="text-sm text-soft">{label}</dt>
    <dd className={big ? "text-2xl font-bold" : "font-semibold"}>{value}</dd>
  </div>
);
