import type { CoolerJob, CoolerPlan } from "#contract";
import { api } from "../../app/api.ts";
import { documentKind, type Kept, useDocument } from "../../app/document.ts";

export const storedPlan = ({ version, plan }: CoolerJob) => ({ version, value: plan });

const PLAN = documentKind<CoolerPlan, CoolerJob>({
  name: "cooler-plan",
  read: "coolerJob",
  of: storedPlan,
  send: (serviceId, { value, version, changes }, dispatch) =>
    dispatch(
      api.endpoints.changeCoolerPlan.initiate({ serviceId, body: { plan: value, version, changes } }, { track: false }),
    ),
});

export const useCoolerPlan = (job: CoolerJob): Kept<CoolerPlan> => useDocument(PLAN, job.serviceId, storedPlan(job));

export interface CoolerPartProps {
  job: CoolerJob;
  plan: Kept<CoolerPlan>;
}
