import { describe, expect, it } from "vitest";
import { planCuts, readCuts } from "./index.ts";
import { type Item, MANNERS, packSheet } from "./packing.ts";

const SHEET = { widthMm: 100, heightMm: 60 };
const items = (count: number, widthMm: number, heightMm: number): Item[] =>
  Array.from({ length: count }, () => ({ kind: 0, widthMm, heightMm }));
const area = (boxes: ReadonlyArray<{ widthMm: number; heightMm: number }>): number =>
  boxes.reduce((sum, box) => sum + box.widthMm * box.heightMm, 0);

describe("one sheet", () => {
  it.each(MANNERS.map((manner) => [`${manner.fit}, ${manner.split}`, manner] as const))(
    "%s: straight cuts part the sheet into pieces and left-overs without loss",
    (_, manner) => {
      const rules = { cutGapMm: 0, rotate: true, straightCuts: true };
      const { placed, left, spaces } = packSheet(
        [...items(6, 30, 20), ...items(9, 13, 11)],
        SHEET,
        rules,
        () => manner,
      );
      expect(placed.length + left.length).toBe(15);
      expect(area(placed) + area(spaces)).toBeCloseTo(6000, 6);
    },
  );

  it("largest free rectangles may overlap one another but no piece", () => {
    const [manner] = MANNERS;
    const rules = { cutGapMm: 2, rotate: false, straightCuts: false };
    const { placed, spaces } = packSheet(items(5, 33, 17), SHEET, rules, () => manner ?? MANNERS[1]!);
    for (const space of spaces)
      for (const piece of placed) {
        const apart =
          space.xMm >= piece.xMm + piece.widthMm + 2 - 1e-6 ||
          piece.xMm >= space.xMm + space.widthMm + 2 - 1e-6 ||
          space.yMm >= piece.yMm + piece.heightMm + 2 - 1e-6 ||
          piece.yMm >= space.yMm + space.heightMm + 2 - 1e-6;
        expect(apart).toBe(true);
      }
  });

  it("turns a piece only where it may", () => {
    const [manner] = MANNERS;
    const pack = (rotate: boolean) =>
      packSheet(items(1, 50, 90), SHEET, { cutGapMm: 0, rotate, straightCuts: true }, () => manner ?? MANNERS[1]!);
    expect(pack(true).placed[0]).toMatchObject({ rotated: true, widthMm: 90, heightMm: 50 });
    expect(pack(false)).toMatchObject({ placed: [], left: [{ kind: 0 }] });
  });
});

describe("stock and money", () => {
  const piece = { id: "m", widthMm: 30, heightMm: 30, thicknessMm: 1, material: "soft" };
  const sheet = (id: string, quantity: number | null, price: number) => ({
    id,
    widthMm: 60,
    heightMm: 30,
    thicknessMm: 1,
    material: "soft",
    quantity,
    price,
  });
  const plan = (count: number, stock: object[]) =>
    planCuts(readCuts({ pieces: [{ ...piece, quantity: count }], stock }));

  it("takes the cheap sheets while they last, then the dear ones", () => {
    const found = plan(6, [sheet("cheap", 2, 3), sheet("dear", null, 5)]);
    expect(found.sheets.map((one) => one.stockId).sort((a, b) => a.localeCompare(b))).toEqual([
      "cheap",
      "cheap",
      "dear",
    ]);
    expect([found.cost, found.lowerBoundCost, found.utilisationPct]).toEqual([11, 11, 100]);
  });

  it("says what stays over when the stock runs out, and what an empty store can give", () => {
    expect(plan(6, [sheet("few", 2, 3)]).unplaced).toEqual([{ pieceId: "m", quantity: 2 }]);
    expect(plan(6, [sheet("none", 0, 3)])).toMatchObject({
      sheets: [],
      unplaced: [{ pieceId: "m", quantity: 6 }],
      cost: 0,
      lowerBoundCost: 0,
    });
    expect(plan(0, [])).toEqual({ sheets: [], unplaced: [], utilisationPct: 0, cost: 0, lowerBoundCost: 0 });
  });

  it("gives the same plan again", () => {
    const stock = [sheet("a", null, 4), sheet("b", 1, 1)];
    expect(plan(5, stock)).toEqual(plan(5, stock));
  });
});
