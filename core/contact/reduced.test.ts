import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { asGiven, dieResultant, prepare, ReducedContact, readStack, solveContact } from "./index.ts";
import { SOFT_CURVE } from "./tests/curves.ts";

/** A stack with soft pads of three thicknesses, screws where they usually are. */
const stack = readStack({
  board: { widthMm: 240, heightMm: 104, thicknessMm: 1.6, youngGPa: 22, poisson: 0.15 },
  die: { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22 },
  screws: [
    [95, 25],
    [145, 25],
    [145, 79],
    [95, 79],
  ].map(([xMm, yMm], k) => ({ id: `s${k}`, xMm, yMm, forceN: 40, springNPerMm: 20 })),
  components: [60, 180].flatMap((xMm) =>
    [28, 52, 76].map((yMm, k) => ({
      id: `m${xMm}-${yMm}`,
      kind: "memory",
      xMm,
      yMm,
      widthMm: 14,
      heightMm: 12,
      gapMm: 1.1,
      pad: { material: "soft", thicknessMm: [1.25, 1.5, 1.75][k] },
    })),
  ),
  materials: { soft: { conductivityWPerMK: 6, curve: SOFT_CURVE } },
});
const prepared = prepare(stack);
const full = (forcesN: readonly number[]) => solveContact(prepared, { ...asGiven(stack), forcesN });

describe("a stack in few unknowns", () => {
  const random = seeded(4);
  const states = Array.from({ length: 12 }, () => stack.screws.map(() => random.between(4, 40)));
  const worst = (reduced: ReducedContact, all: ReadonlyArray<readonly number[]>): number =>
    Math.max(
      ...all.map((forcesN) => {
        const truth = dieResultant(prepared, full(forcesN));
        const near = reduced.solve(forcesN);
        return Math.abs((near?.forceN ?? 0) - truth.forceN) / Math.max(5, truth.forceN);
      }),
    );

  it("carries on the die what the full one does, within some percent; within one where it has seen the like", () => {
    const blind = worst(new ReducedContact(prepared), states);
    const seen = worst(
      new ReducedContact(
        prepared,
        [0.3, 0.6, 1].flatMap((share) =>
          [0, 1, 2, 3].map(
            (ahead) => full(stack.screws.map((_, k) => 40 * (k === ahead ? Math.min(1, share + 0.3) : share))).unknowns,
          ),
        ),
      ),
      states,
    );
    expect(blind).toBeLessThan(0.12);
    expect(seen).toBeLessThan(0.05);
    expect(seen).toBeLessThan(blind);
  });

  it("gives a start from which the full one is found in a step or two, and the same", () => {
    const reduced = new ReducedContact(
      prepared,
      states.slice(0, 6).map((forcesN) => full(forcesN).unknowns),
    );
    for (const forcesN of states.slice(6)) {
      const near = reduced.solve(forcesN);
      expect(near).toBeDefined();
      const warm = solveContact(prepared, { ...asGiven(stack), forcesN }, reduced.whole(near!.unknowns));
      const [one, other] = [dieResultant(prepared, warm), dieResultant(prepared, full(forcesN))];
      expect(one.forceN).toBeCloseTo(other.forceN, 3);
      expect(one.xNmm).toBeCloseTo(other.xNmm, 2);
      expect(one.yNmm).toBeCloseTo(other.yNmm, 2);
    }
  });

  it("knows a state that it was shown, but for pads that it counts as wholes", () => {
    const forcesN = [40, 30, 20, 10];
    const solved = full(forcesN);
    const truth = dieResultant(prepared, solved);
    const near = new ReducedContact(prepared, [solved.unknowns]).solve(forcesN);
    expect(Math.abs((near?.forceN ?? 0) / truth.forceN - 1)).toBeLessThan(0.03);
  });
});

describe("what the die carries", () => {
  it("is the balance of all that pulls and pushes, in force and in moments about its middle", () => {
    const { die, screws, components } = stack;
    for (const forcesN of [
      [40, 40, 40, 40],
      [40, 10, 25, 5],
    ]) {
      const solved = full(forcesN);
      const { forceN, xNmm, yNmm } = dieResultant(prepared, solved);
      const sum = (arm: (at: { xMm: number; yMm: number }) => number): number =>
        screws.reduce((all, one, k) => all + (solved.pullsN[k] ?? 0) * arm(one), 0) -
        components.reduce((all, one, k) => all + (solved.pads[k]?.forceN ?? 0) * arm(one), 0);
      expect(forceN).toBeCloseTo(
        sum(() => 1),
        4,
      );
      // A pad's own tilt moves its middle of pressure by tenths of a millimetre.
      const padsN = solved.pads.reduce((all, one) => all + one.forceN, 0);
      expect(Math.abs(xNmm - sum(({ xMm }) => xMm - die.xMm))).toBeLessThan(2 * padsN + 0.1);
      expect(Math.abs(yNmm - sum(({ yMm }) => yMm - die.yMm))).toBeLessThan(2 * padsN + 0.1);
    }
  });
});
