import { describe, expect, it } from "vitest";
import { CAUSES, type Cause } from "../diagnose/index.ts";
import { type AdviceInput, advise, EFFORT, expectedGain } from "./index.ts";

/** Each rule just before and just after it speaks, and what it says. Thresholds are common practice of the trade, with no source. */
const CALM: AdviceInput = {
  riseK: 50,
  causes: [
    { cause: "dry-paste", probability: 0.2 },
    { cause: "healthy", probability: 0.42 },
    { cause: "dust-or-airflow", probability: 0.38 },
  ],
  model: null,
  overLimit: [],
  expected: { gainK: 1, sdK: 1, services: 0, words: "" },
  worth: 200,
  ageYears: 1,
  useKind: "office",
  warranty: "out of warranty",
};
const reasonOf = (rule: string, more: Partial<AdviceInput>) =>
  advise({ ...CALM, ...more }).reasons.find((reason) => reason.rule === rule);
const causes = (cause: Cause, probability: number): AdviceInput["causes"] => [
  { cause, probability },
  { cause: "healthy", probability: 1 - probability },
];

describe("where nothing speaks for opening it", () => {
  it("says so with how likely it is that nothing is wrong, and only there", () => {
    const { recommended, reasons } = advise(CALM);
    expect(recommended).toBe("leave");
    expect(reasons.map(({ rule, figure, decides }) => [rule, figure, decides])).toEqual([
      ["nothing", "healthy 42 %", true],
    ]);
    expect(reasonOf("nothing", { causes: causes("dust-or-airflow", 0.6) })).toBeUndefined();
    expect(reasonOf("nothing", { causes: [] })?.figure).toBe("healthy 0 %");
  });
});

describe("a cause", () => {
  it("counts from one half on, one that is dear to act on from three quarters", () => {
    for (const [cause, rule, work, from] of [
      ["dust-or-airflow", "dust", "clean", 0.5],
      ["fan-fault", "fan", "fans", 0.5],
      ["hot-room", "room", "leave", 0.5],
      ["memory-pads", "pads", "pads", 0.5],
      ["cooler-held-off", "held", "pads", 0.75],
    ] as const) {
      expect(reasonOf(rule, { causes: causes(cause, from - 0.01) })).toBeUndefined();
      expect(reasonOf(rule, { causes: causes(cause, from) })).toMatchObject({
        speaksFor: work,
        figure: `${100 * from} %`,
        source: "diagnosis of the baseline run",
      });
    }
  });
});

describe("every cause", () => {
  it.each(CAUSES)("%s that is certain is said to speak for something", (cause) => {
    const said = advise({ ...CALM, causes: [{ cause, probability: 1 }] }).reasons;
    expect(said.filter(({ source }) => source === "diagnosis of the baseline run").length).toBeGreaterThan(0);
    expect(said.some(({ rule }) => rule === "nothing")).toBe(cause === "healthy");
  });
});

describe("under warranty", () => {
  it("is left closed, in other words where something is wrong", () => {
    const at = (healthy: number) =>
      reasonOf("warranty", {
        warranty: "under warranty",
        causes: [
          { cause: "dry-paste", probability: 1 - healthy },
          { cause: "healthy", probability: healthy },
        ],
      });
    expect(at(0.5)?.text).toMatch(/nothing wrong found: opening may end the warranty\. Rules differ by country/);
    expect(at(0.49)?.text).toMatch(/a fault is the seller’s to mend first/);
    expect(at(0.49)).toMatchObject({ speaksFor: "leave", figure: "under warranty", decides: true });
    expect(reasonOf("warranty", {})).toBeUndefined();
  });
});

describe("what it is worth", () => {
  it("less than five times what cleaning takes is not worth it", () => {
    const least = 5 * EFFORT.clean.material;
    expect(advise({ ...CALM, worth: least }).recommended).toBe("leave");
    expect(advise({ ...CALM, worth: least - 0.01 }).recommended).toBe("not-worth");
    expect(reasonOf("worth", { worth: 7.4 })?.figure).toBe("worth 7");
    expect(reasonOf("worth", { worth: null })).toBeUndefined();
  });

  it("moves pads to premium ones from fifteen kits on, and to compound alone below three sets of pads", () => {
    const pads = { causes: causes("memory-pads", 0.9) };
    const dear = 15 * EFFORT.premium.material;
    const cheap = 3 * EFFORT.pads.material;
    expect(advise({ ...CALM, ...pads, worth: dear }).recommended).toBe("premium");
    expect(advise({ ...CALM, ...pads, worth: dear - 0.01 }).recommended).toBe("pads");
    expect(advise({ ...CALM, ...pads, worth: cheap }).recommended).toBe("pads");
    const { recommended, reasons, effort } = advise({ ...CALM, ...pads, worth: cheap - 0.01 });
    expect([recommended, reasons[0]?.rule]).toEqual(["repaste", "money"]);
    expect(effort).toBe(EFFORT.repaste);
    // What decided stands first: money, then the cause; the rest follows.
    const decides = reasons.map((reason) => reason.decides);
    expect(decides.lastIndexOf(true)).toBeLessThan(decides.includes(false) ? decides.indexOf(false) : decides.length);
  });
});

describe("limits of the board model", () => {
  it("are named with the figures, all that are passed", () => {
    const overLimit = [
      { role: "edge", valueC: 88.6, limitC: 85 },
      { role: "memory", valueC: 101.2, limitC: 95 },
    ];
    expect(reasonOf("limit", { overLimit })).toMatchObject({
      speaksFor: "repaste",
      text: "Over its limit at load: edge, memory.",
      figure: "89 of 85 °C, 101 of 95 °C",
    });
  });
});

describe("this shop's own cards of the model", () => {
  const model = { meanK: 45, sdK: 1, cards: 1 };
  it("make it warm above twice their spread, of which one kelvin is every bench's", () => {
    // 2 √(1² + 1²) = 2.83.
    const most = 47.82;
    expect(reasonOf("model", { model, riseK: most })).toMatchObject({
      speaksFor: "leave",
      decides: false,
      text: "Within what this board model usually shows here: 45.0 K ± 2.0 K over 1 card.",
      figure: "+2.8 K",
    });
    expect(reasonOf("model", { model: { ...model, cards: 3 }, riseK: most + 0.1 })).toMatchObject({
      speaksFor: "repaste",
      decides: true,
      text: "Warmer than this board model usually runs here: 45.0 K ± 2.0 K over 3 cards.",
    });
    expect(reasonOf("model", { model, riseK: 43.5 })?.figure).toBe("−1.5 K");
    expect(reasonOf("model", { model, riseK: 45 })?.figure).toBe("+0.0 K");
    expect(reasonOf("model", { model, riseK: null })).toBeUndefined();
    expect(reasonOf("model", { model: null })).toBeUndefined();
  });
});

describe("age and use", () => {
  it("speak from over three years of hard or unknown use on; what for depends on what it would bring", () => {
    for (const useKind of ["games", "long constant load", "unknown"])
      expect(reasonOf("age", { ageYears: 3.5, useKind })).toMatchObject({ speaksFor: "clean", figure: "3.5 years" });
    expect(reasonOf("age", { ageYears: 3, useKind: "games" })).toBeUndefined();
    expect(reasonOf("age", { ageYears: 9, useKind: "office" })).toBeUndefined();
    expect(reasonOf("age", { ageYears: null, useKind: "games" })).toBeUndefined();
    const bringing = (gainK: number) =>
      reasonOf("age", { ageYears: 4, useKind: "games", expected: { ...CALM.expected, gainK } })?.speaksFor;
    expect([bringing(2.49), bringing(2.5)]).toEqual(["clean", "repaste"]);
  });
});

describe("the expected gain", () => {
  it("is the mean of three similar services or more, with their spread; of fewer, what physics says", () => {
    const similar = { gainK: 7, sdK: 3.6, services: 3 };
    expect(expectedGain(similar, 99)).toMatchObject({ ...similar, words: expect.stringContaining("3 services") });
    expect(expectedGain({ ...similar, services: 2 }, 10)).toMatchObject({ gainK: 10, sdK: 4.5, services: 2 });
    expect(expectedGain(null, 1)).toMatchObject({ gainK: 1, sdK: 1.2, words: expect.stringMatching(/own figures/) });
    expect(expectedGain(null, -3)).toMatchObject({ gainK: 0, sdK: 1.2 });
  });
});
