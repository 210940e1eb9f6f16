import { useNavigate } from "react-router";
import type { Card, CardState, HistoryLine, ServiceView } from "#contract";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { Button } from "../../ui/button.tsx";
import { day, figure } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";

const stateWords = (state: CardState | null): string => {
  if (!state) return "no run";
  const rise = state.risesK.edge ?? state.risesK.hotspot;
  return [
    rise === undefined ? "room unknown" : `${figure(rise)} K over the room`,
    state.gap ? `gap ${figure(state.gap.meanK)} K` : "",
  ]
    .filter(Boolean)
    .join(", ");
};

/** What a card that came back was like, service by service, in one line. */
export function CardHistory({ cardId }: { cardId: string }) {
  const { data: lines = [] } = api.useHistoryQuery(cardId);
  if (lines.length < 2) return null;
  return (
    <ol
      aria-label="History of this card"
      className="no-print mb-4 flex flex-wrap gap-x-2 gap-y-1 rounded-lg border border-line bg-sheet px-3 py-2 text-sm"
    >
      {lines.map((line, at) => (
        <Step key={line.serviceId} line={line} isLast={at === lines.length - 1} />
      ))}
    </ol>
  );
}

function Step({ line: { openedAt, closedAt, ends, work }, isLast }: { line: HistoryLine; isLast: boolean }) {
  return (
    <li>
      <span className="font-semibold">{day(openedAt)}</span>: {stateWords(ends.before)}
      {(ends.after || work) && (
        <>
          {" "}
          → {work ?? "work"} → {stateWords(ends.after)}
        </>
      )}
      {!isLast && closedAt && <span className="text-soft"> · out {day(closedAt)} ·</span>}
    </li>
  );
}

/** A card that was handed over may come back: another service begins, with its history above it. */
export function BackAgain({ card, service }: { card: Card; service: ServiceView }) {
  const [begin, { error, isLoading }] = api.useBeginServiceMutation();
  const go = useNavigate();
  if (service.closedAt === null || card.deletedAt) return null;
  return (
    <div className="no-print mb-4">
      <Note title={`Handed over ${day(service.closedAt)}`}>
        <span className="flex flex-wrap items-center gap-3">
          What is here stays as it is.
          <Button
            disabled={isLoading}
            onClick={() =>
              void begin(card.id).then((made) => ("data" in made && made.data ? go(`/cards/${card.id}`) : undefined))
            }
          >
            The card is back: begin a new service
          </Button>
        </span>
      </Note>
      {faultOf(error) && <FaultNote error={error} />}
    </div>
  );
}
