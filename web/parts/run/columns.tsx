import { ROLES, type Role, TEMPERATURE_ROLES } from "#core/runfile/index.ts";
import { roleName } from "../../ui/format.ts";
import type { ColumnView } from "../../workers/run-session.ts";

/** What values are read as, whatever the file's own unit. */
const READ_AS: Partial<Record<Role, string>> = {
  ...Object.fromEntries(TEMPERATURE_ROLES.map((role) => [role, "°C"])),
  power: "W",
  powerLimit: "W",
  coreClock: "MHz",
  memoryClock: "MHz",
  voltage: "V",
};

function unitWords({ role, unit }: Pick<ColumnView, "role" | "unit">): string {
  const readAs = role === null ? undefined : READ_AS[role];
  if (unit === null) return "–";
  return readAs && readAs !== unit ? `${readAs} (${unit} in the file)` : unit;
}

/** Which column was taken for what; unsure guesses stand out and each can be changed. */
export function Columns({
  columns,
  onRole,
  folded = false,
}: {
  columns: ColumnView[];
  onRole: (header: string, role: Role | null) => void;
  /** What is recognised needs no confirming: one line, unless one is unsure. */
  folded?: boolean;
}) {
  const unsure = columns.filter((column) => !column.sure && column.role !== null).length;
  const table = <ColumnTable columns={columns} onRole={onRole} unsure={unsure} />;
  if (!folded) return table;
  const known = columns.filter((column) => column.role !== null).length;
  return (
    <details open={unsure > 0}>
      <summary className="inline-block min-h-6 cursor-pointer font-medium">
        {known} {known === 1 ? "column" : "columns"} recognised, <span className="text-ice">change</span>
      </summary>
      <div className="mt-2">{table}</div>
    </details>
  );
}

function ColumnTable({
  columns,
  onRole,
  unsure,
}: {
  columns: ColumnView[];
  onRole: (header: string, role: Role | null) => void;
  unsure: number;
}) {
  return (
    <div>
      <p className="mb-2 text-sm text-soft">
        {unsure > 0
          ? `${unsure} ${unsure === 1 ? "column is" : "columns are"} marked: please check what ${unsure === 1 ? "it is" : "they are"}.`
          : "Every column was recognised. Change one where it is wrong."}{" "}
        Your choice is remembered for files with the same header.
      </p>
      <div className="relative overflow-x-auto">
        <table className="w-full min-w-[34rem] text-left text-sm">
          <caption className="sr-only">Columns of the log and what they were taken for</caption>
          <thead className="text-soft">
            <tr>
              <th className="py-1 pr-3 font-medium">Column</th>
              <th className="py-1 pr-3 font-medium">First values</th>
              <th className="py-1 pr-3 font-medium">Unit</th>
              <th className="py-1 font-medium">Taken for</th>
            </tr>
          </thead>
          <tbody>
            {columns.map((column, index) => (
              <tr key={`${column.header} ${index}`} className="border-t border-line">
                <td className="py-1 pr-3 font-medium break-words">{column.header}</td>
                <td className="py-1 pr-3 text-soft">{column.sample}</td>
                <td className="py-1 pr-3">{unitWords(column)}</td>
                <td className="py-1">
                  <select
                    aria-label={`“${column.header}” was taken for`}
                    value={column.role ?? ""}
                    onChange={(event) => onRole(column.header, (event.target.value || null) as Role | null)}
                    className={`min-h-10 rounded-md border bg-sheet px-2 ${!column.sure && column.role !== null ? "border-2 border-amber" : "border-edge"}`}
                  >
                    <option value="">Not used</option>
                    {ROLES.map((role) => (
                      <option key={role} value={role}>
                        {roleName(role)}
                      </option>
                    ))}
                  </select>
                  {!column.sure && column.role !== null && <span className="ml-2 font-semibold text-amber">check</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}
