import { Plus, Trash2 } from "lucide-react";
import type { TypedUnit } from "#core/units/index.ts";
import { Button } from "./button.tsx";
import { NumberField } from "./number-field.tsx";

export interface RowColumn<R> {
  key: keyof R & string;
  /** Without one it is called by its unit. */
  label?: string;
  unit: TypedUnit;
  least?: number;
  most?: number;
  /** It may be left empty. */
  optional?: boolean;
}

/** Rows of numbers, such as points of a curve: each kept as it is left, added and removed by a tap. */
export function RowsField<R extends object>({
  label,
  hint,
  rows,
  columns,
  fresh,
  most,
  add,
  onRows,
}: {
  label: string;
  hint?: string;
  rows: readonly R[];
  columns: ReadonlyArray<RowColumn<R>>;
  /** A new row, made of the last. */
  fresh: (last: R | undefined) => R;
  most: number;
  add: string;
  onRows: (rows: R[]) => void;
}) {
  return (
    <fieldset className="space-y-2">
      <legend className="font-medium">{label}</legend>
      {hint && <p className="text-sm text-soft">{hint}</p>}
      {rows.map((row, index) => (
        // oxlint-disable-next-line react/no-array-index-key -- rows are points of one curve and have no name
        <div key={index} className="flex items-end gap-2">
          {columns.map((column) => (
            <NumberField
              key={column.key}
              className="min-w-0 flex-1"
              label={column.label ?? ""}
              unit={column.unit}
              value={(row[column.key] as number | null) ?? null}
              optional={column.optional ?? false}
              least={column.least ?? 0}
              most={column.most ?? 1e6}
              onValue={(value) => onRows(rows.map((one, at) => (at === index ? { ...one, [column.key]: value } : one)))}
            />
          ))}
          <Button
            look="quiet"
            aria-label={`Remove row ${index + 1} of ${label.toLowerCase()}`}
            onClick={() => onRows(rows.filter((_, at) => at !== index))}
          >
            <Trash2 aria-hidden className="size-5" />
          </Button>
        </div>
      ))}
      <Button disabled={rows.length >= most} onClick={() => onRows([...rows, fresh(rows.at(-1))])}>
        <Plus aria-hidden className="mr-1 inline size-5" />
        {add}
      </Button>
    </fieldset>
  );
}
