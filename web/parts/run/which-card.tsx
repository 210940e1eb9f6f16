import type { Mapping } from "#contract";
import { Button } from "../../ui/button.tsx";
import { figure } from "../../ui/format.ts";
import type { CardChoice } from "../../workers/run-session.ts";

export const cardWords = ({ name, meanPowerW }: Pick<CardChoice, "name" | "meanPowerW">): string =>
  `“${name}”${meanPowerW === null ? "" : ` at ${figure(meanPowerW, 0)} W`}`;

/** Several cards in one log: the question which one it is, with what each drew. */
export function WhichCard({ cards, onChoose }: { cards: readonly CardChoice[]; onChoose: (map: Mapping) => void }) {
  if (cards.length === 0) return null;
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="font-semibold">Which card is it?</span>
      {cards.map((card) => (
        <Button key={card.name} onClick={() => onChoose(card.mapping)}>
          {cardWords(card)}
        </Button>
      ))}
    </div>
  );
}
