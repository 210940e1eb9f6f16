import type { PadJob, PadPlanInput } from "#contract";
import { api } from "../../app/api.ts";
import { documentKind, useDocument } from "../../app/document.ts";

const of = ({ version, plan }: PadJob) => ({ version, value: plan });

const PLAN = documentKind<PadPlanInput, PadJob>({
  name: "pads",
  read: "pads",
  of,
  send: (serviceId, { value, version, changes }, dispatch) =>
    dispatch(
      api.endpoints.changePads.initiate({ serviceId, body: { plan: value, version, changes } }, { track: false }),
    ),
});

/** The pad plan being made. */
export function usePlan(job: PadJob) {
  const { value, adopt, takeOver, ...kept } = useDocument(PLAN, job.serviceId, of(job));
  return {
    ...kept,
    plan: value,
    adopt: (from: PadJob): void => adopt(of(from)),
    takeOver: (from: PadJob): void => takeOver(of(from)),
  };
}

export type Plan = ReturnType<typeof usePlan>;
