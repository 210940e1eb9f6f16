import { RowsField } from "../../ui/rows-field.tsx";

interface LossPoint {
  lPerMin: number;
  kPa: number;
}

/** What something in a loop loses at known flows. */
export function LossRows({
  rows,
  first,
  onRows,
}: {
  rows: readonly LossPoint[];
  /** A usual one, where there is none yet. */
  first: LossPoint;
  onRows: (rows: LossPoint[]) => void;
}) {
  return (
    <RowsField
      label="What it loses"
      rows={rows}
      columns={[
        { key: "lPerMin", unit: "L/min", most: 100 },
        { key: "kPa", unit: "kPa", most: 500 },
      ]}
      fresh={(last) => last ?? first}
      most={20}
      add="Add a flow"
      onRows={onRows}
    />
  );
}
