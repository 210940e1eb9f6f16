import type { Fins } from "#core/coolers/index.ts";
import { MmField } from "../../ui/mm-field.tsx";

export const FIN_FIELDS = [
  ["widthMm", "Across its fins (mm)"],
  ["lengthMm", "Along its fins (mm)"],
  ["baseMm", "Base (mm)"],
  ["finHeightMm", "Fin height (mm)"],
  ["finThickMm", "Fin thickness (mm)"],
  ["count", "Fins"],
] as const satisfies ReadonlyArray<readonly [keyof Fins, string]>;

/** A heatsink by its size and its fins. */
export function FinFields({ fins, onFins }: { fins: Fins; onFins: (fins: Fins) => void }) {
  return FIN_FIELDS.map(([key, label]) => (
    <MmField
      key={key}
      label={label}
      value={fins[key]}
      least={key === "count" ? 1 : 0.1}
      most={200}
      onValue={(value) => value !== null && onFins({ ...fins, [key]: key === "count" ? Math.round(value) : value })}
    />
  ));
}
