import { cleanSteps, foldMarks, stripSteps } from "#core/handwork/index.ts";
import { decide } from "#server/stations/decide/decide.ts";
import { addMarks, mapOf, until } from "../marks.ts";
import type { FillStation } from "../station.ts";

/** One card is being cleaned: its heatsink was washed forty minutes ago and rests. */
export const fill: FillStation = async (context, serviceOf) => {
  const service = serviceOf.get("OS40-5702");
  if (!service) return;
  await decide(context, service, { choice: "repaste", recommended: "repaste", reason: "" });
  const map = await mapOf(context, service);
  await addMarks(context, service, "strip", stripSteps({ map, folded: foldMarks([]), turns: null, warmth: null }), 120);
  const room = { airC: 22, humidityPct: 50 };
  const said = { id: "", text: "", at: "" };
  const folded = foldMarks([
    { ...said, stepId: "pads-off", what: "value", value: "off" },
    { ...said, id: "2", stepId: "school", what: "value", value: "wash" },
    { ...said, id: "3", stepId: "dirt", what: "value", value: "smoke" },
  ]);
  const steps = cleanSteps({ map, marks: [], folded, room, nowMs: 0, msOf: Date.parse });
  await addMarks(context, service, "clean", until(steps, "rest:"), 40);
};
