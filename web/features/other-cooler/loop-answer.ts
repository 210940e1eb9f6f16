import type { CoolerPlan } from "#contract";
import { type Cooler, type LoopFound, waterLoop } from "#core/coolers/index.ts";
import { Problem, type ProblemDetail } from "#core/problem/index.ts";

export type Loop = NonNullable<CoolerPlan["loop"]>;

/** Where no run says what the card takes. */
export const USUAL_POWER_W = 250;

/** Where a loop comes to rest with its radiators’ fans at a speed, or what is missing to say so. */
export function loopAnswer(
  loop: Loop,
  cooler: Cooler,
  powerW: number,
  fanRpm: number,
): { ok: LoopFound } | { problem: ProblemDetail } {
  try {
    return {
      ok: waterLoop({
        pump: loop.pump,
        losses: [cooler.water?.losses ?? [], ...loop.radiators.map(({ losses }) => losses)].filter(
          (points) => points.length > 0,
        ),
        tube: { lengthMm: loop.tubeMm, boreMm: loop.boreMm, bends: loop.bends },
        radiators: loop.radiators.map(({ cooling }) => cooling),
        fanRpm,
        powerW,
        block: cooler.water?.block ?? [],
        insideMl:
          loop.reservoirMl +
          (cooler.water?.insideMl ?? 0) +
          loop.radiators.reduce((sum, { insideMl }) => sum + insideMl, 0),
      }),
    };
  } catch (error) {
    if (error instanceof Problem) return { problem: error.detail() };
    throw error;
  }
}
