import { FileSpreadsheet } from "lucide-react";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { COLUMN_FIELDS, type ColumnField, EMPTY_PAPER, MOST_IMPORTED, type SheetMapping } from "#contract";
import { paperChange } from "#core/findings/index.ts";
import { Problem, type ProblemDetail } from "#core/problem/index.ts";
import { decodeText, readTable, type Table } from "#core/tables/index.ts";
import { api } from "../../app/api.ts";
import { withUndo } from "../../app/with-undo.ts";
import { Button } from "../../ui/button.tsx";
import { SelectField } from "../../ui/field.tsx";
import { FileDrop } from "../../ui/file-drop.tsx";
import { dateTime, fileSize, signed, widthOf } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Sheet } from "../../ui/page.tsx";
import { OnePaper } from "./one-paper.tsx";
import { fatesOf, guessMapping, type RowFate } from "./sheet-rows.ts";

const MOST_BYTES = 20e6;

const FIELD_WORDS: Record<ColumnField, string> = {
  model: "Card or board model",
  serial: "Serial number",
  doneOn: "Day",
  work: "What was done",
  compound: "Compound",
  pads: "Pads",
  beforeC: "Before",
  afterC: "After",
  roomBeforeC: "Room before",
  roomAfterC: "Room after",
  fan: "Same fan",
  ageYears: "Age (years)",
  use: "Use",
  note: "Note",
};

interface Opened {
  name: string;
  table: Table;
}

/** Earlier cards come in: a spreadsheet, or one result from paper. */
export function PaperPage() {
  const [opened, setOpened] = useState<Opened | null>(null);
  const [mapping, setMapping] = useState<SheetMapping | null>(null);
  const [problem, setProblem] = useState<ProblemDetail | null>(null);
  const [isKnown, setKnown] = useState(false);
  const [findMapping] = api.useSheetMappingMutation();
  const open = async (file: File): Promise<void> => {
    setOpened(null);
    setProblem(null);
    if (file.size > MOST_BYTES) {
      setProblem({
        code: "too-large",
        what: `${file.name} has ${fileSize(file.size)}.`,
        remedy: `At most ${fileSize(MOST_BYTES)} and ${MOST_IMPORTED} rows are taken at once: split it.`,
      });
      return;
    }
    try {
      const table = readTable(decodeText(new Uint8Array(await file.arrayBuffer())), MOST_IMPORTED);
      const known = (await findMapping({ headers: table.headers })).data?.mapping ?? null;
      setKnown(known !== null);
      setMapping(known ?? guessMapping(table));
      setOpened({ name: file.name, table });
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setProblem(error.detail());
    }
  };
  return (
    <Page
      wide
      title="Earlier cards"
      lead="Results from before Algidus count in Findings, as wide as what was written down allows"
      action={
        <Link to="/findings" className="min-h-11 content-center font-medium text-ice hover:underline">
          To the findings
        </Link>
      }
    >
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="space-y-4">
          <FileDrop
            className="min-h-28 gap-1 border-2 p-5"
            onFiles={([file]) => {
              if (file) void open(file);
            }}
          >
            <FileSpreadsheet aria-hidden className="size-7 text-ice" />
            <span className="text-lg font-semibold">Drop a spreadsheet of earlier cards</span>
            <span className="text-sm text-soft">
              delimited text with a header, a card a line: commas, semicolons or tabs, decimal point or comma
            </span>
          </FileDrop>
          {problem && (
            <Note kind="fault" title={problem.what} live>
              {problem.remedy} Nothing was changed.
            </Note>
          )}
          {opened && mapping && (
            <DryRun
              key={opened.name + opened.table.rows.length}
              opened={opened}
              mapping={mapping}
              isKnown={isKnown}
              onMapping={setMapping}
              onDone={() => setOpened(null)}
            />
          )}
          <OnePaper start={EMPTY_PAPER} />
        </div>
        <Imports />
      </div>
    </Page>
  );
}

function DryRun({
  opened: { name, table },
  mapping,
  isKnown,
  onMapping,
  onDone,
}: {
  opened: Opened;
  mapping: SheetMapping;
  isKnown: boolean;
  onMapping: (mapping: SheetMapping) => void;
  onDone: () => void;
}) {
  const [take, { error, isLoading }] = api.useImportPaperMutation();
  const [setRemoved] = api.useRemoveImportMutation();
  const fates = useMemo(() => fatesOf(table, mapping), [table, mapping]);
  const good = fates.flatMap(({ paper }) => paper ?? []);
  const bad = fates.length - good.length;
  const send = async (): Promise<void> => {
    let id: string | undefined;
    const done = await withUndo(`${good.length} results taken in`, async (forth) => {
      if (!forth) return id === undefined ? {} : setRemoved({ importId: id, body: { removed: true } });
      const made = await take({ name, headers: table.headers, mapping, rows: good });
      id = made.data?.[0]?.id;
      return made;
    });
    if (done) onDone();
  };
  return (
    <Sheet
      title={name}
      action={
        <span className="text-sm text-soft">{isKnown ? "columns as the last time" : "columns as their names say"}</span>
      }
    >
      <div className="grid gap-3 sm:grid-cols-3 lg:grid-cols-4">
        {COLUMN_FIELDS.map((field) => (
          <SelectField
            key={field}
            label={FIELD_WORDS[field]}
            value={mapping.fields[field] ?? ""}
            onChange={({ target }) => {
              const { [field]: _old, ...fields } = mapping.fields;
              onMapping({
                ...mapping,
                fields: target.value === "" ? fields : { ...fields, [field]: target.value },
              });
            }}
          >
            <option value="">not there</option>
            {table.headers.filter(Boolean).map((header) => (
              <option key={header}>{header}</option>
            ))}
          </SelectField>
        ))}
      </div>
      <div className="mt-3 flex flex-wrap gap-x-6">
        {(
          [
            ["rises", "before and after are kelvins over room air"],
            ["fahrenheit", "temperatures are in Fahrenheit"],
            ["monthFirst", "days are written month first"],
          ] as const
        ).map(([key, label]) => (
          <label key={key} className="flex min-h-9 items-center gap-2">
            <input
              type="checkbox"
              className="size-5"
              checked={mapping[key]}
              onChange={({ target }) => onMapping({ ...mapping, [key]: target.checked })}
            />
            {label}
          </label>
        ))}
      </div>
      <p className="mt-3 font-semibold" role="status">
        {good.length} of {fates.length} rows can be taken in{bad > 0 && `; ${bad} can’t`}.
      </p>
      <Fates fates={fates} />
      <FaultNote error={error} />
      <div className="mt-3 flex justify-end gap-2">
        <Button onClick={onDone}>Discard</Button>
        <Button look="main" disabled={good.length === 0 || isLoading} onClick={() => void send()}>
          {isLoading ? "Taking in…" : `Take in ${good.length} results`}
        </Button>
      </div>
    </Sheet>
  );
}

const MOST_SHOWN = 200;

/** Every row with what becomes of it; those that can't be taken in first. */
function Fates({ fates }: { fates: readonly RowFate[] }) {
  const sorted = fates.toSorted((a, b) => Number(a.paper !== null) - Number(b.paper !== null));
  return (
    // A long list moves by its own; keys reach it too.
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keys
    <div
      className="mt-2 max-h-80 overflow-auto rounded-lg border border-line"
      tabIndex={0}
      role="region"
      aria-label="Rows"
    >
      <table className="w-full text-left text-sm">
        <thead className="sticky top-0 bg-sheet text-soft">
          <tr>
            <th className="px-2 py-1 font-medium">Line</th>
            <th className="px-2 font-medium">Card</th>
            <th className="px-2 font-medium">Work</th>
            <th className="px-2 text-right font-medium">°C</th>
            <th className="px-2 text-right font-medium">Becomes</th>
          </tr>
        </thead>
        <tbody>
          {sorted.slice(0, MOST_SHOWN).map(({ line, paper, why }) => {
            const change = paper && paperChange(paper);
            return (
              <tr key={line} className="border-t border-line">
                <td className="px-2 py-1">{line}</td>
                <td className="px-2">{paper ? `${paper.model} ${paper.serial}` : ""}</td>
                <td className="px-2">{paper?.work}</td>
                <td className="px-2 text-right whitespace-nowrap">
                  {paper ? `${paper.beforeC} → ${paper.afterC}` : ""}
                </td>
                <td className="px-2 text-right">
                  {change ? (
                    <span className="whitespace-nowrap">
                      {signed(change.changeK)} ± {widthOf(change.u95K)} K
                    </span>
                  ) : (
                    <span className="text-danger">{why}</span>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {fates.length > MOST_SHOWN && (
        <p className="px-2 py-1 text-sm text-soft">and {fates.length - MOST_SHOWN} more like these</p>
      )}
    </div>
  );
}

/** What was taken in, each with its way back. */
function Imports() {
  const { data = [] } = api.usePaperImportsQuery();
  const [setRemoved, { error }] = api.useRemoveImportMutation();
  return (
    <Sheet title="Taken in">
      {data.length === 0 && <p className="text-soft">Nothing yet.</p>}
      <FaultNote error={error} />
      <ul className="divide-y divide-line">
        {data.map(({ id, name, at, rows, removed }) => (
          <li key={id} className="flex items-center justify-between gap-2 py-2">
            <span className="min-w-0 break-words">
              <span className={removed ? "text-soft line-through" : "font-semibold"}>{name}</span>
              <span className="block text-sm text-soft">
                {rows === 1 ? "1 result" : `${rows} results`} · {dateTime(at)}
              </span>
            </span>
            <Button onClick={() => void setRemoved({ importId: id, body: { removed: !removed } })}>
              {removed ? "Put back" : "Take back"}
            </Button>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
