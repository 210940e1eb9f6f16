import type { Fins } from "#core/coolers/index.ts";
import type { TypedUnit } from "#core/units/index.ts";
import { NumberField } from "../../ui/number-field.tsx";

export const FIN_FIELDS = [
  ["widthMm", "Across its fins", "mm"],
  ["lengthMm", "Along its fins", "mm"],
  ["baseMm", "Base", "mm"],
  ["finHeightMm", "Fin height", "mm"],
  ["finThickMm", "Fin thickness", "mm"],
  ["count", "Fins", ""],
] as const satisfies ReadonlyArray<readonly [keyof Fins, string, TypedUnit]>;

/** A heatsink by its size and its fins. */
export function FinFields({ fins, onFins }: { fins: Fins; onFins: (fins: Fins) => void }) {
  return FIN_FIELDS.map(([key, label, unit]) => (
    <NumberField
      key={key}
      label={label}
      unit={unit}
      value={fins[key]}
      least={key === "count" ? 1 : 0.1}
      most={200}
      onValue={(value) => value !== null && onFins({ ...fins, [key]: value })}
    />
  ));
}
