import { useCallback } from "react";
import type { PadJob, PadPlanInput } from "#contract";
import { api } from "../../app/api.ts";
import { outboxKind, sentAnswer } from "../../app/outbox.ts";
import { useSaved } from "../../app/use-saved.ts";

const PLAN = outboxKind<PadPlanInput>({
  name: "pads",
  afterMs: 0,
  async send(serviceId, { value, version, changes }, dispatch) {
    const body = { plan: value, version, changes };
    const sending = dispatch(api.endpoints.changePads.initiate({ serviceId, body }, { track: false }));
    return sentAnswer(await sending, (job) => job.version);
  },
});

const storedOf = ({ version, plan }: PadJob) => ({ version, value: plan });

/** The pad plan being made. */
export function usePlan(job: PadJob) {
  const { value: plan, adopt: take, takeOver, ...saved } = useSaved(PLAN, job.serviceId, storedOf(job));
  const adopt = useCallback((from: PadJob): void => take(storedOf(from)), [take]);
  return { ...saved, plan, adopt, takeOver: (from: PadJob): void => takeOver(storedOf(from)) };
}

export type Plan = ReturnType<typeof usePlan>;
