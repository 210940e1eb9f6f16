import { Link } from "react-router";
import type { Board } from "#contract";
import { api } from "../../app/api.ts";
import { LinkButton } from "../../ui/button.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";

/** Board models the shop has seen; each opens to all that is known of it. */
export function BoardsPage() {
  const { data, error, isLoading } = api.useBoardsQuery();
  return (
    <Page title="Boards" lead="Board models with what is known of them. A new one is added while taking in a card.">
      {isLoading && <Waiting what="the boards" />}
      <FaultNote error={error} />
      {data?.length === 0 && <p>No board model yet. Type one when you take in a card.</p>}
      {data && data.length > 0 && (
        <Sheet title={data.length === 1 ? "1 model" : `${data.length} models`}>
          <ul className="divide-y divide-line">
            {data.map((board) => (
              <BoardLine key={board.id} board={board} />
            ))}
          </ul>
        </Sheet>
      )}
    </Page>
  );
}

function BoardLine({ board: { id, name, notes, cards } }: { board: Board }) {
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 py-1">
      <span className="min-w-0">
        <Link
          to={`/boards/${id}`}
          className="inline-block min-h-11 content-center font-semibold text-ice hover:underline"
        >
          {name}
        </Link>
        {notes && <span className="ml-3 text-sm break-words text-soft">{notes}</span>}
      </span>
      <span className="flex items-center gap-3">
        <span className="text-sm text-soft">{cards === 1 ? "1 card" : `${cards} cards`}</span>
        <LinkButton to={`/boards/${id}/map`}>Board map</LinkButton>
      </span>
    </li>
  );
}
