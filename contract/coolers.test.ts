import * as v from "valibot";
import { describe, expect, it } from "vitest";
import { type Cooler, EMPTY_COOLER } from "#core/coolers/index.ts";
import { BLOCK as MADE } from "#core/coolers/tests/made.ts";
import { damages, type Json } from "#core/problem/tests/damages.ts";
import { CoolerFile, CoolerPlanFile, EMPTY_COOLER_PLAN, MOST_LEAK_READINGS } from "./index.ts";

const BLOCK: Cooler = {
  ...MADE,
  kind: "hybrid",
  posts: MADE.posts.slice(0, 1).map((post) => ({ ...post, thread: "6-32 UNC" })),
  fans: [{ id: "fan1", xMm: 0, yMm: 0, widthMm: 90, heightMm: 90 }],
  kit: [{ id: "long", thread: "M2.5", lengthMm: 10, washerMm: 0.5, quantity: null, shouldered: true }],
  dieKPa: 230,
  air: [{ fanRpm: 1500, kPerW: 0.2, dba: null }],
  water: { insideMl: 55, losses: [{ lPerMin: 3, kPa: 8 }], block: [{ lPerMin: 3, kPerW: 0.08 }] },
};
const refusal = (schema: v.GenericSchema, input: unknown): string[] =>
  v.safeParse(schema, input).issues?.map((issue) => v.getDotPath(issue) ?? "") ?? [];

describe("a cooler’s file", () => {
  it("comes back as it went, an unfinished one too", () => {
    for (const one of [BLOCK, { ...EMPTY_COOLER, name: "Begun" }]) {
      expect(v.parse(CoolerFile, JSON.parse(JSON.stringify(one)))).toEqual(one);
    }
  });

  it("of an older version lacks nothing once it is read", () => {
    const { dieKPa: _, fins: __, water: ___, kit: ____, note: _____, ...older } = BLOCK;
    expect(v.parse(CoolerFile, older)).toEqual({ ...BLOCK, dieKPa: null, fins: null, water: null, kit: [], note: "" });
  });

  it.each([
    ["a kind there is none of", { kind: "boat" }, "kind"],
    ["a name that is blank", { name: "  " }, "name"],
    ["a newer version", { version: 2 }, "version"],
    ["a thread no screw has", { posts: [{ ...BLOCK.posts[0], thread: "wood" }] }, "posts.0.thread"],
    ["a post without depth", { posts: [{ ...BLOCK.posts[0], holeDepthMm: 0 }] }, "posts.0.holeDepthMm"],
    ["half a screw", { kit: [{ ...BLOCK.kit[0], quantity: 0.5 }] }, "kit.0.quantity"],
    ["a face for nothing known", { faces: [{ ...BLOCK.faces[0], for: "glue" }] }, "faces.0.for"],
    ["more faces than are drawn", { faces: Array.from({ length: 201 }, () => BLOCK.faces[0]) }, "faces"],
    ["a plate of wood", { plate: { ...BLOCK.plate, metal: "wood" } }, "plate.metal"],
    ["no weight", { weightG: 0 }, "weightG"],
    [
      "a block warmer than fire",
      { water: { ...BLOCK.water, block: [{ lPerMin: 3, kPerW: 50 }] } },
      "water.block.0.kPerW",
    ],
    [
      "no fins at all",
      { fins: { widthMm: 14, lengthMm: 12, baseMm: 1, finHeightMm: 5, finThickMm: 1, count: 0 } },
      "fins.count",
    ],
  ])("refuses %s, naming the field", (_, more, field) => {
    expect(refusal(CoolerFile, { ...BLOCK, ...more })).toEqual([field]);
  });

  it("whatever is at any place, what is taken can be read again as it is", () => {
    for (const { document } of damages(BLOCK as unknown as Json, 5, 500)) {
      const taken = v.safeParse(CoolerFile, document);
      if (taken.success) expect(v.parse(CoolerFile, JSON.parse(JSON.stringify(taken.output)))).toEqual(taken.output);
    }
  });
});

describe("the plan of another cooler", () => {
  it("comes back as it went; an older one has the usual limit of a support, no sound of radiators and no pads between", () => {
    expect(v.parse(CoolerPlanFile, EMPTY_COOLER_PLAN)).toEqual(EMPTY_COOLER_PLAN);
    const { supportNm: _, ...room } = EMPTY_COOLER_PLAN.room;
    const fins = { widthMm: 14, lengthMm: 12, baseMm: 1.5, finHeightMm: 5, finThickMm: 1, count: 5 };
    const sink = {
      id: "H1",
      partId: "M1",
      fins,
      air: "still",
      speedMS: 1,
      joint: { thicknessMm: 0.2, conductivityWPerMK: 1.2 },
      glued: true,
      powerW: 2,
      riseNowK: 50,
    };
    const loop = {
      pump: [],
      radiators: [{ name: "Front", insideMl: 100, losses: [], cooling: [{ fanRpm: 900, wPerK: 20 }] }],
      tubeMm: 1500,
      boreMm: 10,
      bends: 4,
      reservoirMl: 150,
      fanRpm: 1000,
    };
    const older = v.parse(CoolerPlanFile, { ...EMPTY_COOLER_PLAN, room, heatsinks: [sink], loop });
    expect(older.room.supportNm).toBe(EMPTY_COOLER_PLAN.room.supportNm);
    expect(older.heatsinks[0]?.bridge).toBeNull();
    expect(older.loop?.radiators[0]?.cooling[0]?.dba).toBeNull();
  });

  it("keeps no more readings than it says, and none that no gauge shows", () => {
    const reading = { atMin: 1, pressureKPa: 40, airC: 21 };
    const leak = (readings: unknown[]) => ({ ...EMPTY_COOLER_PLAN, leak: { ...EMPTY_COOLER_PLAN.leak, readings } });
    expect(refusal(CoolerPlanFile, leak(Array.from({ length: MOST_LEAK_READINGS }, () => reading)))).toEqual([]);
    expect(refusal(CoolerPlanFile, leak(Array.from({ length: MOST_LEAK_READINGS + 1 }, () => reading)))).toEqual([
      "leak.readings",
    ]);
    expect(refusal(CoolerPlanFile, leak([{ ...reading, pressureKPa: 1e6 }]))).toEqual(["leak.readings.0.pressureKPa"]);
    expect(
      refusal(CoolerPlanFile, { ...EMPTY_COOLER_PLAN, leak: { ...EMPTY_COOLER_PLAN.leak, namedKPaPerH: 0 } }),
    ).toEqual(["leak.namedKPaPerH"]);
  });
});
