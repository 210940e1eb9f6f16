import { Link } from "react-router";
import type { DayCardView, DayTerms, DayView } from "#contract";
import type { PlannedBlock } from "#core/day/index.ts";
import { Button } from "../../ui/button.tsx";
import { SelectField, TextField } from "../../ui/field.tsx";
import { Sheet } from "../../ui/page.tsx";
import { blockPath, blockTitle, momentWords, roundUp } from "./words.ts";

interface Props {
  day: DayView;
  block: PlannedBlock;
  card: DayCardView;
  onTerms: (card: DayCardView, more: Partial<DayTerms>) => void;
  onLetGo: (card: DayCardView, id: string) => void;
}

const WEIGHTS = [
  [0.5, "can wait"],
  [1, "as usual"],
  [3, "matters"],
  [10, "before all others"],
] as const;

/** One step of the plan: when, why not earlier, what is promised of its card. */
export function BlockDetail({ day, block, card, onTerms, onLetGo }: Props) {
  const kept = day.plan?.kept.find(({ serviceId }) => serviceId === card.serviceId);
  const { promisedAt, weight, returnBy } = card.terms;
  return (
    <Sheet
      title={`${blockTitle(block.id, card)}, ${card.name} ${card.serial}`}
      action={
        <Link to={blockPath(card, block.id)} className="min-h-11 content-center font-medium text-ice hover:underline">
          Go to it
        </Link>
      }
    >
      <p>
        <strong>
          {momentWords(block.startMs, day.atMs)} to {momentWords(block.endMs, day.atMs)}
        </strong>
        {block.begun && ", begun"}
        {block.why !== "" && `. Not earlier: ${block.why}.`}
      </p>
      {block.held && (
        <p className="mt-1">
          <Button look="quiet" onClick={() => onLetGo(card, block.id)}>
            Let it go
          </Button>
        </p>
      )}
      {kept && (
        <p className="mt-2">
          The card is done by {momentWords(kept.endMs, day.atMs)} as planned; nine times in ten by{" "}
          {momentWords(kept.surelyMs, day.atMs)}.
          {kept.chance !== null && (
            <strong className={kept.chance < 0.9 ? "text-amber" : ""}>
              {" "}
              Its promise is kept with {Math.round(100 * kept.chance)} %.
            </strong>
          )}
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <div className="w-60">
          <TextField
            label="Promised for"
            type="datetime-local"
            key={promisedAt}
            defaultValue={promisedAt ? localText(promisedAt) : ""}
            onBlur={(event) => {
              const { value } = event.target;
              const next = value === "" ? null : new Date(value).toISOString();
              if (next !== promisedAt) onTerms(card, { promisedAt: next });
            }}
          />
        </div>
        {kept && !promisedAt && (
          <Button onClick={() => onTerms(card, { promisedAt: new Date(roundUp(kept.surelyMs)).toISOString() })}>
            Promise {momentWords(roundUp(kept.surelyMs), day.atMs)}
          </Button>
        )}
        <div className="w-44">
          <SelectField
            label="Being late"
            value={weight}
            onChange={(event) => onTerms(card, { weight: Number(event.target.value) })}
          >
            {!WEIGHTS.some(([value]) => value === weight) && <option value={weight}>weighs {weight}</option>}
            {WEIGHTS.map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </SelectField>
        </div>
        <div className="w-44">
          <TextField
            label="Can be given back until"
            type="date"
            key={returnBy}
            defaultValue={returnBy ?? ""}
            onBlur={(event) => {
              const next = event.target.value || null;
              if (next !== returnBy) onTerms(card, { returnBy: next });
            }}
          />
        </div>
      </div>
    </Sheet>
  );
}

/** As a field for day and time wants it, in the clock of whoever looks. */
function localText(iso: string): string {
  const at = new Date(iso);
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}
