import { createElement, useEffect, useRef } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { Card, StationState } from "#contract";
import { api } from "../../app/api.ts";
import { useKeys } from "../../app/keys.ts";
import { BackAgain, CardHistory } from "../../parts/card/history.tsx";
import { useReadingKey } from "../../parts/readings/readings.tsx";
import { STATION_PAGES, useStationView } from "../../stations/registry.ts";
import { Button } from "../../ui/button.tsx";
import { ago } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Waiting } from "../../ui/page.tsx";

/** One card's service: the stations in working order, each with its state and its one figure. */
export function ServicePage() {
  const { cardId = "", station } = useParams();
  const { data: card, error } = api.useCardQuery(cardId);
  const { data: service, error: serviceError } = api.useServiceQuery(card?.serviceId ?? "", { skip: !card });
  const go = useNavigate();
  const at = Math.max(
    0,
    STATION_PAGES.findIndex((page) => page.path === station),
  );
  useKeys((key) => {
    const by = key === "[" ? -1 : key === "]" ? 1 : 0;
    const target = STATION_PAGES[at + by];
    if (by !== 0 && target) void go(`/cards/${cardId}/${target.path}`);
  });
  const view = useStationView(STATION_PAGES[at]?.path ?? "");
  const { dialog } = useReadingKey(card?.serviceId ?? "", null, card !== undefined);
  if (!card || !service)
    return (
      <Page title="Card">
        {error || serviceError ? <FaultNote error={error ?? serviceError} /> : <Waiting what="the card" />}
      </Page>
    );
  return (
    <Page
      title={`${card.maker} ${card.model}`}
      lead={[card.serial || "no serial", card.boardModelName, card.holder === "stock" ? "stock" : card.ownerName]
        .filter(Boolean)
        .join(" · ")}
    >
      {card.deletedAt && <RemovedNote card={card} />}
      <BackAgain card={card} service={service} />
      <CardHistory cardId={cardId} />
      <nav aria-label="Stations" className="no-print relative mb-5 overflow-x-auto">
        <ol className="flex min-w-max gap-1">
          {service.stations.map((one, index) => (
            <StationTab
              key={one.id}
              station={one}
              to={`/cards/${cardId}/${STATION_PAGES[index]?.path ?? ""}`}
              here={index === at}
            />
          ))}
        </ol>
      </nav>
      {view ? createElement(view, { cardId, service }) : <Waiting what="the station" />}
      {dialog}
    </Page>
  );
}

/** A removed card may still be reached by an old link. */
function RemovedNote({ card }: { card: Card }) {
  const [remove] = api.useRemoveCardMutation();
  return (
    <div className="mb-4">
      <Note kind="caution" title={`This card was removed ${ago(card.deletedAt ?? "")}`}>
        It stands on no list.{" "}
        <Button look="quiet" onClick={() => void remove({ cardId: card.id, body: { removed: false } })}>
          Put it back
        </Button>
      </Note>
    </div>
  );
}

const MARKS = { done: "✓", next: "→", open: "·", skipped: "–" } as const;
const WORDS = { done: "done", next: "next", open: "open", skipped: "skipped" } as const;

function StationTab({ station, to, here }: { station: StationState; to: string; here: boolean }) {
  const place = useRef<HTMLLIElement>(null);
  useEffect(() => {
    // On a phone the one at hand may lie beside the screen.
    if (here) place.current?.scrollIntoView({ inline: "center", block: "nearest" });
  }, [here]);
  return (
    <li ref={place}>
      <Link
        to={to}
        aria-current={here ? "step" : undefined}
        className={`flex min-h-16 min-w-30 max-w-44 flex-col rounded-lg border px-3 py-2 hover:border-ice ${here ? "border-ice bg-frost" : "border-line bg-sheet"}`}
      >
        <span className="flex items-center gap-2 font-semibold">
          <span aria-hidden className={station.state === "next" ? "text-ice" : "text-soft"}>
            {MARKS[station.state]}
          </span>
          {station.title}
        </span>
        <span className="truncate text-sm text-soft" title={station.figure}>
          {/* Said once: without a figure its place holds the very same word. */}
          {station.figure && <span className="sr-only">{WORDS[station.state]}. </span>}
          {station.state === "skipped" ? "skipped" : station.figure || WORDS[station.state]}
        </span>
      </Link>
    </li>
  );
}
