import type { ServiceView } from "#contract";
import { CYCLES_NEEDED, foldMarks, readCompoundPlan } from "#core/handwork/index.ts";
import { api } from "../../app/api.ts";
import { Note } from "../../ui/note.tsx";
import { useMarks } from "../steps/use-marks.ts";

/** A phase-change sheet settles over some heat cycles: how many it has had, by logs and test benches. */
export function CyclesNote({ service }: { service: ServiceView }) {
  const attempt = service.attempts.length;
  const { of } = useMarks(service.id, "compound", attempt, false);
  const plan = readCompoundPlan(foldMarks(of("compound", attempt)));
  const { data: facts } = api.useCompoundFactsQuery(service.id, { skip: plan?.kind !== "phase-change" });
  if (plan?.kind !== "phase-change" || !facts) return null;
  const { cycles } = facts;
  return cycles >= CYCLES_NEEDED ? (
    <p className="text-soft">
      {plan.name}: {cycles} heat cycles, {CYCLES_NEEDED} are enough. It can be measured.
    </p>
  ) : (
    <Note title={`${cycles} of ${CYCLES_NEEDED} heat cycles: measure after them`}>
      {plan.name} settles while it melts and sets again. The protocol “Heat cycles” below leads them on a test bench; a
      run before that shows it worse than it will be.
    </Note>
  );
}
