import type { Run, RunInput } from "#contract";
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
}

export const typedFrom = (run: Partial<RunInput>): TypedConditions => ({
  name: run.name ?? "",
  fanMode: run.fanMode ?? "unknown",
  fanPct: run.fanPct?.toString() ?? "",
  loadName: run.loadName ?? "",
  sidePanel: run.sidePanel ?? "unknown",
  clocks: run.clocks ?? "",
  powerLimitPct: run.powerLimitPct?.toString() ?? "",
  picture: run.picture ?? "not checked",
  ambientC: run.ambientC?.toString() ?? "",
  ambientU95K: run.ambientU95K?.toString() ?? "",
});

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
        {["open bench", "panel off", "panel on", "unknown"].map((one) => (
          <option key={one}>{one}</option>
        ))}
      </SelectField>
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
      <TextField
        label="Power limit (%)"
        inputMode="decimal"
        value={value.powerLimitPct}
        onChange={(event) => set("powerLimitPct", event.target.value)}
        error={errors.powerLimitPct}
      />
    </div>
  );
}

/** Conditions of an earlier run, offered for the next; room air is measured each time. */
export function likeRun(run: Run | undefined): Partial<TypedConditions> {
  if (!run) return {};
  const { ambientC: _ambient, ambientU95K: _width, ...rest } = typedFrom(run);
  return rest;
}
