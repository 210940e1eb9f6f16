import { Link } from "react-router";
import { POWER_ON_ITEMS } from "#contract";
import { StartLive } from "../../parts/live/start-live.tsx";
import { Readings } from "../../parts/readings/readings.tsx";
import { likeRun } from "../../parts/run/conditions.tsx";
import { DropRun } from "../../parts/run/drop-run.tsx";
import { RunList } from "../../parts/run/run-list.tsx";
import { NextLink } from "../../parts/service/next-link.tsx";
import { Skip } from "../../parts/service/skip.tsx";
import { Caution } from "../../ui/caution.tsx";
import { Note } from "../../ui/note.tsx";
import type { StationProps } from "../station.ts";

/** Prove that it works, and how warm it runs, before touching it. */
export function BaselineStation({ cardId, service }: StationProps) {
  const runs = service.runs.filter((run) => run.side === "before");
  const failed = POWER_ON_ITEMS.filter((item) =>
    service.powerOn?.answers.some(({ id, answer }) => id === item.id && answer === "no"),
  );
  return (
    <div className="space-y-4">
      <Caution of="connect" />
      {failed.length > 0 && (
        <Note
          kind="caution"
          title={`At its first power-on: ${failed.map(({ fails }) => fails.toLowerCase()).join(", ")}`}
        >
          <Link to={`/cards/${cardId}/take-in`} className="font-medium text-ice hover:underline">
            Rule it out there
          </Link>{" "}
          before you load the card.
        </Note>
      )}
      {runs.length > 0 && (
        <>
          <RunList runs={runs} />
          <NextLink cardId={cardId} service={service} from="baseline" />
        </>
      )}
      <DropRun key={service.id} serviceId={service.id} side="before" like={likeRun(runs.at(-1))} />
      <p className="max-w-prose text-soft">
        Run the same load for 15 minutes or more, once with the fan fixed at 60 to 65 % and once automatic, and log room
        air. An automatic fan hides a gain: after a good service it only turns slower.
      </p>
      <StartLive serviceId={service.id} side="before" />
      <Readings serviceId={service.id} liveId={null} listens={false} />
      {runs.length === 0 && <Skip service={service} station="baseline" />}
    </div>
  );
}
