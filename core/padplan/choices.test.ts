import { describe, expect, it } from "vitest";
import { addScrew, type BoardMap, EMPTY_MAP, makeRow, mirrorCopy, PACKAGES, stampPart } from "../boardmap/index.ts";
import { SOFT_CURVE } from "../contact/tests/curves.ts";
import { normalShare } from "../numeric/index.ts";
import {
  type ChoosePadsInput,
  choosePads,
  fullPick,
  judgePads,
  type PadMaterial,
  type PadPick,
  placesOf,
  spreadOf,
  totalMm,
  USUAL_POWER_W,
} from "./index.ts";

/** What can be relied on of a choice, over gaps, offers and preferences. */

const pad = (id: string, conductivityWPerMK: number, stiffer = 1): PadMaterial => ({
  id,
  name: `Pad ${id}`,
  form: "pad",
  conductivityWPerMK,
  mostMm: null,
  curve: SOFT_CURVE.map(([strain, kPa]) => [strain, kPa * stiffer] as const),
});
const SOFT = pad("soft", 6);
const FIRM = pad("firm", 12, 4);
const PUTTY: PadMaterial = { ...SOFT, id: "putty", form: "putty", curve: null, mostMm: 2 };
const MATERIALS = [SOFT, FIRM, PUTTY];

const MAP: BoardMap = (() => {
  let map: BoardMap = { ...EMPTY_MAP, die: { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22 } };
  for (const xMm of [95, 145]) for (const yMm of [25, 79]) map = addScrew(map, { xMm, yMm }).map;
  const memory = stampPart(map, PACKAGES[0]!, { xMm: 85, yMm: 44 }, "front");
  const two = makeRow(memory.map, memory.ids, 2, 0, 16);
  const both = mirrorCopy(two.map, two.ids, "left-right").map;
  const mosfet = stampPart(both, PACKAGES[2]!, { xMm: 190, yMm: 40 }, "front");
  return makeRow(mosfet.map, mosfet.ids, 3, 0, 10).map;
})();
const PARTS = placesOf(MAP);
const gaps = (memoryMm: number, mosfetMm: number) =>
  Object.fromEntries(PARTS.map((part) => [part.id, part.kind === "memory" ? memoryMm : mosfetMm]));
const independent = (sdMm: number): Float64Array =>
  Float64Array.from({ length: PARTS.length ** 2 }, (_, k) => (k % (PARTS.length + 1) === 0 ? sdMm ** 2 : 0));
const offers = (materialId: string, thicknesses: readonly number[], inStock = true) =>
  thicknesses.map((thicknessMm) => ({ materialId, thicknessMm, inStock }));
const STOCKED = [0.75, 1, 1.25, 1.5, 2, 2.5];
const choose = (more: Partial<ChoosePadsInput> = {}) =>
  choosePads(
    {
      map: MAP,
      gapsMm: gaps(1, 1.3),
      materials: MATERIALS,
      offers: offers("soft", STOCKED),
      covariance: independent(0.04),
      prefer: "fewest",
      ...more,
    },
    { samples: 8 },
  );
const judged = (picks: Record<string, PadPick | null>, gapsMm = gaps(1, 1.3)) =>
  judgePads({ map: MAP, gapsMm, picks, materials: MATERIALS, heat: { faceC: 55, powerW: USUAL_POWER_W } });
const picksOf = (found: ReturnType<typeof choose>) => Object.fromEntries(found.pads.map(({ id, pick }) => [id, pick]));

describe("every choice", () => {
  it.each([
    ["narrow gaps", gaps(0.6, 0.8), "fewest"],
    ["narrow gaps, best contact", gaps(0.6, 0.8), "contact"],
    ["usual gaps", gaps(1, 1.3), "fewest"],
    ["usual gaps, best contact", gaps(1, 1.3), "contact"],
    ["wide gaps", gaps(1.8, 2.2), "fewest"],
  ] as const)("is of what is offered, touches, and lets the die seat: %s", (_, gapsMm, prefer) => {
    const found = choose({ gapsMm, prefer });
    for (const { id, pick } of found.pads) {
      expect(STOCKED).toContain(pick?.thicknessMm);
      expect(totalMm(pick!)).toBeGreaterThan(gapsMm[id] ?? 0);
    }
    const answer = judged(picksOf(found), gapsMm);
    expect(answer.seated).toBe(true);
    expect(answer.places.every((place) => place.contact)).toBe(true);
    expect(found.allGoodProbability).toBeGreaterThan(0.5);
    expect(found.allGoodProbability).toBeLessThanOrEqual(found.seatProbability);
    expect(found.seatProbability).toBeGreaterThan(0.8);
  });

  it("takes one sheet for gaps that one thickness serves, and two that conduct better where contact comes first", () => {
    const gapsMm = gaps(0.9, 1.1);
    const [fewest, contact] = [choose({ gapsMm }), choose({ gapsMm, prefer: "contact" })];
    expect([fewest.thicknesses, contact.thicknesses]).toEqual([1, 2]);
    const hottest = (found: typeof fewest) =>
      Math.max(...judged(picksOf(found), gapsMm).places.map((place) => place.heat.riseK));
    expect(hottest(contact)).toBeLessThan(hottest(fewest) - 1);
  });

  it("never stacks two where one sheet that is offered touches in four of five cases", () => {
    const gapsMm = gaps(0.9, 0.9);
    const found = choose({ gapsMm, covariance: independent(0.15), offers: offers("soft", [0.6, 1.1]) });
    // 1.1 mm is 1.33 standard deviations above the gap: touched in 91 of 100 cases. Two of 0.6 mm would be surer, and warmer.
    expect(found.pads.map(({ pick }) => [pick?.thicknessMm, pick?.layers])).toEqual(PARTS.map(() => [1.1, 1]));
  });

  it.each([
    [0.6, 0.8],
    [0.8, 1.15],
    [1, 1],
    [1.25, 2],
  ])("comes first in contact where contact comes first: gaps of %f and %f mm", (memoryMm, mosfetMm) => {
    const gapsMm = gaps(memoryMm, mosfetMm);
    const all = { gapsMm, offers: [...offers("soft", STOCKED), ...offers("firm", STOCKED)] };
    const worst = (prefer: "fewest" | "contact") =>
      Math.max(...judged(picksOf(choose({ ...all, prefer })), gapsMm).places.map((place) => place.heat.riseK));
    expect(worst("contact")).toBeLessThanOrEqual(worst("fewest") + 0.1);
  });

  it("gives places of one kind the same pad where one fits them all", () => {
    const found = choose({ gapsMm: { ...gaps(1, 1.3), M1: 1.05, M4: 0.95 } });
    const memory = found.pads.filter((one) => one.id.startsWith("M")).map((one) => one.pick?.thicknessMm);
    expect(new Set(memory).size).toBe(1);
  });

  it("counts chances as the gap's own spread says, where the board hardly bends", () => {
    // One offer, so thick that it is a tenth above the gap: touched unless the gap is that much wider.
    const stiff = { ...MAP, board: { ...MAP.board, thicknessMm: 5, youngGPa: 200 } };
    const found = choosePads(
      {
        map: stiff,
        gapsMm: gaps(0.9, 0.9),
        materials: MATERIALS,
        offers: offers("soft", [1]),
        covariance: independent(0.12),
        prefer: "fewest",
      },
      { samples: 60 },
    );
    const expected = normalShare(0.1 / 0.12);
    for (const { touchProbability } of found.pads) {
      // Three standard deviations of a share counted over 60 cases.
      const spread = 3 * Math.sqrt((expected * (1 - expected)) / 60);
      expect(Math.abs((touchProbability ?? 0) - expected)).toBeLessThan(spread);
    }
  });

  it("gaps that err together touch together: a shared error makes all good as likely as one", () => {
    const shared = new Float64Array(PARTS.length ** 2).fill(0.12 ** 2);
    const input = { gapsMm: gaps(0.9, 0.9), offers: offers("soft", [1]) };
    const [together, apart] = [
      choose({ ...input, covariance: shared }),
      choose({ ...input, covariance: independent(0.12) }),
    ];
    // Of seven places that touch with 80 % each, all do in 80 % where they err as one, and in 0.8⁷ = 21 % where each errs by itself.
    expect(together.allGoodProbability).toBeGreaterThan(apart.allGoodProbability + 0.2);
  });

  it("is surer of the seat with shouldered screws, which hands can't turn further", () => {
    // Two places are enough to tell, and many cases of them soon counted.
    const two = { ...MAP, parts: MAP.parts.filter(({ id }) => id === "M1" || id === "M3") };
    const shouldered = { ...two, screws: two.screws.map((screw) => ({ ...screw, shouldered: true })) };
    const covariance = Float64Array.from([0.06 ** 2, 0, 0, 0.06 ** 2]);
    const firm = { offers: offers("firm", [1.25, 1.5]), covariance };
    const chance = (map: BoardMap): number =>
      choosePads({ map, gapsMm: { M1: 1, M3: 1 }, materials: MATERIALS, prefer: "fewest", ...firm }, { samples: 30 })
        .seatProbability;
    const byHand = chance(two);
    expect(byHand).toBeLessThan(1);
    expect(chance(shouldered)).toBeGreaterThan(byHand);
  });

  it("says what the next thinner and thicker one would do, as judging them does", () => {
    const found = choose();
    const memory = found.pads.find((one) => one.id === "M1")!;
    const thicker = memory.neighbours.find((one) => one.thicknessMm > (memory.pick?.thicknessMm ?? 0))!;
    const picks = Object.fromEntries(
      found.pads.map(({ id, pick }) => [
        id,
        id.startsWith("M") && pick ? { ...pick, thicknessMm: thicker.thicknessMm } : pick,
      ]),
    );
    const { seated, contact } = judged(picks);
    expect(thicker.text).toContain(
      seated ? `to ${contact.die.meanPressureKPa.toFixed(0)} kPa` : "would no longer seat",
    );
    expect(memory.neighbours.some((one) => one.thicknessMm < (memory.pick?.thicknessMm ?? 0))).toBe(true);
  });

  it("without a map that is ready, or anything to choose from, says so", () => {
    expect(() => choose({ map: { ...MAP, die: null } })).toThrow(/no die yet/);
    const none = choose({ offers: [] });
    expect(none.pads.every((one) => one.pick === null)).toBe(true);
    expect(none.thicknesses).toBe(0);
  });
});

describe("how warm a place runs", () => {
  it("is warmer with a thicker pad, on a warmer face and with more power, never colder than the face", () => {
    const at = (thicknessMm: number, faceC: number, memory: number) =>
      judgePads({
        map: MAP,
        gapsMm: gaps(thicknessMm - 0.2, 1.3),
        picks: Object.fromEntries(PARTS.map((part) => [part.id, fullPick(part, SOFT, thicknessMm)])),
        materials: MATERIALS,
        heat: { faceC, powerW: { ...USUAL_POWER_W, memory } },
      }).places[0]!.temperatureC;
    expect(at(2, 55, 2.5)).toBeGreaterThan(at(1, 55, 2.5));
    expect(at(1, 65, 2.5) - at(1, 55, 2.5)).toBeCloseTo(10, 9);
    expect(at(1, 55, 5)).toBeGreaterThan(at(1, 55, 2.5));
    expect(at(1, 55, 0)).toBeCloseTo(55, 9);
  });

  it("a place without a pad that touches is told by what the board alone carries off", () => {
    const found = judged({});
    for (const place of found.places) {
      expect(place).toMatchObject({ contact: false, mountedMm: null, forceN: 0 });
      expect(place.heat.throughPadW).toBe(0);
    }
    const [memory] = found.places;
    const padded = judged({ [memory!.id]: fullPick(PARTS[0]!, SOFT, 1.25) }).places[0]!;
    expect(padded.temperatureC).toBeLessThan(memory!.temperatureC - 10);
  });

  it("paste is told by volume up to the widest gap it fills, pads by none", () => {
    const paste: PadMaterial = { ...SOFT, id: "paste", form: "paste", curve: null };
    const picks = { [PARTS[0]!.id]: fullPick(PARTS[0]!, paste, 9), [PARTS[1]!.id]: fullPick(PARTS[1]!, SOFT, 1) };
    const [only, ...more] = spreadOf(MAP, picks, [SOFT, paste]);
    expect(more).toEqual([]);
    expect(only?.forParts).toEqual([PARTS[0]!.id]);
    expect(only?.volumeMl).toBeCloseTo((1.15 * 14 * 12 * 0.4) / 1000, 9);
  });
});
