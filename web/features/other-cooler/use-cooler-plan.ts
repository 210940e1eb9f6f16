import type { CoolerJob, CoolerPlan } from "#contract";
import { api } from "../../app/api.ts";
import { outboxKind, sentAnswer } from "../../app/outbox.ts";
import { type Saved, useSaved } from "../../app/use-saved.ts";

const PLAN = outboxKind<CoolerPlan>({
  name: "cooler-plan",
  afterMs: 0,
  async send(serviceId, { value, version, changes }, dispatch) {
    const body = { plan: value, version, changes };
    const sending = dispatch(api.endpoints.changeCoolerPlan.initiate({ serviceId, body }, { track: false }));
    return sentAnswer(await sending, (job) => job.version);
  },
});

export const storedPlan = ({ version, plan }: CoolerJob) => ({ version, value: plan });
export const useCoolerPlan = (job: CoolerJob): Saved<CoolerPlan> => useSaved(PLAN, job.serviceId, storedPlan(job));

export interface CoolerPartProps {
  job: CoolerJob;
  plan: Saved<CoolerPlan>;
}
