import { describe, expect, it } from "vitest";
import { readRun } from "../runfile/index.ts";
import { type Analysis, analyse, type TemperatureFigures } from "../soak/index.ts";
import { logText, MIDSIZE, type RunSpec, settledRises, simulate } from "../virtualcard/index.ts";
import { checkIntake, compare, pairRuns, type Setting } from "./index.ts";

const STEPS = [
  { durationS: 40, load: 0 },
  { durationS: 1300, load: 1 },
];
const worn = { dryPaste: 0.4, dust: 0.2 };
const spec = (more: Partial<RunSpec> = {}): RunSpec => ({ seed: 1, build: MIDSIZE, steps: STEPS, ...more });
const judged = (more: Partial<RunSpec>, options = {}): Analysis =>
  analyse(readRun([new TextEncoder().encode(logText(simulate(spec(more))))]), options);

const before = judged({ seed: 2, faults: worn, bench: { roomC: 21 } });
const after = judged({ seed: 3, bench: { roomC: 21 } });
/** The same service, its second run in a case where the fans draw in air of 33 °C: the room's thermometer still shows 21. */
const inCase = judged({ seed: 3, bench: { roomC: 33 } }, { ambientC: 21, ambientU95K: 0.6 });
const gainK = settledRises(spec()).edgeK - settledRises(spec({ faults: worn })).edgeK;
const at = (was: Setting, is: Setting, one = before, other = after) => compare(one, other, { settings: [was, is] });

describe("another case", () => {
  it("can't be compared without the air at both intakes, whatever the figures say", () => {
    for (const [was, is] of [
      [{ case: "open-bench" }, { case: "panel-on" }],
      [{ case: "panel-off", inletC: 24 }, { case: "panel-on" }],
      [{ case: "panel-on" }, { case: "panel-off", inletC: 24 }],
    ] as const) {
      const found = at(was, is);
      expect(found).toMatchObject({
        comparable: false,
        verdict: "not-comparable",
        atEqualConditions: null,
        worst: null,
        best: null,
      });
      expect(found.reason).toContain("same case");
      expect(found.differences.find(({ what }) => what === "case")).toEqual({
        what: "case",
        before: was.case,
        after: is.case,
        handled: "not-correctable",
      });
    }
  });

  it("is made up for by the air at both intakes: rises count from it, room air or none", () => {
    const settings = [
      { case: "open-bench", inletC: 21 },
      { case: "panel-on", inletC: 33 },
    ] as const;
    for (const [one, other] of [
      [before, inCase],
      [
        { ...before, ambient: null },
        { ...inCase, ambient: null },
      ],
    ] as const) {
      const found = at(...settings, one, other);
      expect(found.differences.find(({ what }) => what === "case")?.handled).toBe("corrected");
      expect(found).toMatchObject({ comparable: true, verdict: "better" });
      expect(found.atEqualConditions?.ambientC).toBe(21);
      const edge = found.atEqualConditions?.roles.edge;
      expect(Math.abs((edge?.changeK ?? 0) - gainK)).toBeLessThan(edge?.u95K ?? 0);
    }
    // By the room's air the case's 12 K count as the card's.
    const byRoomK = at({}, {}, before, inCase).atEqualConditions?.roles.edge?.changeK ?? 0;
    expect(byRoomK - gainK).toBeGreaterThan(9);
  });

  it("is none where only one side says where it ran, and the case is the same where both say so", () => {
    for (const [was, is] of [
      [{ case: "panel-on" }, {}],
      [{}, { case: "panel-on" }],
      [{ case: "panel-on" }, { case: "panel-on" }],
    ] as const) {
      const found = at(was, is);
      expect(found).toMatchObject({ comparable: true, verdict: "better" });
      expect(found.differences.some(({ what }) => what === "case")).toBe(false);
    }
  });
});

describe("air at one intake only", () => {
  it("is not used", () => {
    const { reason: _reason, ...found } = at({ inletC: 30 }, {});
    const { reason: _none, ...without } = at({}, {});
    expect(found).toEqual(without);
  });
});

describe("another load", () => {
  it("leaves the die to be compared and says nothing of memory and VRM", () => {
    const found = at({ loadName: "long loop" }, { loadName: "texture fill" });
    const same = at({ loadName: "Long  loop " }, { loadName: " long LOOP" });
    expect(found.differences).toContainEqual({
      what: "loadName",
      before: "long loop",
      after: "texture fill",
      handled: "corrected",
    });
    expect(found.verdict).toBe("better");
    expect(found.atEqualConditions?.roles.edge).toEqual(same.atEqualConditions?.roles.edge);
    expect(found.atEqualConditions?.roles.memory?.verdict).toBeNull();
    expect(same.differences.some(({ what }) => what === "loadName")).toBe(false);
    expect(same.atEqualConditions?.roles.memory?.verdict).not.toBeNull();
  });

  it("claims no worst and no best of memory, though it ran 30 K hotter", () => {
    const memory = memoryOf(after);
    const hotter: Analysis = {
      ...after,
      roles: { ...after.roles, memory: { ...memory, riseK: (memory.riseK ?? 0) + 30 } },
    };
    expect(at({}, {}, before, hotter).worst?.role).toBe("memory");
    const found = at({ loadName: "loop" }, { loadName: "fill" }, before, hotter);
    expect(found.worst).toBeNull();
    expect(found.best?.role).toMatch(/edge|hotspot/);
  });

  it("can't be compared where the runs share nothing but memory and VRM", () => {
    const only = (run: Analysis): Analysis => ({ ...run, roles: { memory: memoryOf(run) } });
    const found = at({ loadName: "loop" }, { loadName: "fill" }, only(before), only(after));
    expect(found).toMatchObject({ comparable: false, verdict: "not-comparable" });
    expect(found.reason).toContain("same load");
  });
});

function memoryOf({ roles: { memory } }: Analysis): TemperatureFigures {
  if (!memory) throw new Error("the log has no memory");
  return memory;
}

describe("the air at the intake", () => {
  it("is never as warm as the card under load", () => {
    const settlesC = after.roles.edge?.meanC ?? 0;
    expect(() => checkIntake(after, { inletC: settlesC + 1 })).toThrow("as warm as the card");
    expect(() => checkIntake(after, { inletC: settlesC - 5 })).not.toThrow();
    expect(() => checkIntake(after, {})).not.toThrow();
  });
});

describe("pairs of runs", () => {
  const run = (name: string, more: object) => ({ name, fanMode: "fixed" as const, fanPct: 60, ...more });
  const names = (...args: Parameters<typeof pairRuns<ReturnType<typeof run>>>) =>
    pairRuns(...args).map((pair) => [pair.before.name, pair.after.name]);

  it("prefer the same case, then the same load, to a nearer fan", () => {
    const bench = run("bench", { case: "open-bench" });
    const inside = run("in a case", { case: "panel-on", fanPct: 75 });
    expect(names([bench, inside], [run("after", { case: "panel-on" })])).toEqual([["in a case", "after"]]);
    const loop = run("loop", { loadName: "loop", fanPct: 75 });
    const fill = run("fill", { loadName: "fill" });
    expect(names([fill, loop], [run("after", { loadName: "Loop" })])).toEqual([["loop", "after"]]);
  });

  it("take another case where the air at both intakes makes up for it, or where there is nothing else", () => {
    const bench = run("bench", { case: "open-bench", inletC: 22 });
    expect(names([bench], [run("after", { case: "panel-on", inletC: 31 })])).toEqual([["bench", "after"]]);
    expect(names([bench], [run("after", { case: "panel-on" })])).toEqual([["bench", "after"]]);
  });
});
