import type { Bead } from "../compound/index.ts";
import type { Clock } from "../service/index.ts";
import type { CompoundOn } from "./close-up.ts";
import { type Folded, foldMarks, isDone, type StepMark, valueOf } from "./marks.ts";
import { type HandStep, handStep } from "./step.ts";

/** What goes between die and plate, and how: chosen on the page, kept with the service. */
export interface CompoundPlan {
  materialId: string | null;
  name: string;
  kind: CompoundOn["kind"];
  pattern: string;
  beads: readonly Bead[];
  filmUm: number;
  bondLineUm: number;
  densityGPerMl: number | null;
  /** Inner width of the syringe's nozzle, mm. */
  nozzleMm: number;
}

export const COMPOUND = {
  plan: "plan",
  before: "weigh-before",
  put: "put",
  after: "weigh-after",
  end: "on",
} as const;

const READY = "Ready";
const ON = "Put it on";
const END = "Look";

/** A usual adhesive sets in so many hours (common practice, no source: what its maker states comes first). */
const CURE_H = 24;
const MS_A_MIN = 60_000;

export interface CompoundInput {
  plan: CompoundPlan | null;
  doseUl: number;
  die: { widthMm: number; heightMm: number } | null;
  /** Parts near the die that liquid metal must not reach. */
  mask: readonly string[];
  maskMm: number;
  marks: readonly StepMark[];
  folded: Folded;
  msOf: (at: string) => number;
}

/** A sheet is cut so much larger than the die on every side, mm (common practice, no source). */
const SHEET_OVER_MM = 1;

export function readCompoundPlan(folded: Folded): CompoundPlan | null {
  const kept = folded.get(COMPOUND.plan);
  if (!kept?.value) return null;
  try {
    const plan = JSON.parse(kept.text) as CompoundPlan;
    return Array.isArray(plan.beads) && Number.isFinite(plan.filmUm) && Number.isFinite(plan.bondLineUm) ? plan : null;
  } catch {
    return null;
  }
}

/** The steps of putting compound on; what they are depends on its kind. */
export function compoundSteps(input: CompoundInput): HandStep[] {
  const { plan } = input;
  if (!plan) return [];
  return [
    handStep("clean", "check", READY, "Die and plate are clean to a mirror and dry", { things: ["die"] }),
    ...own(input, plan),
    handStep(
      COMPOUND.end,
      "check",
      END,
      "Look at it from the side: nothing over the edge, no fluff, nothing forgotten",
      {
        things: ["die"],
        photo: true,
        detail: "Close it soon. A cooler that was put down and lifted again is pasted anew.",
      },
    ),
  ];
}

function own(input: CompoundInput, plan: CompoundPlan): HandStep[] {
  switch (plan.kind) {
    case "phase-change":
      return sheetSteps(input, plan);
    case "liquid metal":
      return liquidMetalSteps(input, plan);
    default:
      return [weighStep("before", plan), putStep(input, plan), weighStep("after", plan)];
  }
}

const weighStep = (when: "before" | "after", plan: CompoundPlan): HandStep =>
  handStep(
    COMPOUND[when],
    "figure",
    when === "before" ? READY : ON,
    when === "before" ? "Weigh the syringe before" : "Weigh the syringe after",
    {
      figure: { label: `${plan.name} with its syringe (g)`, unit: "g", least: 0, most: 1000, optional: true },
      detail:
        when === "before"
          ? "To a hundredth of a gram; both weights tell what was really used. May be left out."
          : "The same scales, the cap on or off as before.",
    },
  );

const putStep = ({ doseUl }: CompoundInput, plan: CompoundPlan): HandStep =>
  handStep(COMPOUND.put, "check", ON, `Put ${plan.name} on as drawn: ${plan.pattern}, ${figure(doseUl)} µL`, {
    things: ["die"],
    detail: doseWords(plan, doseUl),
    photo: true,
  });

const figure = (value: number): string => (value < 10 ? value.toFixed(1) : value.toFixed(0));

/** A dose as a hand can take it: in mg, and as so many mm of bead from this nozzle. */
export function doseWords({ densityGPerMl, nozzleMm }: CompoundPlan, doseUl: number): string {
  const beadMm = doseUl / ((Math.PI * nozzleMm ** 2) / 4);
  const mg = densityGPerMl === null ? "" : `${figure(doseUl * densityGPerMl)} mg, `;
  return `${mg}${figure(beadMm)} mm of bead from a nozzle of ${nozzleMm} mm.`;
}

const sheetSteps = ({ die, folded }: CompoundInput, plan: CompoundPlan): HandStep[] => [
  handStep(
    "cut",
    "check",
    READY,
    `Cut ${plan.name}${die ? ` to ${sheetSize(die)}` : " a little larger than the die"}`,
    {
      detail: `${SHEET_OVER_MM} mm beyond the die on every side, with both liners on. Cold it cuts and lies best.`,
      cautions: ["blade"],
    },
  ),
  handStep("liner-1", "check", ON, "Peel the first liner, lay the sheet on the plate, press it down", {
    detail: "On the plate, not on the die, where the imprint of the die was.",
  }),
  handStep(COMPOUND.put, "check", ON, "Peel the second liner", {
    detail: `A liner that is left on keeps all heat.${isDone(folded, "liner-1") ? "" : " Two in all."}`,
    photo: true,
  }),
  handStep("cycles", "check", END, "It settles over some heat cycles: measure after them", {
    detail: "Prove counts them from the runs.",
  }),
];

export const sheetSize = (die: { widthMm: number; heightMm: number }): string =>
  `${figure(die.widthMm + 2 * SHEET_OVER_MM)} × ${figure(die.heightMm + 2 * SHEET_OVER_MM)} mm`;

const liquidMetalSteps = (input: CompoundInput, plan: CompoundPlan): HandStep[] => [
  handStep(
    "mask",
    "check",
    READY,
    input.mask.length > 0
      ? `Mask ${input.mask.join(", ")}`
      : `Mask every part within ${input.maskMm} mm of the die: lacquer or tape`,
    {
      things: input.mask,
      detail: `Everything that conducts within ${input.maskMm} mm of the die, and the small parts on its package.`,
      cautions: ["liquidMetal"],
      photo: true,
    },
  ),
  weighStep("before", plan),
  handStep(COMPOUND.put, "check", ON, `A drop of ${figure(input.doseUl)} µL from the blunt needle onto the die`, {
    things: ["die"],
    detail: "Rub it with a swab to a hair-thin film that wets all of the die, to its corners.",
    cautions: ["liquidMetal"],
  }),
  handStep("plate", "check", ON, "Wet the plate the same way, where the die will lie", {
    detail: "Copper stains, nickel plate is fine. Never aluminium.",
    cautions: ["liquidMetal"],
  }),
  weighStep("after", plan),
  handStep("waste", "check", END, "Swabs, needle and gloves into the waste for it; tools away from aluminium", {
    cautions: ["liquidMetal"],
  }),
];

/** Heatsinks that are glued on: from when it sets, and the word that it is or is gone on with. */
export const GLUE = { on: "glue", set: "glue-set" } as const;

/** When adhesive under add-on heatsinks is set. */
export function cureClocks({ marks, folded, msOf }: Pick<CompoundInput, "marks" | "folded" | "msOf">): Clock[] {
  if (!isDone(folded, GLUE.on) || isDone(folded, GLUE.set)) return [];
  const glued = marks.findLast(({ stepId, what }) => stepId === GLUE.on && what === "done");
  const fromMs = glued ? msOf(glued.at) : Number.NaN;
  if (!Number.isFinite(fromMs)) return [];
  return [{ id: GLUE.set, what: "The adhesive sets", fromMs, untilMs: fromMs + CURE_H * 60 * MS_A_MIN }];
}

/** Grams that left the syringe; null where it was not weighed twice. */
export function usedGrams(folded: Folded): number | null {
  const [before, after] = [valueOf(folded, COMPOUND.before), valueOf(folded, COMPOUND.after)];
  // As fine as scales are: no dust of the subtraction goes into the stock.
  return before === null || after === null ? null : Math.round(1e4 * (Number(before) - Number(after))) / 1e4;
}

/** What does not add up about the weights, in words. */
export function compoundFault(stepId: string, folded: Folded, plannedMg: number | null): string {
  if (stepId !== COMPOUND.after) return "";
  const used = usedGrams(folded);
  if (used === null) return "";
  if (used <= 0) return "The syringe is not lighter than before: weigh it again, both times with or without its cap.";
  if (plannedMg !== null && 1000 * used > 3 * plannedMg)
    return `${Math.round(1000 * used)} mg went on, ${Math.round(plannedMg)} were planned: that is much. Wipe the rest off the edges, or weigh again.`;
  if (plannedMg !== null && 1000 * used < 0.6 * plannedMg)
    return `${Math.round(1000 * used)} mg went on, ${Math.round(plannedMg)} were planned: the die may stay bare at its corners. Add the rest.`;
  return "";
}

/** What a service's line is told. */
export function compoundProgress(
  marks: ReadonlyArray<StepMark & { attempt: number }>,
  attempt: number,
  msOf: (at: string) => number,
): { begun: boolean; finished: boolean; clocks: Clock[]; words: string } {
  const own = marks.filter((mark) => mark.attempt === attempt);
  const folded = foldMarks(own);
  const plan = readCompoundPlan(folded);
  return {
    begun: own.length > 0,
    finished: isDone(folded, COMPOUND.end),
    clocks: cureClocks({ marks: own, folded, msOf }),
    words: plan?.name ?? "compound on",
  };
}

/** What a record says of it; nothing while it is not on. */
export function compoundWords(marks: readonly StepMark[]): string[] {
  const folded = foldMarks(marks);
  const plan = readCompoundPlan(folded);
  if (!plan || !isDone(folded, COMPOUND.end)) return [];
  const used = usedGrams(folded);
  const amount = plan.kind === "phase-change" || used === null || used <= 0 ? "" : `, ${Math.round(1000 * used)} mg`;
  return [`${plan.name} between die and plate${plan.kind === "phase-change" ? "" : `, ${plan.pattern}`}${amount}.`];
}
