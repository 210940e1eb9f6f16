import { describe, expect, it } from "vitest";
import { contact, readStack } from "../contact/index.ts";
import { SOFT_CURVE } from "../contact/tests/curves.ts";
import { nth } from "../numeric/index.ts";
import { type Random, seeded } from "../random/index.ts";
import { dieLoadOf, type Fastening, fasten, readFasten, type Turn, type Turned } from "./index.ts";
import { FastenModel } from "./model.ts";
import { searchMoves } from "./plan.ts";

/** What can be relied on of a plan for screws. */

interface ScrewFile {
  id: string;
  xMm: number;
  yMm: number;
  forceN: number;
  springNPerMm: number;
  pitchMm?: number;
  group?: "die" | "other";
}
const DIE = { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22 };
const CORNERS = [
  [95, 25],
  [145, 25],
  [145, 79],
  [95, 79],
] as const;
const square = (forces: readonly number[] = [40, 40, 40, 40], springNPerMm = 25): ScrewFile[] =>
  forces.map((forceN, k) => {
    const [xMm, yMm] = CORNERS[k] ?? [0, 0];
    return { id: `s${k + 1}`, xMm, yMm, forceN, springNPerMm };
  });
const pad = (id: string, xMm: number, yMm: number, thicknessMm = 1.5) => ({
  id,
  kind: "memory",
  xMm,
  yMm,
  widthMm: 14,
  heightMm: 12,
  gapMm: 1.1,
  pad: { material: "soft", thicknessMm },
});
const file = (screws: readonly ScrewFile[], components: readonly object[] = []) => ({
  board: { widthMm: 240, heightMm: 104, thicknessMm: 1.6, youngGPa: 22, poisson: 0.15 },
  die: DIE,
  screws,
  components,
  materials: { soft: { conductivityWPerMK: 6, curve: SOFT_CURVE } },
});
const plan = (screws: readonly ScrewFile[], components: readonly object[] = [], moves?: number): Fastening =>
  fasten(readFasten(file(screws, components)), { moves });

const peakOf = (turns: readonly Turn[]): number => Math.max(...turns.map(({ cornerKPa }) => cornerKPa));
/** Turns from first bite of every screw after each move, from all free or all tight. */
const turnedAfter = (screws: readonly ScrewFile[], turns: readonly Turn[], from: "free" | "tight"): number[][] => {
  const now = screws.map(({ forceN, springNPerMm, pitchMm = 0.45 }) =>
    from === "free" ? 0 : forceN / springNPerMm / pitchMm,
  );
  return turns.map((one) => {
    const at = screws.findIndex(({ id }) => id === one.screwId);
    now[at] = (now[at] ?? 0) + one.turns;
    return [...now];
  });
};
/** The die's load in one state by `contact` itself, which knows no moves. */
const byContact = (screws: readonly ScrewFile[], components: readonly object[], turns: readonly number[]) =>
  contact(
    readStack(
      file(
        screws.map((one, k) => ({ ...one, forceN: one.springNPerMm * nth(turns, k) * (one.pitchMm ?? 0.45) })),
        components,
      ),
    ),
  );

describe("the load of the worst corner", () => {
  const stack = readStack(file(square()));
  // The core of a rectangle: e = b/6 brings the far edge to nothing and doubles the near one (any foundation text).
  it("is the mean in the middle, twice that with the force at the core's edge, three times at a corner of its square", () => {
    const meanKPa = (1000 * 88) / (20 * 22);
    expect(dieLoadOf(stack, 88, 0, 0)).toEqual({ dieForceN: 88, offCentre: 0, cornerKPa: meanKPa, exMm: 0, eyMm: 0 });
    const edge = dieLoadOf(stack, 88, 88 * (20 / 6), 0);
    expect([edge.offCentre, edge.exMm, edge.eyMm]).toEqual([expect.closeTo(1, 12), expect.closeTo(20 / 6, 12), 0]);
    expect(edge.cornerKPa / meanKPa).toBeCloseTo(2, 12);
    expect(dieLoadOf(stack, 88, 0, -88 * (22 / 6)).offCentre).toBeCloseTo(1, 12);
    const both = dieLoadOf(stack, 88, 88 * (20 / 6), 88 * (22 / 6));
    expect(both.cornerKPa / meanKPa).toBeCloseTo(3, 12);
  });
  it("is nothing where the die carries nothing", () => {
    expect(dieLoadOf(stack, 0, 0, 0)).toMatchObject({ dieForceN: 0, offCentre: null, cornerKPa: 0 });
  });
});

describe("every plan", () => {
  const random = (seed: number): { screws: ScrewFile[]; components: object[] } => {
    const own: Random = seeded(seed);
    const screws = CORNERS.map(([xMm, yMm], k) => ({
      id: `s${k + 1}`,
      xMm: xMm + own.between(-6, 6),
      yMm: yMm + own.between(-6, 6),
      forceN: own.between(20, 60),
      springNPerMm: own.between(15, 60),
      pitchMm: own.pick([0.4, 0.45, 0.5]),
    }));
    const others: ScrewFile[] = [
      { id: "o1", xMm: 20, yMm: 20, forceN: 15, springNPerMm: 40 },
      { id: "o2", xMm: 220, yMm: 80, forceN: 15, springNPerMm: 40 },
    ];
    return {
      screws: seed % 2 === 0 ? screws : [...others.slice(0, 1), ...screws, ...others.slice(1)],
      components: [pad("m1", 60, 52, own.pick([1, 1.5, 2])), pad("m2", 180, 40, own.pick([1, 1.5, 2]))],
    };
  };
  const all = [1, 2, 3].map((seed) => {
    const { screws, components } = random(seed);
    return { seed, screws, components, found: plan(screws, components) };
  });

  it.each(all)(
    "turns each screw all the way by quarter turns or more, the last as short as it likes (seed $seed)",
    ({ screws, found }) => {
      for (const [turns, sign] of [
        [found.tighten, 1],
        [found.loosen, -1],
      ] as const)
        for (const { id, forceN, springNPerMm, pitchMm = 0.45 } of screws) {
          const own = turns.filter(({ screwId }) => screwId === id).map((one) => sign * one.turns);
          expect(own.slice(0, -1).every((by) => by >= 0.25 - 1e-9)).toBe(true);
          expect(own.every((by) => by > 0)).toBe(true);
          expect(own.reduce((sum, by) => sum + by, 0)).toBeCloseTo(forceN / springNPerMm / pitchMm, 9);
          const last = turns.findLast(({ screwId }) => screwId === id);
          expect(last?.totalTurns).toBeCloseTo(sign > 0 ? forceN / springNPerMm / pitchMm : 0, 9);
        }
      expect(found.tighten.length).toBeLessThanOrEqual(3 * screws.length);
    },
  );

  it.each(all)(
    "leaves the screws beside the die for the end, and takes them out first, each at once (seed $seed)",
    ({ screws, found }) => {
      const isOther = ({ screwId }: Turn): boolean => screwId.startsWith("o");
      const others = screws.filter(({ id }) => id.startsWith("o")).length;
      expect(found.tighten.filter(isOther)).toEqual(found.tighten.slice(found.tighten.length - others));
      expect(found.loosen.filter(isOther)).toEqual(found.loosen.slice(0, others));
    },
  );

  it.each(all)(
    "gives the loads that contact finds for the same pulls, and the worst of them (seed $seed)",
    ({ screws, components, found }) => {
      for (const [turns, from] of [
        [found.tighten, "free"],
        [found.loosen, "tight"],
      ] as const)
        turnedAfter(screws, turns, from).forEach((state, k) => {
          if (k % 3 !== 0 || state.every((one) => one < 1e-9)) return;
          expect(turns[k]?.dieForceN).toBeCloseTo(byContact(screws, components, state).die.forceN, 4);
        });
      expect(found.peakCornerKPa).toBe(peakOf(found.tighten));
      expect(found.peakRatio).toBeCloseTo(found.peakCornerKPa / found.final.cornerKPa, 12);
      expect(found.tighten.at(-1)?.cornerKPa).toBeCloseTo(found.final.cornerKPa, 6);
    },
  );

  // Trade: a cross in several passes is gentler than around in one; the figures say so.
  it.each(all)(
    "is as gentle as any school with as many moves, and schools get gentler with their passes (seed $seed)",
    ({ found }) => {
      const of = (name: string) => found.schools.find((one) => one.name === name);
      for (const school of found.schools) expect(found.peakCornerKPa).toBeLessThanOrEqual(1.01 * school.peakCornerKPa);
      expect(of("cross-3")?.peakCornerKPa).toBeLessThanOrEqual((of("cross-2")?.peakCornerKPa ?? 0) + 0.01);
      expect(of("cross-2")?.peakCornerKPa).toBeLessThanOrEqual((of("around-1")?.peakCornerKPa ?? 0) + 0.01);
    },
  );
});

describe("against every other plan there is", () => {
  /** A die under a rigid plate on springs: what a screw pulls it pulls, so that any state is told by hand. */
  const rigid =
    (screws: readonly Turned[]) =>
    (state: readonly number[]): number => {
      const pulls = screws.map(({ springNPerMm }, k) => springNPerMm * nth(state, k));
      const moment = (arm: (one: Turned) => number): number =>
        screws.reduce((sum, one, k) => sum + nth(pulls, k) * arm(one), 0);
      return dieLoadOf(
        readStack(file(square())),
        pulls.reduce((sum, one) => sum + one, 0),
        moment(({ xMm }) => xMm - DIE.xMm),
        moment(({ yMm }) => yMm - DIE.yMm),
      ).cornerKPa;
    };
  const LEVELS = 9;
  /** The lowest peak of all ways over a grid of levels a quarter turn apart, with at most so many moves: each state from all before it. */
  function bestOnGrid(screws: readonly Turned[], way: "tighten" | "loosen", mostMoves: number): number {
    const count = LEVELS ** screws.length;
    const digit = (state: number, k: number): number => Math.floor(state / LEVELS ** k) % LEVELS;
    const corner = rigid(screws);
    const load = Float64Array.from({ length: count }, (_, state) =>
      corner(
        screws.map(({ travelMm }, k) => {
          const behind = (digit(state, k) / (LEVELS - 1)) * travelMm;
          return way === "tighten" ? behind : travelMm - behind;
        }),
      ),
    );
    let reached = new Float64Array(count).fill(Number.POSITIVE_INFINITY);
    reached[0] = 0;
    for (let move = 0; move < mostMoves; move++) {
      const next = reached.slice();
      for (let state = 0; state < count; state++) {
        const peak = reached[state] ?? Number.POSITIVE_INFINITY;
        if (peak === Number.POSITIVE_INFINITY) continue;
        for (let k = 0; k < screws.length; k++)
          for (let to = digit(state, k) + 1; to < LEVELS; to++) {
            const there = state + (to - digit(state, k)) * LEVELS ** k;
            next[there] = Math.min(next[there] ?? 0, Math.max(peak, load[there] ?? 0));
          }
      }
      reached = next;
    }
    return reached[count - 1] ?? Number.NaN;
  }
  /** Travel of eight quarter turns, so that every level of the grid may be turned to. */
  const turnedOf = (screws: readonly ScrewFile[]): readonly Turned[] =>
    readFasten(file(screws.map((one) => ({ ...one, pitchMm: one.forceN / one.springNPerMm / 2 })))).screws;
  const FOUR = square([30, 45, 40, 36]);
  it.each([
    ["three screws in single moves", FOUR.slice(0, 3), 3],
    ["three screws, two rounds", FOUR.slice(0, 3), 6],
    ["four screws in single moves", FOUR, 4],
    ["four screws, six moves", FOUR, 6],
    ["four screws, two rounds", FOUR, 8],
    ["four screws, three rounds", FOUR, 12],
  ] as const)("is within 5 percent of the best of all ways over quarter turns: %s", (_, screws, mostMoves) => {
    const turned = turnedOf(screws);
    const corner = rigid(turned);
    for (const way of ["tighten", "loosen"] as const) {
      let asked = 0;
      const moves = searchMoves({
        screws: turned,
        turned: [...turned.keys()],
        rest: turned.map(() => 0),
        way,
        mostMoves,
        cornerKPa: (state) => {
          asked++;
          return corner(state);
        },
        asked: () => asked,
      });
      const state = turned.map(({ travelMm }) => (way === "tighten" ? 0 : travelMm));
      const peak = Math.max(
        ...moves.map(({ screw, toMm }) => {
          state[screw] = toMm;
          return corner(state);
        }),
      );
      expect(moves.length).toBeLessThanOrEqual(mostMoves);
      expect(peak).toBeLessThanOrEqual(1.05 * bestOnGrid(turned, way, mostMoves));
    }
  });

  it("takes the gentlest of all orders of single moves, each state solved in full", () => {
    const input = readFasten(file(square([30, 45, 40]), [pad("m1", 60, 52)]));
    const model = new FastenModel(input);
    const tight = input.screws.map(({ travelMm }) => travelMm);
    let best = Number.POSITIVE_INFINITY;
    const go = (state: readonly number[], peak: number): void => {
      if (state.every((mm) => mm > 0)) best = Math.min(best, peak);
      for (const [k, mm] of tight.entries())
        if (state[k] === 0) {
          const next = state.with(k, mm);
          go(next, Math.max(peak, model.load(next).cornerKPa));
        }
    };
    go([0, 0, 0], 0);
    expect(fasten(input, { moves: 3 }).peakCornerKPa).toBeCloseTo(best, 6);
  });
});

describe("by symmetry", () => {
  it("two opposite screws press in the middle, one alone at its own corner, all alike with the pull of all", () => {
    const input = readFasten(file(square()));
    const model = new FastenModel(input);
    const [full = 0] = input.screws.map(({ travelMm }) => travelMm);
    expect(model.load([full, 0, full, 0]).offCentre).toBeCloseTo(0, 4);
    expect(model.load([full, 0, 0, 0]).offCentre).toBeGreaterThan(4);
    const all = model.load([full, full, full, full]);
    // Nothing else pushes: what the screws pull the die carries.
    const pulls = contact(readStack(file(square()))).die.forceN;
    expect(all.dieForceN).toBeCloseTo(pulls, 4);
    expect(all.offCentre).toBeCloseTo(0, 4);
    expect(model.load([0, 0, 0, 0])).toMatchObject({ dieForceN: 0, offCentre: null, cornerKPa: 0 });
  });

  it("turned round, it is as gentle, and no gentler than its end", () => {
    const turned = square().map((one) => ({ ...one, xMm: 240 - one.xMm, yMm: 104 - one.yMm }));
    const [one, other] = [plan(square()), plan(turned)];
    expect(Math.abs(other.peakCornerKPa / one.peakCornerKPa - 1)).toBeLessThan(0.05);
    expect(one.peakRatio).toBeGreaterThanOrEqual(1 - 1e-9);
    expect(one.loosen.at(-1)).toMatchObject({ totalTurns: 0, dieForceN: 0, offCentre: null, cornerKPa: 0 });
    // Trade: a cross in passes is gentler than once around; of a die that ends evenly pressed that is plain.
    const [around, , twice, thrice] = one.schools.map(({ peakCornerKPa }) => peakCornerKPa);
    expect([twice, thrice].every((kPa) => (kPa ?? 0) < 0.8 * (around ?? 0))).toBe(true);
    expect(one.peakCornerKPa).toBeLessThan(0.8 * (thrice ?? 0));
  });
});

describe("what it is asked for", () => {
  it("takes the four nearest the die as its own where nobody says, and a pitch of M2.5", () => {
    const more = [...square(), { id: "far", xMm: 20, yMm: 20, forceN: 20, springNPerMm: 40 }];
    expect(readFasten(file(more)).screws.map(({ group, pitchMm }) => [group, pitchMm])).toEqual([
      ["die", 0.45],
      ["die", 0.45],
      ["die", 0.45],
      ["die", 0.45],
      ["other", 0.45],
    ]);
    const said = readFasten(file(more.map((one) => ({ ...one, group: "die" as const, pitchMm: 0.5 })))).screws;
    expect(said.every(({ group, pitchMm }) => group === "die" && pitchMm === 0.5)).toBe(true);
  });

  it.each([
    ["a screw with no travel", [...square([40, 40, 40, 0])], /s4 has no travel/],
    ["no spring", square(undefined, 0), /s1 has no spring/],
    ["two in one place", [...square(), { ...square()[0]!, id: "s5" }], /s1 and s5 are in one place/],
    ["one id twice", square().map((one) => ({ ...one, id: "s" })), /“s” is there twice/],
    ["none for the die", square().map((one) => ({ ...one, group: "other" as const })), /No screw presses the die/],
    ["no screws", [], /no screws/],
    ["endless turns", square(undefined, 0.4), /turns/],
  ])("refuses %s in words", (_, screws, words) => {
    expect(() => readFasten(file(screws))).toThrow(words);
  });

  it("refuses fewer moves than screws, and more screws than it can plan", () => {
    expect(() => plan(square(), [], 3)).toThrow(/3 moves are fewer than the 4 screws/);
    const many = Array.from({ length: 25 }, (_, k) => ({
      id: `m${k}`,
      xMm: 5 + 9 * k,
      yMm: 5,
      forceN: 10,
      springNPerMm: 20,
    }));
    expect(() => plan(many)).toThrow(/25 screws/);
  });
});
