import { dot, factorOf, nth, solveCholesky } from "../numeric/index.ts";
import { type GapReading, readingModel } from "./readings.ts";

export interface GapPlace {
  id: string;
  /** Places of one kind under one face are alike: memory under the cooler, MOSFETs under the mid-plate. */
  kind: string;
}

export interface InferredGap {
  id: string;
  gapMm: number;
  /** Half-width of the 95 % interval. */
  u95Mm: number;
  /** Readings taken here on this card. */
  readings: number;
}

export interface GapInference {
  gaps: InferredGap[];
  /** Covariance of the gaps, row by row, mm². */
  covariance: Float64Array;
  /** Readings that the others speak against. */
  odd: Array<{ readingId: string; expectedMm: number; text: string }>;
  /** Where one more reading narrows all gaps together most; null when it would hardly matter. */
  next: { id: string; meanU95Mm: number; nowMeanU95Mm: number } | null;
}

/** Gaps lie about here before anything is known, mm; places of a kind and cards of a model differ by this much (common practice). */
const PRIOR = { meanMm: 1.25, kindMm: 1, placeMm: 0.1, cardMm: 0.08 };
const NEW_READING_MM = 0.06;
const ODD_SIGMAS = 3;
const WORTH_MM = 0.005;

interface Datum {
  reading: GapReading;
  kind: string;
  gapMm: number;
  ownMm: number;
  sharedMm: number;
  key: string;
}

interface Where {
  kind: string;
  part: string;
  card: string;
}
const at = ({ reading, kind }: Datum): Where => ({ kind, part: reading.partId, card: reading.card });

/** Prior covariance of two gaps, mm². */
const between = (a: Where, b: Where): number =>
  (a.kind === b.kind ? PRIOR.kindMm ** 2 : 0) +
  (a.part === b.part ? PRIOR.placeMm ** 2 : 0) +
  (a.part === b.part && a.card === b.card ? PRIOR.cardMm ** 2 : 0);

/**
 * Gaps of a card from everything that speaks of them: its own readings, places of the same kind, earlier cards of the model, guide
 * values. Model: gap = mean of the kind + difference of the place + difference of the card, all normal; a reading is the gap times
 * the factor of its source, with an error that like readings of one card share and one of its own. Best linear estimate (any text
 * on Gaussian processes); no reading needed for an answer, which is then wide.
 * @param card the card the gaps are wanted of; readings of other cards count as earlier ones
 */
export function inferGaps(places: readonly GapPlace[], readings: readonly GapReading[], card: string): GapInference {
  const kindOf = new Map(places.map((place) => [place.id, place.kind]));
  const data = readings.flatMap((reading): Datum[] => {
    const kind = kindOf.get(reading.partId);
    if (kind === undefined || !(reading.valueMm > 0)) return [];
    const model = readingModel(reading);
    const gapMm = reading.valueMm * model.factor;
    return [
      {
        reading,
        kind,
        gapMm,
        ownMm: model.ownMm * model.factor,
        sharedMm: model.sharedRelative * gapMm,
        key: `${reading.card} ${reading.source} ${reading.padState} ${reading.softness}`,
      },
    ];
  });
  const count = data.length;
  const matrix = new Float64Array(count * count);
  data.forEach((a, i) => {
    data.forEach((b, j) => {
      matrix[i * count + j] =
        between(at(a), at(b)) + (a.key === b.key ? a.sharedMm * b.sharedMm : 0) + (i === j ? a.ownMm ** 2 : 0);
    });
  });
  const factor = factorOf(matrix, count, "the gaps");
  const weights = solveCholesky(
    factor,
    Float64Array.from(data, (one) => one.gapMm - PRIOR.meanMm),
  );
  const here = places.map((place) => ({ kind: place.kind, part: place.id, card }));
  const toData = here.map((place) => Float64Array.from(data, (one) => between(place, at(one))));
  const gains = toData.map((row) => solveCholesky(factor, row));
  const size = places.length;
  const covariance = new Float64Array(size * size);
  for (let i = 0; i < size; i++)
    for (let j = 0; j < size; j++) {
      const [a, b, row, gain] = [here[i], here[j], toData[i], gains[j]];
      if (a && b && row && gain) covariance[i * size + j] = between(a, b) - dot(row, gain);
    }
  const gaps = places.map(
    ({ id }, index): InferredGap => ({
      id,
      gapMm: Math.max(0, PRIOR.meanMm + dot(toData[index] ?? [], weights)),
      u95Mm: 1.96 * Math.sqrt(Math.max(0, nth(covariance, index * size + index))),
      readings: data.filter(({ reading }) => reading.partId === id && reading.card === card).length,
    }),
  );
  return { gaps, covariance, odd: oddOnes(data, factor, weights), next: bestNext(gaps, covariance) };
}

/** Each reading against what all others make of its place: its left-out residual is (C⁻¹z)ᵢ / (C⁻¹)ᵢᵢ. */
function oddOnes(data: readonly Datum[], factor: Float64Array, weights: Float64Array): GapInference["odd"] {
  if (data.length < 3) return [];
  return data.flatMap(({ reading, gapMm }, index) => {
    const unit = new Float64Array(data.length);
    unit[index] = 1;
    const precision = nth(solveCholesky(factor, unit), index);
    const residual = nth(weights, index) / precision;
    if (Math.abs(residual) * Math.sqrt(precision) < ODD_SIGMAS) return [];
    const expectedMm = ((gapMm - residual) * reading.valueMm) / gapMm;
    return [
      {
        readingId: reading.id,
        expectedMm,
        text: `${reading.valueMm.toFixed(2)} mm at ${reading.partId} does not fit the others, which speak for about ${expectedMm.toFixed(2)} mm. Measure again, or check the place.`,
      },
    ];
  });
}

function bestNext(gaps: readonly InferredGap[], covariance: Float64Array): GapInference["next"] {
  const size = gaps.length;
  const variance = (i: number): number => nth(covariance, i * size + i);
  const meanU95 = (after: (i: number) => number): number =>
    gaps.reduce((sum, _, i) => sum + 1.96 * Math.sqrt(Math.max(0, after(i))), 0) / Math.max(1, size);
  const nowMeanU95Mm = meanU95(variance);
  let best: GapInference["next"] = null;
  gaps.forEach(({ id }, j) => {
    const meanU95Mm = meanU95(
      (i) => variance(i) - nth(covariance, i * size + j) ** 2 / (variance(j) + NEW_READING_MM ** 2),
    );
    if (meanU95Mm < (best?.meanU95Mm ?? nowMeanU95Mm - WORTH_MM)) best = { id, meanU95Mm, nowMeanU95Mm };
  });
  return best;
}
