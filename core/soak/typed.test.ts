import { describe, expect, it } from "vitest";
import { compare } from "../compare/index.ts";
import { seeded } from "../random/index.ts";
import { readRun } from "../runfile/index.ts";
import { type TypedFigures, typedAnalysis } from "./index.ts";
import { fieldRun } from "./tests/field-card.ts";

/** What can be relied on of a run that was only written down. */

const NOTHING: TypedFigures = {
  edgeC: null,
  hotspotC: null,
  memoryC: null,
  vrmC: null,
  fanRpm: null,
  fanPct: null,
  powerW: null,
  coreClockMHz: null,
  minutes: null,
};

/** Somebody looks at the display of a card of cells once in its last half minute, and at a thermometer that is off by some tenths. */
function lookedAt(seed: number, minutes: number) {
  const run = fieldRun({ seed, loadS: minutes * 60, idleS: 60, roomColumn: true, stepK: 1 });
  const random = seeded(seed + 500);
  const table = readRun([new TextEncoder().encode(run.text)]);
  const row = table.rows - 1 - Math.floor(random.between(0, 30 / table.intervalS));
  const shown = (role: string): number => Math.round(table.columns.find((one) => one.role === role)?.values[row] ?? 0);
  const typed = { ...NOTHING, edgeC: shown("edge"), hotspotC: shown("hotspot"), memoryC: shown("memory"), minutes };
  return { run, found: typedAnalysis(typed, { ambientC: run.roomAtEndC + random.normal() * 0.4 }) };
}

describe("figures typed from paper", () => {
  it.each([4, 12])("hold where cards of another kind settle, looked at after %d minutes", (minutes) => {
    let held = 0;
    let asked = 0;
    for (let seed = 1; seed <= 14; seed++) {
      const { run, found } = lookedAt(seed, minutes);
      for (const role of ["edge", "hotspot", "memory"] as const) {
        const one = found.roles[role];
        asked++;
        if (Math.abs((one?.finalC ?? 0) - run.settled[`${role}C`]) <= (one?.finalU95K ?? 0)) held++;
      }
      expect(found.steady.reached).toBe(minutes >= 10);
    }
    expect(held / asked).toBeGreaterThanOrEqual(0.9);
  });

  it("tell a large gain, and no small one", () => {
    const before = typedAnalysis({ ...NOTHING, edgeC: 78, powerW: 200, fanRpm: 1800, minutes: 15 }, { ambientC: 22 });
    const after = (edgeC: number) =>
      compare(before, typedAnalysis({ ...NOTHING, edgeC, powerW: 200, fanRpm: 1800, minutes: 15 }, { ambientC: 22 }));
    expect(after(68)).toMatchObject({ verdict: "better", atEqualConditions: { roles: { edge: { changeK: -10 } } } });
    expect(after(76)).toMatchObject({ verdict: "no-real-change", sameRun: false });
    expect(after(78).roles.edge?.u95K).toBeGreaterThan(3);
    expect(after(68).differences.map(({ what }) => what)).not.toContain("sampling");
  });

  it("need a room, feel its end more than its beginning, and carry the power they were made at", () => {
    const typed = { ...NOTHING, edgeC: 70, hotspotC: 84, powerW: 250, minutes: 12 };
    expect(typedAnalysis(typed).roles.edge).toMatchObject({ meanC: 70, riseK: null });
    expect(compare(typedAnalysis(typed), typedAnalysis(typed, { ambientC: 20 })).reason).toMatch(/Room air is missing/);
    const warmed = typedAnalysis(typed, { ambientC: 20, ambientEndC: 24 });
    expect(warmed.ambient?.valueC).toBeGreaterThan(22);
    expect(warmed.ambient?.valueC).toBeLessThan(24);
    expect(warmed.ambient?.u95K).toBeGreaterThan(1.2);
    const still = typedAnalysis(typed, { ambientC: 20 });
    expect(still.roles.edge?.thetaKPerW).toBeCloseTo(50 / 250);
    expect(still).toMatchObject({ typed: true, hotspotGapK: { mean: 14 } });
  });
});
