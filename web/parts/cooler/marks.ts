import { DIE_ID } from "#core/boardmap/index.ts";
import type { Cooler, FaceUse, Fit } from "#core/coolers/index.ts";
import type { PlanMark, PlanMarks } from "../../ui/board-plan.tsx";

const level = (mm: number): string => (mm < 0 ? `−${-mm}` : `+${mm}`);

/** Hatch and word tell what a face is for; colour never does alone. */
const FACE_MARKS: Readonly<Record<FaceUse, PlanMark>> = { pad: { hatchMm: 1 }, paste: { wash: 0.5 }, none: {} };

/** What is written on the plan of a cooler. */
export const coolerMarks = ({ plate, faces, fans }: Cooler): PlanMarks => ({
  ...(plate ? { [DIE_ID]: { text: `Plate ${plate.metal === "aluminium" ? "aluminium" : "copper"}`, wash: 0.15 } } : {}),
  ...Object.fromEntries(
    faces.map((face) => [
      face.id,
      { ...FACE_MARKS[face.for], text: `${face.id} ${face.for === "none" ? "" : face.for} ${level(face.levelMm)}` },
    ]),
  ),
  ...Object.fromEntries(fans.map(({ id }) => [id, { text: id }])),
});

/** What a fit says of each part: its gap, that nothing reaches it, or by how much it stands too tall. */
export function fitMarks(fit: Fit): PlanMarks {
  const marks: Record<string, NonNullable<PlanMarks[string]>> = {};
  for (const id of fit.uncovered) marks[id] = { text: id, tone: "amber" };
  for (const { partId, gapMm } of fit.gaps.toReversed())
    marks[partId] = {
      text: gapMm === null ? `${partId} ?` : gapMm.toFixed(2),
      ...(gapMm === null ? {} : { hatchMm: Math.max(0.5, Math.round(gapMm * 2) / 2) }),
    };
  for (const { partId, byMm } of fit.collisions) marks[partId] = { text: `+${byMm.toFixed(2)}`, tone: "danger" };
  return marks;
}
