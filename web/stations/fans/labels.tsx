import { useState } from "react";
import { valueOf } from "#core/handwork/index.ts";
import { api } from "../../app/api.ts";
import type { Marks } from "../../parts/steps/use-marks.ts";
import { TextField } from "../../ui/field.tsx";
import { Sheet } from "../../ui/page.tsx";

const FIELDS = [
  { id: "part-number", label: "Part number" },
  { id: "size", label: "Size (mm)" },
  { id: "holes", label: "Holes, apart (mm)" },
  { id: "plug", label: "Plug" },
  { id: "volts", label: "Volts" },
  { id: "amperes", label: "Amperes" },
] as const;

/** What stands on the fans' labels: by these a fan is replaced. */
export function FanLabels({ marks, count }: { marks: Marks; count: number }) {
  const { data: stores } = api.useStoresQuery();
  const [typed, setTyped] = useState<Record<string, string>>({});
  const fansInStock = (stores?.lots ?? []).flatMap((lot) => {
    const material = stores?.materials.find(({ id }) => id === lot.materialId);
    return material?.kind === "fan" && lot.amount > 0
      ? [{ id: lot.id, name: material.name, note: material.note, left: lot.amount }]
      : [];
  });
  return (
    <Sheet title="What is on their labels">
      {Array.from({ length: count }, (_, index) => index + 1).map((fan) => (
        <fieldset key={fan} className="mb-4">
          <legend className="mb-1 font-medium">Fan {fan}</legend>
          <div className="grid grid-cols-2 gap-2 sm:grid-cols-3">
            {FIELDS.map(({ id, label }) => {
              const key = `${id}:${fan}`;
              return (
                <TextField
                  key={key}
                  label={label}
                  autoComplete="off"
                  maxLength={80}
                  value={typed[key] ?? valueOf(marks.folded, key) ?? ""}
                  onChange={(event) => setTyped({ ...typed, [key]: event.target.value })}
                  onBlur={() => {
                    const text = typed[key]?.trim();
                    if (text !== undefined && text !== (valueOf(marks.folded, key) ?? ""))
                      marks.mark({ stepId: key, what: "value", value: text });
                  }}
                />
              );
            })}
          </div>
        </fieldset>
      ))}
      <p className="text-sm text-soft">
        A replacement has the same holes and plug, no more thickness than its place, and no more current than stands
        here.
      </p>
      {fansInStock.length > 0 && (
        <ul className="mt-2">
          {fansInStock.map(({ id, name, note, left }) => (
            <li key={id}>
              <strong>{name}</strong> ({left} in the stores) <span className="text-soft">{note}</span>
            </li>
          ))}
        </ul>
      )}
    </Sheet>
  );
}
