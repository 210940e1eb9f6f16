import { describe, expect, it } from "vitest";
import { asBefore, minutesAhead, PROTOCOLS } from "./index.ts";

const stepsOf = (name: string) => PROTOCOLS.find((one) => one.name === name)?.steps ?? [];
const fansOf = (name: string) => stepsOf(name).map((step) => step.fan);

/** What each kind of run is for: common practice of the trade. */
describe("protocols that come with the application", () => {
  it("are named once each and say what they are for", () => {
    expect(new Set(PROTOCOLS.map((one) => one.name)).size).toBe(PROTOCOLS.length);
    for (const { about, steps } of PROTOCOLS) {
      expect(about.length).toBeGreaterThan(20);
      expect(steps.length).toBeGreaterThan(0);
    }
  });

  it("compare at a fixed fan of 60 to 65 %, and hear what the owner hears at the automatic one", () => {
    expect(fansOf("Fixed fan")[0]).toBeGreaterThanOrEqual(60);
    expect(fansOf("Fixed fan")[0]).toBeLessThanOrEqual(65);
    expect(fansOf("Automatic fan")).toEqual(["automatic"]);
    expect(fansOf("Full fan")).toEqual([100]);
  });

  it("sweep three fan settings or more, and repeat one setting three times", () => {
    expect(new Set(fansOf("Fan sweep")).size).toBeGreaterThanOrEqual(3);
    expect(fansOf("Repeat runs")).toHaveLength(3);
    expect(new Set(fansOf("Repeat runs")).size).toBe(1);
  });

  it("run a pair of power limits at one fan, and a long soak to its end", () => {
    const pair = stepsOf("Overclock and undervolt pair").flatMap((step) => (step.kind === "soak" ? [step] : []));
    expect(new Set(pair.map((step) => step.fan)).size).toBe(1);
    expect(Math.min(...pair.map((step) => step.powerPct))).toBeLessThan(100);
    expect(Math.max(...pair.map((step) => step.powerPct))).toBeGreaterThan(100);
    expect(stepsOf("Long soak")[0]).toMatchObject({ minutes: 60, early: false });
  });

  it("give a phase-change sheet its cycles before it is measured, and match noise at 40 dBA", () => {
    expect(stepsOf("Heat cycles").map((step) => step.kind)).toEqual(["cycles", "soak"]);
    expect(stepsOf("Matched noise")[0]).toMatchObject({ matchDb: 40 });
  });
});

describe("the run before the work once more", () => {
  const made = { name: "", fanMode: "fixed", fanPct: 65, powerLimitPct: 90, loadMinutes: 18.2 } as const;

  it("takes its fan, its power limit and its time, a step for each", () => {
    expect(
      asBefore([made, { ...made, name: "as heard", fanMode: "automatic", fanPct: null, powerLimitPct: null }])?.steps,
    ).toEqual([
      { kind: "soak", label: "Fixed fan 65 %", fan: 65, powerPct: 90, minutes: 19, early: true },
      { kind: "soak", label: "as heard", fan: "automatic", powerPct: 100, minutes: 19, early: true },
    ]);
  });

  it("keeps a time a fan can be told by, and says nothing where nobody knows how the fan was driven", () => {
    const minutes = (loadMinutes: number) => asBefore([{ ...made, loadMinutes }])?.steps[0];
    expect([minutes(3), minutes(400)]).toMatchObject([{ minutes: 10 }, { minutes: 60 }]);
    expect(asBefore([{ ...made, fanMode: "unknown", fanPct: null }])).toBeUndefined();
    expect(asBefore([])).toBeUndefined();
  });
});

it("counts what is left of a protocol: this part, its cycles, and later steps with their pauses", () => {
  const soak = { kind: "soak" as const, label: "Soak", fan: 60, powerPct: 100, minutes: 20, early: true };
  const cycles = { kind: "cycles" as const, label: "Cycles", count: 4, loadMinutes: 5, idleMinutes: 3, fan: 60 };
  // 6 min of the first, then 20 and its pause of at most 8.
  expect(minutesAhead({ steps: [soak, soak] }, { step: 0, cycle: 0, minutesLeft: 6 })).toBe(34);
  // In the second of four cycles two more of 8 min follow.
  expect(minutesAhead({ steps: [cycles] }, { step: 0, cycle: 1, minutesLeft: 2 })).toBe(18);
});
