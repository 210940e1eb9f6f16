import { describe, expect, it } from "vitest";
import { type Random, seeded } from "../random/index.ts";
import { choose, contact, readStack, type Stack } from "./index.ts";
import { deflectionAt, type PointOnPlate } from "./plate.ts";
import { asGiven, prepare, pressureAt, solveContact } from "./solve.ts";

/** Laws that hold for every stack, tried on made-up ones with kept seeds. */

const CURVES = {
  soft: [
    [0, 0],
    [0.1, 35],
    [0.2, 80],
    [0.3, 150],
    [0.5, 480],
  ],
  firm: [
    [0, 0],
    [0.1, 150],
    [0.3, 700],
  ],
} as const;

function madeUp(random: Random): Stack {
  const places = [60, 85, 155, 180].flatMap((xMm) => [28, 52, 76].map((yMm) => ({ xMm, yMm })));
  return readStack({
    board: { widthMm: 240, heightMm: 104, thicknessMm: random.between(1.2, 2), youngGPa: 22, poisson: 0.15 },
    die: { xMm: 120, yMm: 52, widthMm: random.between(14, 24), heightMm: random.between(14, 24) },
    screws: [
      [95, 25],
      [145, 25],
      [95, 79],
      [145, 79],
    ].map(([xMm, yMm], k) => ({ id: `s${k}`, xMm, yMm, forceN: random.between(20, 60), springNPerMm: 12 })),
    components: places
      .filter(() => random.uniform() < 0.6)
      .map(({ xMm, yMm }, k) => ({
        id: `m${k}`,
        kind: "memory",
        xMm,
        yMm,
        widthMm: 14,
        heightMm: 12,
        gapMm: random.between(0.8, 1.6),
        pad: {
          material: random.pick(["soft", "firm"]),
          thicknessMm: random.pick([0.5, 1, 1.5, 2]),
          layers: 1,
          widthMm: random.between(8, 14),
          heightMm: 12,
        },
      })),
    materials: {
      soft: { conductivityWPerMK: 6, curve: CURVES.soft },
      firm: { conductivityWPerMK: 12, curve: CURVES.firm },
    },
  });
}

const SEEDS = [1, 2, 3, 4, 5];
const everyStack = SEEDS.map((seed) => [seed, madeUp(seeded(seed))] as const);

describe("for every stack", () => {
  it.each(everyStack)("forces and both moments balance (seed %s)", (_, stack) => {
    const prepared = prepare(stack);
    const variation = asGiven(stack);
    const { unknowns, pullsN } = solveContact(prepared, variation);
    const { xs, ys } = prepared.grid;
    const shaped = (w: (x: number, y: number) => [number, number, number]): Float64Array =>
      Float64Array.from([...xs].flatMap((x) => [...ys].flatMap((y) => w(x, y))));
    // A plate bent to w = x tells where each of its points lies.
    const [xOf, yOf] = [shaped((x) => [x, 1, 0]), shaped((_x, y) => [y, 0, 1])];
    const pushes = [
      ...prepared.die.map(({ point, areaMm2 }) => ({
        point,
        forceN: 1e3 * Math.max(0, deflectionAt(point, unknowns)) * areaMm2,
      })),
      ...prepared.pads.map(({ point, areaMm2, pad }) => {
        const thickness = variation.thicknessesMm[pad] ?? 1;
        const strain = 1 - ((variation.gapsMm[pad] ?? 0) - deflectionAt(point, unknowns)) / thickness;
        const material = stack.materials[stack.components[pad]?.pad?.material ?? ""]!;
        return { point, forceN: (pressureAt(material, strain).kPa * areaMm2) / 1000 };
      }),
      ...prepared.screws.map(({ point }, k) => ({ point, forceN: -(pullsN[k] ?? 0) })),
    ];
    const sum = (arm: (point: PointOnPlate) => number): number =>
      pushes.reduce((total, { point, forceN }) => total + forceN * arm(point), 0);
    expect(sum(() => 1)).toBeCloseTo(0, 4);
    expect(sum((point) => deflectionAt(point, xOf))).toBeCloseTo(0, 2);
    expect(sum((point) => deflectionAt(point, yOf))).toBeCloseTo(0, 2);
  });

  it.each(everyStack)("nothing pulls: pads and die push or do nothing, and say so (seed %s)", (_, stack) => {
    const found = contact(stack);
    expect(found.die.minPressureKPa).toBeGreaterThanOrEqual(0);
    expect(found.die.minPressureKPa).toBeLessThanOrEqual(found.die.meanPressureKPa + 1e-9);
    for (const pad of found.pads) {
      expect(pad.forceN).toBeGreaterThanOrEqual(0);
      expect(pad.compressionPct).toBeGreaterThanOrEqual(0);
      if (!pad.contact) expect([pad.forceN, pad.compressionPct]).toEqual([0, 0]);
      const own = stack.components.find((one) => one.id === pad.id)?.pad?.thicknessMm ?? 0;
      expect(pad.thicknessMm).toBeCloseTo(own * (1 - pad.compressionPct / 100), 9);
    }
    for (const { code, id } of found.warnings)
      if (code === "pad-no-contact") expect(found.pads.find((pad) => pad.id === id)?.contact).toBe(false);
  });

  it.each(everyStack)("the mirror image gives the mirror image (seed %s)", (_, stack) => {
    const across = <T extends { xMm: number }>(one: T): T => ({ ...one, xMm: stack.board.widthMm - one.xMm });
    const mirrored = {
      ...stack,
      die: across(stack.die),
      screws: stack.screws.map(across),
      components: stack.components.map(across),
    };
    const [one, other] = [contact(stack), contact(mirrored)];
    expect(other.die.forceN).toBeCloseTo(one.die.forceN, 4);
    expect(other.die.tiltMradX).toBeCloseTo(-one.die.tiltMradX, 4);
    expect(other.die.tiltMradY).toBeCloseTo(one.die.tiltMradY, 4);
    other.pads.forEach((pad, k) => expect(pad.forceN).toBeCloseTo(one.pads[k]?.forceN ?? Number.NaN, 4));
    expect(Math.abs(other.board.maxDeflectionMm)).toBeCloseTo(Math.abs(one.board.maxDeflectionMm), 4);
  });

  it("never advises thicker pads beside thinner ones", () => {
    let thinner = 0;
    let thicker = 0;
    for (let seed = 1; seed <= 24; seed++) {
      const words = contact(madeUp(seeded(seed))).warnings.map(({ text }) => text.toLowerCase());
      const [wantsThinner, wantsThicker] = [
        words.some((text) => /thinner/.test(text)),
        words.some((text) => /next thicker|thicker pads/.test(text)),
      ];
      expect(wantsThinner && wantsThicker).toBe(false);
      if (wantsThinner) thinner++;
      if (wantsThicker) thicker++;
    }
    expect(Math.min(thinner, thicker)).toBeGreaterThan(0);
  });

  it.each(everyStack)(
    "a thicker pad presses no less on its place, and no more is left for the die (seed %s)",
    (_, stack) => {
      const [first] = stack.components;
      if (!first?.pad) throw new Error("this seed has no pad");
      const withThickness = (thicknessMm: number) =>
        contact({
          ...stack,
          components: stack.components.map((one) =>
            one === first && one.pad ? { ...one, pad: { ...one.pad, thicknessMm } } : one,
          ),
        });
      const forces = [0.5, 1, 1.5, 2, 2.5].map((mm) => withThickness(mm).pads[0]?.forceN ?? 0);
      forces.slice(1).forEach((force, k) => expect(force).toBeGreaterThanOrEqual((forces[k] ?? 0) - 1e-6));
    },
  );
});

describe("words that go with the figures", () => {
  it("two layers count as their sum, a pad off its component as none", () => {
    const [, stack] = everyStack[0] ?? [];
    const [first, ...others] = stack?.components ?? [];
    if (!stack || !first?.pad) throw new Error("this seed has no pad");
    const given = (pad: object) =>
      contact({ ...stack, components: [{ ...first, pad: { ...first.pad!, ...pad } }, ...others] });
    expect(given({ thicknessMm: 1, layers: 2 }).pads[0]?.forceN).toBeCloseTo(
      given({ thicknessMm: 2, layers: 1 }).pads[0]?.forceN ?? Number.NaN,
      6,
    );
    expect(given({ thicknessMm: 2, offXMm: 40 }).pads[0]).toMatchObject({ contact: false, forceN: 0 });
  });

  it("choosing tells progress up to the end, gives the same answer again, and refuses an empty offer", () => {
    const [, stack] = everyStack[1] ?? [];
    if (!stack) throw new Error("no stack");
    const shares: number[] = [];
    const options = { samples: 5, seed: 4, progress: (share: number) => shares.push(share) };
    const first = choose(stack, [0.5, 1, 1.5, 2], options);
    expect(shares.at(-1)).toBe(1);
    expect(choose(stack, [2, 1.5, 1, 0.5, 0.5], { samples: 5, seed: 4 })).toEqual(first);
    expect(() => choose(stack, [])).toThrow(/No thickness is offered/);
    for (const { thicknessMm, touchProbability, seatProbability } of first) {
      expect((thicknessMm === null) === (touchProbability === null)).toBe(true);
      for (const chance of [touchProbability, seatProbability])
        if (chance !== null) expect(chance >= 0 && chance <= 1).toBe(true);
    }
  });

  it("a place takes the smallest thickness above its gap on a stiff board, whatever order they are offered in", () => {
    const stack = readStack({
      board: { widthMm: 240, heightMm: 104, thicknessMm: 30, youngGPa: 200, poisson: 0.3 },
      die: { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22 },
      screws: [95, 145].flatMap((xMm) =>
        [25, 79].map((yMm) => ({ id: `${xMm} ${yMm}`, xMm, yMm, forceN: 60, springNPerMm: 5 })),
      ),
      components: [0.7, 1.2, 1.85].map((gapMm, k) => ({
        id: `m${k}`,
        kind: "memory",
        xMm: 60 + 60 * k,
        yMm: 12,
        widthMm: 14,
        heightMm: 12,
        gapMm,
        pad: { material: "soft", thicknessMm: 1, layers: 1, widthMm: 14, heightMm: 12 },
      })),
      materials: { soft: { conductivityWPerMK: 6, curve: CURVES.soft } },
    });
    const found = choose(stack, [2, 3, 0.5, 1, 1.5, 2.5], { toleranceMm: 0.05, samples: 8 });
    expect(found.map((one) => one.thicknessMm)).toEqual([1, 1.5, 2]);
    expect(found.every((one) => one.touchProbability === 1)).toBe(true);
  });
});
