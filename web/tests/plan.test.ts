import { describe, expect, it } from "vitest";
import type { Thing } from "#core/boardmap/index.ts";
import { cutMarks, cutWords, letterMm, MARK_RADIUS_MM } from "../stations/pads/cut-marks.ts";
import { type PlanLabel, planLabels } from "../ui/plan-labels.ts";

const part = (id: string, xMm: number, yMm: number, widthMm: number, heightMm: number): Thing => ({
  id,
  xMm,
  yMm,
  widthMm,
  heightMm,
  type: "part",
  side: "front",
});
const BOARD = { widthMm: 240, heightMm: 104 };

describe("words on the plan", () => {
  const column = Array.from({ length: 8 }, (_, k) => part(`Q${k}`, 190, 20 + 9 * k, 5, 6));
  const beside = Array.from({ length: 8 }, (_, k) => part(`L${k}`, 201, 20 + 9 * k, 7, 7));
  const all = [part("M1", 100, 50, 14, 12), ...column, ...beside];
  const labels = (pxPerMm: number): Map<string, PlanLabel> => planLabels(all, () => "1.25", BOARD, pxPerMm);
  const areaOf = ({ lines, sizeMm, xMm, yMm }: PlanLabel) => {
    const width = 0.6 * sizeMm * Math.max(...lines.map((line) => line.length));
    return { left: xMm - width / 2, right: xMm + width / 2, low: yMm - sizeMm / 2, high: yMm + sizeMm / 2 };
  };

  it("stand inside a large part, and beside small ones where they cover neither parts nor each other", () => {
    const found = labels(2.8);
    expect(found.get("M1")).toMatchObject({ outside: false, lines: ["1.25"] });
    const outside = [...found].filter(([, label]) => label.outside);
    expect(outside.map(([id]) => id).sort()).toEqual([...column, ...beside].map(({ id }) => id).sort());
    const areas = outside.map(([, label]) => areaOf(label));
    areas.forEach((one, index) => {
      const others = [
        ...areas.slice(0, index),
        ...all.map(({ xMm, yMm, widthMm, heightMm }) => ({
          left: xMm - widthMm / 2,
          right: xMm + widthMm / 2,
          low: yMm - heightMm / 2,
          high: yMm + heightMm / 2,
        })),
      ];
      for (const other of others)
        expect(one.left < other.right && other.left < one.right && one.low < other.high && other.low < one.high).toBe(
          false,
        );
    });
  });

  it("go inside once the plan is enlarged, and give way where there is no room at all", () => {
    expect([...labels(11).values()].every((label) => !label.outside)).toBe(true);
    const crowd = Array.from({ length: 100 }, (_, k) =>
      part(`P${k}`, 4 + 3 * (k % 10), 4 + 3 * Math.floor(k / 10), 3, 3),
    );
    const found = planLabels(crowd, () => "1.25 88", { widthMm: 32, heightMm: 32 }, 2.8);
    expect(found.get("P55")?.lines).toEqual([]);
  });
});

describe("numbers of cuts", () => {
  const pieces = Array.from({ length: 9 }, (_, k) => ({ xMm: 0, yMm: 5 * k, widthMm: 6, heightMm: 5 }));
  const cuts = [
    { x0Mm: 6, y0Mm: 0, x1Mm: 6, y1Mm: 45 },
    ...Array.from({ length: 8 }, (_, k) => ({ x0Mm: 0, y0Mm: 5 * (k + 1), x1Mm: 6, y1Mm: 5 * (k + 1) })),
  ];

  it("stand on the line of their cut, clear of each other and of the letters", () => {
    const marks = cutMarks(cuts, pieces);
    expect(marks).toHaveLength(cuts.length);
    marks.forEach((mark, index) => {
      const cut = cuts[index]!;
      expect(cut.x0Mm === cut.x1Mm ? mark.xMm : mark.yMm).toBe(cut.x0Mm === cut.x1Mm ? cut.x0Mm : cut.y0Mm);
      for (const other of marks.slice(0, index))
        expect(Math.hypot(other.xMm - mark.xMm, other.yMm - mark.yMm)).toBeGreaterThanOrEqual(
          2 * MARK_RADIUS_MM - 1e-9,
        );
      for (const piece of pieces)
        expect(Math.hypot(piece.xMm + 3 - mark.xMm, piece.yMm + 2.5 - mark.yMm)).toBeGreaterThanOrEqual(
          MARK_RADIUS_MM + letterMm(piece) / 2 - 1e-9,
        );
    });
  });

  it("are told in words as the ruler is laid", () => {
    expect(cutWords(cuts[0]!)).toBe("6 mm from the left, upright from 0 to 45 mm");
    expect(cutWords(cuts[1]!)).toBe("5 mm from the bottom, across from 0 to 6 mm");
  });
});
