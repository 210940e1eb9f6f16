import type { ServiceView } from "#contract";
import { leakGate } from "#core/coolers/index.ts";
import { api } from "../../app/api.ts";
import { LinkButton } from "../../ui/button.tsx";
import { Note } from "../../ui/note.tsx";

/** Where water runs through the cooler: no power before its loop was seen to be tight. */
export function LeakNote({ service, cardId }: { service: ServiceView; cardId: string }) {
  const { data: job } = api.useCoolerJobQuery(service.id);
  const gate = job?.cooler ? leakGate(job.cooler, job.plan.leak) : "dry";
  if (gate === "dry" || gate === "tight") return null;
  return (
    <Note
      kind={gate === "accepted" ? "caution" : "fault"}
      title={
        gate === "leaking"
          ? "Its loop leaks: no power before it is mended"
          : gate === "accepted"
            ? "Power was allowed without a finished leak test"
            : "Its loop has to be tested for leaks before any power"
      }
    >
      {gate === "accepted" ? (
        job?.plan.leak.accepted
      ) : (
        <LinkButton className="mt-2" look="main" to={`/cards/${cardId}/cooler?part=leak`}>
          To the leak test
        </LinkButton>
      )}
    </Note>
  );
}
