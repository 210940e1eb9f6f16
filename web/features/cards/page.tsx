import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { ServiceLine } from "#contract";
import { useLater } from "../../app/use-later.ts";
import { useLines } from "../../parts/lines/use-lines.ts";
import { useRows } from "../../parts/lines/use-rows.ts";
import { TextField } from "../../ui/field.tsx";
import { day } from "../../ui/format.ts";
import { FaultNote } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";

const ASK_AFTER_MS = 150;
const PAGE = 100;
const ROW_PX = 49;

/** Every card there is, found by any of its words. */
export function CardsPage() {
  const [words, setWords] = useState("");
  const find = useLater(words.trim(), ASK_AFTER_MS);
  const { lines, total, error, isLoading, known, reach } = useLines({ find, closed: undefined, limit: PAGE });
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus(), []);
  return (
    <Page title="Cards" lead="Every card this workshop has seen.">
      <TextField
        ref={field}
        label="Find"
        type="search"
        value={words}
        onChange={(event) => setWords(event.target.value)}
        hint="Maker, model, serial, owner or verdict"
        className="mb-4 max-w-md"
      />
      {isLoading && <Waiting what="the cards" />}
      <FaultNote error={error} />
      {known && (
        <Sheet className="relative overflow-x-auto">
          <CardTable lines={lines} total={total} reach={reach} />
          {total === 0 && (
            <p className="py-4 text-soft">
              {find === "" ? "No card yet. Take one in from the Bench." : "No card matches. Use fewer words."}
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
    <table className="w-full min-w-[46rem] table-fixed text-left" aria-rowcount={total + 1}>
      <caption className="sr-only">{total === 1 ? "One card found" : `${total} cards found`}</caption>
      <thead className="text-sm text-soft">
        <tr>
          <th className="w-[28%] py-2 pr-4 font-medium">Card</th>
          <th className="w-[17%] py-2 pr-4 font-medium">Serial</th>
          <th className="w-[17%] py-2 pr-4 font-medium">Owner</th>
          <th className="py-2 pr-4 font-medium">Result</th>
          <th className="w-28 py-2 font-medium">Last change</th>
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
                    className="inline-block py-1 font-semibold text-ice hover:underline"
                  >
                    {line.maker} {line.model}
                  </Link>
                </td>
                <td className="py-2 pr-4 break-all">{line.serial || "–"}</td>
                <td className="py-2 pr-4">{line.holder === "stock" ? "Stock" : line.ownerName || "–"}</td>
                <td className="py-2 pr-4">{line.figure || line.next}</td>
                <td className="py-2 whitespace-nowrap">{day(line.updatedAt)}</td>
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
