import type { CoolerJob } from "#contract";
import { type Cooler, leakGate } from "#core/coolers/index.ts";
import { api } from "../../app/api.ts";
import { fittedOf } from "./fitted.ts";
import { KIND_WORDS } from "./words.ts";

const GATE_WORDS = {
  dry: "",
  "to test": " Its loop was not tested for leaks.",
  leaking: " Its loop leaks.",
  tight: " Its loop was tested under pressure and is tight.",
  accepted: " Power was allowed without a finished leak test",
} as const;

/** What went on in place of the original cooler, or beside it, for the record; the original’s screws are named, so that it can come back. */
export function CoolerLine({ serviceId }: { serviceId: string }) {
  const { data: job } = api.useCoolerJobQuery(serviceId);
  if (!job) return null;
  return (
    <>
      {job.cooler && <Other job={job} cooler={job.cooler} />}
      {job.plan.heatsinks.length > 0 && (
        <li>
          Heatsinks of their own:{" "}
          {job.plan.heatsinks
            .map(({ partId, glued }) => `${partId} (${glued ? "glued, stays on" : "on an adhesive pad"})`)
            .join(", ")}
          .
        </li>
      )}
    </>
  );
}

function Other({ job, cooler }: { job: CoolerJob; cooler: Cooler }) {
  const gate = leakGate(cooler, job.plan.leak);
  const answer = fittedOf(job);
  const keptOff = answer && "ok" in answer ? answer.ok.mounted.keptOff : [];
  return (
    <li>
      Another cooler: <strong>{cooler.name}</strong> ({KIND_WORDS[cooler.kind]}).{GATE_WORDS[gate]}
      {gate === "accepted" && `: ${job.plan.leak.accepted}.`}
      {keptOff.length > 0 && ` Screws of the original that stay with it: ${keptOff.join(", ")}.`}
    </li>
  );
}
