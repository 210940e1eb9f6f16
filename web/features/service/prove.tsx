import { api } from "../../app/api.ts";
import { LinkButton } from "../../ui/button.tsx";
import { Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { DropRun } from "../run/drop-run.tsx";
import { StartLive } from "../test-bench/start-live.tsx";
import { likeRun } from "./baseline.tsx";
import { ComparisonSheet, NoPairNote } from "./comparison.tsx";
import type { StationProps } from "./page.tsx";
import { RunList } from "./run-list.tsx";
import { Skip } from "./skip.tsx";

/** The same runs again: did it help, and how sure is that? */
export function ProveStation({ cardId, service }: StationProps) {
  const before = service.runs.filter((run) => run.side === "before");
  const after = service.runs.filter((run) => run.side === "after");
  const { data: card } = api.useCardQuery(cardId);
  const { data: boards } = api.useBoardsQuery();
  const limits = boards?.find((board) => board.id === card?.boardModelId)?.limits ?? null;
  const paired = new Set(service.comparisons.flatMap((pair) => [pair.beforeId, pair.afterId]));
  return (
    <div className="space-y-4">
      {service.comparisons.map((pair) => {
        const was = before.find((run) => run.id === pair.beforeId);
        const is = after.find((run) => run.id === pair.afterId);
        return was && is ? (
          <ComparisonSheet
            key={`${pair.beforeId} ${pair.afterId}`}
            comparison={pair.comparison}
            before={was}
            after={is}
            limits={limits}
          />
        ) : null;
      })}
      {after.some((run) => !paired.has(run.id)) && <NoPairNote />}
      {after.length > 0 && (
        <div className="flex justify-end">
          <LinkButton to={`/cards/${cardId}/record`} look="main">
            Next: record
          </LinkButton>
        </div>
      )}
      {service.runs.length > 0 && (
        <div className="grid gap-4 lg:grid-cols-2">
          <Sheet title="Before the work">
            <RunList runs={before} />
            {before.length === 0 && <p className="text-soft">No baseline run.</p>}
          </Sheet>
          <Sheet title="After the work">
            <RunList runs={after} />
            {after.length === 0 && <p className="text-soft">Not yet: drop the log below.</p>}
          </Sheet>
        </div>
      )}
      {before.length === 0 && (
        <Note kind="caution" title="There is nothing to compare with">
          Without a baseline run the gain can’t be proved. Runs you add here are kept for the next service.
        </Note>
      )}
      <StartLive serviceId={service.id} side="after" />
      <DropRun serviceId={service.id} side="after" like={likeRun(before[after.length] ?? before.at(-1))} />
      {after.length === 0 && (
        <Skip
          service={service}
          station="prove"
          why="Without a run after the work nobody knows whether it helped or harmed."
        />
      )}
    </div>
  );
}
