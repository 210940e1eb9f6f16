import { fanSteps, foldMarks } from "#core/handwork/index.ts";
import { skipStation } from "#server/services/services.ts";
import { decide } from "#server/stations/decide/decide.ts";
import { addMarks, until } from "../marks.ts";
import type { FillStation } from "../station.ts";

const kept = (value: number, u95: number, stopsAfterS: number): string =>
  JSON.stringify({ dry: { value, u95 }, stopsAfterS });
const value = (stepId: string, text: string) => ({ stepId, what: "value", value: text, text: "" }) as const;

/** One card has a stiff fan beside a free one, both recorded while they coasted down. */
export const fill: FillStation = async (context, serviceOf) => {
  const service = serviceOf.get("BT12/84/0031");
  if (!service) return;
  await decide(context, service, { choice: "fans", recommended: "fans", reason: "" });
  await skipStation(context, service, "clean", "Clean already, hardly any dust");
  const steps = fanSteps({ folded: foldMarks([]), known: 2 });
  await addMarks(context, service, "fans", until(steps, "deed:2"), 4, [
    value("blade-count:1", "9"),
    value("blade-count:2", "9"),
    value("coast:1:before", kept(6.2, 0.5, 10.6)),
    value("coast:2:before", kept(13.1, 0.9, 6.1)),
    value("part-number:2", "TF-92-09 B"),
    value("size:2", "92"),
  ]);
};
