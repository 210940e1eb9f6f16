import { countOf, type StationRule } from "../../service/index.ts";
/** What the station's folder loads: thickness of every pad that is planned, mm. */
export interface PadFacts {
  thicknessesMm: readonly number[];
}

/** Choices with which pads come up by themselves. */
const WITH_PADS: readonly string[] = ["pads", "premium", "cooler"];

export const padsRule: StationRule<PadFacts> = {
  todo: "Measure the pads, choose, cut",
  mayRunAhead: true,
  figure(_facts, { thicknessesMm }) {
    if (thicknessesMm.length === 0) return "";
    const kinds = [...new Set(thicknessesMm)].sort((a, b) => a - b);
    return `${countOf(thicknessesMm.length, "pad")} · ${kinds.join(", ")} mm`;
  },
  done: (_facts, { thicknessesMm }) => thicknessesMm.length > 0,
  // Once work is noted, the pads have been dealt with.
  wanted: ({ choice, work }) => choice !== null && WITH_PADS.includes(choice) && work.length === 0,
};
