import { COOLER_KINDS, type Cooler, isWet } from "#core/coolers/index.ts";
import { api } from "../../app/api.ts";
import { KitScrews } from "../../parts/cooler/kit-screws.tsx";
import { LossRows } from "../../parts/cooler/loss-rows.tsx";
import { KIND_WORDS } from "../../parts/cooler/words.ts";
import { Button } from "../../ui/button.tsx";
import { AreaField, SelectField, TextField } from "../../ui/field.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";
import { RowsField } from "../../ui/rows-field.tsx";
import type { CoolerEditor } from "./use-cooler-editor.ts";

const NUMBERS = [
  ["heightMm", "Stands out from the board", "mm", 1, 300],
  ["weightG", "Weight", "g", 1, 10_000],
  ["screwPullN", "Pull of each screw when tight", "N", 0, 1000],
  ["springNPerMm", "Spring under its head", "N/mm", 0, 2000],
  ["dieKPa", "Made for, on the die", "kPa", 1, 5000],
] as const;

/** What can’t be drawn: kind, height, weight, mount kit, what it does in air and water. */
export function CoolerFigures({ editor, coolerId }: { editor: CoolerEditor; coolerId: string }) {
  const { map: cooler, change } = editor;
  const set = (more: Partial<Cooler>, what: string): void => change({ ...cooler, ...more }, what);
  const { data: seen = [] } = api.useCoolerSeenQuery(coolerId);
  const seenRuns = seen.reduce((sum, { runs }) => sum + runs, 0);
  return (
    <div className="grid items-start gap-4 xl:grid-cols-2">
      <Sheet title={cooler.fins ? "Name and weight" : "The cooler"}>
        <div className="grid grid-cols-2 items-end gap-2">
          <TextField
            label="Name"
            key={cooler.name}
            defaultValue={cooler.name}
            maxLength={60}
            onBlur={(event) => {
              const name = event.target.value.trim();
              if (name !== "" && name !== cooler.name) set({ name }, "Name");
            }}
          />
          {!cooler.fins && (
            <SelectField
              label="Kind"
              value={cooler.kind}
              onChange={(event) => set({ kind: event.target.value as Cooler["kind"] }, "Kind")}
            >
              {COOLER_KINDS.filter((kind) => kind !== "heatsink").map((kind) => (
                <option key={kind} value={kind}>
                  {KIND_WORDS[kind]}
                </option>
              ))}
            </SelectField>
          )}
          {NUMBERS.filter(([key]) => !cooler.fins || key === "weightG").map(([key, label, unit, least, most]) => (
            <NumberField
              key={key}
              label={label}
              unit={unit}
              value={cooler[key]}
              optional
              least={least}
              most={most}
              onValue={(value) => set({ [key]: value }, label)}
            />
          ))}
        </div>
        {!cooler.fins && (
          <label className="mt-2 flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              className="size-5"
              checked={cooler.mayTurn}
              onChange={(event) => set({ mayTurn: event.target.checked }, "May turn")}
            />
            It may lie turned by half a turn
          </label>
        )}
        <AreaField
          label="Worth knowing"
          rows={2}
          key={cooler.note}
          defaultValue={cooler.note}
          onBlur={(event) => event.target.value !== cooler.note && set({ note: event.target.value }, "Note")}
        />
      </Sheet>
      {!cooler.fins && (
        <>
          <Sheet title="Mount kit">
            <KitScrews screws={cooler.kit} onScrews={(kit) => set({ kit }, "Mount kit")} />
          </Sheet>
          {cooler.kind !== "waterblock" && (
            <Sheet title="What it does in air">
              <RowsField
                label="Die over room air"
                hint="From its sheet, or from runs of this workshop with it."
                rows={cooler.air}
                columns={[
                  { key: "fanRpm", label: "Fans", unit: "rpm", least: 1, most: 20_000 },
                  { key: "kPerW", unit: "K/W", least: 0.01, most: 10 },
                  { key: "dba", unit: "dBA", most: 120, optional: true },
                ]}
                fresh={(last) => last ?? { fanRpm: 1500, kPerW: 0.25, dba: null }}
                most={20}
                add="Add a fan speed"
                onRows={(air) => set({ air }, "Air")}
              />
              {seen.length > 0 && (
                <div className="mt-3 border-t border-line pt-3">
                  <p>
                    {seenRuns === 1 ? "One run" : `${seenRuns} runs`} with it here:{" "}
                    {seen
                      .slice(0, 4)
                      .map(
                        ({ kPerW, fanRpm, runs }) =>
                          `${kPerW.toFixed(3)} K/W at ${Math.round(fanRpm)} rpm${runs > 1 ? ` (mean of ${runs})` : ""}`,
                      )
                      .join(", ")}
                    .
                  </p>
                  <Button
                    className="mt-2"
                    onClick={() =>
                      set(
                        {
                          air: seen.slice(0, 20).map(({ fanRpm, kPerW, dba }) => ({
                            fanRpm: Math.round(fanRpm),
                            kPerW: Math.round(kPerW * 1e4) / 1e4,
                            dba: dba === null ? null : Math.round(dba * 10) / 10,
                          })),
                        },
                        "Air, as seen here",
                      )
                    }
                  >
                    Take these over
                  </Button>
                </div>
              )}
            </Sheet>
          )}
        </>
      )}
      {isWet(cooler) && <WaterFigures cooler={cooler} onWater={(water) => set({ water }, "Water")} />}
    </div>
  );
}

const NO_WATER: NonNullable<Cooler["water"]> = { insideMl: 60, losses: [], block: [] };

function WaterFigures({ cooler, onWater }: { cooler: Cooler; onWater: (water: Cooler["water"]) => void }) {
  const water = cooler.water ?? NO_WATER;
  return (
    <Sheet title="What it does in water">
      <div className="space-y-4">
        <NumberField
          label="Holds"
          unit="mL"
          value={water.insideMl}
          least={0}
          most={5000}
          onValue={(insideMl) => insideMl !== null && onWater({ ...water, insideMl })}
        />
        <LossRows
          rows={water.losses}
          first={{ lPerMin: 3, kPa: 8 }}
          onRows={(losses) => onWater({ ...water, losses })}
        />
        <RowsField
          label="Die over coolant"
          rows={water.block}
          columns={[
            { key: "lPerMin", unit: "L/min", most: 100 },
            { key: "kPerW", unit: "K/W", least: 0.001, most: 5 },
          ]}
          fresh={(last) => last ?? { lPerMin: 3, kPerW: 0.08 }}
          most={20}
          add="Add a flow"
          onRows={(block) => onWater({ ...water, block })}
        />
      </div>
    </Sheet>
  );
}
