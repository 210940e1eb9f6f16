import { describe, expect, it } from "vitest";
import { readRun } from "../runfile/index.ts";
import { analyse } from "../soak/index.ts";
import { logText, MIDSIZE, type RunSpec, simulate } from "../virtualcard/index.ts";
import { type Cause, diagnose, diagnoseSymptoms, symptomsOf } from "./index.ts";
import { stepAnswer } from "./step.ts";

const STEPS = [
  { durationS: 60, load: 0 },
  { durationS: 1100, load: 1 },
  { durationS: 60, load: 0 },
];
const tableOf = (more: Partial<RunSpec>) =>
  readRun([new TextEncoder().encode(logText(simulate({ seed: 5, build: MIDSIZE, steps: STEPS, ...more })))]);
const symptoms = (more: Partial<RunSpec> = {}) => {
  const table = tableOf(more);
  return symptomsOf(table, analyse(table));
};
const healthy = symptoms({ seed: 8, bench: { roomC: 20, fan: 68 } });

describe("diagnose against a healthy run at another fan and room", () => {
  it.each([
    ["healthy", {}],
    ["dry-paste", { faults: { dryPaste: 0.6 } }],
    ["dust-or-airflow", { faults: { dust: 0.7 } }],
    ["memory-pads", { faults: { memoryPads: "thin" } }],
    ["vrm-pads", { faults: { vrmPads: "thin" } }],
    ["cooler-held-off", { faults: { heldOffMm: 0.15 } }],
    ["fan-fault", { faults: { weakFan: 0.6 } }],
    ["hot-room", { bench: { roomC: 34 } }],
  ] as ReadonlyArray<[Cause, Partial<RunSpec>]>)("finds %s", (cause, more) => {
    const { findings } = diagnoseSymptoms(symptoms(more), { healthy: [healthy] });
    expect(findings[0]?.cause).toBe(cause);
    expect(findings[0]?.probability).toBeGreaterThan(0.5);
    expect(findings.reduce((sum, one) => sum + one.probability, 0)).toBeCloseTo(1, 9);
    expect(findings[0]?.evidence[0]).toMatch(/\d/);
  });

  it("tells the healthy card apart from dust when only the fan was set slower", () => {
    const { findings } = diagnoseSymptoms(symptoms({ bench: { fan: 45 } }), { healthy: [healthy] });
    expect(findings[0]?.cause).toBe("healthy");
  });
});

describe("a run that is too short", () => {
  it.each([1, 2, 3])(
    "of a healthy card gives no slow fault more than a half, and says how much longer to run (seed %i)",
    (seed) => {
      const steps = [
        { durationS: 20, load: 0 },
        { durationS: 180, load: 1 },
      ];
      const table = readRun([new TextEncoder().encode(logText(simulate({ seed, build: MIDSIZE, steps })))]);
      const { known, minutesNeeded, findings } = diagnose(table, analyse(table));
      expect(known).toBe(false);
      expect(minutesNeeded).toBeGreaterThan(0);
      for (const { cause, probability } of findings)
        if (["dust-or-airflow", "memory-pads", "vrm-pads"].includes(cause))
          expect(probability).toBeLessThanOrEqual(0.5);
      expect(findings.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 12);
      expect(findings.map(({ probability }) => probability)).toEqual(
        findings.map(({ probability }) => probability).toSorted((one, other) => other - one),
      );
    },
  );

  it("is known once it has settled, whatever its sensors lack", () => {
    const steps = [
      { durationS: 20, load: 0 },
      { durationS: 1500, load: 1 },
    ];
    const rows = logText(simulate({ seed: 4, build: MIDSIZE, steps })).split("\n");
    const kept = rows[0]?.split(",").map((header) => !/Memory temperature|VRM/.test(header)) ?? [];
    const few = rows.map((row) =>
      row
        .split(",")
        .filter((_, index) => kept[index])
        .join(","),
    );
    const table = readRun([new TextEncoder().encode(few.join("\n"))]);
    const { known, minutesNeeded, notJudged, findings } = diagnose(table, analyse(table));
    expect([known, minutesNeeded, notJudged]).toEqual([true, null, ["memory-pads", "vrm-pads"]]);
    expect(findings.some(({ cause }) => notJudged.includes(cause))).toBe(false);
  });
});

describe("what is known of the card besides", () => {
  const history = {
    ageYears: null,
    useKind: "unknown",
    repastedDays: null,
    padsDays: null,
    cleanedDays: null,
    fansDays: null,
  };
  const top = (faults: object, more: object) =>
    diagnoseSymptoms(symptoms({ faults }), { history: { ...history, ...more } }).findings;
  const share = (findings: ReturnType<typeof top>, cause: string): number =>
    findings.find((one) => one.cause === cause)?.probability ?? 0;

  it("a card repasted this morning is not one with dried compound: it was mounted badly", () => {
    expect(top({ dryPaste: 0.5 }, {})[0]?.cause).toBe("dry-paste");
    const mounted = top({ dryPaste: 0.5 }, { repastedDays: 0, padsDays: 0 });
    expect(share(mounted, "dry-paste")).toBeLessThan(share(top({ dryPaste: 0.5 }, {}), "dry-paste") / 2);
    expect(share(mounted, "cooler-held-off")).toBeGreaterThan(0.4);
  });

  it("a young card is less likely to have dried, but a log that shows it plainly still tells", () => {
    const mild = { dryPaste: 0.12 };
    expect(share(top(mild, { ageYears: 0.5 }), "dry-paste")).toBeLessThan(
      share(top(mild, { ageYears: 6 }), "dry-paste"),
    );
    expect(top({ dryPaste: 1 }, { ageYears: 0.5 })[0]?.cause).toBe("dry-paste");
  });
});

describe("what a log can't tell", () => {
  it("is said in words, and the probabilities stay close to the usual shares", () => {
    const bare = readRun([
      new TextEncoder().encode(
        `Time [s],GPU temp [°C]\n${Array.from({ length: 400 }, (_, k) => `${k},${70 + (k % 2)}`).join("\n")}\n`,
      ),
    ]);
    const { findings, limits, notJudged } = diagnose(bare, analyse(bare));
    // Of the usual shares of those that are left: nothing wrong is 0.19 of 0.55.
    expect(findings[0]?.probability).toBeLessThan(0.36);
    expect(notJudged).toEqual(["memory-pads", "vrm-pads", "fan-fault", "hot-room"]);
    expect(limits.join(" ")).toMatch(/power.*hotspot.*Memory.*VRM.*Room air.*fan speed/s);
  });

  it("names the missing idle minute when the load was on from the first row", () => {
    const table = tableOf({ steps: [{ durationS: 900, load: 1 }] });
    const { limits } = diagnose(table, analyse(table));
    expect(limits.join(" ")).toMatch(/No load step/);
  });

  it("widens with whole degrees but still finds a card with marked faults", () => {
    const coarse = symptoms({ faults: { dryPaste: 0.8 }, sensors: { stepK: 1, noiseK: 0.05 } });
    const fine = symptoms({ faults: { dryPaste: 0.8 }, sensors: { stepK: 0.1, noiseK: 0.05 } });
    expect(coarse.fastK?.sd ?? 0).toBeGreaterThan(fine.fastK?.sd ?? 1);
    expect(diagnoseSymptoms(coarse, { healthy: [healthy] }).findings[0]?.cause).toBe("dry-paste");
  });
});

describe("step answer", () => {
  it("takes the fast part out of a sum of two exponentials (JEDEC JESD51-14's idea; answer known by construction)", () => {
    const timeS = Float64Array.from({ length: 400 }, (_, k) => k);
    const after = (k: number): number => Math.max(0, k - 60.5);
    const edgeC = timeS.map((k) => 30 + 12 * (1 - Math.exp(-after(k) / 3)) + 30 * (1 - Math.exp(-after(k) / 120)));
    const powerW = timeS.map((k) => (k > 60.5 ? 210 : 10));
    const found = stepAnswer({ timeS, edgeC, powerW }, [{ fromS: 61, toS: 399 }], 0.1);
    expect((found?.kPerW ?? 0) * 200).toBeGreaterThan(11.4);
    expect((found?.kPerW ?? 0) * 200).toBeLessThan(12.6);
  });

  it("gives nothing when no step lies inside the log", () => {
    const flat = new Float64Array(200).fill(60);
    const timeS = Float64Array.from(flat, (_, k) => k);
    expect(stepAnswer({ timeS, edgeC: flat, powerW: flat }, [{ fromS: 0, toS: 199 }], 1)).toBeUndefined();
  });
});
