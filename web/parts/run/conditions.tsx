import type { Run, RunInput } from "#contract";
import { SIDE_PANELS } from "#core/compare/index.ts";
import { asTyped } from "#core/units/index.ts";
import { Choice } from "../../ui/choice.tsx";
import { SelectField, TextField } from "../../ui/field.tsx";

/** Conditions as they are typed: numbers stay text until they are saved. */
export interface TypedConditions {
  name: string;
  fanMode: RunInput["fanMode"];
  fanPct: string;
  loadName: string;
  sidePanel: RunInput["sidePanel"];
  clocks: string;
  powerLimitPct: string;
  picture: RunInput["picture"];
  ambientC: string;
  ambientU95K: string;
  ambientEndC: string;
  inletC: string;
  coreOffsetMHz: string;
  memoryOffsetMHz: string;
  undervoltMv: string;
  frameCapFps: string;
  frameRateFps: string;
  score: string;
}

/** What is typed as a number; an empty field is not said. */
export const NUMBERS = [
  "powerLimitPct",
  "ambientC",
  "ambientU95K",
  "ambientEndC",
  "inletC",
  "coreOffsetMHz",
  "memoryOffsetMHz",
  "undervoltMv",
  "frameCapFps",
  "frameRateFps",
  "score",
] as const;

const typedOf = (value: number | null | undefined): string =>
  value === null || value === undefined ? "" : asTyped(value);

export const typedFrom = (run: Partial<RunInput>): TypedConditions => ({
  name: run.name ?? "",
  fanMode: run.fanMode ?? "unknown",
  fanPct: typedOf(run.fanPct),
  loadName: run.loadName ?? "",
  sidePanel: run.sidePanel ?? "unknown",
  clocks: run.clocks ?? "",
  picture: run.picture ?? "not checked",
  powerLimitPct: typedOf(run.powerLimitPct),
  ambientC: typedOf(run.ambientC),
  ambientU95K: typedOf(run.ambientU95K),
  ambientEndC: typedOf(run.ambientEndC),
  inletC: typedOf(run.inletC),
  coreOffsetMHz: typedOf(run.coreOffsetMHz),
  memoryOffsetMHz: typedOf(run.memoryOffsetMHz),
  undervoltMv: typedOf(run.undervoltMv),
  frameCapFps: typedOf(run.frameCapFps),
  frameRateFps: typedOf(run.frameRateFps),
  score: typedOf(run.score),
});

/** Fields that are seldom needed, with what they are for. */
const SETTINGS = [
  { key: "coreOffsetMHz", label: "Core clock offset (MHz)", hint: "That held through the run" },
  { key: "memoryOffsetMHz", label: "Memory clock offset (MHz)", hint: "That held through the run" },
  { key: "undervoltMv", label: "Undervolt (mV)", hint: "Less than stock: a positive figure" },
  { key: "powerLimitPct", label: "Power limit (%)", hint: "Stock is 100" },
  { key: "frameCapFps", label: "Frame cap (per second)", hint: "Empty: none" },
  { key: "frameRateFps", label: "Frame rate (per second)", hint: "What it showed at the end" },
  { key: "score", label: "Score", hint: "Of the same benchmark" },
] as const;

const FANS = [
  { value: "fixed", label: "Fixed" },
  { value: "automatic", label: "Automatic" },
  { value: "unknown", label: "Unknown" },
] as const;

/** Under which conditions the run was made; what makes two runs comparable. */
export function Conditions({
  value,
  onChange,
  errors,
  hasRoomColumn,
}: {
  value: TypedConditions;
  onChange: (value: TypedConditions) => void;
  errors: Record<string, string>;
  hasRoomColumn: boolean;
}) {
  const set = <K extends keyof TypedConditions>(key: K, entry: TypedConditions[K]): void =>
    onChange({ ...value, [key]: entry });
  return (
    <div className="grid gap-4 sm:grid-cols-2 lg:grid-cols-4">
      <TextField
        label="Name of this run"
        value={value.name}
        onChange={(event) => set("name", event.target.value)}
        hint="Such as fixed fan"
        error={errors.name}
      />
      <TextField
        label="Room air (°C)"
        inputMode="decimal"
        value={value.ambientC}
        onChange={(event) => set("ambientC", event.target.value)}
        hint={
          hasRoomColumn
            ? "The log has a column. Typed, this overrules it."
            : "Not in the log: without it the run can't be compared."
        }
        error={errors.ambientC}
      />
      {value.ambientC !== "" && (
        <TextField
          label="Room air at the end (°C)"
          inputMode="decimal"
          value={value.ambientEndC}
          onChange={(event) => set("ambientEndC", event.target.value)}
          hint="Read again: a room that warms misleads"
          error={errors.ambientEndC}
        />
      )}
      <TextField
        label="Room air ± (K, 95 %)"
        inputMode="decimal"
        value={value.ambientU95K}
        onChange={(event) => set("ambientU95K", event.target.value)}
        hint={hasRoomColumn ? "Usual: 0.6 for a column" : "Usual: 1.0 typed"}
        error={errors.ambientU95K}
      />
      <TextField
        label="Load"
        value={value.loadName}
        onChange={(event) => set("loadName", event.target.value)}
        hint="The same for both runs"
        error={errors.loadName}
      />
      <Choice label="Fan" value={value.fanMode} onChange={(mode) => set("fanMode", mode)} options={FANS} />
      {value.fanMode === "fixed" && (
        <TextField
          label="Fan setting (%)"
          inputMode="decimal"
          value={value.fanPct}
          onChange={(event) => set("fanPct", event.target.value)}
          error={errors.fanPct}
        />
      )}
      <SelectField
        label="Case"
        value={value.sidePanel}
        onChange={(event) => set("sidePanel", event.target.value as RunInput["sidePanel"])}
      >
        {SIDE_PANELS.map((one) => (
          <option key={one}>{one}</option>
        ))}
      </SelectField>
      <TextField
        label="Air at the card’s intake (°C)"
        inputMode="decimal"
        value={value.inletC}
        onChange={(event) => set("inletC", event.target.value)}
        hint="Under load, before and after: then another case can be compared"
        error={errors.inletC}
      />
      <SelectField
        label="Supply and picture"
        value={value.picture}
        onChange={(event) => set("picture", event.target.value as RunInput["picture"])}
      >
        {["works", "no picture", "faulty", "not checked"].map((one) => (
          <option key={one}>{one}</option>
        ))}
      </SelectField>
      <TextField
        label="Clocks"
        value={value.clocks}
        onChange={(event) => set("clocks", event.target.value)}
        hint="Stock, or what was changed"
      />
      <details
        className="sm:col-span-2 lg:col-span-4"
        open={SETTINGS.some(({ key }) => key !== "powerLimitPct" && (value[key] !== "" || errors[key]))}
      >
        <summary className="inline-block min-h-6 cursor-pointer font-medium text-ice">
          Offsets, limits, frame rate
        </summary>
        <div className="mt-3 grid gap-4 sm:grid-cols-2 lg:grid-cols-4">
          {SETTINGS.map(({ key, label, hint }) => (
            <TextField
              key={key}
              label={label}
              inputMode="decimal"
              value={value[key]}
              onChange={(event) => set(key, event.target.value)}
              hint={hint}
              error={errors[key]}
            />
          ))}
        </div>
      </details>
    </div>
  );
}

/** Conditions of an earlier run, offered for the next; room air is measured each time. */
export function likeRun(run: Run | undefined): Partial<TypedConditions> {
  if (!run) return {};
  const { ambientC: _ambient, ambientEndC: _end, ambientU95K: _width, inletC: _inlet, ...rest } = typedFrom(run);
  return { ...rest, frameRateFps: "", score: "" };
}
