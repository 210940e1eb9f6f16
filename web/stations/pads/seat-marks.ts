import { IS_FAULT } from "#core/contact/index.ts";
import type { Judgement, PadWork } from "#core/padplan/index.ts";
import type { PlanMarks } from "../../ui/board-plan.tsx";

/** What the plan can show of a judgement. */
export const SHOWN = [
  { value: "pressure", label: "Pressure" },
  { value: "squeeze", label: "Squeeze" },
  { value: "heat", label: "Temperature" },
  { value: "bow", label: "Board bow" },
] as const;
export type Shown = (typeof SHOWN)[number]["value"];

/** From where to where the board is bent, so that the shades can be read. */
export function bowWords(judgement: Judgement | null): string {
  const off = judgement?.bow.offMm ?? [];
  const [low, high] = [Math.min(0, ...off), Math.max(0, ...off)];
  return `Against the plane of the die: strongest blue ${high.toFixed(2)} mm toward the cooler, faintest ${Math.abs(low).toFixed(2)} mm away from it.`;
}

export const SCALE_WORDS: Record<Exclude<Shown, "bow">, string> = {
  pressure: "The second figure is the pressure in kPa: the stronger the blue, the more, up to 500.",
  squeeze: "The second figure is how far the pad is squeezed: the stronger the blue, the more, up to 50 %.",
  heat: "The second figure is the estimated °C: the stronger the blue, the hotter, up to 40 K above the cooler face.",
};

export function marksOf(
  ids: readonly string[],
  picks: PadWork["picks"],
  judgement: Judgement | null,
  shown: Shown,
): PlanMarks {
  const marks: Record<string, PlanMarks[string]> = {};
  for (const id of ids) {
    const pick = picks[id];
    const found = judgement?.places.find((one) => one.id === id);
    const warning = judgement?.contact.warnings.find((one) => one.id === id);
    const figures = found && {
      pressure: [found.pressureKPa / 500, found.pressureKPa.toFixed(0)],
      squeeze: [found.compressionPct / 50, `${found.compressionPct.toFixed(0)}%`],
      heat: [found.heat.riseK / 40, `${found.temperatureC.toFixed(0)}°`],
      bow: [undefined, ""],
    };
    const [wash, words] = figures?.[shown] ?? [undefined, ""];
    marks[id] = {
      text: pick
        ? [`${pick.thicknessMm}${pick.layers > 1 ? `×${pick.layers}` : ""}`, words].filter(Boolean).join(" ")
        : "–",
      ...(pick ? { hatchMm: pick.thicknessMm } : {}),
      ...(pick && typeof wash === "number" ? { wash } : {}),
      ...(warning ? { tone: IS_FAULT[warning.code] ? "danger" : "amber" } : {}),
    };
  }
  if (judgement && !judgement.seated) marks.die = { tone: "danger" };
  return marks;
}
