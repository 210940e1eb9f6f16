import { describe, expect, it } from "vitest";
import { BandMatrix } from "../numeric/index.ts";
import { contact, readStack, type Stack } from "./index.ts";
import {
  deflectionAt,
  forcesBack,
  linesThrough,
  PER_NODE,
  plateStiffness,
  pointOn,
  transferBetween,
  transferred,
  unknownsOf,
} from "./plate.ts";
import { pressureAt } from "./solve.ts";

describe("grid lines", () => {
  it("run through every given place, no wider apart than asked, edges included", () => {
    const lines = [...linesThrough(240, [95, 110, 130, 145], 10)];
    for (const at of [0, 95, 110, 130, 145, 240]) expect(lines).toContain(at);
    lines.slice(1).forEach((at, k) => {
      expect(at - (lines[k] ?? 0)).toBeGreaterThan(0);
      expect(at - (lines[k] ?? 0)).toBeLessThanOrEqual(10 + 1e-9);
    });
  });

  it("take places that all but coincide as one, and leave out what is off the board", () => {
    expect([...linesThrough(20, [10, 10.1, -3, 44], 10)]).toEqual([0, 10, 20]);
  });
});

describe("plate elements", () => {
  const grid = { xs: linesThrough(40, [], 10), ys: linesThrough(30, [], 10) };
  /** Unknowns of a given shape: deflection and both slopes at every node. */
  const shaped = (w: (x: number, y: number) => [number, number, number]): Float64Array => {
    const unknowns = new Float64Array(unknownsOf(grid));
    grid.xs.forEach((x, column) => {
      grid.ys.forEach((y, row) => unknowns.set(w(x, y), PER_NODE * (column * grid.ys.length + row)));
    });
    return unknowns;
  };

  it("give back any quadratic shape between their nodes", () => {
    const unknowns = shaped((x, y) => [1 + 2 * x - y + 0.1 * x * x + 0.2 * x * y, 2 + 0.2 * x + 0.2 * y, -1 + 0.2 * x]);
    for (const [x, y] of [
      [3.7, 4.1],
      [22, 29],
      [40, 0],
    ] as const)
      expect(deflectionAt(pointOn(grid, x, y), unknowns)).toBeCloseTo(1 + 2 * x - y + 0.1 * x * x + 0.2 * x * y, 9);
  });

  it("carry a shape to a finer grid as it is, and forces back so that their work stays the same", () => {
    const fine = { xs: linesThrough(40, [7], 4), ys: linesThrough(30, [11], 4) };
    const bent = (x: number, y: number): [number, number, number] => [
      0.1 * x * x - 0.3 * x * y,
      0.2 * x - 0.3 * y,
      -0.3 * x,
    ];
    const transfer = transferBetween(grid, fine);
    const coarse = shaped(bent);
    const there = transferred(transfer, coarse);
    fine.xs.forEach((x, column) => {
      fine.ys.forEach((y, row) => {
        const at = PER_NODE * (column * fine.ys.length + row);
        for (const [k, value] of bent(x, y).entries()) expect(there[at + k]).toBeCloseTo(value, 9);
      });
    });
    const forces = Float64Array.from(there, (_, dof) => Math.sin(dof));
    const work = (f: Float64Array, u: Float64Array): number =>
      f.reduce((sum, one, dof) => sum + one * (u[dof] ?? 0), 0);
    expect(work(forcesBack(transfer, forces, coarse.length), coarse)).toBeCloseTo(work(forces, there), 6);
  });

  it("resist no rigid motion, and bending to a cylinder by ½ D κ² per area (thin-plate theory)", () => {
    const stiffness = plateStiffness(grid, () => 500, 0.3);
    const energy = (unknowns: Float64Array): number =>
      0.5 * stiffness.times(unknowns).reduce((sum, force, dof) => sum + force * (unknowns[dof] ?? 0), 0);
    expect(Math.abs(energy(shaped((x, y) => [1 + 0.3 * x - 0.2 * y, 0.3, -0.2])))).toBeLessThan(1e-9);
    const curvature = 0.01;
    const bent = energy(shaped((x) => [(curvature * x * x) / 2, curvature * x, 0]));
    expect(bent).toBeCloseTo(0.5 * 500 * curvature ** 2 * 40 * 30, 9);
  });
});

describe("band matrix", () => {
  it("solves a chain of springs by hand, and tells a floating one", () => {
    const chain = new BandMatrix(3, 1);
    for (let i = 0; i < 3; i++) {
      chain.add(i, i, 2);
      if (i > 0) chain.add(i, i - 1, -1);
    }
    // Three unit springs in a row between walls, unit force in the middle: ½, 1, ½.
    const found = chain.copy().solve(Float64Array.from([0, 1, 0]));
    expect([...(found ?? [])].map((one) => Math.round(one * 1e9) / 1e9)).toEqual([0.5, 1, 0.5]);
    expect([...chain.times(Float64Array.from([0.5, 1, 0.5]))]).toEqual([0, 1, 0]);
    expect(new BandMatrix(2, 1).solve(new Float64Array(2))).toBeUndefined();
  });
});

describe("softness curve", () => {
  const curve = {
    conductivityWPerMK: 6,
    curve: [
      [0, 0],
      [0.1, 35],
      [0.3, 150],
    ] as const,
  };
  it.each([
    [-0.2, 0],
    [0, 0],
    [0.05, 17.5],
    [0.1, 35],
    [0.2, 92.5],
    [0.3, 150],
    // The last slope goes on: 575 kPa per unit of strain.
    [0.5, 265],
  ])("at a strain of %s presses with %s kPa", (strain, kPa) => {
    expect(pressureAt(curve, strain).kPa).toBeCloseTo(kPa, 9);
  });
});

describe("warnings", () => {
  const base = {
    board: { widthMm: 200, heightMm: 100, thicknessMm: 1.6, youngGPa: 22, poisson: 0.15 },
    die: { xMm: 100, yMm: 50, widthMm: 20, heightMm: 20 },
    screws: [
      [75, 25],
      [125, 25],
      [75, 75],
      [125, 75],
    ].map(([xMm, yMm], index) => ({ id: `s${index}`, xMm, yMm, forceN: 22, springNPerMm: 10 })),
    components: [],
    materials: {},
  };
  const codes = (stack: Stack): string[] => contact(stack).warnings.map((one) => `${one.code} ${one.id}`);
  const pull = (forceN: number): Stack =>
    readStack({ ...base, screws: base.screws.map((screw) => ({ ...screw, forceN })) });

  it("speak of too little and of too much on the die, and of nothing in between", () => {
    // 30 to 40 psi, 207 to 276 kPa, is a usual target: 4 × 24 N on 400 mm² are 240 kPa.
    expect(codes(pull(24)).filter((one) => one.endsWith("die"))).toEqual([]);
    expect(codes(pull(5))).toContain("pressure-low die");
    expect(codes(pull(120))).toContain("pressure-high die");
  });

  it("say where the die is pressed least, once the pull of the screws falls outside its core", () => {
    // By hand: a die of 20 mm is pressed everywhere while the pulls meet within 20/6 = 3.3 mm of its middle along one side, and within
    // half as much along both. 4 N instead of 24 at one screw move them by 20 · 25 / 76 = 6.6 mm along both, 17 N instead of 30 at two by 26 · 25 / 94 = 6.9 along one.
    const told = (...forces: number[]): string =>
      contact(readStack({ ...base, screws: base.screws.map((screw, k) => ({ ...screw, forceN: forces[k] })) }))
        .warnings.filter((one) => one.code === "pressure-low" && one.id === "die")
        .map((one) => one.text)
        .join();
    expect(told(24, 24, 24, 4)).toMatch(/0 at the upper right corner/);
    expect(told(4, 24, 24, 24)).toMatch(/0 at the lower left corner/);
    expect(told(30, 17, 30, 17)).toMatch(/ at the right edge/);
    expect(told(24, 24, 23, 24)).toBe("");
  });

  it("speak of a bowed board where the screws pull hard, less on a thicker one", () => {
    expect(codes(pull(80))).toContain("board-bowed board");
    const thick = readStack({ ...base, board: { ...base.board, thicknessMm: 6 } });
    expect(codes(thick)).not.toContain("board-bowed board");
  });

  it("advise what helps: screws loosened where they bend the board, the pad that pushes it off", () => {
    const bent = (stack: Stack): number => Math.abs(contact(stack).board.maxDeflectionMm);
    const advice = (stack: Stack, code: string): string | undefined =>
      contact(stack).warnings.find((one) => one.code === code)?.text;
    expect(advice(pull(80), "board-bowed")).toMatch(/toward the cooler .* loosen them evenly/);
    expect(bent(pull(60))).toBeLessThan(bent(pull(80)));

    const pads = (far: number): Stack =>
      readStack({
        ...base,
        materials: {
          firm: {
            conductivityWPerMK: 6,
            curve: [
              [0, 0],
              [0.2, 150],
              [0.4, 900],
            ],
          },
        },
        components: [
          { id: "near", xMm: 70, thicknessMm: 1.1 },
          { id: "far", xMm: 180, thicknessMm: far },
        ].map(({ id, xMm, thicknessMm }) => ({
          id,
          kind: "memory",
          xMm,
          yMm: 50,
          widthMm: 14,
          heightMm: 12,
          gapMm: 1,
          pad: { material: "firm", thicknessMm, layers: 1, widthMm: 14, heightMm: 12 },
        })),
      });
    expect(advice(pads(2), "board-bowed")).toMatch(/away from the cooler .* thinner or softer ones \(far \d+ kPa\)/);
    expect(bent(pads(1.1))).toBeLessThan(bent(pads(2)));
    expect(advice(pads(4), "die-not-seated")).toMatch(/hold it off \(far \d+ kPa/);
    expect(contact(pads(1.1)).die.seated).toBe(true);
  });
});
