import { useCallback, useState } from "react";
import type { PadJob, PadPlanInput } from "#contract";
import { outboxKind, sentAnswer } from "../../app/outbox.ts";
import { useOutbox } from "../../app/use-outbox.ts";
import { padsApi } from "./endpoints.ts";

const PLAN = outboxKind<PadPlanInput>({
  name: "pads",
  afterMs: 0,
  async send(serviceId, { value, version, changes }, dispatch) {
    const body = { plan: value, version, changes };
    const sending = dispatch(padsApi.endpoints.changePads.initiate({ serviceId, body }, { track: false }));
    return sentAnswer(await sending, (job) => job.version);
  },
});

/** The pad plan being made: shown at once, saved by itself, kept in the browser while the server is away. */
export function usePlan(job: PadJob) {
  const {
    value,
    phase,
    fault,
    change,
    adopt: adoptVersion,
    takeOver,
    settled,
  } = useOutbox(PLAN, job.serviceId, job.version);
  const [plan, setPlan] = useState(value ?? job.plan);
  const [asked, setAsked] = useState(false);
  /** What the server has become by another way than this page's own saving: booking, another window. */
  const adopt = useCallback(
    (from: PadJob): void => {
      adoptVersion(from.version);
      setPlan(from.plan);
      setAsked(false);
    },
    [adoptVersion],
  );
  return {
    plan,
    fault: phase === "conflict" ? null : fault,
    conflict: asked || phase === "conflict",
    change: (more: Partial<PadPlanInput>): void => {
      const next = { ...plan, ...more };
      setPlan(next);
      change(next);
    },
    adopt,
    settled,
    showConflict: () => setAsked(true),
    takeOver: (from: PadJob): void => {
      setAsked(false);
      change(plan);
      takeOver(from.version);
    },
  };
}

export type Plan = ReturnType<typeof usePlan>;
