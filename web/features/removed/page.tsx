import { Link } from "react-router";
import type { RemovedThing } from "#contract";
import { MOST_REMOVED } from "#contract";
import { api } from "../../app/api.ts";
import { withUndo } from "../../app/with-undo.ts";
import { Button } from "../../ui/button.tsx";
import { ago } from "../../ui/format.ts";
import { FaultNote } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";

const KINDS = { card: "Card", run: "Run", note: "Work note", photo: "Photo" } as const;

/** What was removed, each with its way back. */
export function RemovedPage() {
  const { data: things, error } = api.useRemovedQuery();
  return (
    <Page
      title="Removed"
      lead={
        <>
          Cards, runs, work notes and photos that were taken off.{" "}
          <Link to="/cards" className="font-medium text-ice hover:underline">
            All cards
          </Link>
        </>
      }
    >
      <FaultNote error={error} />
      {!things && !error && <Waiting what="what was removed" />}
      {things && (
        <Sheet>
          {things.length === 0 && <p className="text-soft">Nothing was removed.</p>}
          <ul className="divide-y divide-line">
            {things.map((one) => (
              <Thing key={`${one.kind} ${one.id}`} thing={one} />
            ))}
          </ul>
          {things.length === MOST_REMOVED && (
            <p className="pt-3 text-sm text-soft">The last {MOST_REMOVED} are shown.</p>
          )}
        </Sheet>
      )}
    </Page>
  );
}

function Thing({ thing }: { thing: RemovedThing }) {
  const [card, ofCard] = api.useRemoveCardMutation();
  const [run, ofRun] = api.useRemoveRunMutation();
  const [note, ofNote] = api.useRemoveNoteMutation();
  const [photo, ofPhoto] = api.useRemovePhotoMutation();
  const { id, cardId } = thing;
  const set = {
    card: (removed: boolean) => card({ cardId, body: { removed } }),
    run: (removed: boolean) => run({ runId: id, body: { removed } }),
    note: (removed: boolean) => note({ noteId: id, body: { removed } }),
    photo: (removed: boolean) => photo({ cardId, photoId: id, body: { removed } }),
  }[thing.kind];
  const name = [thing.card, thing.what].filter(Boolean).join(", ");
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 py-2">
      <span className="min-w-0">
        <span className="block font-semibold break-words">
          {KINDS[thing.kind]}: {name}
        </span>
        <span className="block text-sm text-soft">removed {ago(thing.at)}</span>
      </span>
      <Button
        disabled={[ofCard, ofRun, ofNote, ofPhoto].some(({ isLoading }) => isLoading)}
        aria-label={`Put back: ${name}`}
        onClick={() => void withUndo(`${KINDS[thing.kind]} is back`, (forth) => set(!forth))}
      >
        Put back
      </Button>
    </li>
  );
}
