import type { FanDrive, LoadInLog } from "#core/soak/index.ts";
import { Button } from "../../ui/button.tsx";
import { TextField } from "../../ui/field.tsx";
import { figure, span } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { Columns } from "./columns.tsx";
import { Conditions, type TypedConditions } from "./conditions.tsx";
import { type NewRunProps, useNewRun } from "./use-new-run.ts";
import type { ReadLog } from "./use-read-log.ts";
import { cardWords, WhichCard } from "./which-card.tsx";

/** One dropped log: what its columns are, under which conditions it ran, and keeping it. */
export function NewRun(props: NewRunProps) {
  const { file, waiting, onDone } = props;
  const { log, typed, type, fault, errors, isLoading, keep } = useNewRun(props);
  const { view, problem, loads, taken } = log;
  const hasRoomColumn = view?.columns.some((column) => column.role === "ambient") ?? false;
  return (
    <Sheet
      title={file.name}
      action={waiting > 0 ? <span className="text-sm text-soft">{waiting} more waiting</span> : undefined}
    >
      {!view && !problem && <Reading share={log.share} />}
      {problem && <ReadProblem log={log} onDiscard={onDone} />}
      {view && !problem && (
        <form
          noValidate
          className="space-y-5"
          onSubmit={(event) => {
            event.preventDefault();
            void keep();
          }}
        >
          <OtherCards log={log} />
          <p>
            {view.rows.toLocaleString("en")} rows over {span(view.durationS)} minutes.
          </p>
          <Loads loads={loads} taken={taken} onTake={log.setTaken} />
          {!hasRoomColumn && typed.ambientC === "" && (
            <Note kind="caution" title="Room air is missing">
              The run can be kept, but its rises can’t be computed and it can’t be compared. Type the room air below, or
              add it later.
            </Note>
          )}
          <Conditions value={typed} onChange={type} errors={errors} hasRoomColumn={hasRoomColumn} />
          <OtherFan fan={log.fan} mode={typed.fanMode} />
          <Columns folded columns={view.columns} onRole={log.setRole} />
          <FaultNote fault={fault} />
          <div className="sticky bottom-0 -mx-2 flex flex-wrap justify-end gap-2 border-t border-line bg-sheet px-2 py-2">
            <Button onClick={onDone}>Discard this file</Button>
            <Button
              look="main"
              type="submit"
              disabled={isLoading || !log.isJudged || (loads.length > 1 && taken.length === 0)}
            >
              {isLoading ? "Keeping the run…" : taken.length > 1 ? `Keep ${taken.length} runs` : "Keep this run"}
            </Button>
          </div>
        </form>
      )}
    </Sheet>
  );
}

function Reading({ share }: { share: number }) {
  return (
    <p role="status">
      Reading: {Math.round(share * 100)} %
      <progress className="ml-3 align-middle" value={share} max={1} aria-label="Reading the log" />
    </p>
  );
}

/** What to do about it on this page, where that is something else than on the command line. */
const HERE: Partial<Record<string, string>> = {
  "no-time": "Type the seconds between two rows, or choose the time column.",
  "which-card": "Choose the one this service is about.",
};

function ReadProblem({ log, onDiscard }: { log: ReadLog; onDiscard: () => void }) {
  const { problem, interval } = log;
  if (!problem) return null;
  return (
    <div className="space-y-3">
      <Note kind={problem.code === "which-card" ? "caution" : "fault"} title={problem.what} live>
        {HERE[problem.code] ?? problem.remedy} Nothing else was changed.
      </Note>
      {problem.code === "no-time" && (
        <div className="flex items-end gap-2">
          <TextField
            label="Seconds between rows"
            inputMode="decimal"
            value={interval}
            onChange={(event) => log.setInterval(event.target.value)}
          />
          <Button onClick={log.readAgain}>Read again</Button>
        </div>
      )}
      <WhichCard cards={log.cards} onChoose={log.chooseCard} />
      <Button onClick={onDiscard}>Discard this file</Button>
    </div>
  );
}

/** A log of several cards: whose columns are taken, and a way to another’s. */
function OtherCards({ log: { view, cards, chooseCard, lookForCards } }: { log: ReadLog }) {
  if (!view || view.cards.length < 2) return null;
  return (
    <div className="space-y-2">
      <Note title={`This log holds ${view.cards.length} cards`}>
        Taken: {view.cards.flatMap((card) => (card.chosen ? [cardWords(card)] : [])).join(", ")}. Columns of the others
        are left out.
      </Note>
      {cards.length > 0 ? (
        <WhichCard cards={cards} onChoose={chooseCard} />
      ) : (
        <Button onClick={() => void lookForCards()}>Take another card</Button>
      )}
    </div>
  );
}

function OtherFan({ fan, mode }: { fan: FanDrive | null; mode: TypedConditions["fanMode"] }) {
  if (!fan || mode === "unknown" || mode === fan.mode) return null;
  return (
    <Note kind="caution" title={`By its log the fan was ${fan.mode}`}>
      {fan.mode === "automatic"
        ? "It moves with the temperature under load. Choose Automatic, unless it was set anew by hand on the way."
        : "It stands still under load while the card warms up. Choose Fixed, unless its curve is flat there."}
    </Note>
  );
}

/** Several loads in one log: which of them become runs. */
function Loads({
  loads,
  taken,
  onTake,
}: {
  loads: readonly LoadInLog[];
  taken: readonly number[];
  onTake: (taken: readonly number[]) => void;
}) {
  if (loads.length < 2) return null;
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold">This log holds {loads.length} loads. Each that you tick becomes a run.</legend>
      {loads.map(({ index, fromS, toS, meanPowerW, steady, chosen }) => (
        <label key={index} className="flex min-h-9 flex-wrap items-center gap-x-3">
          <input
            type="checkbox"
            className="size-5"
            checked={taken.includes(index)}
            onChange={(event) =>
              onTake(
                event.target.checked ? [...taken, index].sort((a, b) => a - b) : taken.filter((one) => one !== index),
              )
            }
          />
          <span className="font-semibold">
            {span(fromS)} to {span(toS)} min
          </span>
          <span>
            {meanPowerW === null ? "" : `${figure(meanPowerW, 0)} W, `}
            {steady ? "came to rest" : "had not settled"}
            {chosen ? (steady ? ": the longest that came to rest" : ": the longest") : ""}
          </span>
        </label>
      ))}
    </fieldset>
  );
}
