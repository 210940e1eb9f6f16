import { describe, expect, it } from "vitest";
import { gridOf, layBeads } from "./beads.ts";
import { bondLineUm } from "./bond-line.ts";
import { Flow } from "./flow.ts";
import { closing, readSpread, type Spread, spread } from "./index.ts";

const DIE = { widthMm: 20, heightMm: 22 };
const dot = (x: number, y: number, volumeUl: number) => ({ x1Mm: x, y1Mm: y, x2Mm: x, y2Mm: y, volumeUl });
const bead = (x1Mm: number, y1Mm: number, x2Mm: number, y2Mm: number, volumeUl: number) => ({
  x1Mm,
  y1Mm,
  x2Mm,
  y2Mm,
  volumeUl,
});
const of = (more: object): Spread => spread(readSpread({ die: DIE, beads: [], bondLineUm: 50, ...more }));
const areaOf = (ring: ReadonlyArray<readonly [number, number]>): number =>
  ring.reduce((sum, [x, y], k) => {
    const [nx, ny] = ring[(k + 1) % ring.length] ?? [x, y];
    return sum + (x * ny - nx * y) / 2;
  }, 0);

/** x and y from, x and y to, height, mm. */
type Patch = [number, number, number, number, number];

/**
 * The same pressing in small steps of the gap: in every step the full cells give what the falling plate takes from them, along the slope of a
 * pressure solved anew, and a cell that comes to hold the gap is full.
 */
function slowTwin(patches: readonly Patch[], filmMm: number, gapMm: number): number {
  const [cell, columns, rows] = [0.5, 40, 44];
  const a = 1 / cell ** 2;
  const holds = new Float64Array(columns * rows).fill(filmMm);
  for (const [x0, y0, x1, y1, high] of patches)
    for (let k = 0; k < holds.length; k++) {
      const [x, y] = [((k % columns) + 0.5) * cell, (Math.floor(k / columns) + 0.5) * cell];
      if (x > x0 && x < x1 && y > y0 && y < y1) holds[k] = (holds[k] ?? 0) + high;
    }
  const q = new Float64Array(holds.length);
  const at = (i: number, j: number): number =>
    i < 0 || j < 0 || i >= columns || j >= rows ? 0 : (q[j * columns + i] ?? 0);
  const around = (i: number, j: number): number => at(i - 1, j) + at(i + 1, j) + at(i, j - 1) + at(i, j + 1);
  const weighs = (i: number, j: number): number =>
    4 + (i === 0 || i === columns - 1 ? 1 : 0) + (j === 0 || j === rows - 1 ? 1 : 0);
  let gap = Math.max(...holds);
  // At the last gap on, until no cell holds more than it can.
  while (gap > gapMm || Math.max(...holds) > gapMm * 1.002) {
    gap = Math.max(gapMm, gap * 0.95);
    const full = holds.map((one) => (one >= gap ? 1 : 0));
    q.fill(0);
    for (let sweep = 0; sweep < 2 * rows; sweep++)
      for (let k = 0; k < q.length; k++) {
        if (!full[k]) continue;
        const [i, j] = [k % columns, Math.floor(k / columns)];
        const next = (around(i, j) + ((holds[k] ?? 0) - gap) / a) / weighs(i, j);
        q[k] = (q[k] ?? 0) + 1.85 * (next - (q[k] ?? 0));
      }
    for (let k = 0; k < q.length; k++) {
      const [i, j] = [k % columns, Math.floor(k / columns)];
      holds[k] = (holds[k] ?? 0) + a * (around(i, j) - weighs(i, j) * (q[k] ?? 0));
    }
  }
  return holds.reduce((sum, one) => sum + Math.max(0, (one - filmMm) / (gapMm - filmMm)), 0) / holds.length;
}

describe("a dot", () => {
  it("stays a circle of πR²h = V while it is on the die (squeezed layer, Reynolds)", () => {
    const found = of({ beads: [dot(10, 11, 10)] });
    expect(found.coveragePct).toBeCloseTo((100 * 10) / 0.05 / 440, 1);
    expect(found.squeezedOutUl).toBeCloseTo(0, 3);
    const radius = Math.sqrt(10 / 0.05 / Math.PI);
    const [ring = []] = found.outline;
    for (const [x, y] of ring) expect(Math.abs(Math.hypot(x - 10, y - 11) - radius)).toBeLessThan(0.15);
  });

  it("of a grain of rice, some 20 µL, covers most of a die of usual size (common practice, no source)", () => {
    expect(of({ beads: [dot(10, 11, 20)] }).coveragePct).toBeGreaterThan(85);
    expect(of({ beads: [dot(10, 11, 5)] }).coveragePct).toBeLessThan(30);
  });
});

describe("volume is kept", () => {
  it.each([
    ["one dot", { beads: [dot(10, 11, 30)] }],
    ["crossing lines", { beads: [bead(2, 2, 18, 20, 12), bead(2, 20, 18, 2, 12)] }],
    ["dots on a film", { filmUm: 20, beads: [dot(4, 5, 6), dot(15, 16, 9)] }],
    ["a bead over the edge", { beads: [bead(0, 4, 0, 18, 12)] }],
  ])("%s: what is wet, what is left of a film and what is squeezed out make the dose", (_, more) => {
    const found = of({ densityGPerMl: 2.5, ...more });
    const wet = 440 - found.uncoveredMm2;
    const film = "filmUm" in more ? (more.filmUm / 1000) * found.uncoveredMm2 : 0;
    expect(wet * 0.05 + film + found.squeezedOutUl).toBeCloseTo(found.doseUl, 1);
    expect(found.doseMg).toBeCloseTo(found.doseUl * 2.5, 9);
    expect(Math.abs(found.outline.reduce((sum, ring) => sum + areaOf(ring), 0))).toBeCloseTo(wet, -1);
  });
});

describe("as a twin that goes step by step", () => {
  it.each<[string, Patch[], number]>([
    ["a block that reaches the edges", [[8, 9, 12, 13, 1.4]], 0],
    ["a block off the middle", [[3, 4, 7, 8, 1]], 0],
    [
      "two blocks of two heights on a film",
      [
        [3, 4, 7, 8, 0.6],
        [12, 13, 16, 17, 0.9],
      ],
      0.02,
    ],
  ])("%s", (_, patches, filmMm) => {
    // Blocks as many thin beads beside each other would be long; as squares of dots they keep volume and place.
    const beads = patches.flatMap(([x0, y0, x1, y1, high]) =>
      Array.from({ length: 16 }, (_each, k) => {
        const [w, h] = [(x1 - x0) / 4, (y1 - y0) / 4];
        return dot(x0 + ((k % 4) + 0.5) * w, y0 + (Math.floor(k / 4) + 0.5) * h, w * h * high);
      }),
    );
    const share = slowTwin(patches, filmMm, 0.05);
    expect(of({ beads, filmUm: filmMm * 1000 }).coveragePct / 100).toBeCloseTo(share, 1.7);
  });
});

describe("a full die that is pressed on", () => {
  it.each([
    [20, 20, 0.1406],
    [10, 20, 0.229],
  ])(
    "%i × %i mm: the pressure of a torsion problem, factor %f (Timoshenko & Goodier, from memory)",
    (wide, high, factor) => {
      // For ∇²p = −1 with p = 0 at the edges, ∫p = factor/4 · long · short³. From a gap to just below it, w is that p times the step.
      const grid = gridOf({ widthMm: wide, heightMm: high }, 0.25);
      const laid = layBeads(grid, [], 0.1);
      const flow = new Flow(grid);
      flow.press(laid, 0.099, 1e-6);
      let sum = 0;
      for (let j = 0; j < grid.rows; j++) for (let i = 0; i < grid.columns; i++) sum += flow.wMm2(i, j);
      const short = Math.min(wide, high);
      const expected = (factor / 4) * Math.max(wide, high) * short ** 3;
      expect((sum * grid.dxMm * grid.dyMm) / 0.001 / expected).toBeCloseTo(1, 1.7);
    },
  );
});

describe("air", () => {
  const ring = (radius: number, each: number) =>
    Array.from({ length: 8 }, (_, k) => {
      const angle = (k * Math.PI) / 4;
      return dot(10 + radius * Math.cos(angle), 11 + radius * Math.sin(angle), each);
    });

  it("in a closed ring of lines it is all that the ring went round", () => {
    const square = [bead(5, 5, 15, 5, 3), bead(15, 5, 15, 15, 3), bead(15, 15, 5, 15, 3), bead(5, 15, 5, 5, 3)];
    const { enclosedAirMm2 } = of({ beads: square });
    // Walls are √(3/10) ≈ 0.52 mm wide: inside them 9.48².
    expect(enclosedAirMm2).toBeGreaterThan(80);
    expect(enclosedAirMm2).toBeLessThan(92);
  });

  it("in a ring of dots it is closed in as they meet, and less than the circle through them", () => {
    const { enclosedAirMm2 } = of({ beads: ring(6, 2) });
    // Eight circles that just touch, around a middle: octagon less eight sectors of 135°.
    const r = 6 * Math.sin(Math.PI / 8);
    const exact = 8 * (0.5 * 36 * Math.sin(Math.PI / 4)) - 8 * 0.5 * r * r * ((135 * Math.PI) / 180);
    expect(Math.abs(enclosedAirMm2 - exact)).toBeLessThan(0.08 * exact);
  });

  it("that reaches the die's edge is not closed in, nor is any by one dot or by lines that cross", () => {
    expect(of({ beads: [dot(10, 11, 25)] }).enclosedAirMm2).toBe(0);
    expect(of({ beads: [bead(3, 3, 17, 19, 10), bead(3, 19, 17, 3, 10)] }).enclosedAirMm2).toBe(0);
  });
});

describe("the least dose", () => {
  it("covers 99 %, and a little less does not", () => {
    for (const beads of [[dot(10, 11, 22)], [bead(4, 11, 16, 11, 9), dot(4, 4, 2)]]) {
      const { leastDoseUl, doseUl } = of({ beads });
      const factor = (leastDoseUl ?? 0) / doseUl;
      const at = (share: number): number =>
        of({ beads: beads.map((one) => ({ ...one, volumeUl: one.volumeUl * factor * share })) }).coveragePct;
      expect(at(1)).toBeGreaterThanOrEqual(98.98);
      expect(at(0.98)).toBeLessThan(99);
    }
  });

  it("of a film alone is the bond line's own volume; a thinner film wets nothing", () => {
    expect(of({ filmUm: 30 })).toMatchObject({ coveragePct: 0, enclosedAirMm2: 0 });
    for (const filmUm of [7, 30, 49.9, 60, 333]) expect(of({ filmUm }).leastDoseUl).toBeCloseTo(22, 6);
    expect(of({ filmUm: 60 })).toMatchObject({ coveragePct: 100 });
    expect(of({ filmUm: 60 }).squeezedOutUl).toBeCloseTo(4.4, 6);
  });

  it("is not there where a dot in the corner would need more than ten fills", () => {
    expect(of({ beads: [dot(0, 0, 5)] }).leastDoseUl).toBeNull();
  });
});

describe("the closing", () => {
  it("wets more and more, from where the plate touches to the bond line", () => {
    const moments = closing(readSpread({ die: DIE, beads: [dot(10, 11, 22)], bondLineUm: 50 }), 12, 0.5);
    expect(moments[0]?.gapMm).toBeCloseTo(Math.cbrt((4 * 22) / Math.PI), 2);
    expect(moments.at(-1)?.gapMm).toBeCloseTo(0.05, 9);
    for (const [index, { coveragePct }] of moments.entries())
      expect(coveragePct).toBeGreaterThanOrEqual(moments[index - 1]?.coveragePct ?? 0);
  });

  it("the bond line follows Prasher's law (2001, from memory): a ten-thousandth of the pressure gives 28.4 µm", () => {
    expect(bondLineUm(1, 10)).toBeCloseTo(28.4, 1);
    const { bondLineUm: found } = readSpread({ die: DIE, filmUm: 50, pressureKPa: 241, yieldPa: 120 });
    expect(found).toBeCloseTo(131 * (120 / 241_000) ** 0.166, 9);
  });
});

describe("what can't be told", () => {
  it.each([
    ["no dose", { beads: [] }, "no-dose", "beads"],
    ["a bead of nothing", { beads: [dot(3, 3, 0)] }, "bad-spread", "beads[0].volumeUl"],
    ["5 mL", { beads: [dot(3, 3, 5000)] }, "large-dose", "beads"],
    ["a bead off the die", { beads: [dot(3, 3, 2), dot(21, 3, 5)] }, "off-die", "beads[1]"],
    ["neither bond line nor yield stress", { beads: [dot(3, 3, 5)], bondLineUm: null }, "bad-spread", "bondLineUm"],
    ["a die without a size", { die: { widthMm: 0, heightMm: 2 } }, "bad-spread", "die.widthMm"],
  ])("%s is refused beside its field", (_, more, code, where) => {
    expect(() => of(more)).toThrow(expect.objectContaining({ code, where }));
  });
});
