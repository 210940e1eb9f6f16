import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { api } from "../../app/api.ts";
import { TextField } from "../../ui/field.tsx";
import { day } from "../../ui/format.ts";
import { FaultNote } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";

/** Every card there is, found by any of its words. */
export function CardsPage() {
  const { data, error, isLoading } = api.useBenchQuery();
  const [words, setWords] = useState("");
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus(), []);
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  const found = data?.filter((entry) => {
    const text =
      `${entry.maker} ${entry.model} ${entry.serial} ${entry.ownerName} ${entry.holder} ${entry.stationTitle} ${entry.figure}`.toLowerCase();
    return wanted.every((word) => text.includes(word));
  });
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
      {found && (
        <Sheet className="relative overflow-x-auto">
          <table className="w-full min-w-[38rem] text-left">
            <caption className="sr-only">Cards found</caption>
            <thead className="text-sm text-soft">
              <tr>
                <th className="py-2 pr-4 font-medium">Card</th>
                <th className="py-2 pr-4 font-medium">Serial</th>
                <th className="py-2 pr-4 font-medium">Owner</th>
                <th className="py-2 pr-4 font-medium">Result</th>
                <th className="py-2 font-medium">Last change</th>
              </tr>
            </thead>
            <tbody>
              {found.map((entry) => (
                <tr key={entry.cardId} className="border-t border-line">
                  <td className="py-2 pr-4">
                    <Link
                      to={`/cards/${entry.cardId}`}
                      className="inline-block py-1 font-semibold text-ice hover:underline"
                    >
                      {entry.maker} {entry.model}
                    </Link>
                  </td>
                  <td className="py-2 pr-4 break-all">{entry.serial || "–"}</td>
                  <td className="py-2 pr-4">{entry.holder === "stock" ? "Stock" : entry.ownerName || "–"}</td>
                  <td className="py-2 pr-4">{entry.figure || entry.next}</td>
                  <td className="py-2 whitespace-nowrap">{day(entry.updatedAt)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {found.length === 0 && (
            <p className="py-4 text-soft">
              {data?.length === 0 ? "No card yet. Take one in from the Bench." : "No card matches. Use fewer words."}
            </p>
          )}
        </Sheet>
      )}
    </Page>
  );
}
