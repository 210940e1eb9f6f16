import { leakGate } from "#core/coolers/index.ts";
import { coolersApi } from "./endpoints.ts";
import { fittedOf } from "./fitted.ts";
import { KIND_WORDS } from "./words.ts";

const GATE_WORDS = {
  dry: "",
  "to test": " Its loop was not tested for leaks.",
  leaking: " Its loop leaks.",
  tight: " Its loop was tested under pressure and is tight.",
  accepted: " Power was allowed without a finished leak test",
} as const;

/** What went on in place of the original cooler, for the record; the original’s screws are named, so that it can come back. */
export function CoolerLine({ serviceId }: { serviceId: string }) {
  const { data: job } = coolersApi.useCoolerJobQuery(serviceId);
  if (!job?.cooler) return null;
  const gate = leakGate(job.cooler, job.plan.leak);
  const answer = fittedOf(job);
  const keptOff = answer && "ok" in answer ? answer.ok.mounted.keptOff : [];
  return (
    <li>
      Another cooler: <strong>{job.cooler.name}</strong> ({KIND_WORDS[job.cooler.kind]}).{GATE_WORDS[gate]}
      {gate === "accepted" && `: ${job.plan.leak.accepted}.`}
      {keptOff.length > 0 && ` Screws of the original that stay with it: ${keptOff.join(", ")}.`}
    </li>
  );
}
