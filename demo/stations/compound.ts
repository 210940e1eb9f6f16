import { patternOf } from "#core/compound/index.ts";
import { COMPOUND, type CompoundPlan, compoundSteps, foldMarks, stripSteps } from "#core/handwork/index.ts";
import { skipStation } from "#server/services/services.ts";
import { readStores } from "#server/services/stores.ts";
import { decide } from "#server/stations/decide/decide.ts";
import { addMarks, mapOf, until } from "../marks.ts";
import type { FillStation } from "../station.ts";

const DOSE_UL = 26;

/** One card has its compound chosen and drawn, and the syringe weighed. */
export const fill: FillStation = async (context, serviceOf) => {
  const service = serviceOf.get("OF70-12055");
  if (!service) return;
  await decide(context, service, { choice: "repaste", recommended: "repaste", reason: "" });
  await skipStation(context, service, "clean", "Clean already, hardly any dust");
  const map = await mapOf(context, service);
  if (!map.die) return;
  await addMarks(context, service, "strip", stripSteps({ map, folded: foldMarks([]), turns: null, warmth: null }), 80);
  const { materials } = await readStores(context);
  const paste = materials.find(({ kind, conductivityWPerMK }) => kind === "paste" && conductivityWPerMK !== null);
  const plan: CompoundPlan = {
    materialId: paste?.id ?? null,
    name: paste?.name ?? "Good paste",
    kind: "paste",
    pattern: "a cross",
    ...patternOf("cross", map.die, DOSE_UL),
    bondLineUm: 38,
    densityGPerMl: paste?.densityGPerMl ?? 2.5,
    nozzleMm: 2,
  };
  const steps = compoundSteps({
    plan,
    doseUl: DOSE_UL,
    die: map.die,
    mask: [],
    maskMm: 4,
    marks: [],
    folded: foldMarks([]),
    msOf: Date.parse,
  });
  await addMarks(context, service, "compound", until(steps, COMPOUND.put), 6, [
    { stepId: COMPOUND.plan, what: "value", value: plan.kind, text: JSON.stringify(plan) },
    { stepId: "plate", what: "value", value: "copper", text: "" },
    { stepId: COMPOUND.before, what: "value", value: "12.41", text: "" },
  ]);
};
