import type { RunInput } from "#contract";
import type { Analysis } from "#core";
import { SIDE_PANELS, tooWarmFor } from "#core/compare/index.ts";
import { numberOrNull, SelectField, TextField } from "../../ui/field.tsx";

/** Where and under what a log was made, as it is typed: what no log tells. */
export interface TypedAround {
  sidePanel: RunInput["sidePanel"];
  loadName: string;
  inletC: string;
}

export const NOBODY_SAID: TypedAround = { sidePanel: "unknown", loadName: "", inletC: "" };

/** What of the typed air can be used, and what is wrong with what can't. */
export function inletOf({ inletC: text }: TypedAround, analysis: Analysis): { inletC: number | null; error?: string } {
  const inletC = numberOrNull(text);
  if (Number.isNaN(inletC)) return { inletC: null, error: "Type a temperature such as 31.5." };
  return tooWarmFor(analysis, { inletC }) === undefined
    ? { inletC }
    : { inletC: null, error: "As warm as the card under load: measure what the fans draw in, in °C." };
}

const SIDES = ["before", "after"] as const;
type Side = (typeof SIDES)[number];

/** Case, load and the air at the intake of both logs: asked only of who has something to say. */
export function AroundBoth({
  value,
  analyses,
  onChange,
}: {
  value: Record<Side, TypedAround>;
  analyses: Record<Side, Analysis>;
  onChange: (value: Record<Side, TypedAround>) => void;
}) {
  return (
    <details className="rounded-lg border border-line p-4">
      <summary className="min-h-6 cursor-pointer font-medium text-ice">Another case, or another load?</summary>
      <p className="mt-2 max-w-prose text-soft">
        Another case can be made up for only where the air at the card’s intake was measured under load, before and
        after. Under another load only the die is judged.
      </p>
      <div className="mt-3 grid gap-x-6 gap-y-4 lg:grid-cols-2">
        {SIDES.map((side) => {
          const set = (change: Partial<TypedAround>): void =>
            onChange({ ...value, [side]: { ...value[side], ...change } });
          return (
            <div key={side} className="grid items-start gap-3 sm:grid-cols-3">
              <SelectField
                label={`Case ${side}`}
                value={value[side].sidePanel}
                onChange={(event) => set({ sidePanel: event.target.value as RunInput["sidePanel"] })}
              >
                {SIDE_PANELS.map((one) => (
                  <option key={one}>{one}</option>
                ))}
              </SelectField>
              <TextField
                label={`Load ${side}`}
                value={value[side].loadName}
                maxLength={300}
                onChange={(event) => set({ loadName: event.target.value })}
              />
              <TextField
                label={`Intake ${side} (°C)`}
                inputMode="decimal"
                value={value[side].inletC}
                error={inletOf(value[side], analyses[side]).error}
                onChange={(event) => set({ inletC: event.target.value })}
              />
            </div>
          );
        })}
      </div>
    </details>
  );
}
