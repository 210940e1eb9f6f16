import { Matrix, solve as solveDense } from "ml-matrix";
import { describe, expect, it } from "vitest";
import { choose, contact, isSeated, readStack, type Stack } from "./index.ts";
import { deflectionAt, type Grid, linesThrough, PER_NODE, plateStiffness, pointOn } from "./plate.ts";
import { asGiven, prepare, solveContact } from "./solve.ts";
import { HARD_CURVE, SOFT_CURVE } from "./tests/curves.ts";

/** Deflection at the middle of a square plate of side 100 mm, D = 1000 N·mm, ν = 0.3. */
function squarePlate(clamped: boolean, load: "uniform" | "centre"): number {
  const grid: Grid = { xs: linesThrough(100, [], 5), ys: linesThrough(100, [], 5) };
  const stiffness = plateStiffness(grid, () => 1000, 0.3);
  const right = new Float64Array(stiffness.size);
  const push = (x: number, y: number, force: number): void => {
    const { dofs, shape } = pointOn(grid, x, y);
    for (let i = 0; i < 12; i++) right[dofs[i] ?? 0]! += force * (shape[i] ?? 0);
  };
  if (load === "centre") push(50, 50, 1);
  else
    for (let i = 0; i < 60; i++)
      for (let j = 0; j < 60; j++) push(((i + 0.5) * 100) / 60, ((j + 0.5) * 100) / 60, 1e4 / 3600);
  const hold = (dof: number): void => stiffness.add(dof, dof, 1e9);
  grid.xs.forEach((x, column) => {
    grid.ys.forEach((y, row) => {
      if (x > 0 && x < 100 && y > 0 && y < 100) return;
      const node = PER_NODE * (column * grid.ys.length + row);
      hold(node);
      if (clamped || y === 0 || y === 100) hold(node + 1);
      if (clamped || x === 0 || x === 100) hold(node + 2);
    });
  });
  return deflectionAt(pointOn(grid, 50, 50), stiffness.solve(right)!);
}

describe("thin plates (Timoshenko & Woinowsky-Krieger, square, ν = 0.3; from memory of the tables)", () => {
  it.each([
    ["simply supported, uniform load", false, "uniform", (0.00406 * 1 * 100 ** 4) / 1000],
    ["simply supported, central force", false, "centre", (0.0116 * 1 * 100 ** 2) / 1000],
    ["clamped, uniform load", true, "uniform", (0.00126 * 1 * 100 ** 4) / 1000],
    ["clamped, central force", true, "centre", (0.0056 * 1 * 100 ** 2) / 1000],
  ] as const)("%s within 1 %%", (_, clamped, load, expected) => {
    expect(Math.abs(squarePlate(clamped, load) / expected - 1)).toBeLessThan(0.01);
  });

  it("band solution agrees with a general linear-algebra package", () => {
    const grid: Grid = { xs: linesThrough(40, [], 10), ys: linesThrough(30, [], 10) };
    const stiffness = plateStiffness(grid, () => 500, 0.2);
    for (let dof = 0; dof < stiffness.size; dof += PER_NODE) stiffness.add(dof, dof, 2);
    const right = Float64Array.from({ length: stiffness.size }, (_, k) => Math.sin(k));
    const dense = Matrix.zeros(stiffness.size, stiffness.size);
    for (let i = 0; i < stiffness.size; i++) {
      const unit = new Float64Array(stiffness.size);
      unit[i] = 1;
      stiffness.times(unit).forEach((value, j) => dense.set(j, i, value));
    }
    const expected = solveDense(dense, Matrix.columnVector([...right])).to1DArray();
    const found = stiffness.copy().solve(right);
    expect(found).toHaveLength(expected.length);
    found!.forEach((value, dof) => expect(value).toBeCloseTo(expected[dof]!, 6));
  });
});

const LINEAR = {
  conductivityWPerMK: 6,
  curve: [
    [0, 0],
    [1, 500],
  ] as Array<[number, number]>,
};
const SOFT = {
  conductivityWPerMK: 6,
  curve: SOFT_CURVE,
};
const HARD = {
  conductivityWPerMK: 12,
  curve: HARD_CURVE,
};
const memory = (id: string, xMm: number, thicknessMm: number, more: object = {}) => ({
  id,
  kind: "memory",
  xMm,
  yMm: 52,
  widthMm: 14,
  heightMm: 12,
  gapMm: 1,
  pad: { material: "soft", thicknessMm, layers: 1, widthMm: 14, heightMm: 12 },
  ...more,
});
const BASE: Stack = {
  board: { widthMm: 240, heightMm: 104, thicknessMm: 1.6, youngGPa: 22, poisson: 0.15 },
  die: { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22 },
  screws: [
    [95, 25],
    [145, 25],
    [95, 79],
    [145, 79],
  ].map(([xMm = 0, yMm = 0], index) => ({ id: `s${index}`, xMm, yMm, forceN: 25, springNPerMm: 12 })),
  components: [memory("m1", 85, 1.25), memory("m2", 155, 1.25)],
  materials: { soft: SOFT, hard: HARD, linear: LINEAR },
};
const stackWith = (more: object): Stack => readStack({ ...BASE, ...more });

describe("balance", () => {
  it("by hand, with a board as stiff as a block: pads take strain × slope × area, the die the rest", () => {
    const pad = { material: "linear", thicknessMm: 1.25, layers: 1, widthMm: 14, heightMm: 12 };
    const found = contact(
      stackWith({
        board: { ...BASE.board, thicknessMm: 60, youngGPa: 2000 },
        screws: BASE.screws.map((screw) => ({ ...screw, springNPerMm: 0 })),
        components: [memory("m1", 85, 1.25, { pad }), memory("m2", 155, 1.25, { pad })],
      }),
    );
    // Strain 0.2, 100 kPa over 168 mm²: 16.8 N each; 100 N of screws less both.
    expect(found.pads.map((one) => one.forceN)).toEqual([expect.closeTo(16.8, 1), expect.closeTo(16.8, 1)]);
    expect(found.pads[0]?.compressionPct).toBeCloseTo(20, 1);
    expect(found.die.forceN).toBeCloseTo(100 - 33.6, 1);
    expect(found.die.meanPressureKPa).toBeCloseTo((1000 * 66.4) / 440, 0);
  });

  it("of a flexible board: pull of the screws equals die and pads together", () => {
    const prepared = prepare(BASE);
    const solved = solveContact(prepared, asGiven(BASE));
    const { die, pads } = contact(BASE);
    const pulls = solved.pullsN.reduce((sum, one) => sum + one, 0);
    expect(die.forceN + pads.reduce((sum, one) => sum + one.forceN, 0)).toBeCloseTo(pulls, 2);
  });

  it("has no tilt and equal pads on a symmetric stack, and tilts away from the thicker pad", () => {
    const even = contact(BASE);
    expect(Math.abs(even.die.tiltMradX) + Math.abs(even.die.tiltMradY)).toBeLessThan(1e-6);
    expect(even.pads[0]?.forceN).toBeCloseTo(even.pads[1]?.forceN ?? 0, 6);
    const odd = contact(stackWith({ components: [memory("m1", 85, 1), memory("m2", 155, 2)] }));
    expect(odd.die.tiltMradX).toBeGreaterThan(0);
  });

  /** Figures of bench/second-opinion.py: other elements (conforming bicubic), a grid of 2.5 mm, the sparse solver of SciPy 1.10. */
  it.each([
    { what: "pads that fit", thick: [1.25, 1.5], dieN: 61.24, padsN: [17.27, 14.1], bowMm: -0.962, seated: true },
    { what: "pads that hold it off", thick: [3, 3], dieN: 11.84, padsN: [58.42, 35.26], bowMm: -4.071, seated: false },
    { what: "no pads", thick: [], dieN: 87.67, padsN: [], bowMm: 1.134, seated: true },
  ])("agrees with an independent finite-element solution: $what", ({ thick, dieN, padsN, bowMm, seated }) => {
    const [first = 0, second = 0] = thick;
    const places = [memory("m1", 85, first, { yMm: 60 }), memory("m2", 170, second, { yMm: 30 })];
    const components = places.slice(0, thick.length);
    const found = contact(stackWith({ board: { ...BASE.board, heightMm: 100 }, components }));
    expect(Math.abs(found.die.forceN - dieN)).toBeLessThan(0.6);
    found.pads.forEach((pad, index) => expect(Math.abs(pad.forceN - (padsN[index] ?? 0))).toBeLessThan(0.6));
    expect(Math.abs(found.board.maxDeflectionMm / bowMm - 1)).toBeLessThan(0.01);
    expect(found.die.seated).toBe(seated);
  });

  it("starts from an earlier answer and comes to the same one", () => {
    const prepared = prepare(BASE);
    const given = asGiven(BASE);
    const cold = solveContact(prepared, given);
    const far = solveContact(prepared, { ...given, gapsMm: [0.4, 2] });
    const warm = solveContact(prepared, given, far.unknowns);
    warm.unknowns.forEach((value, dof) => expect(value).toBeCloseTo(cold.unknowns[dof] ?? Number.NaN, 6));
  });

  it("a pad that only one corner of touches is in contact", () => {
    const pad = { material: "soft", thicknessMm: 1, layers: 1, widthMm: 14, heightMm: 12 };
    const tall = { material: "hard", thicknessMm: 2, layers: 1, widthMm: 14, heightMm: 12 };
    // Swung up by the hard pad on the left, the cooler is farther away at smaller x: the gap that the corner of m2 just bridges is looked for.
    const swung = (gapMm: number) =>
      contact(stackWith({ components: [memory("m1", 60, 2, { pad: tall }), memory("m2", 155, 1, { pad, gapMm })] }));
    let [touching, apart] = [0.2, 3];
    while (apart - touching > 0.01) {
      const gapMm = (touching + apart) / 2;
      if (swung(gapMm).pads[1]?.contact) touching = gapMm;
      else apart = gapMm;
    }
    const least = swung(touching).pads[1];
    expect(least?.contact).toBe(true);
    expect(least?.compressionPct ?? 100).toBeLessThan(0.5);
    expect(swung(apart).pads[1]).toMatchObject({ contact: false, forceN: 0 });
  });

  it("changes by less than 2 % when the grid is halved", () => {
    const [coarse, fine] = [contact(BASE), contact(BASE, 5)];
    expect(Math.abs(coarse.die.forceN / fine.die.forceN - 1)).toBeLessThan(0.02);
    expect(Math.abs(coarse.board.maxDeflectionMm / fine.board.maxDeflectionMm - 1)).toBeLessThan(0.02);
    expect(Math.abs((coarse.pads[0]?.forceN ?? 0) / (fine.pads[0]?.forceN ?? 1) - 1)).toBeLessThan(0.02);
  });
});

/** Common practice of the trade, no published source. */
describe("what benches see", () => {
  it("a hard pad of 3 mm on a gap of 1 mm holds the cooler off the die", () => {
    const pad = { material: "hard", thicknessMm: 3, layers: 1, widthMm: 14, heightMm: 12 };
    const found = contact(stackWith({ components: [memory("m1", 85, 3, { pad }), memory("m2", 155, 3, { pad })] }));
    expect(found.die.seated).toBe(false);
    expect(found.warnings.map((one) => one.code)).toEqual(expect.arrayContaining(["die-not-seated", "board-bowed"]));
  });

  it("pads half a millimetre too thick take pressure off the die; a pad that is too thin does nothing", () => {
    const right = contact(BASE);
    const thick = contact(stackWith({ components: [memory("m1", 85, 1.75), memory("m2", 155, 1.75)] }));
    expect(thick.die.meanPressureKPa).toBeLessThan(0.8 * right.die.meanPressureKPa);
    const thin = contact(stackWith({ components: [memory("m1", 85, 0.5), memory("m2", 155, 1.25)] }));
    expect(thin.pads[0]).toMatchObject({ contact: false, forceN: 0, compressionPct: 0 });
    expect(thin.warnings).toContainEqual(expect.objectContaining({ code: "pad-no-contact", id: "m1" }));
  });

  it("two layers of 1 mm stand in for one of 2 mm", () => {
    const doubled = { material: "soft", thicknessMm: 1, layers: 2, widthMm: 14, heightMm: 12 };
    const two = contact(stackWith({ components: [memory("m1", 85, 0, { gapMm: 1.7, pad: doubled })] }));
    const one = contact(
      stackWith({ components: [memory("m1", 85, 0, { gapMm: 1.7, pad: { ...doubled, thicknessMm: 2, layers: 1 } })] }),
    );
    expect(two.pads[0]).toEqual(one.pads[0]);
  });
});

describe("choosing thicknesses", () => {
  it("takes for each place the thinnest that surely touches, with its chances", () => {
    const found = choose(
      stackWith({ components: [memory("m1", 85, 9), memory("m2", 155, 9, { gapMm: 1.6 })] }),
      [3, 0.5, 1, 1.25, 1.5, 2, 2.5],
    );
    expect(found.map((one) => one.thicknessMm)).toEqual([1.25, 2]);
    for (const one of found) {
      expect(one.touchProbability).toBeGreaterThanOrEqual(0.95);
      expect(one.seatProbability).toBeGreaterThanOrEqual(0.95);
    }
  });

  it("takes a thicker one where the board bends away from the pad that would do on a flat one", () => {
    // Strong screws near the die bend a thin board; far out to the right it stands off the cooler by more than the pad has to spare.
    const bent = stackWith({
      board: { ...BASE.board, thicknessMm: 1.2 },
      components: [memory("near", 150, 9), memory("far", 228, 9)],
    });
    const found = choose(bent, [1, 1.25, 1.5, 2, 2.5, 3], { toleranceMm: 0.05 });
    const chosen = (id: string) => found.find((one) => one.id === id);
    const withPick = (id: string, thicknessMm: number): boolean | undefined => {
      const components = bent.components.map((one) => ({
        ...one,
        pad: one.pad && { ...one.pad, thicknessMm: one.id === id ? thicknessMm : (chosen(one.id)?.thicknessMm ?? 1) },
      }));
      return contact({ ...bent, components }).pads.find((one) => one.id === id)?.contact;
    };
    for (const { id, thicknessMm } of found) {
      expect(thicknessMm).not.toBeNull();
      expect(withPick(id, thicknessMm ?? 0)).toBe(true);
    }
  });

  it.each([
    ["a soft board that bows toward its cooler", 1, 1.05, [1, 1.5]],
    ["gaps between two thicknesses, stiff pads", 1.6, 1.2, [1, 1.5]],
  ])("serves as many places as any set would, by brute force over all sets: %s", (_, boardMm, gapMm, offered) => {
    const pad = { material: "hard", thicknessMm: 1, layers: 1, widthMm: 14, heightMm: 12 };
    const stack = stackWith({
      board: { ...BASE.board, thicknessMm: boardMm },
      components: [memory("m1", 78, 9, { pad, gapMm }), memory("m2", 162, 9, { pad, gapMm: gapMm + 0.04 })],
    });
    const prepared = prepare(stack);
    // Gaps at the ends and in the middle of the tolerance, apart and together.
    const cases = [-0.07, 0.03].flatMap((a) => [-0.06, 0.05].map((b) => [gapMm + a, gapMm + 0.04 + b]));
    let start: Float64Array | undefined;
    const served = (set: ReadonlyArray<number | null>): number => {
      const all = cases.map((gapsMm) => {
        const solved = solveContact(prepared, { gapsMm, thicknessesMm: set.map((one) => one ?? 0) }, start);
        start = solved.unknowns;
        return { seated: isSeated(prepared, solved), pads: solved.pads };
      });
      if (all.filter((one) => one.seated).length <= all.length / 2) return -1;
      return set.filter((_one, k) => all.filter((one) => one.pads[k]?.contact).length > all.length / 2).length;
    };
    const options = [null, ...offered];
    const most = Math.max(...options.flatMap((a) => options.map((b) => served([a, b]))));
    const found = choose(stack, offered, { samples: 8 });
    expect(served(found.map((one) => one.thicknessMm))).toBe(most);
    expect(most).toBe(2);
  });

  it("leaves a place out rather than unseat the die", () => {
    const pad = { material: "hard", thicknessMm: 9, layers: 1, widthMm: 14, heightMm: 12 };
    const weak = stackWith({
      screws: BASE.screws.map((screw) => ({ ...screw, forceN: 6 })),
      components: [memory("m1", 85, 9, { pad }), memory("m2", 155, 9, { pad })],
    });
    const found = choose(weak, [3], { samples: 10 });
    expect(found.map((one) => one.thicknessMm)).toEqual([null, null]);
  });

  it("answers null where nothing offered touches", () => {
    const [only] = choose(stackWith({ components: [memory("m1", 85, 1, { gapMm: 4 })] }), [0.5, 1, 2]);
    expect(only).toEqual({ id: "m1", thicknessMm: null, touchProbability: null, seatProbability: null });
  });
});

describe("bad stacks", () => {
  it.each([
    ["no screws", { screws: [] }, /no screws/],
    ["a negative gap", { components: [memory("m1", 85, 1, { gapMm: -1 })] }, /negative/],
    ["inches typed as millimetres", { components: [memory("m1", 85, 1, { gapMm: 25 })] }, /doubtful/],
    ["a part off the board", { components: [memory("m1", 2, 1)] }, /off the board/],
    ["overlapping parts", { components: [memory("m1", 85, 1), memory("m2", 90, 1)] }, /overlaps m1/],
    ["a part under the die", { components: [memory("m1", 118, 1)] }, /overlaps the die/],
    ["a material without a curve", { materials: {} }, /no curve/],
    ["words for numbers", { die: { ...BASE.die, xMm: "120" } }, /no number/],
  ])("with %s are refused with the field and the remedy", (_, more, words) => {
    expect(() => stackWith(more)).toThrow(words);
  });
});
