import { describe, expect, it } from "vitest";
import { EMPTY_MAP } from "../boardmap/index.ts";
import { dry, readDry } from "../cleaning/index.ts";
import {
  COMPOUND,
  type CompoundPlan,
  cleanProgress,
  cleanSteps,
  compoundFault,
  compoundProgress,
  compoundSteps,
  currentStep,
  dryingClocks,
  fanSteps,
  fansProgress,
  foldMarks,
  GLUE,
  handSummary,
  heatCycles,
  readCompoundPlan,
  type StepMark,
  usedGrams,
} from "./index.ts";

const NOON = Date.parse("2026-03-01T12:00:00.000Z");
const MINUTE = 60_000;
let made = 0;
const mark = (
  stepId: string,
  what: StepMark["what"],
  value = "",
  atMs = NOON,
  text = "",
): StepMark & { attempt: number } => ({
  id: `m${made++}`,
  stepId,
  what,
  value,
  text,
  at: new Date(atMs).toISOString(),
  attempt: 1,
});
const said = (stepId: string, value: string) => [mark(stepId, "value", value), mark(stepId, "done")];
const ROOM = { airC: 22, humidityPct: 50 };

/** Follows the steps as a hand would, answering from a list; stops where `until` comes up. */
function clean(answers: Record<string, string>, until: string, nowMs = NOON) {
  const marks: Array<StepMark & { attempt: number }> = [];
  const stepsOf = () =>
    cleanSteps({ map: EMPTY_MAP, marks, folded: foldMarks(marks), room: ROOM, nowMs, msOf: Date.parse });
  for (let k = 0; k < 60; k++) {
    const step = currentStep(stepsOf(), foldMarks(marks));
    if (!step || step.id === until) return { marks, step, steps: stepsOf() };
    const answer = answers[step.id] ?? step.choices[0]?.value;
    marks.push(...(answer === undefined || step.figure ? [] : [mark(step.id, "value", answer)]), mark(step.id, "done"));
  }
  throw new Error("The steps do not end.");
}

describe("cleaning", () => {
  it("is not offered with water while pads are on, and never for what has electronics", () => {
    const ids = (answers: Record<string, string>) => clean(answers, "").steps.map(({ id }) => id);
    expect(ids({ "pads-off": "some" })).not.toContain("school");
    expect(ids({ "pads-off": "some", school: "wash" }).filter((id) => id.startsWith("rest:"))).toEqual([]);
    const washed = ids({ "pads-off": "off", school: "wash", "rest:fins": "accept" });
    expect(washed).toEqual(expect.arrayContaining(["rest:fins", "rest:backplate"]));
    expect(washed).not.toEqual(expect.arrayContaining(["rest:board"]));
    expect(washed).not.toEqual(expect.arrayContaining(["rest:fan"]));
  });

  it("offers what may touch die and board, and says why the rest is not offered", () => {
    const step = clean({}, "").steps.find(({ id }) => id === "cleaner");
    expect(step?.choices.map(({ value }) => value)).toEqual(["isopropanol", "remover"]);
    expect(step?.detail).toMatch(/acetone.*attacks/);
    const { steps: wiped } = clean({ cleaner: "remover" }, "");
    expect(wiped.find(({ id }) => id === "wipe:wet")).toMatchObject({
      text: expect.stringContaining("remover"),
      detail: expect.stringMatching(/right beside it/),
    });
  });

  it("says another way for other dirt", () => {
    const way = (dirt: string) =>
      clean({ "pads-off": "some", dirt }, "").steps.find(({ id }) => id === "clean:fan")?.text ?? "";
    expect(way("smoke")).toMatch(/soapy/);
    expect(way("hair")).toMatch(/scissors/);
    expect(clean({ dirt: "corrosion" }, "").steps.find(({ id }) => id === "clean:board")?.detail).toMatch(/lens/);
  });

  it("rests a washed part until its deepest hole is dry, from the moment it was washed, in the air that was typed", () => {
    const { marks } = clean({ "pads-off": "off", school: "wash" }, "rest:fins");
    const air = [...said("room-air", "20"), ...said("humidity", "60"), ...said("depth:fins", "4")];
    const all = [...marks.filter(({ stepId }) => !["room-air", "humidity", "depth:fins"].includes(stepId)), ...air];
    const [clock] = dryingClocks({ marks: all, folded: foldMarks(all), room: ROOM, msOf: Date.parse });
    const expected = dry(
      readDry({ airC: 20, relativeHumidityPct: 60, crevices: [{ id: "hole", depthMm: 4 }] }),
    ).totalMin;
    expect(((clock?.untilMs ?? 0) - NOON) / MINUTE).toBeCloseTo(expected ?? 0, 6);
    // Washed again: from anew.
    const again = [...all, mark("clean:fins", "undone"), mark("clean:fins", "done", "", NOON + 30 * MINUTE)];
    const [later] = dryingClocks({ marks: again, folded: foldMarks(again), room: ROOM, msOf: Date.parse });
    expect(later?.fromMs).toBe(NOON + 30 * MINUTE);
  });

  it("goes on before the clock only with a recorded acceptance, after it with a look", () => {
    const early = clean({ "pads-off": "off", school: "wash" }, "rest:fins").step;
    expect(early?.choices.map(({ value }) => value)).toEqual(["accept"]);
    const late = clean({ "pads-off": "off", school: "wash" }, "rest:fins", NOON + 3 * 24 * 60 * MINUTE).step;
    expect(late?.choices.map(({ value }) => value)).toEqual(["dry"]);
    const { marks } = clean({ "pads-off": "off", school: "wash" }, "");
    expect(cleanProgress(marks, 1, { room: ROOM, msOf: Date.parse })).toMatchObject({ finished: true, clocks: [] });
    const summary = handSummary(
      marks.map((one) => ({ ...one, station: "clean" })),
      Date.parse,
    );
    expect(summary?.done.join(" ")).toMatch(/washed.*accepted/);
  });

  it("in air that is as wet as water never ends, and says so", () => {
    const { marks } = clean({ "pads-off": "off", school: "wash" }, "rest:fins");
    const wet = [...marks, mark("warm-air", "value", ""), mark("humidity", "value", "96")];
    const clocks = dryingClocks({ marks: wet, folded: foldMarks(wet), room: ROOM, msOf: Date.parse });
    expect(clocks[0]?.untilMs).toBeNull();
  });
});

const PLAN: CompoundPlan = {
  materialId: null,
  name: "Grey paste",
  kind: "paste",
  pattern: "one dot",
  beads: [],
  filmUm: 60,
  bondLineUm: 40,
  densityGPerMl: 2.5,
  nozzleMm: 2,
};
const steps = (kind: CompoundPlan["kind"]) =>
  compoundSteps({
    plan: { ...PLAN, kind },
    doseUl: 20,
    die: { widthMm: 20, heightMm: 22 },
    mask: ["C1", "C2"],
    maskMm: 4,
    marks: [],
    folded: foldMarks([]),
    msOf: Date.parse,
  });

describe("putting compound on", () => {
  it("a sheet goes on the plate, larger than the die, both liners off, and its cycles are told", () => {
    const sheet = steps("phase-change");
    expect(sheet.map(({ id }) => id)).toEqual(["clean", "cut", "liner-1", COMPOUND.put, "cycles", COMPOUND.end]);
    expect(sheet[1]?.text).toContain("22 × 24 mm");
    expect(sheet[2]?.text).toMatch(/plate/);
  });

  it("liquid metal begins with the mask and ends with its waste, cautions beside them", () => {
    const metal = steps("liquid metal");
    expect(metal.find(({ id }) => id === "mask")).toMatchObject({ things: ["C1", "C2"], cautions: ["liquidMetal"] });
    expect(metal.map(({ id }) => id)).toEqual(expect.arrayContaining(["plate", "waste"]));
  });

  it("heatsinks that are glued on set for a day, from when they were glued, until it is said that they are set", () => {
    const glued = [mark(GLUE.on, "done", "", NOON)];
    expect(compoundProgress(glued, 1, Date.parse).clocks).toEqual([
      expect.objectContaining({ fromMs: NOON, untilMs: NOON + 24 * 60 * MINUTE }),
    ]);
    expect(compoundProgress([...glued, mark(GLUE.set, "done")], 1, Date.parse).clocks).toEqual([]);
  });

  it("a plan that was damaged is none", () => {
    const kept = (text: string) => readCompoundPlan(foldMarks([mark(COMPOUND.plan, "value", "paste", NOON, text)]));
    expect(kept(JSON.stringify(PLAN))).toEqual(PLAN);
    for (const text of ["", "{", "{}", JSON.stringify({ ...PLAN, beads: 3 })]) expect(kept(text)).toBeNull();
  });

  it("the syringe that did not get lighter, or far too light, is asked about", () => {
    const weighed = (before: string, after: string) =>
      foldMarks([mark(COMPOUND.before, "value", before), mark(COMPOUND.after, "value", after)]);
    expect(compoundFault(COMPOUND.after, weighed("12.40", "12.35"), 50)).toBe("");
    // What goes out of the stock is as fine as the scales.
    expect(usedGrams(weighed("12.40", "12.33"))).toBe(0.07);
    expect(usedGrams(weighed("12.40", ""))).toBeNull();
    expect(compoundFault(COMPOUND.after, weighed("12.40", "12.41"), 50)).toMatch(/not lighter/);
    expect(compoundFault(COMPOUND.after, weighed("12.40", "12.00"), 50)).toMatch(/400 mg/);
    expect(compoundFault(COMPOUND.after, weighed("12.40", "12.39"), 50)).toMatch(/bare/);
  });

  it("heat cycles are counted from logs and from what a test bench led, whole ones only", () => {
    const cycles = { kind: "cycles", count: 6, loadMinutes: 8, idleMinutes: 4 } as const;
    expect(heatCycles({ loads: [], live: [] })).toBe(0);
    expect(heatCycles({ loads: [1, 3], live: [{ steps: [cycles, { kind: "soak" }], elapsedS: 30 * 60 }] })).toBe(6);
    expect(heatCycles({ loads: [], live: [{ steps: [cycles, { kind: "soak" }], elapsedS: 9000 }] })).toBe(6);
    expect(heatCycles({ loads: [], live: [{ steps: [{ kind: "soak" }, cycles], elapsedS: 9000 }] })).toBe(0);
  });
});

describe("fans", () => {
  it("only a sleeve bearing is offered oil, and what is oiled or replaced is told", () => {
    const deeds = (bearing: string) =>
      fanSteps({ folded: foldMarks([...said("finger:1", "stiff"), ...said("bearing:1", bearing)]), known: 1 })
        .find(({ id }) => id === "deed:1")
        ?.choices.map(({ value }) => value);
    expect(deeds("sleeve")).toEqual(["leave", "oil", "replace"]);
    expect(deeds("ball")).toEqual(["leave", "replace"]);
    const marks = [...said("deed:1", "oil"), ...said("deed:2", "replace"), mark("clearance", "done")];
    expect(fanSteps({ folded: foldMarks(marks), known: 2 }).map(({ id }) => id)).toEqual(
      expect.arrayContaining(["oil:1", "replace:2"]),
    );
    expect(fansProgress(marks, 1)).toMatchObject({ finished: true, words: "1 oiled, 1 replaced" });
  });

  it("as many as were counted, at most six", () => {
    const count = (text: string) =>
      fanSteps({ folded: foldMarks(said("fan-count", text)), known: 2 }).filter(({ id }) => id.startsWith("finger:"))
        .length;
    expect([count("3"), count("99")]).toEqual([3, 6]);
  });
});
