import { Link, useParams } from "react-router";
import { API, type ModelView, stationOf, urlOf } from "#contract";
import { CAUSE_WORDS } from "#core/diagnose/index.ts";
import { api } from "../../app/api.ts";
import { LinkButton } from "../../ui/button.tsx";
import { figure, roleName, signed, widthOf } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";
import { BoardForm } from "./board-form.tsx";

/** All that the shop knows of a board model when the next one comes in. */
export function ModelPage() {
  const { boardId = "" } = useParams();
  const { data: boards, error: boardsError } = api.useBoardsQuery();
  const { data: known, error } = api.useModelQuery(boardId);
  const board = boards?.find(({ id }) => id === boardId);
  if (!board)
    return (
      <Page title="Board model">
        {boards ? (
          <Note kind="caution" title="This board model is not here">
            <Link to="/boards" className="text-ice underline">
              All board models
            </Link>
          </Note>
        ) : boardsError ? (
          <FaultNote error={boardsError} />
        ) : (
          <Waiting what="the board model" />
        )}
      </Page>
    );
  return (
    <Page
      wide
      title={board.name}
      lead={
        known
          ? `${board.cards === 1 ? "1 card" : `${board.cards} cards`}, ${known.services === 1 ? "1 service" : `${known.services} services`}`
          : undefined
      }
      action={<LinkButton to={`/boards/${boardId}/map`}>Board map</LinkButton>}
    >
      <FaultNote error={error} />
      {!known && !error && <Waiting what="what is known" />}
      <div className="grid items-start gap-4 lg:grid-cols-2">
        {known && <Rises known={known} />}
        {known && <Helped known={known} />}
        {known && <Work known={known} />}
        {known && <Last known={known} />}
        <BoardForm board={board} />
        {known && known.photos.length > 0 && (
          <Sheet title="Photos">
            <ul className="flex flex-wrap gap-2">
              {known.photos.map(({ id, caption, cardId }) => (
                <li key={id}>
                  <Link to={`/cards/${cardId}`} className="block max-w-36 text-sm text-soft hover:underline">
                    <img
                      src={urlOf(API.photo, { photoId: id })}
                      alt={caption || "A card of this model"}
                      className="h-24 w-36 rounded-md border border-line object-cover"
                    />
                    {caption}
                  </Link>
                </li>
              ))}
            </ul>
          </Sheet>
        )}
      </div>
    </Page>
  );
}

type Spread = ModelView["gap"]["before"];
const spreadWords = (spread: Spread): string =>
  spread === null
    ? "–"
    : spread.count === 1
      ? figure(spread.medianK)
      : `${figure(spread.medianK)} (${figure(spread.lowK, 0)} to ${figure(spread.highK, 0)})`;

function Rises({ known: { rises, gap } }: { known: ModelView }) {
  if (rises.length === 0)
    return (
      <Sheet title="Usual rises">
        <p className="text-soft">No run with room air yet.</p>
      </Sheet>
    );
  const rows = [
    ...rises.map(({ role, before, after }) => ({ name: roleName(role), before, after })),
    ...(gap.before || gap.after ? [{ name: "Hotspot gap", ...gap }] : []),
  ];
  return (
    <Sheet title="Usual rises over room air (K)">
      <table className="w-full text-left">
        <thead className="text-sm text-soft">
          <tr>
            <th className="font-medium">Sensor</th>
            <th className="text-right font-medium">As they came</th>
            <th className="text-right font-medium">As they went</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ name, before, after }) => (
            <tr key={name} className="border-t border-line">
              <td className="py-1">{name}</td>
              <td className="text-right">{spreadWords(before)}</td>
              <td className="text-right font-semibold">{spreadWords(after)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-sm text-soft">
        Middle one, and where nine in ten lie; at whatever power and fan they ran.
      </p>
    </Sheet>
  );
}

function Helped({ known: { causes, helped } }: { known: ModelView }) {
  return (
    <Sheet title="What was wrong, and what helped">
      {causes.length + helped.length === 0 && <p className="text-soft">Nothing is proved yet.</p>}
      <ul>
        {causes.map(({ what, count }) => (
          <li key={what} className="flex justify-between gap-2 border-b border-line py-1">
            <span className="first-letter:uppercase">{CAUSE_WORDS[what as keyof typeof CAUSE_WORDS] ?? what}</span>
            <span className="text-soft">{count} ×</span>
          </li>
        ))}
      </ul>
      <ul className="mt-2">
        {helped.map(({ work, count, changeK, u95K }) => (
          <li key={work} className="flex justify-between gap-2 py-1">
            <span>
              <span className="inline-block font-semibold first-letter:uppercase">{work}</span>{" "}
              <span className="text-sm text-soft">{count} ×</span>
            </span>
            <span className="font-semibold">
              {signed(changeK)} ± {widthOf(u95K)} K
            </span>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

function Work({ known: { minutes, pads, compounds, odd } }: { known: ModelView }) {
  const total = minutes.reduce((sum, { medianMin }) => sum + medianMin, 0);
  return (
    <Sheet title="The work">
      {minutes.length === 0 ? (
        <p className="text-soft">No steps were timed yet.</p>
      ) : (
        <p>
          <strong>{figure(total, 0)} min of hands</strong>:{" "}
          {minutes.map(({ station, medianMin }) => `${stationOf(station).title} ${figure(medianMin, 0)}`).join(", ")}
        </p>
      )}
      <Counted title="Odd on the way" all={odd} />
      <Counted title="Pads that went on" all={pads} />
      <Counted title="Compounds" all={compounds} />
    </Sheet>
  );
}

function Counted({ title, all }: { title: string; all: ModelView["pads"] }) {
  if (all.length === 0) return null;
  return (
    <div className="mt-2">
      <h3 className="text-sm text-soft">{title}</h3>
      <ul>
        {all.map(({ what, count }) => (
          <li key={what} className="flex justify-between gap-2">
            <span className="min-w-0 break-words">{what}</span>
            {count > 1 && <span className="text-soft">{count} ×</span>}
          </li>
        ))}
      </ul>
    </div>
  );
}

function Last({ known: { last } }: { known: ModelView }) {
  return (
    <Sheet title="The last ones">
      {last.length === 0 && <p className="text-soft">None yet.</p>}
      <ul className="divide-y divide-line">
        {last.map(({ cardId, name, serial, changeK, u95K, closed }) => (
          <li key={`${cardId} ${closed}`} className="flex items-center justify-between gap-2">
            <Link to={`/cards/${cardId}`} className="min-h-9 content-center text-ice hover:underline">
              {name} {serial}
            </Link>
            <span className="text-sm">
              {changeK === null ? (closed ? "not proved" : "in work") : `${signed(changeK)} ± ${widthOf(u95K)} K`}
            </span>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
