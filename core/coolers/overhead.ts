import type { Box } from "../boardmap/index.ts";
import type { FitFace } from "./input.ts";

const EPS = 1e-6;

interface Under {
  /** Level of the lowest thing of the cooler above the part; null in free air. */
  lowestMm: number | null;
  /** Faces meant for pad or paste over it, the one that covers most first. */
  taking: FitFace[];
}

/**
 * What of the cooler stands above a part. Where a face is drawn over the plate it is the plate's surface there (a pocket, or a step): the plate
 * counts only where no face lies over it.
 */
export function underOf(part: Box, plate: Box, faces: readonly FitFace[]): Under {
  const over = faces
    .map((face) => ({ face, common: common(part, face) }))
    .filter((one): one is { face: FitFace; common: Box } => one.common !== null);
  const onPlate = common(part, plate);
  const bare =
    onPlate !== null &&
    !coveredBy(
      onPlate,
      over.map(({ face }) => face),
    );
  const levels = [...over.map(({ face }) => face.levelMm), ...(bare ? [0] : [])];
  return {
    lowestMm: levels.length === 0 ? null : Math.min(...levels),
    taking: over
      .filter(({ face }) => face.for !== "none")
      .toSorted((a, b) => area(b.common) - area(a.common))
      .map(({ face }) => face),
  };
}

const area = ({ widthMm, heightMm }: Box): number => widthMm * heightMm;

function common(a: Box, b: Box): Box | null {
  const left = Math.max(a.xMm - a.widthMm / 2, b.xMm - b.widthMm / 2);
  const right = Math.min(a.xMm + a.widthMm / 2, b.xMm + b.widthMm / 2);
  const low = Math.max(a.yMm - a.heightMm / 2, b.yMm - b.heightMm / 2);
  const high = Math.min(a.yMm + a.heightMm / 2, b.yMm + b.heightMm / 2);
  if (right - left <= EPS || high - low <= EPS) return null;
  return { xMm: (left + right) / 2, yMm: (low + high) / 2, widthMm: right - left, heightMm: high - low };
}

/** Whether boxes cover one wholly: each cell between their edges is looked at. */
function coveredBy(box: Box, boxes: readonly Box[]): boolean {
  const edges = (at: "xMm" | "yMm", size: "widthMm" | "heightMm"): number[] => {
    const low = box[at] - box[size] / 2;
    const high = box[at] + box[size] / 2;
    const all = boxes.flatMap((one) => [one[at] - one[size] / 2, one[at] + one[size] / 2]);
    return [low, ...all.filter((edge) => edge > low + EPS && edge < high - EPS), high].toSorted((a, b) => a - b);
  };
  const ys = middles(edges("yMm", "heightMm"));
  return middles(edges("xMm", "widthMm")).every((x) =>
    ys.every((y) =>
      boxes.some((one) => Math.abs(x - one.xMm) < one.widthMm / 2 && Math.abs(y - one.yMm) < one.heightMm / 2),
    ),
  );
}

const middles = (list: readonly number[]): number[] =>
  list.slice(1).flatMap((edge, index) => {
    const before = list[index] ?? edge;
    return edge - before > EPS ? [(edge + before) / 2] : [];
  });
