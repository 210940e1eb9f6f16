import { describe, expect, it } from "vitest";
import type { Cause } from "../diagnose/index.ts";
import { type AdviceInput, advise, expectedGain } from "./index.ts";

const healthy: AdviceInput = {
  riseK: 45,
  causes: [{ cause: "healthy", probability: 0.9 }],
  model: { meanK: 45, sdK: 2, cards: 5 },
  overLimit: [],
  expected: expectedGain(null, 0),
  worth: 200,
  ageYears: 2,
  useKind: "office",
  warranty: "out of warranty",
};
const likely = (cause: Cause): Pick<AdviceInput, "causes"> => ({ causes: [{ cause, probability: 0.8 }] });

/** Each line is a rule of the trade in words: common practice, no published source. */
describe("open it or leave it", () => {
  it.each([
    ["a healthy young card stays closed", {}, "leave"],
    [
      "a card under warranty stays closed, whatever it has",
      { ...likely("dry-paste"), warranty: "under warranty" },
      "leave",
    ],
    ["a hot room is no fault of the card", likely("hot-room"), "leave"],
    ["a weak fan comes first", likely("fan-fault"), "fans"],
    ["dust is cleaned", likely("dust-or-airflow"), "clean"],
    ["dried compound is renewed", likely("dry-paste"), "repaste"],
    ["lost pads are renewed", likely("memory-pads"), "pads"],
    ["a cooler held off needs other pads", likely("cooler-held-off"), "pads"],
    ["a card worth 15 premium kits gets one", { ...likely("memory-pads"), worth: 48 * 15 }, "premium"],
    [
      "a card worth less than three sets of pads gets compound only",
      { ...likely("memory-pads"), worth: 60 },
      "repaste",
    ],
    ["a card worth next to nothing is left", { ...likely("dry-paste"), worth: 8 }, "not-worth"],
    ["one over its limit is opened", { overLimit: [{ role: "hotspot", valueC: 108, limitC: 105 }] }, "repaste"],
    ["one far warmer than its model is opened", { riseK: 60 }, "repaste"],
    [
      "old and worked hard, with something to gain",
      { ageYears: 6, useKind: "games", expected: expectedGain(null, 6) },
      "repaste",
    ],
    ["old and worked hard, with little to gain, is cleaned", { ageYears: 6, useKind: "games" }, "clean"],
    ["old office cards stay closed", { ageYears: 8 }, "leave"],
  ] as ReadonlyArray<[string, Partial<AdviceInput>, string]>)("%s", (_, more, choice) => {
    const advice = advise({ ...healthy, ...more });
    expect(advice.recommended).toBe(choice);
    expect(advice.reasons.some((reason) => reason.decides)).toBe(true);
    for (const reason of advice.reasons) expect([reason.text, reason.figure, reason.source]).not.toContain("");
  });
});

describe("expected gain", () => {
  it("is what similar services brought, whatever the run’s own figures say", () => {
    const found = expectedGain({ gainK: 6, sdK: 2, services: 3 }, 99);
    expect([found.gainK, found.sdK, found.services]).toEqual([6, 2, 3]);
  });

  it("comes from the run's own figures while there are fewer than three, with a wide spread", () => {
    const found = expectedGain({ gainK: 4, sdK: 1, services: 1 }, 10);
    expect(found.gainK).toBe(10);
    expect(found.sdK).toBeGreaterThan(3);
  });
});
