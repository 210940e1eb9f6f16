import { expect, it } from "vitest";
import { leastDoseUl, PATTERNS, type Pattern, patternOf, usualDoseUl } from "./index.ts";

it.each([
  [20, 22, 50],
  [31, 19, 28],
  [12, 12, 80],
])(
  "the dose to begin with covers a die of %d × %d mm at %d µm, however it is put on",
  (widthMm, heightMm, bondLineUm) => {
    const die = { widthMm, heightMm };
    for (const pattern of Object.keys(PATTERNS) as Pattern[]) {
      const dose = usualDoseUl(pattern, die, bondLineUm);
      const least = leastDoseUl({ die, ...patternOf(pattern, die, dose), bondLineUm, densityGPerMl: null }, 0.5);
      expect([pattern, least !== null && dose >= least]).toEqual([pattern, true]);
      // What was chosen stays where it is enough, and grows where another pattern needs more.
      expect(usualDoseUl(pattern, die, bondLineUm, 3 * dose)).toBe(3 * dose);
      expect(usualDoseUl(pattern, die, bondLineUm, 0.1)).toBeGreaterThan(1);
    }
  },
);
