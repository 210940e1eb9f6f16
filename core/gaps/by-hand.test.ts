import { inverse, Matrix } from "ml-matrix";
import { describe, expect, it } from "vitest";
import { type GapReading, inferGaps, parseReadings, readingModel } from "./index.ts";

/** Inference worked out by hand and by another library, over small cases. Spreads are those of the trade that `infer.ts` states. */
const PLACE = 0.1 ** 2;
const CARD = 0.08 ** 2;
const KIND = 1;
const OWN_GAP = 0.05 ** 2;
const MEAN = 1.25;
const places = (...ids: string[]) => ids.map((id) => ({ id, kind: "memory" }));
const reading = (partId: string, valueMm: number, more: Partial<GapReading> = {}): GapReading => ({
  id: `${partId} ${valueMm} ${more.id ?? ""}`,
  partId,
  source: "gap",
  valueMm,
  padState: "unknown",
  softness: "unknown",
  card: "this",
  ...more,
});

describe("one reading of one gap", () => {
  const { gaps, covariance } = inferGaps(places("M1", "M2"), [reading("M1", 1.35)], "this");
  const own = KIND + PLACE + CARD;
  const share = own / (own + OWN_GAP);

  it("moves its own place nearly all the way, its neighbour by what the two share", () => {
    expect(gaps[0]!.gapMm).toBeCloseTo(MEAN + share * 0.1, 12);
    expect(gaps[1]!.gapMm).toBeCloseTo(MEAN + (KIND / (own + OWN_GAP)) * 0.1, 12);
    expect(gaps.map((gap) => gap.readings)).toEqual([1, 0]);
  });

  it("leaves the variance that conditioning of normals says", () => {
    expect(covariance[0]).toBeCloseTo(own - own ** 2 / (own + OWN_GAP), 12);
    expect(covariance[1]).toBeCloseTo(KIND - (KIND * own) / (own + OWN_GAP), 12);
    expect(covariance[3]).toBeCloseTo(own - KIND ** 2 / (own + OWN_GAP), 12);
    expect(gaps[0]!.u95Mm).toBeCloseTo(1.96 * Math.sqrt(covariance[0]!), 12);
  });
});

describe("readings of other cards, kinds and places", () => {
  it("of an earlier card tell the place and the kind, not this card's own difference", () => {
    const { gaps } = inferGaps(places("M1"), [reading("M1", 1.35, { card: "earlier" })], "this");
    expect(gaps[0]!.gapMm).toBeCloseTo(MEAN + ((KIND + PLACE) / (KIND + PLACE + CARD + OWN_GAP)) * 0.1, 12);
    expect(gaps[0]!.readings).toBe(0);
  });

  it("of another kind, of a place that is none, and of nothing tell nothing", () => {
    const all = [
      { id: "M1", kind: "memory" },
      { id: "Q1", kind: "mosfet" },
    ];
    const { gaps } = inferGaps(all, [reading("Q1", 0.6), reading("X9", 3), reading("M1", 0)], "this");
    expect(gaps[0]!.gapMm).toBe(MEAN);
    expect(gaps[0]!.u95Mm).toBeCloseTo(1.96 * Math.sqrt(KIND + PLACE + CARD), 12);
  });
});

describe("what a reading says of a gap", () => {
  // factor and shared error by the law of propagation for products, with the fractions of the trade written out.
  it.each([
    ["squeezed", "moist", "hard", 1 / (1.12 * 0.99), Math.hypot(0.06 / 1.12, 0.01 / 0.99), 0.03],
    ["squeezed", "torn", "soft", 1 / (1.05 * 0.92), Math.hypot(0.06 / 1.05, 0.04 / 0.92), 0.08],
    ["unsqueezed", "dry", "medium", 0.8 / (0.96 * 0.97), Math.hypot(0.1 / 0.8, 0.02 / 0.96, 0.02 / 0.97), 0.03],
    ["guide", "unknown", "unknown", 0.8, 0.1 / 0.8, 0.05],
    ["gap", "oily", "soft", 1, 0, 0.05],
  ] as const)("%s, %s, %s", (source, padState, softness, factor, shared, ownMm) => {
    const model = readingModel({ source, padState, softness });
    expect(model.factor).toBeCloseTo(factor, 12);
    expect(model.sharedRelative).toBeCloseTo(shared, 12);
    expect(model.ownMm).toBe(ownMm);
  });

  it("scales with the factor: one squeezed reading by hand", () => {
    const { factor, sharedRelative, ownMm } = readingModel({ source: "squeezed", padState: "moist", softness: "hard" });
    const one = reading("M1", 1.2, { source: "squeezed", padState: "moist", softness: "hard" });
    const gap = 1.2 * factor;
    const own = KIND + PLACE + CARD;
    const noise = (sharedRelative * gap) ** 2 + (ownMm * factor) ** 2;
    const { gaps } = inferGaps(places("M1"), [one], "this");
    expect(gaps[0]!.gapMm).toBeCloseTo(MEAN + (own / (own + noise)) * (gap - MEAN), 12);
  });

  it("is shared by like readings of one card: many alike tell less than as many unlike", () => {
    const alike = [1, 2, 3, 4].map((k) => reading("M1", 1.2, { id: String(k), source: "squeezed", padState: "moist" }));
    const unlike = alike.map((one, k) => ({ ...one, padState: (["moist", "dry", "oily", "torn"] as const)[k]! }));
    const width = (all: GapReading[]) => inferGaps(places("M1"), all, "this").gaps[0]!.u95Mm;
    expect(width(unlike)).toBeLessThan(0.8 * width(alike));
  });
});

describe("a reading that the others speak against", () => {
  const agreeing = [reading("M1", 1.1), reading("M2", 1.1), reading("M3", 1.1)];
  it("is told with the reading that would have fitted, in the reading's own terms", () => {
    const wrong = reading("M4", 2, { source: "squeezed", padState: "dry", softness: "hard" });
    const { odd } = inferGaps(places("M1", "M2", "M3", "M4"), [...agreeing, wrong], "this");
    expect(odd.map(({ readingId }) => readingId)).toEqual([wrong.id]);
    const { factor } = readingModel(wrong);
    // Without it, its place is expected where its like are; what the caliper would have shown is that over the factor.
    const { gaps } = inferGaps(places("M1", "M2", "M3", "M4"), agreeing, "this");
    expect(odd[0]!.expectedMm).toBeCloseTo(gaps[3]!.gapMm / factor, 6);
  });

  it("needs two others: with fewer nobody can say which is wrong", () => {
    expect(inferGaps(places("M1", "M2"), [reading("M1", 1), reading("M2", 3)], "this").odd).toEqual([]);
    expect(
      inferGaps(places("M1", "M2"), [reading("M1", 1), reading("M1", 1.01), reading("M2", 3)], "this").odd,
    ).toHaveLength(1);
  });
});

describe("where to measure next", () => {
  it("is the place whose reading narrows all gaps most, as adding it to the covariance says", () => {
    const ids = ["M1", "M2", "M3", "M4"];
    const { covariance, next } = inferGaps(places(...ids), [reading("M1", 1.1), reading("M1", 1.12)], "this");
    const before = new Matrix(ids.map((_, i) => ids.map((__, j) => covariance[i * ids.length + j]!)));
    const meanU95 = (matrix: Matrix) =>
      ids.reduce((sum, _, i) => sum + 1.96 * Math.sqrt(matrix.get(i, i)), 0) / ids.length;
    const after = ids.map((_, j) => {
      const precision = inverse(before);
      precision.set(j, j, precision.get(j, j) + 1 / 0.06 ** 2);
      return meanU95(inverse(precision));
    });
    const least = Math.min(...after);
    expect(after[ids.indexOf(next!.id)]).toBeCloseTo(least, 9);
    expect(next!.meanU95Mm).toBeCloseTo(least, 9);
    expect(next!.nowMeanU95Mm).toBeCloseTo(meanU95(before), 9);
    expect(next!.id).not.toBe("M1");
  });

  it("is nowhere once another reading would hardly matter", () => {
    const many = ["M1", "M2"].flatMap((id) =>
      Array.from({ length: 30 }, (_, k) => reading(id, 1.1, { id: String(k) })),
    );
    expect(inferGaps(places("M1", "M2"), many, "this").next).toBeNull();
  });
});

describe("typed readings", () => {
  it.each([
    ["1.05; 1.07", [1.05, 1.07]],
    ["1,05  ;; 1,07,", [1.05, 1.07]],
    ["1.05,1.07", [1.05, 1.07]],
    ["0.04in 1.1 mm", [1.016, 1.1]],
    ['0.05"', [1.27]],
    ["+1.2", [1.2]],
  ] as const)("%s", (text, expected) => {
    expect(parseReadings(text, "mm")).toEqual(expected);
  });

  it.each([
    ["", "mm", "bad-reading", /no reading in it/],
    ["-0.4", "mm", "bad-reading", /negative/],
    ["about", "mm", "bad-reading", /“about”/],
    ["25", "mm", "doubtful-reading", /25 mm/],
    ["12", "in", "doubtful-reading", /millimetres/],
    ["0.1", "mm", "doubtful-reading", /inches/],
    ["0.001", "in", "doubtful-reading", /check the caliper/],
  ] as const)("“%s” in %s is refused with words", (text, unit, code, words) => {
    expect(() => parseReadings(text, unit)).toThrow(expect.objectContaining({ code }));
    expect(() => parseReadings(text, unit)).toThrow(words);
  });

  it("takes what just is a gap, and nothing beyond", () => {
    expect(parseReadings("0.15 12", "mm")).toEqual([0.15, 12]);
    for (const text of ["0.149", "12.001"]) expect(() => parseReadings(text, "mm")).toThrow();
  });
});
