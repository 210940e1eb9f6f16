import type { PadJob } from "#contract";
import type { BoardMap } from "#core/boardmap/index.ts";
import { inferGaps } from "#core/gaps/index.ts";
import { gapPlaces } from "#core/padplan/index.ts";

/** Gaps of a map's pad places: from readings of this card and earlier ones, and what a guide gives. */
export function gapsOf(map: BoardMap, { readings, serviceId }: Pick<PadJob, "readings" | "serviceId">) {
  const guides = map.parts.flatMap((part) =>
    part.guideMm === null
      ? []
      : [
          {
            id: `guide ${part.id}`,
            partId: part.id,
            source: "guide" as const,
            valueMm: part.guideMm,
            padState: "unknown" as const,
            softness: "unknown" as const,
            card: "guide",
          },
        ],
  );
  return inferGaps(gapPlaces(map), [...guides, ...readings], serviceId);
}
