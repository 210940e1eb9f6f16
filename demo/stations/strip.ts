import {
  type CloseUpInput,
  closeUpSteps,
  foldMarks,
  outId,
  STEP,
  stripFound,
  stripSteps,
} from "#core/handwork/index.ts";
import { decide } from "#server/stations/decide/decide.ts";
import { addMarks, mapOf, until } from "../marks.ts";
import type { FillStation } from "../station.ts";

/** One card is being taken apart, another is being closed: one of its screws is of another size. */
export const fill: FillStation = async (context, serviceOf) => {
  const opening = serviceOf.get("BT12/83/0207");
  if (opening) {
    await decide(context, opening, { choice: "repaste", recommended: "repaste", reason: "" });
    const map = await mapOf(context, opening);
    const steps = stripSteps({ map, folded: foldMarks([]), turns: null, warmth: null });
    await addMarks(context, opening, "strip", until(steps, "layer:cooler"), 5);
  }
  const closing = serviceOf.get("OS40-5613");
  if (!closing) return;
  const map = await mapOf(context, closing);
  const steps = stripSteps({ map, folded: foldMarks([]), turns: null, warmth: null });
  const odd = {
    stepId: outId("S3"),
    what: "odd",
    value: "another size",
    text: "M2.5 × 9, the others are 7 mm",
  } as const;
  const marks = await addMarks(context, closing, "strip", steps, 95, [
    // Turned by the cross: what is begun so goes on so.
    { stepId: STEP.plan, what: "value", value: "cross", text: "" },
    odd,
  ]);
  const input: CloseUpInput = {
    map,
    folded: foldMarks([]),
    found: stripFound(map, foldMarks(marks)),
    turns: null,
    pads: { places: 0, films: 0 },
    compound: { name: "Grey paste, 8 W/mK", kind: "paste" },
    bow: null,
    apart: [],
    imprint: "",
    other: null,
  };
  await addMarks(context, closing, "closeUp", until(closeUpSteps(input), "tighten:"), 8);
};
