import { useState } from "react";
import { type FanLabel, replaces } from "#core/fans/index.ts";
import { valueOf } from "#core/handwork/index.ts";
import { api } from "../../app/api.ts";
import type { Marks } from "../../parts/steps/use-marks.ts";
import { numberOrNull, TextField } from "../../ui/field.tsx";
import { figure } from "../../ui/format.ts";
import { Sheet } from "../../ui/page.tsx";

const FIELDS = [
  { id: "part-number", label: "Part number" },
  { id: "size", label: "Size (mm)" },
  { id: "holes", label: "Holes, apart (mm)" },
  { id: "thick", label: "Thickness (mm)" },
  { id: "plug", label: "Plug" },
  { id: "volts", label: "Volts" },
  { id: "amperes", label: "Amperes" },
  { id: "full-rpm", label: "Full speed (rpm)" },
] as const;

/** A label as it was typed. @param of which fan, such as `2` or `new-2` */
function labelOf(marks: Marks, of: string): FanLabel {
  const number = (id: string): number | null => {
    const value = numberOrNull(valueOf(marks.folded, `${id}:${of}`));
    return Number.isNaN(value) ? null : value;
  };
  return {
    sizeMm: number("size"),
    holesMm: number("holes"),
    thicknessMm: number("thick"),
    plug: valueOf(marks.folded, `plug:${of}`) ?? "",
    volts: number("volts"),
    amperes: number("amperes"),
    fullRpm: number("full-rpm"),
  };
}

/** What stands on the fans' labels: by these a fan is replaced. */
export function FanLabels({ marks, count }: { marks: Marks; count: number }) {
  const { data: stores } = api.useStoresQuery();
  const fansInStock = (stores?.lots ?? []).flatMap((lot) => {
    const material = stores?.materials.find(({ id }) => id === lot.materialId);
    return material?.kind === "fan" && lot.amount > 0
      ? [{ id: lot.id, name: material.name, note: material.note, left: lot.amount }]
      : [];
  });
  return (
    <Sheet title="What is on their labels">
      {Array.from({ length: count }, (_, index) => index + 1).map((fan) => (
        <div key={fan}>
          <LabelFields marks={marks} of={String(fan)} title={`Fan ${fan}`} />
          {valueOf(marks.folded, `deed:${fan}`) === "replace" && (
            <>
              <LabelFields marks={marks} of={`new-${fan}`} title={`The new fan ${fan}`} />
              <Fits marks={marks} fan={fan} />
            </>
          )}
        </div>
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

function LabelFields({ marks, of, title }: { marks: Marks; of: string; title: string }) {
  const [typed, setTyped] = useState<Record<string, string>>({});
  return (
    <fieldset className="mb-4">
      <legend className="mb-1 font-medium">{title}</legend>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-3">
        {FIELDS.map(({ id, label }) => {
          const key = `${id}:${of}`;
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
  );
}

/** Whether the new one can stand in for the old one, and what it moves. */
function Fits({ marks, fan }: { marks: Marks; fan: number }) {
  const { against, unknown, airRatio, levelDb } = replaces(labelOf(marks, String(fan)), labelOf(marks, `new-${fan}`));
  return (
    <div className="mb-4 space-y-1" role="status">
      {against.length > 0 ? (
        <p className="font-semibold text-danger">Does not fit: {against.join("; ")}.</p>
      ) : (
        <p className="font-semibold">
          {unknown.length > 0 ? `Nothing against it so far; not compared: ${unknown.join(", ")}.` : "It fits."}
        </p>
      )}
      {airRatio !== null && levelDb !== null && (
        <p>
          At full speed {figure(100 * airRatio, 0)} % of the old one’s air, {figure(Math.abs(levelDb), 0)} dB{" "}
          {levelDb < 0 ? "quieter" : "louder"} (fan laws for similar fans).
        </p>
      )}
    </div>
  );
}
