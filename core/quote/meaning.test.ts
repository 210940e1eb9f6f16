import { expect, it } from "vitest";
import { meaningOf } from "./index.ts";

const gained = { changeK: -12, u95K: 3, riseK: 40, fanRpm: 1800, ownCurve: null };

it("says a gain as cooler at the same fan, or quieter at the same warmth", () => {
  const [cooler, quieter] = meaningOf(gained);
  expect(cooler).toBe("At the same fan speed it runs 12 degrees cooler than before.");
  expect(quieter).toMatch(/^Or, as warm as before, its fans can be about \d+ dB quieter\.$/);
  // A larger gain is worth more quiet.
  const dB = (changeK: number): number =>
    Number(/about (\d+) dB/.exec(meaningOf({ ...gained, changeK })[1] ?? "")?.[1] ?? 0);
  expect(dB(-15)).toBeGreaterThan(dB(-8));
});

it("says no change where the interval holds none, and a loss as it is", () => {
  expect(meaningOf({ ...gained, changeK: -2.9 })).toEqual(["Its temperature did not really change."]);
  expect(meaningOf({ ...gained, changeK: 5 })).toEqual(["At the same fan speed it runs 5 degrees warmer than before."]);
});

it("says what its own fan curve makes of it, where that is more than it wanders", () => {
  const own = (after: number): string => meaningOf({ ...gained, ownCurve: { before: 2030, after } }).at(-1) ?? "";
  expect(own(1789)).toBe("Left to itself, its fans now turn at 1,790 instead of 2,030 a minute.");
  expect(own(2000)).not.toMatch(/Left to itself/);
});

it("leaves quiet out where nobody knows the fan or the room", () => {
  expect(meaningOf({ ...gained, fanRpm: null })).toHaveLength(1);
  expect(meaningOf({ ...gained, riseK: null })).toHaveLength(1);
});
