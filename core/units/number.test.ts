import { describe, expect, it } from "vitest";
import { asTyped, readNumber } from "./index.ts";

describe("a number as people write it", () => {
  // Groups of three and both decimal marks: ISO 80000-1:2022, 7.3 (from memory); points, commas and apostrophes as groups are common practice.
  it.each([
    ["21,5", 21.5],
    [" 21.5 ", 21.5],
    ["1 234,5", 1234.5],
    ["1\u00a0234,5", 1234.5],
    ["1\u202f234 567", 1234567],
    ["1.234,5", 1234.5],
    ["1,234.5", 1234.5],
    ["1’234.50", 1234.5],
    ["1'234'567", 1234567],
    ["1.234.567", 1234567],
    ["−3", -3],
    ["-0,125", -0.125],
    ["0.125", 0.125],
    ["1234.567", 1234.567],
    [",5", 0.5],
  ])("%s", (text, value) => expect(readNumber(text)).toEqual({ value }));

  it.each([
    ["1.234", 1234, 1.234],
    ["1,234", 1234, 1.234],
    ["-12,000", -12000, -12],
  ])("%s may be either, and is not guessed", (text, grouped, decimal) =>
    expect(readNumber(text)).toEqual({ either: [grouped, decimal] }),
  );

  it.each(["", "warm", "1.2.3", "12 34", "1.234,567,8", "1,23,456", "--1", "1.234.5678"])("“%s” is none", (text) =>
    expect(readNumber(text)).toBeUndefined(),
  );

  it("is written so that it is read as itself", () => {
    for (const value of [0, 1.234, 12.345, -1.5, 1234, 0.125, 123456.789, 1e-9, 1e22])
      expect(readNumber(asTyped(value))).toEqual({ value });
  });
});
