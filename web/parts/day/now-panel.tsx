import { Hourglass, Thermometer } from "lucide-react";
import { Link } from "react-router";
import type { DayView } from "#contract";
import { LinkButton } from "../../ui/button.tsx";
import { blockPath, blockTitle, type Hands, handsNext, momentWords, thenNext } from "./words.ts";

/** Room for all that may stand here, from before it is planned: nothing below moves when it comes. */
const KEPT = "sm:min-h-60";

/** What needs hands now, largest; beside it what runs by itself and when it will call. */
export function NowPanel({ day, large = false }: { day: DayView; large?: boolean }) {
  const next = handsNext(day);
  const [first, ...others] = next;
  const isToCome = !day.plan && day.cards.length > 0;
  return (
    <div className={`mb-4 grid gap-4 ${large ? "" : "lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]"}`}>
      <section
        aria-label="Hands now"
        className={`rounded-xl border-2 border-ice bg-frost px-5 py-4 ${large || day.cards.length === 0 ? "" : KEPT}`}
      >
        {first ? (
          <First hands={first} day={day} large={large} />
        ) : (
          <p className="text-lg text-soft">{isToCome ? "Planning the day…" : "No card waits for hands."}</p>
        )}
        {first && <Then day={day} first={first} />}
        {others.length > 0 && (
          <ul className="mt-3 border-t border-line pt-2">
            {others.map((hands) => (
              <li key={hands.block.serviceId}>
                <span className="text-soft">{hands.person}:</span>{" "}
                <Link to={blockPath(hands.card, hands.block.id)} className="font-semibold text-ice hover:underline">
                  {blockTitle(hands.block.id, hands.card)}, {hands.card.name} {hands.card.serial}
                </Link>
                {!hands.isNow && <span className="text-soft"> from {momentWords(hands.block.startMs, day.atMs)}</span>}
              </li>
            ))}
          </ul>
        )}
      </section>
      <ByItself day={day} large={large} />
    </div>
  );
}

function First({
  hands: { block, card, person, isNow, why },
  day,
  large,
}: {
  hands: Hands;
  day: DayView;
  large: boolean;
}) {
  return (
    <div className="grid items-center gap-3 sm:grid-cols-[minmax(0,1fr)_auto]">
      <div className="min-w-0">
        <p className="text-sm font-semibold text-ice">
          {isNow ? "Hands now" : `No hands until ${momentWords(block.startMs, day.atMs)}, then`}
          {day.people.length > 1 && ` · ${person}`}
        </p>
        <p className={`font-bold break-words ${large ? "text-5xl" : "text-3xl"}`}>
          {block.kind === "bench" ? `Put on: ${blockTitle(block.id, card)}` : blockTitle(block.id, card)}
        </p>
        <p className={`font-semibold break-words ${large ? "text-3xl" : "text-xl"}`}>
          {card.name} <span className="font-normal text-soft">{card.serial}</span>
        </p>
        <p className="mt-1 text-soft">
          {why}
          {block.why !== "" && !isNow && ` It ${block.why}.`}
        </p>
      </div>
      {!large && (
        <LinkButton look="main" to={blockPath(card, block.id)}>
          Go to it
        </LinkButton>
      )}
    </div>
  );
}

function Then({ day, first }: { day: DayView; first: Hands }) {
  const later = thenNext(day, first, FEW);
  if (later.length === 0) return null;
  return (
    <p className="mt-3 border-t border-line pt-2 text-sm text-soft">
      Then{" "}
      {later.map(({ block, card }, index) => (
        <span key={`${block.serviceId} ${block.id}`}>
          {index > 0 && ", "}
          {momentWords(block.startMs, day.atMs)}{" "}
          <span className="font-medium text-ink">
            {blockTitle(block.id, card)} {card.name}
          </span>
        </span>
      ))}
    </p>
  );
}
const FEW = 3;

/** Runs and clocks, the one that calls first on top. */
function ByItself({ day, large }: { day: DayView; large: boolean }) {
  const blocks = (day.plan?.blocks ?? [])
    .filter(({ begun, kind }) => begun && kind !== "hands")
    .toSorted((a, b) => a.endMs - b.endMs);
  return (
    <section aria-label="Runs by itself" className="rounded-xl border border-line bg-sheet px-5 py-4">
      <h2 className="text-sm font-semibold text-soft">Runs by itself</h2>
      {blocks.length === 0 && <p className="mt-1 text-soft">Nothing runs, dries or sets.</p>}
      <ul className={large ? "text-2xl" : ""}>
        {blocks.map((block) => {
          const card = day.cards.find(({ serviceId }) => serviceId === block.serviceId);
          if (!card) return null;
          const Icon = block.kind === "bench" ? Thermometer : Hourglass;
          return (
            <li key={`${block.serviceId} ${block.id}`}>
              <Link to={blockPath(card, block.id)} className="flex min-h-11 items-center gap-2 hover:underline">
                <Icon aria-hidden className="size-5 shrink-0 text-soft" />
                <span className="min-w-0">
                  {blockTitle(block.id, card)}, <strong>{card.name}</strong> {card.serial}
                  <span className="text-soft"> calls at {momentWords(block.endMs, day.atMs)}</span>
                </span>
              </Link>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
