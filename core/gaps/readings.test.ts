import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { inferGaps, OLD_PAD_SOFTNESS, OLD_PAD_STATES, parseReadings, readingModel } from "./index.ts";

const hundredths = fc.integer({ min: 15, max: 1200 });
/** One reading as somebody, or a caliper, might write it. */
const written = hundredths.chain((value) =>
  fc
    .constantFrom(
      (value / 100).toFixed(2),
      (value / 100).toFixed(2).replace(".", ","),
      `+${(value / 100).toFixed(2)}`,
      `${(value / 100).toFixed(2)} mm`,
      `${(value / 100).toFixed(2)}mm`,
    )
    .map((text) => ({ value, text })),
);

describe("readings as they are written", () => {
  it("come back as they were meant, whatever stands between them", () => {
    fc.assert(
      fc.property(
        fc.array(written, { minLength: 1, maxLength: 6 }),
        fc.constantFrom(" ", "\n", "; ", "  \t"),
        (all, between) => {
          const text = all.map((one) => one.text).join(between);
          expect(parseReadings(text, "mm")).toEqual(all.map(({ value }) => value / 100));
        },
      ),
    );
  });

  it("in inches are those in millimetres over 25.4 (NIST SP 811)", () => {
    fc.assert(
      fc.property(fc.integer({ min: 6, max: 470 }), (thousandths) => {
        const [mm = Number.NaN] = parseReadings((thousandths / 1000).toFixed(3), "in");
        expect(mm).toBeCloseTo((thousandths / 1000) * 25.4, 3);
      }),
    );
  });

  it("one that is none takes nothing of the others: all or a refusal that names it", () => {
    for (const wrong of ["x1.2", "1.2.3", "--1", "1e9", "twelve"])
      expect(() => parseReadings(`1.10 ${wrong} 1.20`, "mm")).toThrow(wrong === "--1" ? /negative/ : wrong);
  });
});

describe("what a reading says of the gap", () => {
  // By hand from the table in docs/method.md; spring-back, jaw squeeze, set and meant squeeze are common practice without a source.
  it.each([
    [{ source: "squeezed", padState: "moist", softness: "soft" }, 1 / (1.12 * 0.92)],
    [{ source: "squeezed", padState: "dry", softness: "hard" }, 1 / (1.03 * 0.99)],
    [{ source: "unsqueezed", padState: "unknown", softness: "medium" }, 0.8 / (0.96 * 0.97)],
    [{ source: "guide", padState: "unknown", softness: "unknown" }, 0.8],
    [{ source: "gap", padState: "unknown", softness: "unknown" }, 1],
  ] as const)("%j: gap = reading × %s", (how, factor) => {
    expect(readingModel(how).factor).toBeCloseTo(factor, 12);
  });

  it("a direct reading is surer than a squeezed place, and that surer than an edge or a guide value, for any old pad", () => {
    for (const padState of OLD_PAD_STATES)
      for (const softness of OLD_PAD_SOFTNESS) {
        const shared = (source: "gap" | "squeezed" | "unsqueezed") =>
          readingModel({ source, padState, softness }).sharedRelative;
        expect(shared("gap")).toBe(0);
        expect(shared("squeezed")).toBeLessThan(shared("unsqueezed"));
      }
    const own = (padState: "dry" | "torn") => readingModel({ source: "squeezed", padState, softness: "hard" }).ownMm;
    expect(own("torn")).toBeGreaterThan(own("dry"));
  });

  it("more readings never widen a gap, and a second like one narrows it less than the first", () => {
    const places = [{ id: "M1", kind: "memory pad" }];
    const with_ = (count: number) =>
      inferGaps(
        places,
        Array.from({ length: count }, (_, k) => ({
          id: String(k),
          partId: "M1",
          source: "squeezed" as const,
          valueMm: 1.1,
          padState: "dry" as const,
          softness: "medium" as const,
          card: "now",
        })),
        "now",
      ).gaps[0]?.u95Mm ?? Number.NaN;
    const widths = [0, 1, 2, 3, 8].map(with_);
    widths.slice(1).forEach((width, k) => expect(width).toBeLessThan(widths[k] ?? 0));
    expect((widths[0] ?? 0) - (widths[1] ?? 0)).toBeGreaterThan((widths[1] ?? 0) - (widths[2] ?? 0));
    // What like readings share does not average out: spring-back of a dry pad is known to 3 %, jaws to 2 %.
    expect(widths[4]).toBeGreaterThan(1.96 * 1.05 * Math.hypot(0.03 / 1.03, 0.02 / 0.96) * 0.9);
  });

  it("readings of places that are not on the map, and of nothing, count for nothing", () => {
    const places = [{ id: "M1", kind: "memory pad" }];
    const reading = (partId: string, valueMm: number) => ({
      id: partId,
      partId,
      source: "gap" as const,
      valueMm,
      padState: "unknown" as const,
      softness: "unknown" as const,
      card: "now",
    });
    const none = inferGaps(places, [], "now");
    expect(inferGaps(places, [reading("M9", 3), reading("M1", 0)], "now").gaps).toEqual(none.gaps);
    expect(none.gaps[0]).toMatchObject({ readings: 0 });
    expect(none.next?.id).toBe("M1");
  });
});
