import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { asTyped, readQuantity, TYPED_UNITS, type TypedUnit } from "./index.ts";

const ANY = { least: Number.NEGATIVE_INFINITY, most: Number.POSITIVE_INFINITY };

describe("what is typed into a field of a unit", () => {
  // Both decimal marks and groups of three: ISO 80000-1:2022, 7.3 (from memory).
  it.each<readonly [string, TypedUnit, number]>([
    ["1,200", "rpm", 1200],
    ["1.200 rpm", "rpm", 1200],
    ["1,250", { currency: "EUR", digits: 2 }, 1250],
    ["1.250 EUR", { currency: "EUR", digits: 2 }, 1250],
    ["12,50", { currency: "EUR", digits: 2 }, 12.5],
    ["1.500", "min", 1500],
    ["0,125", "kPa", 0.125],
    ["1/2 in", "mm", 12.7],
    ["1.2 cm", "mm", 12],
    ["12,5 mm", "mm", 12.5],
    ["1.234,5", "mm", 1234.5],
  ])("%s of %j", (text, unit, value) => expect(readQuantity(text, unit, ANY)).toEqual({ value }));

  it("is asked about only where both readings may be meant", () => {
    expect(readQuantity("1,234", "mm", { least: 0, most: 5000 })).toEqual({ either: [1234, 1.234] });
    expect(readQuantity("1,234", { currency: "KWD", digits: 3 }, ANY)).toEqual({ either: [1234, 1.234] });
    expect(readQuantity("1,234", "mm", { least: 0, most: 60 })).toEqual({ value: 1.234 });
    expect(readQuantity("1,234", "mm", { least: 10, most: 5000 })).toEqual({ value: 1234 });
    expect(readQuantity("1,234", "%", { least: 0, most: 100 })).toEqual({ value: 1.234 });
  });

  it.each(["", "warm", "12 kg", "1.2.3", "mm"])("“%s” is no length", (text) =>
    expect(readQuantity(text, "mm", ANY)).toBeUndefined(),
  );

  it("is read as itself when it is shown, whatever the unit", () => {
    const units = Object.keys(TYPED_UNITS) as Array<keyof typeof TYPED_UNITS>;
    const thousandths = fc.integer({ min: -5_000_000, max: 5_000_000 }).map((n) => n / 1000);
    fc.assert(
      fc.property(thousandths, fc.constantFrom(...units), (value, unit) => {
        expect(readQuantity(asTyped(value), unit, ANY)).toEqual({ value: value === 0 ? expect.closeTo(0) : value });
      }),
    );
  });
});
