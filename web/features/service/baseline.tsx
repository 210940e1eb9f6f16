import type { Run } from "#contract";
import { LinkButton } from "../../ui/button.tsx";
import { Note } from "../../ui/note.tsx";
import { Readings } from "../readings/readings.tsx";
import type { TypedConditions } from "../run/conditions.tsx";
import { typedFrom } from "../run/conditions.tsx";
import { DropRun } from "../run/drop-run.tsx";
import { StartLive } from "../test-bench/start-live.tsx";
import type { StationProps } from "./page.tsx";
import { RunList } from "./run-list.tsx";
import { Skip } from "./skip.tsx";

/** Conditions of an earlier run, offered for the next; room air is measured each time. */
export function likeRun(run: Run | undefined): Partial<TypedConditions> {
  if (!run) return {};
  const { ambientC: _ambient, ambientU95K: _width, ...rest } = typedFrom(run);
  return rest;
}

/** Prove that it works, and how warm it runs, before touching it. */
export function BaselineStation({ cardId, service }: StationProps) {
  const runs = service.runs.filter((run) => run.side === "before");
  return (
    <div className="space-y-4">
      <Note kind="caution" title="Before you plug it in">
        Supply off while you connect. Mains and charged capacitors can kill: never open a power supply. Local rules and
        licensed practice come first.
      </Note>
      {runs.length > 0 && (
        <>
          <RunList runs={runs} />
          <div className="flex justify-end">
            <LinkButton to={`/cards/${cardId}/decide`} look="main">
              Next: decide
            </LinkButton>
          </div>
        </>
      )}
      <p className="max-w-prose text-soft">
        Run the same load for 15 minutes or more, once with the fan fixed at 60 to 65 % and once automatic, and log room
        air. An automatic fan hides a gain: after a good service it only turns slower.
      </p>
      <StartLive serviceId={service.id} side="before" />
      <DropRun serviceId={service.id} side="before" like={likeRun(runs.at(-1))} />
      <Readings serviceId={service.id} liveId={null} />
      {runs.length === 0 && (
        <Skip
          service={service}
          station="baseline"
          why="Without a baseline a later fault can’t be told from an old one, and no gain can be proved."
        />
      )}
    </div>
  );
}
