import loadHighs from "highs";
import { describe, expect, it } from "vitest";
import { Simplex } from "../numeric/index.ts";
import { seeded } from "../random/index.ts";
import { columnsOf } from "./columns.ts";
import { type CuttingTask, planCuts, readCuts } from "./index.ts";
import { GuillotineTable } from "./raster.ts";

/** The integer-programming library HiGHS says what is best on cases small enough to write down every way to cut a sheet. */
const highs = await loadHighs();

type Sizes = ReadonlyArray<readonly [width: number, height: number]>;

/** Every set of pieces that straight cuts get out of a sheet of whole millimetres, as counts; plain, slow recursion. */
function patternsOf(width: number, height: number, sizes: Sizes): number[][] {
  const known = new Map<string, number[][]>();
  const undominated = (all: number[][]): number[][] => {
    const distinct = [...new Map(all.map((one) => [one.join(), one])).values()];
    return distinct.filter(
      (one) => !distinct.some((other) => other !== one && other.every((count, k) => count >= (one[k] ?? 0))),
    );
  };
  const cut = (x: number, y: number): number[][] => {
    const key = `${x} ${y}`;
    const seen = known.get(key);
    if (seen) return seen;
    const found: number[][] = [sizes.map(() => 0)];
    sizes.forEach(([w, h], size) => {
      if ((w <= x && h <= y) || (h <= x && w <= y)) found.push(sizes.map((_, k) => Number(k === size)));
    });
    const join = (first: number[][], second: number[][]): void => {
      for (const a of first) for (const b of second) found.push(a.map((count, k) => count + (b[k] ?? 0)));
    };
    for (let at = 1; at <= x / 2; at++) join(cut(at, y), cut(x - at, y));
    for (let at = 1; at <= y / 2; at++) join(cut(x, at), cut(x, y - at));
    const best = undominated(found);
    known.set(key, best);
    return best;
  };
  return cut(width, height);
}

interface Case {
  sizes: Sizes;
  counts: number[];
  stock: Array<{ width: number; height: number; price: number; quantity: number | null }>;
}

/** Cheapest whole sheets (or shares of sheets) that hold everything, by HiGHS. */
function cheapest({ sizes, counts, stock }: Case, whole: boolean): number {
  const columns = stock.flatMap(({ width, height, price }, sheet) =>
    patternsOf(width, height, sizes).map((pattern) => ({ pattern, price, sheet })),
  );
  const terms = (of: (column: (typeof columns)[number]) => number): string =>
    columns.map((column, k) => `${of(column)} x${k}`).join(" + ");
  const limits = stock.flatMap(({ quantity }, sheet) =>
    quantity === null ? [] : [`s${sheet}: ${terms((column) => Number(column.sheet === sheet))} <= ${quantity}`],
  );
  const solved = highs.solve(
    [
      `Minimize obj: ${terms((column) => column.price)}`,
      "Subject To",
      ...sizes.map((_, size) => `p${size}: ${terms(({ pattern }) => pattern[size] ?? 0)} >= ${counts[size]}`),
      ...limits,
      ...(whole ? ["General", columns.map((_, k) => `x${k}`).join(" ")] : []),
      "End",
    ].join("\n"),
  );
  expect(solved.Status).toBe("Optimal");
  return solved.ObjectiveValue;
}

const taskOf = ({ sizes, counts, stock }: Case): CuttingTask =>
  readCuts({
    pieces: sizes.map(([widthMm, heightMm], k) => ({
      id: `p${k}`,
      widthMm,
      heightMm,
      quantity: counts[k],
      thicknessMm: 1,
      material: "soft",
    })),
    stock: stock.map(({ width, height, price, quantity }, k) => ({
      id: `s${k}`,
      widthMm: width,
      heightMm: height,
      price,
      quantity,
      thicknessMm: 1,
      material: "soft",
    })),
  });

const itemsOf = ({ pieces }: CuttingTask) =>
  pieces.flatMap(({ widthMm, heightMm, quantity }, kind) =>
    Array.from({ length: quantity }, () => ({ kind, widthMm, heightMm })),
  );

const endless = (width: number, height: number, price: number) => ({ width, height, price, quantity: null });
const CASES: Array<[string, Case]> = [
  [
    "one kind of sheet",
    {
      sizes: [
        [5, 3],
        [4, 2],
      ],
      counts: [7, 9],
      stock: [endless(10, 7, 6)],
    },
  ],
  [
    "two kinds of sheet",
    {
      sizes: [
        [6, 4],
        [5, 3],
        [3, 2],
      ],
      counts: [4, 6, 8],
      stock: [endless(9, 6, 5), endless(12, 9, 9)],
    },
  ],
  [
    "two left-overs that cost nothing and one size to buy",
    {
      sizes: [
        [4, 3],
        [5, 2],
      ],
      counts: [6, 7],
      stock: [{ width: 8, height: 3, price: 0, quantity: 2 }, endless(11, 8, 7)],
    },
  ],
  [
    "pieces that only a large sheet holds",
    {
      sizes: [
        [11, 5],
        [3, 3],
      ],
      counts: [2, 9],
      stock: [endless(6, 6, 3), endless(12, 10, 8)],
    },
  ],
];

describe("against exact integer programming (HiGHS)", () => {
  it.each(CASES)("the plan costs the least and the bound never more: %s", (_, given) => {
    const least = cheapest(given, true);
    const plan = planCuts(taskOf(given));
    expect(plan.unplaced).toEqual([]);
    expect(plan.cost).toBeCloseTo(least, 9);
    expect(plan.lowerBoundCost).toBeLessThanOrEqual(least + 1e-9);
  });

  it.each(CASES)("columns come to the bound of the programme with every pattern in it: %s", (_, given) => {
    const task = taskOf(given);
    const { bound, patterns } = columnsOf(itemsOf(task), task.stock, task);
    expect(bound).toBeCloseTo(cheapest(given, false), 5);
    // What the relaxed plan takes of its patterns holds everything.
    given.counts.forEach((count, size) => {
      const held = patterns.reduce(
        (sum, { laid, share }) => sum + share * laid.filter((one) => one.size === size).length,
        0,
      );
      expect(held).toBeGreaterThanOrEqual(count - 1e-6);
    });
  });

  it("made-up cases by a kept seed: never above the best plan that exists, and as cheap", () => {
    const random = seeded(11);
    const whole = (low: number, high: number): number => Math.floor(random.between(low, high + 1));
    for (let turn = 0; turn < 12; turn++) {
      const sizes: Sizes = Array.from({ length: 2 }, () => [whole(3, 7), whole(2, 5)] as const);
      const given: Case = {
        sizes,
        counts: sizes.map(() => whole(2, 7)),
        stock: [endless(9, 7, whole(4, 6)), endless(13, 8, whole(7, 10))],
      };
      const plan = planCuts(taskOf(given));
      const least = cheapest(given, true);
      expect(plan.cost, JSON.stringify(given)).toBeCloseTo(least, 9);
      expect(plan.lowerBoundCost, JSON.stringify(given)).toBeLessThanOrEqual(least + 1e-9);
    }
  });
});

describe("the table of straight cuts", () => {
  it("finds the same worth as every pattern tried, and lays the pieces apart and inside", () => {
    const sizes: Sizes = [
      [5, 3],
      [4, 2],
      [7, 4],
    ];
    const worth = [2.1, 1, 4.5];
    const table = new GuillotineTable(
      sizes.map(([widthMm, heightMm]) => ({ widthMm, heightMm, count: 1 })),
      [{ widthMm: 13, heightMm: 9 }],
      { cutGapMm: 0, rotate: true },
    );
    table.work(worth);
    const most = Math.max(
      ...patternsOf(13, 9, sizes).map((counts) => counts.reduce((sum, count, k) => sum + count * (worth[k] ?? 0), 0)),
    );
    const bin = { widthMm: 13, heightMm: 9 };
    expect(table.valueOf(bin)).toBeCloseTo(most, 9);
    const laid = table.patternOf(bin);
    expect(laid.reduce((sum, { size }) => sum + (worth[size] ?? 0), 0)).toBeCloseTo(most, 9);
    laid.forEach((one, index) => {
      expect(one.xMm + one.widthMm).toBeLessThanOrEqual(13);
      expect(one.yMm + one.heightMm).toBeLessThanOrEqual(9);
      for (const other of laid.slice(0, index)) {
        const across = one.xMm >= other.xMm + other.widthMm || other.xMm >= one.xMm + one.widthMm;
        const along = one.yMm >= other.yMm + other.heightMm || other.yMm >= one.yMm + one.heightMm;
        expect(across || along).toBe(true);
      }
    });
  });

  it("where sizes are too odd to tell all cuts, is worth no less than what fits", () => {
    const sizes = [13.71, 11.93, 6.37, 5.29, 9.83].map((widthMm, k) => ({
      widthMm,
      heightMm: 4.1 + 1.37 * k,
      count: 1,
    }));
    const table = new GuillotineTable(sizes, [{ widthMm: 100, heightMm: 100 }], { cutGapMm: 0.35, rotate: true });
    expect(table.exact).toBe(false);
    table.work(sizes.map(({ widthMm, heightMm }) => widthMm * heightMm));
    // Pieces that are small against the sheet are not rounded up: 195 across and 204 along fit by hand.
    const large = { widthMm: 1003, heightMm: 997 };
    const tiny = [
      { widthMm: 5.13, heightMm: 4.87, count: 1 },
      { widthMm: 7.77, heightMm: 6.1, count: 1 },
    ];
    const fine = new GuillotineTable(tiny, [large], { cutGapMm: 0, rotate: false });
    fine.work([1, 0]);
    expect(fine.valueOf(large)).toBeGreaterThanOrEqual(195 * 204);
    // Seven across and twenty-two along of the first size fit by hand: 7 × 14.06 and 22 × 4.45 mm are less than 100.35.
    expect(table.valueOf({ widthMm: 100, heightMm: 100 })).toBeGreaterThanOrEqual(7 * 22 * 13.71 * 4.1);
  });
});

it("the simplex method agrees with HiGHS on made-up programmes", () => {
  const random = seeded(5);
  for (let turn = 0; turn < 20; turn++) {
    const rows = 4;
    const right = Array.from({ length: rows }, () => Math.floor(random.between(1, 9)));
    const unit = (row: number) => Array.from({ length: rows }, (_, k) => Number(k === row));
    const columns = Array.from({ length: 9 }, () => ({
      cost: random.between(1, 5),
      rows: Array.from({ length: rows }, () => Math.floor(random.between(0, 4))),
    }));
    const programme = new Simplex(
      right,
      right.map((_, row) => ({ cost: 50, rows: unit(row) })),
    );
    for (const column of columns) programme.add(column);
    const worth = programme.solve();
    const all = [...right.map((_, row) => ({ cost: 50, rows: unit(row) })), ...columns];
    const terms = (of: (column: (typeof all)[number]) => number): string =>
      all.map((column, k) => `${of(column)} x${k}`).join(" + ");
    const solved = highs.solve(
      [
        `Minimize obj: ${terms((column) => column.cost)}`,
        "Subject To",
        ...right.map((value, row) => `r${row}: ${terms((column) => column.rows[row] ?? 0)} = ${value}`),
        "End",
      ].join("\n"),
    );
    // Strong duality: the worth of the right side is the least cost.
    expect(worth.reduce((sum, one, row) => sum + one * (right[row] ?? 0), 0)).toBeCloseTo(solved.ObjectiveValue, 6);
    expect(programme.used().reduce((sum, { column, share }) => sum + share * (all[column]?.cost ?? 0), 0)).toBeCloseTo(
      solved.ObjectiveValue,
      6,
    );
  }
});
