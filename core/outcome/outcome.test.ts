import { describe, expect, it } from "vitest";
import { type Comparison, compare, USUAL_COOLING } from "../compare/index.ts";
import { seeded } from "../random/index.ts";
import { readRun } from "../runfile/index.ts";
import { analyse } from "../soak/index.ts";
import { logText, MIDSIZE, type RunSpec, simulate } from "../virtualcard/index.ts";
import { type CardSensor, headlineOf, needsReason, type OutcomeInput, outcomeOf } from "./index.ts";

/** What can be relied on of an answer about the whole card. */

const LIMITS = { edgeC: 85, hotspotC: 105, memoryC: 95, vrmC: 110 };

interface Change {
  changeK: number;
  u95K: number;
  beforeRiseK?: number;
  afterRiseK?: number;
}

/** A comparison that holds just these changes at equal conditions. */
function comparisonOf(changes: Partial<Record<CardSensor, Change>>, gapK?: Change): Comparison {
  const verdict = "no-real-change" as const;
  const entries = Object.entries(changes);
  return {
    comparable: true,
    air: "room",
    reason: null,
    differences: [],
    roles: Object.fromEntries(
      entries.map(([role, { beforeRiseK = 40, afterRiseK = 40, ...change }]) => [
        role,
        { ...change, beforeRiseK, afterRiseK, verdict },
      ]),
    ),
    atEqualConditions: {
      powerW: 200,
      fanRpm: 1800,
      ambientC: 22,
      roles: Object.fromEntries(
        entries.map(([role, { changeK, u95K }]) => [
          role,
          {
            changeK,
            u95K,
            verdict,
            correctionK: { power: 0, fan: 0 },
            budget: { readings: 0, scatter: 0, power: 0, fan: 0, air: 0 },
          },
        ]),
      ),
    },
    hotspotGap: gapK ? { beforeK: 10, afterK: 10 + gapK.changeK, ...gapK, verdict } : null,
    verdict,
    worst: null,
    best: null,
    sameRun: false,
    doubts: [],
    detectableK: null,
    worth: null,
    scatter: { mountK: 0.7, runK: 0.5 },
    cooling: USUAL_COOLING,
    version: 1,
  };
}

const outcome = (comparison: Comparison, more: Partial<OutcomeInput> = {}) =>
  outcomeOf({ comparison, limits: LIMITS, warmestRoomC: 30, complaint: "", ...more });

describe("the headline", () => {
  const COOLER_DIE = { changeK: -7.9, u95K: 2.1, beforeRiseK: 50, afterRiseK: 42 };
  const HOT_MEMORY = { changeK: 29, u95K: 3, beforeRiseK: 44.5, afterRiseK: 73.5 };
  const COOLER_MEMORY = { changeK: -15.7, u95K: 3, beforeRiseK: 60, afterRiseK: 44 };

  it("says what got worse beside what got better, and what is over its limit in the warmest room", () => {
    const found = outcome(comparisonOf({ edge: COOLER_DIE, memory: HOT_MEMORY }));
    expect(headlineOf(found)).toMatch(
      /^Die 7\.9 ± 2\.1 K cooler\. Memory 29\.0 ± 3\.0 K hotter and over its limit of 95 °C in a room of 30 °C$/,
    );
    expect([found.verdict, needsReason(found)]).toEqual(["over-limit", true]);
    expect(outcome(comparisonOf({ edge: COOLER_DIE, memory: HOT_MEMORY }), { warmestRoomC: 20 }).verdict).toBe("mixed");
  });

  it("is led by what the owner complained of, and tells it also where nothing came of it", () => {
    const comparison = comparisonOf({ edge: { changeK: 0.2, u95K: 2 }, memory: COOLER_MEMORY });
    const asked = outcome(comparison, { complaint: "Memory artifacts after an hour" });
    expect(headlineOf(asked)).toMatch(/^Memory 15\.7 ± 3\.0 K cooler\. Die: no real change$/);
    expect([asked.verdict, needsReason(asked)]).toEqual(["better", false]);
    const inVain = comparisonOf({ edge: COOLER_DIE, memory: { changeK: 0.4, u95K: 3 } });
    expect(headlineOf(outcome(inVain, { complaint: "VRAM gets hot" }))).toMatch(/^Memory: no real change\. Die 7\.9/);
  });

  it("tells its owner the same figures, in an owner's words", () => {
    const found = outcome(comparisonOf({ edge: COOLER_DIE, hotspot: COOLER_DIE, vrm: HOT_MEMORY }));
    const [trade, owner] = [headlineOf(found), headlineOf(found, "", "owner")];
    expect(owner).not.toMatch(/die|hotspot|vrm/i);
    expect(owner.match(/[\d.]+/g)).toEqual(trade.match(/[\d.]+/g));
    expect(owner).toMatch(/^Chip 7\.9 ± 2\.1 K cooler.*Power parts 29\.0 ± 3\.0 K hotter/);
  });

  it("says that a limit is still passed where it was before", () => {
    const hot = { changeK: -6, u95K: 2, beforeRiseK: 80, afterRiseK: 74 };
    expect(headlineOf(outcome(comparisonOf({ edge: { changeK: 0, u95K: 2 }, memory: hot })))).toMatch(
      /^Memory 6\.0 ± 2\.\d K cooler, but still over its limit of 95 °C in a room of 30 °C\. Die: no real change$/,
    );
    expect(headlineOf(outcome(comparisonOf({ memory: { ...hot, changeK: 0 } })))).toMatch(
      /^Memory still over its limit/,
    );
    expect(outcome(comparisonOf({ memory: hot }), { limits: { ...LIMITS, memoryC: null } }).verdict).toBe("better");
  });

  it("names a gap that grew and a fan that turns slower at the same setting", () => {
    const still = { changeK: 0, u95K: 2 };
    const uneven = outcome(comparisonOf({ edge: still, hotspot: still }, { changeK: 6, u95K: 1.5 }));
    expect([headlineOf(uneven), uneven.verdict]).toEqual([
      expect.stringMatching(/^Hotspot gap 6\.0 ± 1\.\d K larger: contact is uneven\. Die: no real change$/),
      "worse",
    ]);
    const slow = outcome(comparisonOf({ edge: COOLER_DIE }), { fanSpeedRatio: 0.81 });
    expect([headlineOf(slow), slow.verdict]).toEqual([
      expect.stringMatching(/^Die 7\.9 .* cooler\. Fan turns 19 % slower at the same setting$/),
      "mixed",
    ]);
    expect(outcome(comparisonOf({ edge: COOLER_DIE }), { fanSpeedRatio: 0.97 }).fanSlowerPct).toBeNull();
  });

  it("of a run that was cut short: first that it was, then what there is so far, and never a warning", () => {
    const comparison = comparisonOf(
      { edge: { changeK: -11, u95K: 3.4, beforeRiseK: 54, afterRiseK: 43 }, memory: { ...HOT_MEMORY, u95K: 4 } },
      { changeK: 9, u95K: 1.5 },
    );
    const cut = outcome(comparison, {
      predicted: new Set(["edge", "memory"] as const),
      short: "after",
      minutesNeeded: 9,
    });
    expect(headlineOf(cut)).toMatch(
      /^The run after the work was too short to tell: run the load 9 more minutes\. So far: Die 11\.0 ± 3\.4 K cooler$/,
    );
    expect([cut.known, cut.verdict, needsReason(cut)]).toEqual([false, "better", false]);
    expect(cut.sensors.map(({ known, overLimit }) => [known, overLimit])).toEqual([
      [false, false],
      [false, false],
    ]);
    expect(cut.gap?.verdict).not.toBe("larger");
  });

  it("says nothing of runs that can't be compared", () => {
    const none = outcome({ ...comparisonOf({}), comparable: false });
    expect([none.verdict, headlineOf(none), needsReason(none)]).toEqual(["not-comparable", "", false]);
  });
});

describe("claims", () => {
  /** Changes drawn from normal laws of their own, together or apart, not from simulated logs. */
  it.each([
    ["apart", 0],
    ["together", 0.8],
  ])("of sensors that err %s are false in no more than one of twenty services where nothing changed", (_, shared) => {
    const random = seeded(31);
    const services = 4000;
    let claims = 0;
    for (let k = 0; k < services; k++) {
      const all = random.normal();
      const drawn = (): Change => ({
        changeK: 1.2 * (shared * all + Math.sqrt(1 - shared ** 2) * random.normal()),
        u95K: 1.2 * 1.959964,
      });
      const comparison = comparisonOf({ edge: drawn(), hotspot: drawn(), memory: drawn(), vrm: drawn() }, drawn());
      if (outcome(comparison).sensors.some((one) => one.verdict !== "no-real-change")) claims++;
      else if (outcome(comparison).gap?.verdict !== "no-real-change") claims++;
    }
    // Three standard deviations of a share of 5 % over so many.
    expect(claims / services).toBeLessThan(0.05 + 3 * Math.sqrt((0.05 * 0.95) / services));
    if (shared === 0) expect(claims / services).toBeGreaterThan(0.04);
  });

  it("never contradict their own interval, whatever is drawn", () => {
    const random = seeded(5);
    for (let k = 0; k < 500; k++) {
      const drawn = (): Change => ({ changeK: random.between(-12, 12), u95K: random.between(0, 8) });
      const { sensors, verdict } = outcome(comparisonOf({ edge: drawn(), memory: drawn() }), { limits: { ...LIMITS } });
      for (const { verdict: said, changeK, u95K, jointU95K } of sensors) {
        expect(jointU95K).toBeGreaterThanOrEqual(u95K);
        expect(said === "cooler").toBe(changeK < -jointU95K);
        expect(said === "hotter").toBe(changeK > jointU95K);
      }
      if (verdict === "better") expect(sensors.every((one) => one.verdict !== "hotter")).toBe(true);
    }
  });
});

it("from logs: good paste and bad memory contact are told apart", () => {
  const judged = (more: Partial<RunSpec>) => {
    const steps = [
      { durationS: 40, load: 0 },
      { durationS: 1400, load: 1 },
    ];
    const text = logText(simulate({ seed: 3, build: MIDSIZE, steps, ...more }));
    return analyse(readRun([new TextEncoder().encode(text)]));
  };
  const comparison = compare(
    judged({ faults: { dryPaste: 0.6 } }),
    judged({ seed: 4, faults: { memoryPads: "missing" } }),
  );
  const found = outcome(comparison);
  const { sensors } = found;
  expect(headlineOf(found)).toMatch(/^Die .* cooler\. Memory .* hotter/);
  expect(sensors.find((one) => one.role === "memory")?.verdict).toBe("hotter");
});
