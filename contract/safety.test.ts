import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addPlug, addScrew, type BoardMap, EMPTY_MAP, LAYERS } from "#core/boardmap/index.ts";
import { DIRTS } from "#core/cleaning/index.ts";
import {
  cleanSteps,
  compoundSteps,
  fanSteps,
  foldMarks,
  type HandStep,
  HOT_C,
  type StepMark,
  stripSteps,
  WAIT_C,
  type Warmth,
  warmthWords,
} from "#core/handwork/index.ts";
import { CAUTIONS } from "./cautions.ts";

const at = (nowC: number, roomC = 22): Warmth => ({ nowC, roomC, sinceMin: 4, tauMin: 6, curve: "its own cooling" });

/** Screws and plugs on every layer, or a board nobody knows. */
const KNOWN: BoardMap = LAYERS.reduce((map, layer, index) => {
  const { map: more, ids } = addScrew(map, { xMm: 20 + 9 * index, yMm: 20 });
  const { map: whole, ids: plugIds } = addPlug(more, { xMm: 20 + 9 * index, yMm: 60 });
  return {
    ...whole,
    screws: whole.screws.map((one) => (ids.includes(one.id) ? { ...one, layer } : one)),
    plugs: whole.plugs.map((one) => (plugIds.includes(one.id) ? { ...one, layer } : one)),
  };
}, EMPTY_MAP);

const all = ({ text, detail, cautions }: HandStep): string =>
  [text, detail, ...cautions.flatMap((caution) => CAUTIONS[caution].says)].join(" ");

describe("warmth before the cooler comes off", () => {
  it("whatever the temperature: hot from 60 °C on, a wait from 45 °C on, never called fit to hold", () => {
    for (let nowC = -10; nowC <= 140; nowC += 0.25) {
      for (const isOpen of [false, true]) {
        const words = warmthWords(at(nowC), isOpen);
        if (nowC >= HOT_C) expect(words).toMatch(/hot, it burns/);
        if (nowC >= WAIT_C) expect(words).toMatch(/wait \d+ min/);
        else expect(words).not.toMatch(/wait \d+ min/);
        expect(words).not.toMatch(/not too hot/);
        if (nowC >= WAIT_C) expect(words).not.toMatch(/give way|with a load/);
      }
    }
  });

  it("the minutes are those of Newton's law of cooling", () => {
    for (const nowC of [45, 46, 59.9, 60, 75, 110]) {
      const minutes = Number(/wait (\d+) min/.exec(warmthWords(at(nowC), false))?.[1]);
      const left = (min: number): number => 22 + (nowC - 22) * Math.exp(-min / 6);
      expect(left(minutes)).toBeLessThanOrEqual(WAIT_C);
      if (minutes > 1) expect(left(minutes - 1)).toBeGreaterThan(WAIT_C);
    }
    // In a room that warm it never comes down to it.
    expect(warmthWords(at(70, 46), false)).toMatch(/hot.*wait until it is below 45/);
  });
});

describe("taking a cooler off", () => {
  it.each([
    ["known", KNOWN],
    ["unknown", EMPTY_MAP],
  ])("on a board that is %s: screws, twist, a finger's width, plugs, then off", (_, map) => {
    const steps = stripSteps({ map, folded: foldMarks([]), turns: null, warmth: null }).filter(
      ({ layer }) => layer === "cooler",
    );
    const index = (id: RegExp): number => steps.findIndex((step) => id.test(step.id));
    const last = (id: RegExp): number => steps.findLastIndex((step) => id.test(step.id));
    expect(last(/^(out|learn):/)).toBeGreaterThan(0);
    expect(index(/^twist:/)).toBeGreaterThan(last(/^(out|learn):/));
    expect(index(/^raise:/)).toBe(index(/^twist:/) + 1);
    expect(index(/^(plug|learn-plugs):/)).toBe(index(/^raise:/) + 1);
    expect(index(/^lift:/)).toBeGreaterThan(last(/^(plug|learn-plugs):/));
    expect(steps.filter(({ id }) => id.startsWith("learn")).every(({ learns }) => learns.length === 1)).toBe(true);
  });

  it("in whatever order its steps are ticked: no load while a screw, plug or layer is off", () => {
    const ids = [KNOWN, EMPTY_MAP].flatMap((map) =>
      stripSteps({ map, folded: foldMarks([]), turns: null, warmth: null }).map(({ id }) => id),
    );
    const opening = ids.filter((id) => /^(out|plug|loosen|learn|learn-plugs|twist|raise|lift):/.test(id));
    fc.assert(
      fc.property(
        fc.constantFrom(KNOWN, EMPTY_MAP),
        fc.subarray(ids),
        fc.constantFrom(...opening),
        fc.option(fc.double({ min: -10, max: 140, noNaN: true })),
        (map, ticked, opened, nowC) => {
          const folded = foldMarks(
            [...ticked, opened].map((stepId, index) => ({
              id: String(index),
              stepId,
              what: "done" as const,
              value: "",
              text: "",
              at: "",
            })),
          );
          const steps = stripSteps({ map, folded, turns: null, warmth: nowC === null ? null : at(nowC) });
          for (const step of steps) expect(all(step)).not.toMatch(/with a load|run the card|power on/i);
        },
      ),
    );
    // Before the first screw it is the usual way.
    const [warm] = stripSteps({ map: KNOWN, folded: foldMarks([]), turns: null, warmth: null }).filter(
      ({ id }) => id === "warm",
    );
    expect(warm?.text).toMatch(/with a load/);
  });
});

it("a fan at full speed: power off, wedge, power on, power off; never a hand on another one", () => {
  const words = CAUTIONS.coast.says.join(" ");
  const order = [/Power off first/, /soft wedge/, /Then power on/, /Power off again/].map((one) => words.search(one));
  expect(order).toEqual(order.toSorted((a, b) => a - b));
  expect(order[0]).toBeGreaterThanOrEqual(0);
  expect(words).toMatch(/never hold one by hand/);
});

describe("whatever a step has hands do", () => {
  const mark = (stepId: string, value: string): StepMark => ({
    id: `${stepId}-${value}`,
    stepId,
    what: "value",
    value,
    text: "",
    at: "2026-03-01T12:00:00.000Z",
  });
  const cleaned = (dirt: string, school: string): HandStep[] => {
    const marks = [mark("pads-off", "off"), mark("dirt", dirt), mark("school", school)];
    const room = { airC: 22, humidityPct: 50 };
    return cleanSteps({ map: KNOWN, marks, folded: foldMarks(marks), room, nowMs: 0, msOf: Date.parse });
  };
  const NO_MARKS = foldMarks([]);
  const putOn = (kind: "paste" | "phase-change" | "liquid metal"): HandStep[] =>
    compoundSteps({
      plan: {
        materialId: null,
        name: "Any",
        kind,
        pattern: "one dot",
        beads: [],
        filmUm: 60,
        bondLineUm: 40,
        densityGPerMl: 2.5,
        nozzleMm: 2,
      },
      doseUl: 20,
      die: { widthMm: 20, heightMm: 22 },
      mask: ["C1"],
      maskMm: 4,
      marks: [],
      folded: NO_MARKS,
      msOf: Date.parse,
    });
  const steps: HandStep[] = [
    ...[KNOWN, EMPTY_MAP].flatMap((map) => stripSteps({ map, folded: NO_MARKS, turns: null, warmth: null })),
    ...Object.keys(DIRTS).flatMap((dirt) => [...cleaned(dirt, "dry"), ...cleaned(dirt, "wash")]),
    ...(["paste", "phase-change", "liquid metal"] as const).flatMap(putOn),
    ...fanSteps({ folded: foldMarks([mark("deed:1", "oil")]), known: 2 }),
  ];

  /** What a step's own words say that hands do, and what its cautions have to say before it. */
  const DANGERS: ReadonlyArray<readonly [does: RegExp, warned: RegExp]> = [
    [/\bblow|compressed air|\bair duster/i, /eye protection/i],
    [/\bbrush the board|off die and plate, dry/i, /ground yourself/i],
    [/\bwash the heatsink|\bbrush.*heatsink/i, /fins cut|gloves/i],
    [/(with|in) (2-propanol|alcohol|remover|acetone)/i, /no flame/i],
    [/warm air\?/i, /no flame/i],
    [/twist the cooler|lift it a finger/i, /two hands/i],
    [/liquid metal|blunt needle|never aluminium/i, /eye protection/i],
    [/\bcut\b(?!.*scissors)/i, /cut away from the hand/i],
  ];

  it.each(DANGERS)("%s is warned of before it: %s", (does, warned) => {
    const doing = steps.filter(({ kind, text, detail }) => kind !== "choice" && does.test(`${text} ${detail}`));
    expect(doing.length).toBeGreaterThan(0);
    const unwarned = doing.filter((step) => {
      const said = step.cautions.flatMap((caution) => [CAUTIONS[caution].title, ...CAUTIONS[caution].says]).join(" ");
      return !warned.test(said);
    });
    expect(unwarned.map(({ id, text }) => `${id}: ${text}`)).toEqual([]);
  });
});
