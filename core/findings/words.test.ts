import { describe, expect, it } from "vitest";
import { contrastWords, lopsidedWords } from "./index.ts";

describe("a contrast in words", () => {
  const contrast = { a: "sheet", b: "grey paste", differenceK: -1.2, u95K: 2.5, pHolm: 0.4 };
  it("that is not told apart says how many more would do: half-widths fall with the square root", () => {
    // (2.5 / 1.2)² − 1 = 3.34 of the five there are.
    expect(contrastWords(contrast, 5)).toBe(
      "Sheet against grey paste: 1.2 ± 2.5 K; not told apart; about 17 more services would.",
    );
    expect(contrastWords({ ...contrast, differenceK: 0.05 }, 5)).toMatch(/hundreds more services would not/);
  });

  it("that is told apart says which is cooler", () => {
    expect(contrastWords({ ...contrast, differenceK: -4, pHolm: 0.01 }, 5)).toBe(
      "Sheet against grey paste: 4.0 ± 2.5 K cooler.",
    );
    expect(contrastWords({ ...contrast, differenceK: 4, pHolm: 0.01 }, 5)).toMatch(/4\.0 ± 2\.5 K warmer\.$/);
  });

  it("that would stand alone but not among so many says so", () => {
    expect(contrastWords({ ...contrast, differenceK: -3, pHolm: 0.2 }, 5)).toMatch(/too many pairs were looked at/);
  });
});

it("a lopsided comparison says in what, and whether anything is shared", () => {
  const one = { a: "sheet", b: "paste", column: "age", aMean: 2, bMean: 6.5, apart: 2, isWhole: false };
  expect(lopsidedWords(one, "Age (years)")).toMatch(/differ in age \(years\) as well \(2\.0 against 6\.5 on average\)/);
  expect(lopsidedWords({ ...one, aMean: null, bMean: null, isWhole: true }, "Board model")).toBe(
    "Sheet and paste share no board model: which of the two made the difference can’t be told.",
  );
});
