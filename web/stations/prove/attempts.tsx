import { useState } from "react";
import type { Attempt, PairedComparison } from "#contract";
import { headlineOf } from "#core/outcome/index.ts";
import { leadingPair } from "#core/service/index.ts";
import { api } from "../../app/api.ts";
import { Button, LinkButton } from "../../ui/button.tsx";
import { TextField } from "../../ui/field.tsx";
import { dateTime } from "../../ui/format.ts";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";

const FEWEST_CHARS = 3;

/** Something got worse or stays over its limit: first what can be done about it, then that it was done. */
export function MountAgain({ cardId, serviceId, what }: { cardId: string; serviceId: string; what: string }) {
  const [begin, { error, isLoading }] = api.useBeginAttemptMutation();
  const [changed, setChanged] = useState<string | null>(null);
  return (
    <div className="space-y-3">
      <div className="flex flex-wrap items-center justify-end gap-3">
        <p className="mr-auto text-lg font-semibold text-danger">{what}</p>
        <LinkButton to={`/cards/${cardId}/record`}>Hand over as it is</LinkButton>
        {changed === null && <Button onClick={() => setChanged("")}>I mounted it again</Button>}
        <LinkButton to={`/cards/${cardId}/pads`} look="main">
          Will the die seat?
        </LinkButton>
      </div>
      {changed !== null && (
        <form
          noValidate
          className="flex flex-wrap items-end gap-2 rounded-xl border border-line bg-sheet p-4"
          onSubmit={(event) => {
            event.preventDefault();
            void begin({ serviceId, body: { changed: changed.trim() } }).then(
              (answer) => answer.data && setChanged(null),
            );
          }}
        >
          <TextField
            label="What was changed"
            hint="Such as thinner pads on the memory, screws tightened crosswise"
            value={changed}
            maxLength={300}
            // It was asked for just now.
            // oxlint-disable-next-line jsx-a11y/no-autofocus
            autoFocus
            onChange={(event) => setChanged(event.target.value)}
          />
          <Button look="main" type="submit" disabled={isLoading || changed.trim().length < FEWEST_CHARS}>
            Run it again
          </Button>
          <Button onClick={() => setChanged(null)}>Cancel</Button>
          <FaultNote error={error} />
        </form>
      )}
    </div>
  );
}

/** What each attempt changed and what it gave; the one that is compared is marked. */
const wordsOf = (lead: PairedComparison | undefined): string => (lead ? headlineOf(lead.outcome) : "");

export function Attempts({ attempts, compared }: { attempts: readonly Attempt[]; compared: number }) {
  if (attempts.length < 2) return null;
  return (
    <Sheet title="Attempts">
      <ol className="space-y-2">
        {attempts.map(({ number, changed, startedAt, comparisons }) => (
          <li key={number} className="border-l-4 border-line pl-3 break-words">
            <p className="font-semibold">
              Attempt {number}
              {number === compared && <span className="ml-2 font-normal text-ice">compared above</span>}
            </p>
            <p className="text-sm text-soft">
              {number === 1 ? "The work itself" : changed || "What was changed was not noted"}
              {startedAt ? `, ${dateTime(startedAt)}` : ""}
            </p>
            <p>{wordsOf(leadingPair(comparisons)) || "No run that counts yet"}</p>
          </li>
        ))}
      </ol>
    </Sheet>
  );
}
