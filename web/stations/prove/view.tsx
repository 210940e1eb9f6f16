import { USUAL_LIMITS } from "#contract";
import { leadingPair, mountAgain } from "#core/service/index.ts";
import { api } from "../../app/api.ts";
import { CyclesNote } from "../../parts/compound/cycles-note.tsx";
import { LeakNote } from "../../parts/cooler/leak-note.tsx";
import { StartLive } from "../../parts/live/start-live.tsx";
import { QuietSteps } from "../../parts/quiet/quiet-steps.tsx";
import { ComparisonSheet, NoPairNote } from "../../parts/run/comparison.tsx";
import { likeRun } from "../../parts/run/conditions.tsx";
import { DropRun } from "../../parts/run/drop-run.tsx";
import { RunList } from "../../parts/run/run-list.tsx";
import { NextLink } from "../../parts/service/next-link.tsx";
import { Skip } from "../../parts/service/skip.tsx";
import { Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import type { StationProps } from "../station.ts";
import { Attempts, MountAgain } from "./attempts.tsx";
import { PowerUp } from "./power-up.tsx";

/** The same runs again: did it help, and how sure is that? */
export function ProveStation({ cardId, service }: StationProps) {
  const before = service.runs.filter((run) => run.side === "before");
  const after = service.runs.filter((run) => run.side === "after");
  const { data: card } = api.useCardQuery(cardId);
  const { data: boards } = api.useBoardsQuery();
  const limits = boards?.find((board) => board.id === card?.boardModelId)?.limits ?? null;
  const paired = new Set(
    service.attempts.flatMap(({ comparisons }) => comparisons.flatMap((pair) => [...pair.beforeIds, ...pair.afterIds])),
  );
  const current = service.attempts.length;
  const lead = leadingPair(service.comparisons);
  const compared = after.find((run) => run.id === lead?.afterId)?.attempt ?? 0;
  // A new attempt that was not run yet is to be run, whatever the one before came to.
  const again = compared === current ? mountAgain(lead?.outcome) : undefined;
  const isWaiting = compared > 0 && compared < current;
  return (
    <div className="space-y-4">
      <LeakNote service={service} cardId={cardId} />
      <PowerUp service={service} />
      <CyclesNote service={service} />
      {again && <MountAgain cardId={cardId} serviceId={service.id} what={again} />}
      {isWaiting && (
        <Note title={`Attempt ${current}: run the same load again`}>
          {service.attempts.at(-1)?.changed || "It was mounted again"}. What follows is still of attempt {compared}.
        </Note>
      )}
      {service.comparisons.map((pair) => {
        const was = before.find((run) => run.id === pair.beforeId);
        const is = after.find((run) => run.id === pair.afterId);
        return was && is ? (
          <ComparisonSheet
            key={`${pair.beforeId} ${pair.afterId}`}
            pair={pair}
            before={was}
            after={is}
            limits={limits}
          />
        ) : null;
      })}
      {after.some((run) => run.leftOut === "" && !paired.has(run.id)) && <NoPairNote />}
      <Attempts attempts={service.attempts} compared={compared} />
      {compared > 0 && compared === current && !again && <NextLink cardId={cardId} service={service} from="prove" />}
      {after.length > 0 && <QuietSteps service={service} limits={limits ?? USUAL_LIMITS} />}
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
      <DropRun
        key={service.id}
        serviceId={service.id}
        side="after"
        like={likeRun(before[after.length] ?? before.at(-1))}
      />
      <StartLive serviceId={service.id} side="after" before={before} />
      {after.length === 0 && <Skip service={service} station="prove" />}
    </div>
  );
}
