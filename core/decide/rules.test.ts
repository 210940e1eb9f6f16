import { describe, expect, it } from "vitest";
import { type AdviceInput, advise, EFFORT, expectedGain } from "./index.ts";
import { afford, PADS_WORTH, PREMIUM_WORTH, RULES } from "./rules.ts";

const plain: AdviceInput = {
  riseK: null,
  causes: [],
  model: null,
  overLimit: [],
  expected: expectedGain(null, 0),
  worth: null,
  ageYears: null,
  useKind: "unknown",
  warranty: "not asked",
};

describe("the table of rules", () => {
  it("has one name and one source per rule, and ends with one that always speaks", () => {
    expect(new Set(RULES.map((rule) => rule.id)).size).toBe(RULES.length);
    for (const rule of RULES) expect(rule.source.length).toBeGreaterThan(5);
    expect(RULES.filter((rule) => rule.fallback).map((rule) => rule.id)).toEqual([RULES.at(-1)?.id]);
    expect(RULES.at(-1)?.says(plain)?.decides).toBe(true);
  });

  it("leaves a card closed of which nothing is known", () => {
    const { recommended, reasons } = advise(plain);
    expect(recommended).toBe("leave");
    expect(reasons.map((reason) => reason.rule)).toEqual(["nothing"]);
  });

  it("shows every rule that has something to say, the deciding one first", () => {
    const { recommended, reasons } = advise({
      ...plain,
      causes: [{ cause: "dust-or-airflow", probability: 0.7 }],
      overLimit: [{ role: "memory", valueC: 99, limitC: 95 }],
      ageYears: 6,
      useKind: "games",
    });
    expect(recommended).toBe("clean");
    expect(reasons[0]).toMatchObject({ rule: "dust", decides: true });
    expect(reasons.map((reason) => reason.rule)).toEqual(["dust", "limit", "age"]);
    expect(reasons.filter((reason) => reason.decides)).toHaveLength(1);
  });

  it("lets a model's range decide only where the card lies clearly outside of it", () => {
    const model = { meanK: 40, sdK: 2, cards: 4 };
    expect(advise({ ...plain, model, riseK: 43 }).recommended).toBe("leave");
    expect(advise({ ...plain, model, riseK: 46 }).recommended).toBe("repaste");
    expect(advise({ ...plain, model, riseK: 46 }).reasons[0]?.figure).toBe("+6.0 K");
  });
});

describe("money", () => {
  it("moves pads to compound below three sets, and to premium from fifteen kits on", () => {
    const poor = PADS_WORTH * EFFORT.pads.material;
    const rich = PREMIUM_WORTH * EFFORT.premium.material;
    expect(afford("pads", poor - 1).work).toBe("repaste");
    expect(afford("pads", poor).work).toBe("pads");
    expect(afford("pads", rich - 1).work).toBe("pads");
    expect(afford("pads", rich).work).toBe("premium");
  });

  it("does not touch what costs little, nor a card whose worth is unknown", () => {
    for (const work of ["leave", "clean", "repaste", "fans"] as const)
      expect(afford(work, 10)).toEqual({ work, reason: null });
    expect(afford("pads", null)).toEqual({ work: "pads", reason: null });
  });

  it("has an effort for every choice, none for leaving it", () => {
    expect(EFFORT.leave).toMatchObject({ material: 0, minutes: 0, risk: "none" });
    for (const work of ["clean", "fans", "repaste", "pads", "premium"] as const) {
      expect(EFFORT[work].minutes).toBeGreaterThan(0);
      expect(EFFORT[work].riskWords.length).toBeGreaterThan(10);
    }
  });
});
