import * as v from "valibot";
import { TypedInput } from "#contract";
import { asTyped } from "#core/units/index.ts";
import { numberOrNull, TextField } from "../../ui/field.tsx";

type Key = keyof TypedInput;
/** Figures as they are typed. */
export type TypedTexts = Record<Key, string>;

/** In the order in which they stand on a display; most people write down the first few. */
export const TYPED_FIELDS = [
  { key: "edgeC", label: "Edge (°C)" },
  { key: "hotspotC", label: "Hotspot (°C)" },
  { key: "memoryC", label: "Memory (°C)" },
  { key: "vrmC", label: "VRM (°C)" },
  { key: "fanRpm", label: "Fan (rpm)" },
  { key: "fanPct", label: "Fan (%)" },
  { key: "powerW", label: "Power (W)" },
  { key: "coreClockMHz", label: "Core clock (MHz)" },
  { key: "minutes", label: "Under load for (min)" },
] as const satisfies ReadonlyArray<{ key: Key; label: string }>;

export const textsOf = (typed: TypedInput | null): TypedTexts =>
  Object.fromEntries(
    TYPED_FIELDS.map(({ key }) => {
      const value = typed?.[key] ?? null;
      return [key, value === null ? "" : asTyped(value)];
    }),
  ) as TypedTexts;

/** What was typed, or one message per field. */
export function readTyped(texts: TypedTexts): { typed: TypedInput } | { errors: Partial<Record<Key, string>> } {
  const read = v.safeParse(
    TypedInput,
    Object.fromEntries(TYPED_FIELDS.map(({ key }) => [key, numberOrNull(texts[key])])),
  );
  if (read.success) return { typed: read.output };
  return { errors: Object.fromEntries(read.issues.map((issue) => [v.getDotPath(issue), issue.message])) };
}

/** Fields for what was read off a display at the end of a run. */
export function TypedFigures({
  texts,
  onChange,
  errors,
}: {
  texts: TypedTexts;
  onChange: (texts: TypedTexts) => void;
  errors: Partial<Record<string, string>>;
}) {
  return (
    <div className="grid grid-cols-2 gap-4 sm:grid-cols-3 lg:grid-cols-5">
      {TYPED_FIELDS.map(({ key, label }) => (
        <TextField
          key={key}
          label={label}
          inputMode="decimal"
          value={texts[key]}
          onChange={(event) => onChange({ ...texts, [key]: event.target.value })}
          error={errors[key]}
        />
      ))}
    </div>
  );
}
