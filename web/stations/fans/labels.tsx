import { useState } from "react";
import { type FanLabel, labelFrom, replaces } from "#core/fans/index.ts";
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
  const fans = Array.from({ length: count }, (_, index) => index + 1);
  const toReplace = fans.filter((fan) => valueOf(marks.folded, `deed:${fan}`) === "replace");
  const fansInStock = (stores?.lots ?? []).flatMap((lot) => {
    const material = stores?.materials.find(({ id }) => id === lot.materialId);
    return material?.kind === "fan" && lot.amount > 0
      ? [{ id: lot.id, name: material.name, note: material.note, left: lot.amount }]
      : [];
  });
  return (
    <Sheet title="What is on their labels">
      {fans.map((fan) => (
        <div key={fan}>
          <LabelFields marks={marks} of={String(fan)} title={`Fan ${fan}`} />
          {toReplace.includes(fan) && (
            <>
              <LabelFields marks={marks} of={`new-${fan}`} title={`The new fan ${fan}`} />
              <Fits name="It" old={labelOf(marks, String(fan))} other={labelOf(marks, `new-${fan}`)} />
            </>
          )}
        </div>
      ))}
      <p className="text-sm text-soft">
        A replacement has the same holes and plug, no more thickness than its place, and no more current than stands
        here.
      </p>
      {fansInStock.length > 0 && (
        <ul className="mt-2 space-y-1" aria-label="Fans in the stores">
          {fansInStock.map(({ id, name, note, left }) => (
            <li key={id}>
              <strong>{name}</strong> ({left} in the stores){note && <span className="text-soft"> {note}</span>}
              {toReplace.map((fan) => (
                <Fits
                  key={fan}
                  name={`In place of fan ${fan} it`}
                  old={labelOf(marks, String(fan))}
                  other={labelFrom(note)}
                />
              ))}
            </li>
          ))}
        </ul>
      )}
      <p className="mt-2 text-sm text-soft">
        The stores’ fans are read from their notes, such as “90 mm, holes 42 mm, 12 mm thick, 4-pin, 12 V, 0.35 A, 3000
        rpm”.
      </p>
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

/** Figures of a label that are compared. */
const FIGURES = 6;

/** Whether one can stand in for another, and what it moves. */
function Fits({ name, old, other }: { name: string; old: FanLabel; other: FanLabel }) {
  const { against, unknown, airRatio, levelDb } = replaces(old, other);
  // Of one that nobody described there is nothing to say.
  if (against.length === 0 && unknown.length === FIGURES) return null;
  return (
    <div className="mb-4 space-y-1" role="status">
      {against.length > 0 ? (
        <p className="font-semibold text-danger">
          {name} does not fit: {against.join("; ")}.
        </p>
      ) : (
        <p className="font-semibold">
          {unknown.length > 0
            ? `${name}: nothing against it so far; not compared: ${unknown.join(", ")}.`
            : `${name} fits.`}
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
