import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { lowerBound } from "./bound.ts";
import { type CutPlan, type CuttingTask, planCuts, readCuts } from "./index.ts";
import { cutUp, piece, sheet } from "./tests/cases.ts";

const task = (more: object): CuttingTask => readCuts({ pieces: [], stock: [], ...more });
const placedOf = (plan: CutPlan): number => plan.sheets.reduce((sum, one) => sum + one.placements.length, 0);

/** What any plan must keep: pieces inside their sheets, apart by the gap, each as often as asked for, straight cuts where asked. */
function expectSound(given: CuttingTask, plan: CutPlan): void {
  for (const used of plan.sheets) {
    const stock = given.stock.find((one) => one.id === used.stockId);
    for (const [index, one] of used.placements.entries()) {
      const source = given.pieces.find((entry) => entry.id === one.pieceId);
      const size = [source?.widthMm, source?.heightMm];
      expect([one.widthMm, one.heightMm]).toEqual(one.rotated ? size.reverse() : size);
      expect(Math.min(one.xMm, one.yMm)).toBeGreaterThanOrEqual(-1e-6);
      expect(one.xMm + one.widthMm).toBeLessThanOrEqual((stock?.widthMm ?? 0) + 1e-6);
      expect(one.yMm + one.heightMm).toBeLessThanOrEqual((stock?.heightMm ?? 0) + 1e-6);
      for (const other of used.placements.slice(0, index)) {
        const apart =
          one.xMm >= other.xMm + other.widthMm + given.cutGapMm - 1e-6 ||
          other.xMm >= one.xMm + one.widthMm + given.cutGapMm - 1e-6 ||
          one.yMm >= other.yMm + other.heightMm + given.cutGapMm - 1e-6 ||
          other.yMm >= one.yMm + one.heightMm + given.cutGapMm - 1e-6;
        expect(apart).toBe(true);
      }
    }
    if (given.straightCuts) expect(cutsApart(used.placements)).toBe(true);
  }
  for (const entry of given.pieces) {
    const placed = plan.sheets.flatMap((used) => used.placements).filter((one) => one.pieceId === entry.id).length;
    const missing = plan.unplaced.find((one) => one.pieceId === entry.id)?.quantity ?? 0;
    expect(placed + missing).toBe(entry.quantity);
  }
  expect(plan.lowerBoundCost).toBeLessThanOrEqual(plan.cost + 1e-9);
}

type Box = CutPlan["sheets"][number]["placements"][number];
/** Some straight cut parts the boxes, and so on within both sides. */
function cutsApart(boxes: readonly Box[]): boolean {
  if (boxes.length < 2) return true;
  for (const [from, size] of [
    ["xMm", "widthMm"],
    ["yMm", "heightMm"],
  ] as const)
    for (const { [from]: at } of boxes) {
      const before = boxes.filter((one) => one[from] + one[size] <= at + 1e-6);
      const after = boxes.filter((one) => one[from] >= at - 1e-6);
      if (before.length > 0 && after.length > 0 && before.length + after.length === boxes.length)
        return cutsApart(before) && cutsApart(after);
    }
  return false;
}

/** Most pieces of one size that straight cuts get out of a sheet: the recursion of Gilmore and Gomory (1966), plain and slow. */
function mostByRecursion(width: number, height: number, w: number, h: number): number {
  const known = new Map<string, number>();
  const best = (x: number, y: number): number => {
    if (Math.min(x, y) < Math.min(w, h) || Math.max(x, y) < Math.max(w, h)) return 0;
    const key = `${x} ${y}`;
    const seen = known.get(key);
    if (seen !== undefined) return seen;
    let most = (x >= w && y >= h) || (x >= h && y >= w) ? 1 : 0;
    for (let at = 1; at <= x / 2; at++) most = Math.max(most, best(at, y) + best(x - at, y));
    for (let at = 1; at <= y / 2; at++) most = Math.max(most, best(x, at) + best(x, y - at));
    known.set(key, most);
    return most;
  };
  return best(width, height);
}

describe("cutting plans", () => {
  it.each([
    [100, 50, 14, 12],
    [85, 45, 14, 12],
    [60, 40, 11, 7],
  ])("get as many pieces out of one %s × %s sheet as the exact recursion", (width, height, w, h) => {
    const most = mostByRecursion(width, height, w, h);
    const given = task({ pieces: [piece("m", w, h, most + 3)], stock: [sheet("s", width, height, 5, 1)] });
    const plan = planCuts(given);
    expectSound(given, plan);
    expect(placedOf(plan)).toBe(most);
    expect(plan.unplaced).toEqual([{ pieceId: "m", quantity: 3 }]);
  });

  it.each([
    ["nine squares of 32 × 33 (Moroń 1925)", [18, 15, 14, 10, 9, 8, 7, 4, 1], 32, 33],
    ["nine squares of 61 × 69", [36, 33, 28, 25, 16, 9, 7, 5, 2], 61, 69],
  ])("fill a sheet without waste where cuts need not be straight: %s", (_, sides, width, height) => {
    const given = task({
      pieces: sides.map((side) => piece(`q${side}`, side, side)),
      stock: [sheet("s", width, height, 1)],
      straightCuts: false,
    });
    expect(sides.reduce((sum, side) => sum + side * side, 0)).toBe(width * height);
    const plan = planCuts(given, { tries: 20 });
    expectSound(given, plan);
    expect([plan.cost, plan.utilisationPct]).toEqual([1, 100]);
  });

  it("fill one sheet with the perfect square of 21 squares, 112 × 112 (Duijvestijn 1978)", () => {
    const sides = [50, 42, 37, 35, 33, 29, 27, 25, 24, 19, 18, 17, 16, 15, 11, 9, 8, 7, 6, 4, 2];
    const given = task({
      pieces: sides.map((side) => piece(`q${side}`, side, side)),
      stock: [sheet("s", 112, 112, 1)],
      straightCuts: false,
    });
    expect(sides.reduce((sum, side) => sum + side * side, 0)).toBe(112 * 112);
    const plan = planCuts(given, { tries: 300 });
    expectSound(given, plan);
    expect(plan.unplaced).toEqual([]);
    expect(plan.lowerBoundCost).toBe(1);
    expect(plan.cost).toBe(1);
  });

  it("use left-overs first and buy the cheapest that holds the rest", () => {
    const given = task({
      pieces: [piece("m", 14, 12, 8)],
      stock: [sheet("rest", 60, 15, 0, 1), sheet("small", 50, 50, 4), sheet("large", 100, 100, 9)],
    });
    const plan = planCuts(given);
    expectSound(given, plan);
    expect(plan.sheets.map((one) => one.stockId).sort((a, b) => a.localeCompare(b))).toEqual(["rest", "small"]);
    expect([plan.cost, plan.lowerBoundCost]).toEqual([4, 4]);
  });

  it("keep as large a left-over as a hand finds, and draw the cuts so that it stays whole", () => {
    // Three stood up in the corner, five beside them at the bottom: 73 × 33 mm stay whole.
    const [only] = planCuts(task({ pieces: [piece("m", 14, 12, 8)], stock: [sheet("s", 85, 45, 9)] })).sheets;
    const [largest] = only?.leftOvers ?? [];
    expect((largest?.widthMm ?? 0) * (largest?.heightMm ?? 0)).toBeGreaterThanOrEqual(73 * 33);
  });

  it("place most pieces where the stock runs out: twenty small ones before one large one", () => {
    const pieces = [piece("large", 100, 50), piece("small", 10, 10, 20)];
    const plan = planCuts(task({ pieces, stock: [sheet("s", 100, 50, 7, 1)] }), { tries: 100 });
    expect(plan.unplaced).toEqual([{ pieceId: "large", quantity: 1 }]);
    expect([plan.cost, plan.lowerBoundCost]).toEqual([7, 7]);
    // Nine of ten fit the free left-over; the bound must not ask for the sheet that no plan needs.
    const partly = planCuts(task({ pieces: [piece("m", 10, 10, 12)], stock: [sheet("rest", 30, 30, 0, 1)] }), {
      tries: 50,
    });
    expect(placedOf(partly)).toBe(9);
    expect([partly.cost, partly.lowerBoundCost]).toEqual([0, 0]);
  });

  it("put the pieces of whole sheets back on as many, when they were cut without waste", () => {
    const sizes = cutUp(seeded(4), 3, 85, 45);
    const given = task({
      pieces: sizes.map(([w, h], k) => piece(`p${k}`, w, h)),
      stock: [sheet("s", 85, 45, 6)],
    });
    const plan = planCuts(given);
    expectSound(given, plan);
    expect([plan.cost, plan.lowerBoundCost]).toEqual([18, 18]);
  });

  it("keep the largest left-over in one piece", () => {
    const given = task({ pieces: [piece("m", 20, 10, 4)], stock: [sheet("s", 100, 100, 9)] });
    const [only] = planCuts(given).sheets;
    const right = Math.max(...(only?.placements ?? []).map((one) => one.xMm + one.widthMm));
    const top = Math.max(...(only?.placements ?? []).map((one) => one.yMm + one.heightMm));
    expect(Math.max((100 - right) * 100, (100 - top) * 100)).toBe(9000);
  });

  it("keep to material and thickness, and name what fits nothing", () => {
    const given = task({
      pieces: [piece("long", 300, 10), { ...piece("thick", 10, 10), thicknessMm: 2 }, piece("fits", 10, 10)],
      stock: [sheet("s", 100, 100, 9)],
    });
    const plan = planCuts(given);
    expect(placedOf(plan)).toBe(1);
    expect(plan.unplaced.map((one) => one.pieceId).sort((a, b) => a.localeCompare(b))).toEqual(["long", "thick"]);
  });

  it("need the gap between pieces only, not at the edges", () => {
    const stock = [sheet("s", 32, 10, 1, 1)];
    const pieces = [piece("m", 10, 10, 3)];
    expect(placedOf(planCuts(task({ pieces, stock, cutGapMm: 1 })))).toBe(3);
    expect(placedOf(planCuts(task({ pieces, stock, cutGapMm: 1.1 })))).toBe(2);
  });

  it("are sound whatever is asked for", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            w: fc.integer({ min: 3, max: 60 }),
            h: fc.integer({ min: 3, max: 60 }),
            n: fc.integer({ min: 0, max: 6 }),
          }),
          { maxLength: 5 },
        ),
        fc.boolean(),
        fc.boolean(),
        fc.integer({ min: 0, max: 3 }),
        (sizes, rotate, straightCuts, cutGapMm) => {
          const given = task({
            pieces: sizes.map(({ w, h, n }, index) => piece(`p${index}`, w, h, n)),
            stock: [sheet("a", 90, 50, 6), sheet("b", 50, 50, 4, 2)],
            rotate,
            straightCuts,
            cutGapMm,
          });
          expectSound(given, planCuts(given, { tries: 20 }));
        },
      ),
      { numRuns: 40, seed: 7 },
    );
  });
});

describe("the bound", () => {
  it("is the cheapest whole sheets of enough area, by hand", () => {
    const items = Array.from({ length: 12 }, () => ({ kind: 0, widthMm: 50, heightMm: 20 }));
    // 12 000 mm²: one large of 10 000 for 9 and one small of 2500 for 3; five small ones cost 15.
    expect(lowerBound(items, [sheet("l", 100, 100, 9), sheet("s", 50, 50, 3)], { cutGapMm: 0 })).toBe(12);
  });
});

describe("the bound beyond area", () => {
  it.each([
    // Two of 50 × 30 never lie beside or above each other on 85 × 45: one sheet each, though their area is 39 % of it.
    ["pieces larger than half a sheet each way", [50, 30, 5], [85, 45], 30],
    // Of 60 × 20 two fit, one above the other: three sheets for five, where area says two.
    ["two to a sheet", [60, 20, 5], [85, 45], 18],
  ] as const)("%s, by hand", (_, [w, h, count], [width, height], expected) => {
    const items = Array.from({ length: count }, () => ({ kind: 0, widthMm: w, heightMm: h }));
    expect(lowerBound(items, [sheet("s", width, height, 6)], { cutGapMm: 0 })).toBe(expected);
  });

  it("is met by the plan where the recursion of Gilmore and Gomory says how many fit, and never above it", () => {
    for (const [w, h] of [
      [40, 30],
      [44, 23],
      [30, 22],
      [28, 15],
    ] as const) {
      const fit = mostByRecursion(85, 45, w, h);
      const pieces = [piece("m", w, h, 3 * fit)];
      const plan = planCuts(task({ pieces, stock: [sheet("s", 85, 45, 6)] }), { tries: 200 });
      expect(plan.cost).toBe(18);
      expect(plan.lowerBoundCost).toBeLessThanOrEqual(18);
    }
  });

  it("is never above a plan that is known: pieces cut out of whole sheets go back onto as many", () => {
    const random = seeded(3);
    for (let turn = 0; turn < 30; turn++) {
      const items = cutUp(random, 3, 85, 45).map(([w, h]) => ({ kind: 0, widthMm: w, heightMm: h }));
      expect(lowerBound(items, [sheet("s", 85, 45, 6)], { cutGapMm: 0 })).toBeLessThanOrEqual(6 * 3);
    }
  });
});

describe("bad cutting lists", () => {
  it.each([
    ["a piece without size", { pieces: [piece("m", 0, 10)] }, /pieces\[0\].widthMm: This is below 0.1/],
    ["half a piece", { pieces: [piece("m", 10, 10, 1.5)] }, /whole number/],
    ["the same id twice", { pieces: [piece("m", 10, 10), piece("m", 5, 5)] }, /twice/],
    ["no stock list", { stock: "none" }, /no list/],
  ])("with %s are refused with the field", (_, more, words) => {
    expect(() => task(more)).toThrow(words);
  });
});
