import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { sheetToDxf, sheetToSvg } from "../drawing/index.ts";
import { cutLines, planCuts, readCuts } from "./index.ts";

const SHEET = { widthMm: 85, heightMm: 45 };
const planned = (pieces: ReadonlyArray<{ widthMm: number; heightMm: number; quantity: number }>) =>
  planCuts(
    readCuts({
      pieces: pieces.map((piece, index) => ({ ...piece, id: `p${index}`, thicknessMm: 1, material: "soft" })),
      stock: [{ ...SHEET, id: "s", thicknessMm: 1, material: "soft", quantity: null, price: 6 }],
    }),
    { tries: 30 },
  );

describe("cuts along a ruler", () => {
  it("free two pieces of a strip, largest left-over first, by hand", () => {
    const found = cutLines(SHEET, [
      { xMm: 0, yMm: 0, widthMm: 14, heightMm: 12 },
      { xMm: 14, yMm: 0, widthMm: 14, heightMm: 12 },
    ]);
    expect(found.cuts).toEqual([
      { x0Mm: 0, y0Mm: 12, x1Mm: 85, y1Mm: 12 },
      { x0Mm: 28, y0Mm: 0, x1Mm: 28, y1Mm: 12 },
      { x0Mm: 14, y0Mm: 0, x1Mm: 14, y1Mm: 12 },
    ]);
    expect(found.leftOvers).toEqual([
      { xMm: 0, yMm: 12, widthMm: 85, heightMm: 33 },
      { xMm: 28, yMm: 0, widthMm: 57, heightMm: 12 },
    ]);
    expect(found.stuck).toBe(false);
  });

  it("says when pieces lie like a pinwheel and no straight cut can free them", () => {
    const pinwheel = [
      { xMm: 0, yMm: 0, widthMm: 20, heightMm: 10 },
      { xMm: 20, yMm: 0, widthMm: 10, heightMm: 20 },
      { xMm: 10, yMm: 20, widthMm: 20, heightMm: 10 },
      { xMm: 0, yMm: 10, widthMm: 10, heightMm: 20 },
    ];
    expect(cutLines({ widthMm: 30, heightMm: 30 }, pinwheel).stuck).toBe(true);
  });

  it("free every piece of every plan; pieces and left-overs together are the sheet", () => {
    const side = fc.integer({ min: 4, max: 40 });
    const piece = fc.record({ widthMm: side, heightMm: side, quantity: fc.integer({ min: 1, max: 5 }) });
    fc.assert(
      fc.property(fc.array(piece, { minLength: 1, maxLength: 4 }), (pieces) => {
        for (const { placements, leftOvers } of planned(pieces).sheets) {
          expect(cutLines(SHEET, placements).stuck).toBe(false);
          const area = [...placements, ...leftOvers].reduce((sum, one) => sum + one.widthMm * one.heightMm, 0);
          expect(area).toBeCloseTo(85 * 45, 6);
        }
      }),
      { numRuns: 40 },
    );
  });
});

describe("a sheet as a drawing", () => {
  const drawing = {
    ...SHEET,
    pieces: [{ xMm: 10, yMm: 5, widthMm: 14, heightMm: 12, label: "A<", notches: [{ xMm: 0, yMm: 6, radiusMm: 2.1 }] }],
    cuts: [{ x0Mm: 24, y0Mm: 0, x1Mm: 24, y1Mm: 45 }],
  };

  it("is true to size in SVG, y down", () => {
    const svg = sheetToSvg(drawing);
    expect(svg).toContain('width="85mm" height="45mm" viewBox="0 0 85 45"');
    expect(svg).toContain('<rect x="10" y="28" width="14" height="12"/>');
    expect(svg).toContain('<circle cx="10" cy="34" r="2.1"/>');
    expect(svg).toContain("A&lt;");
  });

  it("is in millimetres in DXF, with the pieces, notches and cuts on layers of their own", () => {
    // Pairs of group code and value, as the DXF reference describes them; 8 is the layer, 10 and 20 are x and y, 40 a radius.
    const lines = sheetToDxf(drawing)
      .split(/\r?\n/)
      .map((line) => line.trim());
    const pairs: Array<[string, string]> = [];
    for (let k = 0; k + 1 < lines.length; k += 2) pairs.push([lines[k] ?? "", lines[k + 1] ?? ""]);
    const units = pairs.findIndex(([, value]) => value === "$INSUNITS");
    expect(pairs[units + 1]).toEqual(["70", "4"]);
    const entity = (kind: string, layer: string): Array<[string, string]> => {
      const starts = pairs.flatMap(([code, value], index) => (code === "0" && value === kind ? [index] : []));
      const found = starts
        .map((start) =>
          pairs.slice(
            start,
            pairs.findIndex(([code], at) => at > start && code === "0"),
          ),
        )
        .find((body) => body.some(([code, value]) => code === "8" && value === layer));
      return found ?? [];
    };
    const numbers = (body: Array<[string, string]>, code: string): number[] =>
      body.filter(([one]) => one === code).map(([, value]) => Number(value));
    const outline = entity("LWPOLYLINE", "pieces");
    expect([Math.min(...numbers(outline, "10")), Math.max(...numbers(outline, "10"))]).toEqual([10, 24]);
    expect([Math.min(...numbers(outline, "20")), Math.max(...numbers(outline, "20"))]).toEqual([5, 17]);
    const notch = entity("CIRCLE", "notches");
    expect([numbers(notch, "10")[0], numbers(notch, "20")[0], numbers(notch, "40")[0]]).toEqual([10, 11, 2.1]);
    expect(numbers(entity("LINE", "cuts"), "10")).toEqual([24]);
  });
});
