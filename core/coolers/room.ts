import type { Cooler } from "./drawing.ts";

/** Room a case leaves for the card; null where nobody said. */
export interface CaseRoom {
  slots: number | null;
  lengthMm: number | null;
}

export interface RoomFound {
  /** Slots of 20.32 mm (0.8 inch, the pitch of expansion slots) that the card takes with it. */
  slots: number | null;
  lengthMm: number | null;
  /** Bending moment where the card is held at its slot, N·m. */
  momentNm: number | null;
  supportAdvised: boolean | null;
  faults: string[];
}

const SLOT_MM = 20.32;
const GRAVITY = 9.81;
/** The slot's plane lies so far before the board's front (usual, from memory). */
const BEFORE_BOARD_MM = 2.67;
/** Beyond it a support under the card's free end is advised (common practice, no source; the workshop may change it). */
export const USUAL_MOMENT_LIMIT_NM = 1.2;

/**
 * What a cooler takes of a case's room and does to the slot. The moment is of its weight at the middle of its outline, about the slot's end of
 * the board; the board's own weight is left out.
 */
export function roomOf(
  { outline, heightMm, weightG }: Pick<Cooler, "outline" | "heightMm" | "weightG">,
  dieXMm: number,
  { slots: free, lengthMm: freeLengthMm }: CaseRoom,
  limitNm = USUAL_MOMENT_LIMIT_NM,
): RoomFound {
  const slots = heightMm === null ? null : Math.ceil((heightMm + BEFORE_BOARD_MM) / SLOT_MM - 0.02);
  const endMm = outline ? dieXMm + outline.xMm + outline.widthMm / 2 : null;
  const momentNm = weightG === null || !outline ? null : ((weightG / 1000) * GRAVITY * (dieXMm + outline.xMm)) / 1000;
  const faults: string[] = [];
  if (slots !== null && free !== null && slots > free) faults.push(`It takes ${slots} slots, the case has ${free}.`);
  if (endMm !== null && freeLengthMm !== null && endMm > freeLengthMm)
    faults.push(`It reaches ${Math.round(endMm)} mm from the slot, the case has ${Math.round(freeLengthMm)} mm.`);
  return { slots, lengthMm: endMm, momentNm, supportAdvised: momentNm === null ? null : momentNm > limitNm, faults };
}
