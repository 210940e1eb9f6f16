import { expect, it } from "vitest";
import { readMutated } from "./fuzz.ts";

it("a log that something went wrong with is taken or refused in words, never met by a fault", () => {
  const told = readMutated(20_261_127, 60);
  expect(told.faults).toEqual([]);
  expect(told.taken).toBeGreaterThan(20);
  expect(told.refused).toBeGreaterThan(2);
});
