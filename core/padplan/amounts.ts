import type { BoardMap } from "../boardmap/index.ts";
import { PASTE_MOST_MM, type PadMaterial, type Picks, placesOf } from "./picks.ts";

/** How much of a putty or paste the picks of a map take. */
export interface SpreadAmount {
  materialId: string;
  volumeMl: number;
  forParts: string[];
}

/** Some stays on the tool and at the edges (common practice). */
const LOST_SHARE = 0.15;

/** Putty and paste by volume: area of each place times how thick it is put on, and a little for the tool. Nothing is said of pads. */
export function spreadOf(
  map: BoardMap,
  picks: Picks,
  materials: ReadonlyArray<Pick<PadMaterial, "id" | "form">>,
): SpreadAmount[] {
  const amounts = new Map<string, SpreadAmount>();
  for (const part of placesOf(map)) {
    const pick = picks[part.id];
    const form = materials.find((one) => one.id === pick?.materialId)?.form;
    if (!pick || (form !== "putty" && form !== "paste")) continue;
    const thickMm = form === "paste" ? Math.min(pick.thicknessMm, PASTE_MOST_MM) : pick.thicknessMm * pick.layers;
    const amount = amounts.get(pick.materialId) ?? { materialId: pick.materialId, volumeMl: 0, forParts: [] };
    amount.volumeMl += ((1 + LOST_SHARE) * pick.widthMm * pick.heightMm * thickMm) / 1000;
    amount.forParts.push(part.id);
    amounts.set(pick.materialId, amount);
  }
  return [...amounts.values()];
}
