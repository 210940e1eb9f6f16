import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  addPlug,
  addScrew,
  type BoardMap,
  EMPTY_MAP,
  LAYERS,
  type Layer,
  layerOf,
  PITCH_MM,
  withEdits,
} from "../boardmap/index.ts";
import { fasten } from "../fasteners/index.ts";
import { bareStackOf } from "../padplan/index.ts";
import { readRun } from "../runfile/index.ts";
import { analyse } from "../soak/index.ts";
import { logText, MIDSIZE, simulate } from "../virtualcard/index.ts";
import {
  allFound,
  assumedWords,
  backId,
  type CloseUpInput,
  closeUpFault,
  closeUpProgress,
  closeUpSteps,
  currentStep,
  fastenStackOf,
  foldMarks,
  guessedScrews,
  handSummary,
  handTime,
  layerId,
  learnId,
  openedOf,
  outId,
  STEP,
  type StepMark,
  stripFault,
  stripFound,
  stripProgress,
  stripSteps,
  TRAY_R_MM,
  traySheets,
  turnWords,
  warmthOf,
} from "./index.ts";

const STARTED_MS = Date.parse("2026-03-01T10:00:00.000Z");
const NOBODY = foldMarks([]);
let count = 0;
const mark = (stepId: string, what: StepMark["what"] = "done", value = "", text = ""): StepMark => ({
  id: `m${count++}`,
  stepId,
  what,
  value,
  text,
  at: new Date(count * 1000).toISOString(),
});

/** A board as a hand draws it: screws and plugs of any layer, some to be left alone, in any order of layers. */
const drawn = fc
  .record({
    screws: fc.array(
      fc.record({
        layer: fc.constantFrom<Layer | null>(...LAYERS, null),
        leaveAlone: fc.boolean(),
        xMm: fc.integer({ min: 5, max: 235 }),
        yMm: fc.integer({ min: 5, max: 99 }),
      }),
      { maxLength: 25 },
    ),
    plugs: fc.array(fc.constantFrom<Layer>(...LAYERS), { maxLength: 4 }),
    order: fc.shuffledSubarray([...LAYERS], { minLength: LAYERS.length }),
  })
  .map(({ screws, plugs, order }): BoardMap => {
    let map: BoardMap = { ...EMPTY_MAP, layers: order.map((id) => ({ id, there: false })) };
    for (const { xMm, yMm, ...more } of screws) {
      const added = addScrew(map, { xMm, yMm });
      map = {
        ...added.map,
        screws: added.map.screws.map((one) => (added.ids.includes(one.id) ? { ...one, ...more } : one)),
      };
    }
    for (const layer of plugs) {
      const added = addPlug(map, { xMm: 10, yMm: 10 });
      map = {
        ...added.map,
        plugs: added.map.plugs.map((one) => (added.ids.includes(one.id) ? { ...one, layer } : one)),
      };
    }
    return map;
  });

const FOUR: BoardMap = {
  ...(
    [
      [94, 26],
      [146, 26],
      [94, 78],
      [146, 78],
    ] as const
  ).reduce((map, [xMm, yMm]) => addScrew(map, { xMm, yMm }).map, EMPTY_MAP),
  die: { xMm: 120, yMm: 52, widthMm: 22, heightMm: 20 },
};
/** Their thread is known, and with it what a turn is. */
const SIZED: BoardMap = { ...FOUR, screws: FOUR.screws.map((screw) => ({ ...screw, thread: "M2.5" as const })) };

const strip = (map: BoardMap, folded = NOBODY) => stripSteps({ map, folded, turns: null, warmth: null });
const indexOf = (steps: ReadonlyArray<{ id: string }>, id: string): number => steps.findIndex((step) => step.id === id);

describe("the order of taking apart", () => {
  it("every screw comes out once, after all that lies over it; what is to be left alone is never touched", () => {
    fc.assert(
      fc.property(drawn, (map) => {
        const steps = strip(map);
        for (const screw of map.screws) {
          const named = steps.filter(({ kind, things }) => kind !== "lift" && things.includes(screw.id));
          if (screw.leaveAlone) expect(named).toEqual([]);
          else expect(steps.filter(({ id }) => id === outId(screw.id))).toHaveLength(1);
        }
        const order = map.layers.map(({ id }) => id);
        const layers = steps.flatMap(({ kind, layer }) => (kind === "screw" && layer ? [order.indexOf(layer)] : []));
        expect(layers).toEqual(layers.toSorted((a, b) => a - b));
      }),
    );
  });

  it("plugs are undone before the layer they hold comes off, and put back before it is closed", () => {
    fc.assert(
      fc.property(drawn, (map) => {
        const steps = strip(map);
        for (const { id, layer } of map.plugs)
          expect(indexOf(steps, `plug:${id}`)).toBeLessThan(indexOf(steps, `lift:${layer}`));
        const folded = foldMarks(steps.map(({ id }) => mark(id)));
        const back = closeUpSteps({ ...CLOSING, map, found: stripFound(map, folded) });
        for (const { id, layer } of map.plugs)
          expect(indexOf(back, `plug-in:${id}`)).toBeLessThan(
            indexOf(back, layer === "cooler" ? "lower" : `on:${layer}`),
          );
        // All that came out goes back, by a turn or by a step of its own.
        for (const id of stripFound(map, folded).out)
          expect(back.some(({ id: stepId, things }) => things.includes(id) && /^(back|tighten):/.test(stepId))).toBe(
            true,
          );
      }),
    );
  });

  it("a layer that stays on keeps its screws, and Close up does not ask for them", () => {
    const map: BoardMap = {
      ...FOUR,
      screws: FOUR.screws.map((screw, index) => (index === 3 ? { ...screw, layer: "shroud" } : screw)),
    };
    const folded = foldMarks([mark(layerId("shroud"), "value", "on"), mark(layerId("shroud"))]);
    const steps = strip(map, folded);
    expect(steps.map(({ id }) => id)).not.toContain(outId("S4"));
    expect(stripFound(map, foldMarks(steps.map(({ id }) => mark(id)))).layers).not.toContain("shroud");
  });

  it("die screws go by the plan: turn for turn what `fasten` says, each free before it is taken out", () => {
    const { loosen } = fasten(fastenStackOf(SIZED, bareStackOf(SIZED)), { moves: 6 });
    const steps = stripSteps({ map: SIZED, folded: NOBODY, turns: loosen, warmth: null });
    expect(steps.flatMap(({ turn }) => turn?.screwId ?? [])).toEqual(loosen.map(({ screwId }) => screwId));
    for (const { id } of FOUR.screws) {
      const turned = loosen.filter(({ screwId }) => screwId === id);
      // 35 N over 12 N/mm at 0.45 mm a turn, by hand.
      expect(-turned.reduce((sum, { turns }) => sum + turns, 0)).toBeCloseTo(35 / 12 / 0.45, 6);
      const last = steps.findLastIndex(({ turn }) => turn?.screwId === id);
      expect(steps[last]?.text).toMatch(/free/);
      expect(indexOf(steps, outId(id))).toBeGreaterThan(last);
    }
    const sized = { ...FOUR, screws: FOUR.screws.map((screw) => ({ ...screw, thread: "M3" as const })) };
    const byM3 = fastenStackOf(sized, bareStackOf(sized)).screws[0];
    expect((byM3?.travelMm ?? 0) / (byM3?.pitchMm ?? 1)).toBeCloseTo(35 / 12 / 0.5, 6);
  });

  it("where spring and thread are not known no screw is turned by more than a quarter turn in one go", () => {
    const turns = fasten(fastenStackOf(FOUR, bareStackOf(FOUR)), { moves: 4 });
    const both = [
      stripSteps({ map: FOUR, folded: NOBODY, turns: turns.loosen, warmth: null }),
      closeUpSteps({ ...CLOSING, turns: turns.tighten }),
    ];
    for (const steps of both) {
      const turning = steps.filter(({ kind }) => kind === "turn");
      expect(turning).toHaveLength(12);
      for (const { text } of turning) expect(text).not.toMatch(/[1-9½¾⅛] ?turns?|half a turn| a turn/);
      expect(turning.filter(({ detail }) => /not known/.test(detail))).toHaveLength(8);
    }
    expect(assumedWords(FOUR)).toMatch(/S1, S2, S3, S4.*12 N\/mm.*guess/);
    expect([assumedWords(SIZED), guessedScrews(SIZED)]).toEqual(["", []]);
    // What was begun by a plan goes on by it.
    const begun = foldMarks([mark(STEP.plan, "value", "plan")]);
    expect(stripSteps({ map: FOUR, folded: begun, turns: turns.loosen, warmth: null }).some(({ turn }) => turn)).toBe(
      true,
    );
  });

  it("without a plan no screw is turned twice before all others were turned once", () => {
    const ids = strip(FOUR).flatMap(({ kind, things }) => (kind === "turn" ? things : []));
    for (let round = 0; round < 3; round++) expect(new Set(ids.slice(4 * round, 4 * round + 4)).size).toBe(4);
    // Across from the one before, not beside it.
    expect(ids.slice(0, 2)).toEqual(["S1", "S4"]);
  });
});

describe("an unknown board", () => {
  it("is asked layer by layer and learnt; the next card is led by what was learnt", () => {
    const first = strip(EMPTY_MAP);
    expect(first.filter(({ kind }) => kind === "learn").map(({ id }) => id)).toEqual(
      LAYERS.flatMap((layer) => [learnId(layer), ...(layer === "cooler" ? ["learn-plugs:cooler"] : [])]),
    );
    const learnt = withEdits(EMPTY_MAP, [
      { edit: "board", more: { widthMm: 230, heightMm: 100 } },
      { edit: "screw", id: "S1", more: { xMm: 20, yMm: 20, layer: "backplate", forceN: 0 } },
      { edit: "change", id: "S1", more: { lengthMm: 6 } },
      { edit: "screw", id: "S2", more: { xMm: 95, yMm: 26, layer: "cooler" } },
      { edit: "plug", id: "P1", more: { xMm: 200, yMm: 50, layer: "cooler" } },
      { edit: "layer", id: "shroud", there: false },
      { edit: "die", more: { xMm: 110, yMm: 50 } },
      { edit: "die", more: { widthMm: 22 } },
    ]);
    expect(withEdits(learnt, [{ edit: "screw", id: "S2", more: { xMm: 95, yMm: 26, layer: "cooler" } }])).toEqual(
      learnt,
    );
    expect(learnt.die).toMatchObject({ xMm: 110, widthMm: 22 });
    const led = strip(learnt);
    expect(indexOf(led, learnId("backplate"))).toBe(-1);
    expect(indexOf(led, layerId("shroud"))).toBe(-1);
    expect(led.find(({ id }) => id === outId("S1"))?.detail).toContain("6 mm");
    // No length yet: it is measured when it is out.
    expect(led.find(({ id }) => id === outId("S2"))?.figure?.optional).toBe(true);
    expect(led.map(({ id }) => id)).not.toContain("board:width");
  });

  it("what is being learnt stays, whatever the map knows after the first tap", () => {
    const folded = foldMarks([mark(layerId("backplate")), mark(learnId("backplate"), "begun")]);
    const map = withEdits(EMPTY_MAP, [{ edit: "screw", id: "S1", more: { xMm: 20, yMm: 20, layer: "backplate" } }]);
    expect(indexOf(strip(map, folded), learnId("backplate"))).toBeGreaterThan(0);
  });
});

describe("marks", () => {
  it("come to the same whatever was sent twice; the last word counts; a step not done is next", () => {
    const marks = [
      mark("a"),
      mark("b"),
      mark("a", "undone"),
      mark("c", "value", "7"),
      mark("b", "odd", "stripped", "cross"),
    ];
    const folded = foldMarks([...marks, ...marks]);
    expect(currentStep([{ id: "b" }, { id: "a" }, { id: "c" }], folded)?.id).toBe("a");
    expect(folded.get("c")?.value).toBe("7");
    expect(folded.get("b")).toMatchObject({ done: true, odd: { kind: "stripped", text: "cross" } });
    expect(foldMarks([...marks, mark("b", "odd")]).get("b")?.odd).toBeNull();
  });

  it("minutes of hands: gaps up to ten minutes count, longer ones are asked about", () => {
    const at = (minute: number, what: StepMark["what"] = "done"): StepMark => ({
      ...mark(`s${minute}`, what),
      at: `2026-03-01T${String(8 + Math.floor(minute / 60)).padStart(2, "0")}:${String(minute % 60).padStart(2, "0")}:00.000Z`,
    });
    const marks = [at(0, "begun"), at(4), at(14), at(52), at(55)];
    const asked = handTime(marks.toReversed(), Date.parse);
    expect(asked.minutes).toBeCloseTo(17, 9);
    expect(asked.pauses).toMatchObject([{ minutes: 38, worked: null }]);
    const fromAt = asked.pauses[0]?.fromAt ?? "";
    expect(handTime([...marks, mark(fromAt, "pause", "worked")], Date.parse).minutes).toBeCloseTo(55, 9);
    expect(handTime([...marks, mark(fromAt, "pause", "away")], Date.parse)).toMatchObject({
      pauses: [{ worked: false }],
    });
    expect(handTime([at(0), at(600)], Date.parse)).toMatchObject({ minutes: 0, pauses: [{ worked: false }] });
    expect(handTime([at(3), { ...at(5), at: "no time" }], Date.parse).minutes).toBe(0);
  });

  it("another attempt begins anew", () => {
    const of = (attempt: number, ...ids: string[]) => ids.map((id) => ({ ...mark(id), attempt, station: "strip" }));
    const marks = [...of(1, outId("S1"), outId("S2"), STEP.count), ...of(2, outId("S1"))];
    expect(stripProgress(marks, 1)).toEqual({ begun: true, before: false, finished: true, screwsOut: 2 });
    expect(stripProgress(marks, 2)).toEqual({ begun: true, before: true, finished: false, screwsOut: 1 });
    const back = [
      { ...mark("tighten:S1:2"), attempt: 1 },
      { ...mark(backId("S2")), attempt: 1 },
    ];
    expect(closeUpProgress(marks, back, 1)).toMatchObject({ opened: true, screwsLeft: 0, finished: false });
    expect(closeUpProgress(marks, back, 2)).toMatchObject({ begun: false, screwsLeft: 1 });
  });
});

const CLOSING: CloseUpInput = {
  map: FOUR,
  folded: NOBODY,
  found: {
    out: ["S1", "S2", "S3", "S4"],
    plugs: [],
    layers: ["backplate", "cooler"],
    odd: [],
    seal: null,
    compound: null,
    counted: 4,
  },
  turns: null,
  pads: { places: 8, films: 16 },
  compound: null,
  bow: { mm: 0.12, xMm: 60, yMm: 20 },
  apart: [],
  imprint: "",
  other: null,
};

describe("closing", () => {
  const answered = (id: string, value: string, more: Partial<CloseUpInput> = {}) =>
    closeUpFault(id, { ...CLOSING, ...more, folded: foldMarks([mark(id, "value", value)]) });

  it.each([
    ["films", "14", {}, /2 films may still be on/],
    ["films", "17", {}, /more than the 16/],
    ["back", "1", {}, /1 screw left over/],
    ["back", "5", {}, /more than came out/],
    ["age", "90", {}, /over 60/],
    ["age", "8", { compound: { name: "Bond", kind: "adhesive" as const } }, /over 5/],
    ["bow", "0.9", {}, /more than the 0.12/],
  ] as const)("%s of %s is told", (id, value, more, words) => {
    expect(answered(id, value, more)).toMatch(words);
  });

  it.each([
    ["films", "16", {}],
    ["back", "0", {}],
    ["age", "20", {}],
    ["age", "600", { compound: { name: "Sheet", kind: "phase-change" as const } }],
    ["bow", "0.1", {}],
  ] as const)("%s of %s adds up", (id, value, more) => {
    expect(answered(id, value, more)).toBe("");
  });

  it("what was odd on the way in is dealt with before it is lowered, and the fan comes before the light", () => {
    let map = FOUR;
    for (const feeds of ["light", "fan"] as const) {
      const added = addPlug(map, { xMm: 10, yMm: 10 });
      map = {
        ...added.map,
        plugs: added.map.plugs.map((one) => (added.ids.includes(one.id) ? { ...one, feeds } : one)),
      };
    }
    const odd = [{ stepId: outId("S2"), what: "S2", kind: "stripped", text: "" }];
    const steps = closeUpSteps({ ...CLOSING, map, found: { ...CLOSING.found, odd } });
    expect(indexOf(steps, `dealt:${outId("S2")}`)).toBeLessThan(indexOf(steps, "lower"));
    expect(indexOf(steps, "plug-in:P2")).toBeLessThan(indexOf(steps, "plug-in:P1"));
    expect(steps.at(-1)?.id).toBe("back");
  });

  it("another cooler is laid on its box, the original’s screws stay on the tray, and water is tested before power", () => {
    const other = { name: "Block", wet: true, screws: "4 × short", keptOff: ["S5", "S6"] };
    const steps = closeUpSteps({ ...CLOSING, other });
    expect(indexOf(steps, "kit")).toBeLessThan(indexOf(steps, "on-box"));
    expect(indexOf(steps, "on-box")).toBeLessThan(indexOf(steps, "lower"));
    expect(steps.find(({ id }) => id === "lower")?.text).toMatch(/onto Block/);
    expect(steps.at(-1)?.id).toBe("leak");
    expect(closeUpSteps({ ...CLOSING, other: { ...other, wet: false } }).at(-1)?.id).toBe("back");
    // Two are meant to be left over; one is one too few, three are one too many.
    expect(answered("back", "2", { other })).toBe("");
    expect(answered("back", "1", { other })).toMatch(/look for the others/);
    expect(answered("back", "3", { other })).toMatch(/find the hole/);
  });

  it("what was opened without steps is closed with all screws of its map, but for those to be left alone", () => {
    const map: BoardMap = {
      ...FOUR,
      screws: FOUR.screws.map((screw, index) => ({
        ...screw,
        layer: index === 0 ? "backplate" : "cooler",
        leaveAlone: index === 3,
      })),
    };
    const steps = closeUpSteps({ ...CLOSING, map, found: allFound(map) });
    expect(steps.filter(({ kind }) => kind === "screw").map(({ id }) => id)).toEqual([backId("S1")]);
    expect(steps.flatMap(({ kind, things }) => (kind === "turn" ? things : []))).toEqual(
      expect.arrayContaining(["S2", "S3"]),
    );
    expect(steps.some(({ things }) => things.includes("S4"))).toBe(false);
  });

  it("the count of the tray is held against what was ticked", () => {
    const found = { ...CLOSING.found, counted: 5 };
    expect(stripFault(STEP.count, found)).toMatch(/1 screw more/);
    expect(stripFault(STEP.count, { ...found, counted: 3 })).toMatch(/1 screw missing/);
    expect(stripFault(STEP.count, { ...found, counted: 4 })).toBe("");
  });

  it("the record tells seal, oddities and hands of all attempts", () => {
    const of = (station: string, attempt: number, one: StepMark) => ({ ...one, station, attempt });
    const told = handSummary(
      [
        of("strip", 1, mark(STEP.seal, "value", "damaged")),
        of("strip", 1, mark(outId("S1"))),
        of("strip", 1, mark(outId("S1"), "odd", "stripped", "cross head")),
        of("closeUp", 1, mark(`dealt:${outId("S1")}`)),
        of("closeUp", 1, mark("back", "value", "0")),
      ],
      Date.parse,
    );
    expect(told).toMatchObject({
      seal: "damaged",
      screwsOut: 1,
      leftOver: 0,
      odd: [{ what: "S1", kind: "stripped", text: "cross head", dealt: true }],
    });
    expect(handSummary([], Date.parse)).toBeNull();
  });
});

describe("what comes before the first screw", () => {
  it("the compound cools by the run's own time constant (Newton's law of cooling)", () => {
    const text = logText(
      simulate({
        seed: 5,
        build: MIDSIZE,
        steps: [
          { durationS: 40, load: 0 },
          { durationS: 1500, load: 1 },
          { durationS: 700, load: 0 },
        ],
      }),
    );
    const table = readRun([new TextEncoder().encode(text)]);
    const analysis = analyse(table);
    const cooling = analysis.phases.find(({ kind }) => kind === "cooldown");
    const edge = analysis.roles.edge?.meanC ?? Number.NaN;
    const room = analysis.ambient?.valueC ?? Number.NaN;
    if (!cooling) throw new Error("the run cools down");
    // What the simulated card itself was like when its log ended.
    const last = table.columns.find(({ role }) => role === "edge")?.values.at(-1) ?? Number.NaN;
    const after = (s: number) => warmthOf(analysis, STARTED_MS, STARTED_MS + 1000 * s);
    expect(Math.abs((after(analysis.durationS)?.nowC ?? 0) - last)).toBeLessThan(3);
    // Nine tenths are down when the phase ends: after four times as long nine tenths of the rest, three times over.
    const later = after(cooling.fromS + 4 * (cooling.toS - cooling.fromS));
    expect(later?.curve).toBe("its own cooling");
    expect(later?.nowC).toBeCloseTo(room + (edge - room) / 10_000, 6);
    // By the log's clock, whenever it was kept; without one, or hours later, nobody knows.
    expect(after(5 * 3600)).toBeNull();
    expect(warmthOf(analysis, null, STARTED_MS)).toBeNull();
    expect(warmthOf({ ...analysis, ambient: null }, STARTED_MS, STARTED_MS)).toBeNull();
  });

  it("the tray has a circle for every screw of a layer, none over another", () => {
    fc.assert(
      fc.property(drawn, (map) => {
        const sheets = traySheets(map);
        expect(sheets.flatMap(({ places }) => places.map(({ screw }) => screw.id)).sort()).toEqual(
          map.screws.flatMap(({ id, leaveAlone }) => (leaveAlone ? [] : [id])).sort(),
        );
        for (const { layer, places } of sheets)
          places.forEach((one, index) => {
            expect(layerOf(one.screw)).toBe(layer);
            for (const other of places.slice(index + 1))
              expect(Math.hypot(one.xMm - other.xMm, one.yMm - other.yMm)).toBeGreaterThan(2 * TRAY_R_MM - 0.5);
          });
      }),
    );
  });

  it("what was seen inside is evidence: a bare corner for a cooler held off", () => {
    const cells = `bb${"c".repeat(34)}`.replace(/^bbcccc../, "bbccccbb");
    const seen = openedOf([
      { ...mark(STEP.compound, "value", "moist"), attempt: 1 },
      { ...mark(STEP.imprint, "value", cells), attempt: 1 },
      { ...mark(STEP.compound, "value", "dry"), attempt: 2 },
    ]);
    expect(seen).toMatchObject({ compound: "moist", lopsided: true });
    expect(openedOf([])).toBeUndefined();
  });
});

it("threads have the pitches of ISO 261 (coarse, from memory) and UNC's 32 turns an inch", () => {
  expect(PITCH_MM).toEqual({ "M1.6": 0.35, M2: 0.4, "M2.5": 0.45, M3: 0.5, "6-32 UNC": expect.closeTo(0.79375, 9) });
});

it("turns are told to an eighth", () => {
  expect([0.25, 1, 1.37, 2.99, 0.02].map(turnWords)).toEqual(["¼ turn", "1 turn", "1⅜ turns", "3 turns", "a touch"]);
});
