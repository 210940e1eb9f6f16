import { describe, expect, it } from "vitest";
import {
  addScrew,
  type BoardMap,
  EMPTY_MAP,
  makeRow,
  mirrorCopy,
  moveThings,
  PACKAGES,
  stampPart,
} from "../boardmap/index.ts";
import { contact } from "../contact/index.ts";
import { HARD_CURVE, SOFT_CURVE } from "../contact/tests/curves.ts";
import {
  choosePads,
  fullPick,
  judgePads,
  type PadMaterial,
  type PadOffer,
  type PadPick,
  padsThatWentIn,
  piecesOf,
  placesOf,
  softnessOf,
  spreadOf,
  stackOf,
  TYPICAL_CURVES,
  USUAL_PIECE_RULES,
  USUAL_POWER_W,
} from "./index.ts";

const SOFT: PadMaterial = {
  id: "soft",
  name: "Soft",
  form: "pad",
  conductivityWPerMK: 6,
  mostMm: null,
  curve: SOFT_CURVE,
};
const HARD: PadMaterial = {
  ...SOFT,
  id: "hard",
  name: "Hard",
  conductivityWPerMK: 12,
  curve: HARD_CURVE,
};
const PUTTY: PadMaterial = { ...SOFT, id: "putty", name: "Putty", form: "putty", curve: null, mostMm: 3 };
const PASTE: PadMaterial = { ...SOFT, id: "paste", name: "Paste", form: "paste", curve: null };
const KEEN: PadMaterial = { ...SOFT, id: "keen", name: "Keen", conductivityWPerMK: 11 };
const MATERIALS = [SOFT, KEEN, HARD, PUTTY, PASTE];

/** Two memory packages left of the die and two right of it, four screws around it. */
function board(): BoardMap {
  let map: BoardMap = { ...EMPTY_MAP, die: { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22 } };
  for (const [xMm, yMm] of [
    [95, 25],
    [145, 25],
    [95, 79],
    [145, 79],
  ] as const)
    map = addScrew(map, { xMm, yMm }).map;
  const one = stampPart(map, PACKAGES[0]!, { xMm: 85, yMm: 44 }, "front");
  const two = makeRow(one.map, one.ids, 2, 0, 16);
  return mirrorCopy(two.map, two.ids, "left-right").map;
}
const MAP = board();
const PARTS = placesOf(MAP);
const same = <T>(value: T): Record<string, T> => Object.fromEntries(PARTS.map((part) => [part.id, value]));
const everywhere = (material: PadMaterial, thicknessMm: number, more: Partial<PadPick> = {}) =>
  Object.fromEntries(PARTS.map((part) => [part.id, { ...fullPick(part, material, thicknessMm), ...more }]));
const judge = (picks: Record<string, PadPick | null>, map: BoardMap = MAP) =>
  judgePads({ map, gapsMm: same(1), picks, materials: MATERIALS, heat: { faceC: 55, powerW: USUAL_POWER_W } });

describe("places", () => {
  it("are stepped through row by row from the top left, also where a row is crooked, and the back last", () => {
    const at = [
      ["C", 60, 45],
      ["A", 20, 41.2],
      ["D", 20, 30],
      ["B", 40, 43.1],
      ["E", 20, 80],
    ] as const;
    const parts = at.map(([id, xMm, yMm]) => ({ ...PARTS[0]!, id, xMm, yMm }));
    const map = { ...MAP, parts: parts.map((part) => (part.id === "E" ? { ...part, side: "back" as const } : part)) };
    expect(placesOf(map).map(({ id }) => id)).toEqual(["A", "B", "C", "D", "E"]);
  });
});

describe("judging chosen pads", () => {
  it("gives the forces of `contact` for the same stack, and temperatures above the face", () => {
    const picks = everywhere(SOFT, 1.25);
    const found = judge(picks);
    const stack = stackOf({ map: MAP, gapsMm: same(1), picks, materials: MATERIALS });
    expect(found.contact.die).toEqual(contact(stack).die);
    expect(found.contact.pads.map((pad) => pad.forceN)).toEqual(contact(stack).pads.map((pad) => pad.forceN));
    expect(found.seated).toBe(true);
    for (const place of found.places) {
      expect(place.temperatureC).toBeCloseTo(55 + place.heat.riseK, 9);
      expect(place.lostK).toBeCloseTo(0, 9);
    }
  });

  it("washers stretch every spring: four of 0.5 mm at 12 N/mm add 24 N in all", () => {
    const washers = { ...MAP, screws: MAP.screws.map((screw) => ({ ...screw, washerMm: 0.5 })) };
    const stack = (map: BoardMap) => stackOf({ map, gapsMm: same(1), picks: {}, materials: MATERIALS });
    const pull = (map: BoardMap): number => stack(map).screws.reduce((sum, screw) => sum + screw.forceN, 0);
    expect(pull(washers) - pull(MAP)).toBeCloseTo(24, 9);
    expect(judge({}, washers).contact.die.forceN).toBeGreaterThan(judge({}).contact.die.forceN);
  });

  it("a standoff keeps the board from swinging toward the cooler", () => {
    const far = addScrew(MAP, { xMm: 10, yMm: 52 });
    const held = (standoff: boolean): BoardMap => ({
      ...far.map,
      screws: far.map.screws.map((screw) => (screw.id === "S5" ? { ...screw, forceN: 10, standoff } : screw)),
    });
    // At the left edge, half-way up.
    const atEdge = (map: BoardMap): number => {
      const { ysMm, offMm } = judge({}, map).bow;
      return offMm[ysMm.findIndex((y) => y >= 52)] ?? 0;
    };
    expect(atEdge(held(true))).toBeLessThan(0.2 * atEdge(held(false)));
    expect(judge({}, held(true)).contact.warnings.map((one) => one.id)).not.toContain("standoff S5");
  });

  it("a half-size pad off its centre presses less, tilts more and costs kelvins; a film is thicker and warmer", () => {
    const full = judge(everywhere(SOFT, 1.25));
    const place = (found: typeof full, id: string) => found.places.find((one) => one.id === id)!;
    const id = PARTS[0]!.id;
    const cut = { ...fullPick(PARTS[0]!, SOFT, 1.25), heightMm: 5, offYMm: 3 };
    const halved = judge({ ...everywhere(SOFT, 1.25), [id]: cut });
    expect(place(halved, id).forceN).toBeLessThan(0.6 * place(full, id).forceN);
    expect(place(halved, id).lostK).toBeGreaterThan(5);
    const film = judge(everywhere(SOFT, 1.25, { filmLeft: true }));
    expect(place(film, id).forceN).toBeGreaterThan(place(full, id).forceN);
    expect(place(film, id).lostK).toBeGreaterThan(2);
  });

  it("putty fills what pads can't without unseating the die; paste fills a small gap only and never presses", () => {
    expect(judge(everywhere(HARD, 2)).seated).toBe(false);
    const putty = judge(everywhere(PUTTY, 1.4));
    expect(putty.seated).toBe(true);
    expect(putty.places.every((place) => place.contact)).toBe(true);
    const paste = judge(everywhere(PASTE, 0.1));
    expect(paste.places.map((place) => [place.contact, place.forceN])).toEqual(PARTS.map(() => [false, 0]));
    expect(paste.contact.die).toEqual(judge({}).contact.die);
  });

  it("refuses a map that is not ready and a pad without a curve, naming them", () => {
    expect(() => judge({}, moveThings(MAP, ["M1"], -80, 0))).toThrow(/off the board/);
    const bare = { ...SOFT, id: "bare", name: "Bare", curve: null };
    const picks = everywhere(bare, 1.25);
    const work = { map: MAP, gapsMm: same(1), picks, materials: [bare], heat: { faceC: 55, powerW: USUAL_POWER_W } };
    expect(() => judgePads(work)).toThrow(/Bare has no softness curve/);
  });
});

const OFFERS: PadOffer[] = [0.5, 1, 1.25, 1.5, 2, 3].map((thicknessMm) => ({
  materialId: "soft",
  thicknessMm,
  inStock: true,
}));
/** Independent gaps with a standard deviation of `sd`. */
function covariance(sd: number): Float64Array {
  const size = PARTS.length;
  return Float64Array.from({ length: size * size }, (_, k) => (k % (size + 1) === 0 ? sd ** 2 : 0));
}
const choose = (more: Partial<Parameters<typeof choosePads>[0]> = {}) =>
  choosePads(
    {
      map: MAP,
      gapsMm: same(1),
      materials: MATERIALS,
      offers: OFFERS,
      covariance: covariance(0.05),
      prefer: "fewest",
      ...more,
    },
    { samples: 20 },
  );

describe("choosing", () => {
  it("takes one sheet for like places: the thinnest that surely touches, and says why not its neighbours", () => {
    const found = choose();
    expect(found.thicknesses).toBe(1);
    expect(found.pads.map((pad) => pad.pick?.thicknessMm)).toEqual([1.25, 1.25, 1.25, 1.25]);
    expect(found.seatProbability).toBeGreaterThan(0.95);
    expect(found.pads.every((pad) => (pad.touchProbability ?? 0) > 0.95)).toBe(true);
    const [thinner, thicker] = found.pads[0]?.neighbours ?? [];
    // At exactly the gap's own thickness a pad touches in half of the cases.
    expect(thinner).toMatchObject({ thicknessMm: 1, text: expect.stringContaining("50 %") });
    expect(thicker?.text).toMatch(
      /1\.5 mm: (pressure on the die would go from \d+ to \d+ kPa|the die would no longer seat)/,
    );
  });

  it("needs more sheets where gaps differ, and takes what is in stock where it serves as well", () => {
    const uneven = { ...same(1), M1: 1.6, M3: 1.6 };
    const thicknesses = Object.fromEntries(
      choose({ gapsMm: uneven }).pads.map((pad) => [pad.id, pad.pick?.thicknessMm]),
    );
    expect(thicknesses).toEqual({ M1: 2, M2: 1.25, M3: 2, M4: 1.25 });
    const [bought, stocked] = [
      { materialId: "soft", thicknessMm: 1.25, inStock: false },
      { materialId: "keen", thicknessMm: 1.25, inStock: true },
    ];
    expect(choose({ offers: [bought, stocked] }).pads[0]?.pick?.materialId).toBe("keen");
  });

  it("best contact takes the pad that conducts best where the die still seats", () => {
    const both = [...OFFERS, { materialId: "keen", thicknessMm: 1.25, inStock: false }];
    expect(choose({ offers: both, prefer: "contact" }).pads[0]?.pick?.materialId).toBe("keen");
    expect(choose({ offers: both }).pads[0]?.pick?.materialId).toBe("soft");
    // One that conducts twice as well but is too hard for the die to seat is not taken.
    const hard = [...OFFERS, { materialId: "hard", thicknessMm: 1.5, inStock: true }];
    expect(choose({ offers: hard, prefer: "contact" }).pads[0]?.pick?.materialId).toBe("soft");
  });

  it("falls back on putty, then on two layers; where nothing fits it says so and what to do", () => {
    const thin = OFFERS.filter((offer) => offer.thicknessMm === 1);
    expect(choose({ offers: thin, gapsMm: same(1.6) }).pads[0]?.pick).toMatchObject({ thicknessMm: 1, layers: 2 });
    const putty = [...thin, { materialId: "putty", thicknessMm: null, inStock: true }];
    const filled = choose({ offers: putty, gapsMm: same(1.6) }).pads[0]?.pick;
    expect(filled).toMatchObject({ materialId: "putty", layers: 1 });
    expect(filled?.thicknessMm).toBeGreaterThan(1.6);
    const [none] = choose({ offers: thin, gapsMm: same(4) }).pads;
    expect(none).toMatchObject({ pick: null, touchProbability: null, why: expect.stringMatching(/nothing offered/) });
    expect(choose({ offers: thin, covariance: covariance(1) }).pads[0]?.why).toMatch(/measure it first/);
  });

  it("a pad a little thinner than its flat gap serves where the board bows toward the cooler", () => {
    const thin = OFFERS.filter((offer) => offer.thicknessMm === 1);
    const found = choose({ offers: thin, gapsMm: same(1.01), covariance: covariance(0.02) });
    expect(found.pads.every(({ pick }) => pick?.thicknessMm === 1 && pick.layers === 1)).toBe(true);
    expect(Math.min(...found.pads.map((one) => one.touchProbability ?? 0))).toBeGreaterThan(0.5);
    expect(found.seatProbability).toBeGreaterThan(0.5);
  });

  it("pads that surely touch give way to thinner ones where they would take the die off its seat", () => {
    const unsure = choose({ covariance: covariance(0.18), offers: OFFERS.filter((one) => one.thicknessMm !== 1.25) });
    expect(unsure.seatProbability).toBeGreaterThan(0.5);
    expect(unsure.pads.every((pad) => pad.pick !== null)).toBe(true);
  });

  it("tells its progress", () => {
    const shares: number[] = [];
    choosePads(
      {
        map: MAP,
        gapsMm: same(1),
        materials: MATERIALS,
        offers: OFFERS,
        covariance: covariance(0.05),
        prefer: "fewest",
      },
      { samples: 4, progress: (share) => shares.push(share) },
    );
    expect(shares).toEqual([0.25, 0.5, 0.75, 1]);
  });
});

describe("pieces", () => {
  it("like pads are one shape, with spares by rule and a notch where a screw comes through", () => {
    const near = addScrew(MAP, { xMm: 85 - 7, yMm: 44 }).map;
    const pieces = piecesOf(near, everywhere(SOFT, 1.25), MATERIALS, USUAL_PIECE_RULES);
    const notched = pieces.find((piece) => piece.notches.length > 0);
    // The hole of 3.2 mm with 0.5 mm around it, at the left edge half-way up.
    expect(notched).toMatchObject({ forParts: ["M1"], notches: [{ xMm: 0, yMm: 6, radiusMm: 2.1 }] });
    expect(pieces.find((piece) => piece !== notched)).toMatchObject({
      widthMm: 14,
      heightMm: 12,
      quantity: 4,
      spares: 1,
      notches: [],
    });
  });

  it("went in are those that were ticked as cut, never the spares, and what comes without cutting as it was chosen", () => {
    const pick = { materialId: "soft", thicknessMm: 1, layers: 1, widthMm: 14, heightMm: 12, offXMm: 0, offYMm: 0 };
    const chosen = { filmLeft: false, ...pick };
    const picks = {
      M1: chosen,
      M2: chosen,
      M3: { ...chosen, layers: 2 },
      V1: { ...chosen, materialId: "putty" },
      V2: null,
    };
    const sheet = (cuts: boolean[]) => ({ materialId: "soft", thicknessMm: 1, pieces: cuts.map((cut) => ({ cut })) });
    const counts = (cutting: Parameters<typeof padsThatWentIn>[1]) =>
      padsThatWentIn(picks, cutting).map(({ materialId, count }) => [materialId, count]);
    const putty = ["putty", 1];
    expect(counts(null)).toEqual([["soft", 4], putty]);
    expect(counts({ sheets: [sheet([true, true]), sheet([true, false, false])] })).toEqual([["soft", 3], putty]);
    expect(counts({ sheets: [sheet([true, true, true, true, true])] })).toEqual([["soft", 4], putty]);
    expect(counts({ sheets: [sheet([false, false])] })).toEqual([putty]);
  });

  it("two layers are two pieces, a margin goes all around, putty and paste need none", () => {
    const rules = { marginMm: 0.5, clearMm: 0.5, spareEvery: 0 };
    expect(piecesOf(MAP, everywhere(SOFT, 1, { layers: 2 }), MATERIALS, rules)).toEqual([
      expect.objectContaining({ widthMm: 15, heightMm: 13, quantity: 8, spares: 0 }),
    ]);
    expect(piecesOf(MAP, everywhere(PUTTY, 1.4), MATERIALS, rules)).toEqual([]);
  });

  it("putty is told by volume: four places of 14 × 12 mm, 1.4 mm thick, with 15 % for the tool, by hand", () => {
    const [only, ...more] = spreadOf(MAP, everywhere(PUTTY, 1.4), MATERIALS);
    expect(more).toEqual([]);
    expect(only).toMatchObject({ materialId: PUTTY.id, forParts: expect.arrayContaining(["M1"]) });
    expect(only?.volumeMl).toBeCloseTo((1.15 * 4 * 14 * 12 * 1.4) / 1000, 9);
    expect(spreadOf(MAP, everywhere(SOFT, 1), MATERIALS)).toEqual([]);
  });
});

describe("typical softness", () => {
  it("rises with squeeze, each step firmer than the last, near what gap pads need to give by 30 % (10, 25, 70 psi, common practice)", () => {
    const kPaOf = (curve: ReadonlyArray<readonly [number, number]>) => curve.map(([, kPa]) => kPa);
    const { soft, medium, firm } = TYPICAL_CURVES;
    for (const curve of [soft, medium, firm]) expect(kPaOf(curve)).toEqual(kPaOf(curve).toSorted((a, b) => a - b));
    soft.forEach(([strain, kPa], k) => {
      expect([medium[k]?.[0], firm[k]?.[0]]).toEqual([strain, strain]);
      if (kPa > 0) expect([(medium[k]?.[1] ?? 0) > 1.5 * kPa, (firm[k]?.[1] ?? 0) > 3 * kPa]).toEqual([true, true]);
    });
    const psi = [soft, medium, firm].map((curve) => (curve.find(([strain]) => strain === 0.3)?.[1] ?? 0) / 6.894757);
    expect(psi.map(Math.round)).toEqual([10, 25, 70]);
  });

  it("is known by its curve alone, whatever stands as its source", () => {
    const { soft, firm } = TYPICAL_CURVES;
    expect([softnessOf(soft), softnessOf(firm.map(([x, y]) => [x, y]))]).toEqual(["soft", "firm"]);
    const measured = soft.map(([x, y], k): [number, number] => [x, k === 3 ? y + 1 : y]);
    expect([softnessOf(measured), softnessOf(soft.slice(1)), softnessOf([])]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
  });
});
