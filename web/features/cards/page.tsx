import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { type ServiceLine, STATIONS, VERDICTS } from "#contract";
import { useLater } from "../../app/use-later.ts";
import { useLines } from "../../parts/lines/use-lines.ts";
import { useRows } from "../../parts/lines/use-rows.ts";
import { Button, LinkButton } from "../../ui/button.tsx";
import { SelectField, TextField } from "../../ui/field.tsx";
import { day } from "../../ui/format.ts";
import { FaultNote } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";
import { RiseLadder } from "../../ui/rise-ladder.tsx";

const ASK_AFTER_MS = 150;
const PAGE = 100;
const ROW_PX = 74;

const VERDICT_WORDS: Record<(typeof VERDICTS)[number], string> = {
  better: "Cooler",
  "no-real-change": "No real change",
  worse: "Something worse",
  "not-comparable": "Can’t be compared",
};

/** Every card there is, found by any of its words, or by station, verdict, owner and model. */
export function CardsPage() {
  const [asked, setAsked] = useState({ find: "", station: "", verdict: "", owner: "", model: "" });
  const set = (more: Partial<typeof asked>): void => setAsked({ ...asked, ...more });
  const find = useLater(asked.find.trim(), ASK_AFTER_MS);
  const owner = useLater(asked.owner.trim(), ASK_AFTER_MS);
  const model = useLater(asked.model.trim(), ASK_AFTER_MS);
  const { station, verdict } = asked;
  const { lines, total, error, isLoading, known, waits, reach } = useLines({
    find,
    station,
    verdict,
    owner,
    model,
    closed: undefined,
    limit: PAGE,
  });
  const isNarrowed = Object.values(asked).some((one) => one.trim() !== "");
  const [isWide, setWide] = useState(false);
  const narrow = isWide ? "" : "max-sm:hidden";
  const go = useNavigate();
  const [isOpening, setOpening] = useState(false);
  const first = lines[0]?.cardId;
  // What is typed may be newer than what is listed.
  const isListed = !waits && find === asked.find.trim() && owner === asked.owner.trim() && model === asked.model.trim();
  useEffect(() => {
    if (!isOpening || !isListed) return;
    setOpening(false);
    if (first) void go(`/cards/${first}`);
  }, [isOpening, isListed, first, go]);
  return (
    <Page
      title="Cards"
      lead="Every card this workshop has seen."
      action={<LinkButton to="/removed">Removed</LinkButton>}
    >
      <form
        className="mb-4 grid grid-cols-2 gap-3 sm:grid-cols-3 lg:grid-cols-[minmax(0,1.6fr)_repeat(4,minmax(0,1fr))]"
        onSubmit={(event) => {
          event.preventDefault();
          // A hand scanner types the address of a label.
          const scanned = /\/c\/([\w-]+)\s*$/.exec(asked.find)?.[1];
          if (scanned) void go(`/c/${scanned}`);
          else setOpening(true);
        }}
      >
        <TextField
          data-first-field
          label="Find"
          type="search"
          value={asked.find}
          onChange={(event) => set({ find: event.target.value })}
          hint="Any word; Enter opens the first"
          className="max-sm:col-span-2"
        />
        <Button className="col-span-2 sm:hidden" aria-expanded={isWide} onClick={() => setWide(!isWide)}>
          Narrow by station, verdict, owner, model
        </Button>
        <SelectField
          className={narrow}
          label="Station"
          value={station}
          onChange={(event) => set({ station: event.target.value })}
        >
          <option value="">any</option>
          {STATIONS.map(({ id, title }) => (
            <option key={id} value={id}>
              {title}
            </option>
          ))}
        </SelectField>
        <SelectField
          className={narrow}
          label="Verdict"
          value={verdict}
          onChange={(event) => set({ verdict: event.target.value })}
        >
          <option value="">any</option>
          {VERDICTS.map((one) => (
            <option key={one} value={one}>
              {VERDICT_WORDS[one]}
            </option>
          ))}
        </SelectField>
        {(["owner", "model"] as const).map((part) => (
          <TextField
            key={part}
            className={narrow}
            label={part === "owner" ? "Owner" : "Model"}
            type="search"
            value={asked[part]}
            onChange={(event) => set({ [part]: event.target.value })}
          />
        ))}
        <button type="submit" className="sr-only" tabIndex={-1}>
          Open the first
        </button>
      </form>
      {isLoading && <Waiting what="the cards" />}
      <FaultNote error={error} />
      {known && (
        <Sheet className="relative overflow-x-auto">
          <CardTable lines={lines} total={total} reach={reach} />
          {total === 0 && (
            <p className="py-4 text-soft">
              {isNarrowed ? "No card matches. Use fewer words." : "No card yet. Take one in from the Bench."}
            </p>
          )}
        </Sheet>
      )}
    </Page>
  );
}

interface CardTableProps {
  lines: readonly ServiceLine[];
  total: number;
  reach: (index: number) => void;
}

function CardTable({ lines, total, reach }: CardTableProps) {
  const { list, drawn, measure, before, after } = useRows<HTMLTableSectionElement>(lines.length, ROW_PX, reach);
  return (
    <table className="w-full table-fixed text-left" aria-rowcount={total + 1}>
      <caption className="sr-only">{total === 1 ? "One card found" : `${total} cards found`}</caption>
      <thead className="text-sm text-soft">
        <tr>
          <th className="w-[24%] py-2 pr-4 font-medium max-sm:w-1/2">Card</th>
          <th className="w-[14%] py-2 pr-4 font-medium max-sm:hidden">Owner</th>
          <th className="w-24 py-2 pr-4 font-medium max-sm:hidden">Station</th>
          <th className="w-42 py-2 pr-4 font-medium max-md:hidden">Rises</th>
          <th className="py-2 pr-4 font-medium">Result</th>
          <th className="w-28 py-2 font-medium max-md:hidden">Last change</th>
        </tr>
      </thead>
      <tbody ref={list}>
        {before > 0 && (
          <tr aria-hidden>
            <td style={{ height: before }} />
          </tr>
        )}
        {drawn.map(({ index }) => {
          const line = lines[index];
          return (
            line && (
              <tr
                key={line.serviceId}
                ref={measure}
                data-index={index}
                aria-rowindex={index + 2}
                className="border-t border-line"
              >
                <td className="py-2 pr-4">
                  <Link
                    to={`/cards/${line.cardId}`}
                    className="inline-block py-1 font-semibold break-words text-ice hover:underline"
                  >
                    {line.maker} {line.model}
                  </Link>
                  <span className="block text-sm break-all text-soft">{line.serial || "no serial"}</span>
                </td>
                <td className="py-2 pr-4 break-words max-sm:hidden">
                  {line.holder === "stock" ? "Stock" : line.ownerName || "–"}
                </td>
                <td className="py-2 pr-4 max-sm:hidden">{line.closed ? "Handed over" : line.stationTitle}</td>
                <td className="py-2 pr-4 max-md:hidden">
                  {line.ladder.length > 0 && (
                    <RiseLadder
                      compact
                      columns={line.ladder}
                      label={`Rises of ${line.maker} ${line.model}, before hollow, after solid`}
                    />
                  )}
                </td>
                <td className="py-2 pr-4 break-words">{line.figure || line.next}</td>
                <td className="py-2 whitespace-nowrap max-md:hidden">{day(line.updatedAt)}</td>
              </tr>
            )
          );
        })}
        {after > 0 && (
          <tr aria-hidden>
            <td style={{ height: after }} />
          </tr>
        )}
      </tbody>
    </table>
  );
}
