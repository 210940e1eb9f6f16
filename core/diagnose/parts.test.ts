import { describe, expect, it } from "vitest";
import { nextCheck, SHOWS, SYMPTOM_KEYS, USUAL_SHARE } from "./causes.ts";
import { expectedOf, rangeOf } from "./expected.ts";
import { CAUSES, type Cause, diagnoseSymptoms, type Opened, type Symptoms } from "./index.ts";

const measured = (value: number, sd = 0.3) => ({ value, sd });
/** A run in figures, without a log behind it. */
const figures = (more: Partial<Symptoms> = {}): Symptoms => ({
  powerW: 200,
  fanRpm: 1700,
  fanPct: 60,
  fastK: measured(9),
  step: undefined,
  slowK: measured(30),
  edgeRiseK: 39,
  gapK: measured(11),
  memoryK: measured(9),
  vrmK: measured(8),
  twinLn: measured(-0.01, 0.01),
  fansRpm: [1705, 1695],
  rpmPerPctLn: measured(Math.log(1700 / 60), 0.02),
  roomC: measured(22),
  throttled: false,
  stepK: 1,
  intervalS: 1,
  ...more,
});

describe("the table of causes", () => {
  it("shares sum to one, and only healthy leaves every symptom as it is", () => {
    expect(CAUSES.reduce((sum, cause) => sum + USUAL_SHARE[cause], 0)).toBeCloseTo(1, 9);
    for (const key of SYMPTOM_KEYS) expect(SHOWS.healthy(1)[key]).toBe(1);
  });

  it.each([
    ["dry-paste", ["fast", "gap"]],
    ["dust-or-airflow", ["slow"]],
    ["memory-pads", ["memory"]],
    ["vrm-pads", ["vrm"]],
    ["cooler-held-off", ["fast", "gap"]],
  ] as ReadonlyArray<[Cause, string[]]>)("%s raises %s, more with its severity", (cause, raised) => {
    for (const key of SYMPTOM_KEYS) {
      const [mild, bad] = [SHOWS[cause](0.1)[key], SHOWS[cause](0.9)[key]];
      if (raised.includes(key)) expect(bad).toBeGreaterThan(mild);
      else expect(bad).toBeLessThanOrEqual(1);
    }
  });

  it("has a check for every pair of causes, the same whichever leads", () => {
    for (const one of CAUSES)
      for (const other of CAUSES.filter((cause) => cause !== one))
        expect(nextCheck(one, other).length).toBeGreaterThan(20);
    expect(nextCheck("dry-paste", "dust-or-airflow")).toBe(nextCheck("dust-or-airflow", "dry-paste"));
  });
});

describe("healthy figures at this run's conditions", () => {
  it("go with power in proportion, and only the slow part with the fan", () => {
    const at = (run: Partial<Symptoms>) => expectedOf(figures(run), [figures()], "healthy run").symptoms;
    const half = at({ powerW: 100 });
    expect(half.fast.median).toBeCloseTo(4.5, 6);
    expect(half.gap.median).toBeCloseTo(5.5, 6);
    expect(half.slow.median).toBeCloseTo(15, 6);
    const slower = at({ fanRpm: 1200 });
    expect(slower.fast.median).toBeCloseTo(9, 6);
    expect(slower.slow.median).toBeGreaterThan(33);
    expect(slower.slow.spread).toBeGreaterThan(half.slow.spread);
  });

  it("narrow with a healthy run, and are wide without one", () => {
    const own = expectedOf(figures(), [figures()], "board model");
    const usual = expectedOf(figures(), [], "board model");
    expect([own.source, usual.source]).toEqual(["board model", "usual cards"]);
    for (const key of SYMPTOM_KEYS) {
      const [low, high] = rangeOf(own.symptoms[key]);
      expect(low).toBeLessThan(own.symptoms[key].median);
      expect(high).toBeGreaterThan(own.symptoms[key].median);
      expect(own.symptoms[key].spread).toBeLessThan(usual.symptoms[key].spread);
    }
  });

  it("widen where healthy runs disagree", () => {
    const close = expectedOf(figures(), [figures(), figures()], "board model").symptoms.fast.spread;
    const apart = expectedOf(
      figures(),
      [figures({ fastK: measured(6) }), figures({ fastK: measured(12) })],
      "board model",
    );
    expect(apart.symptoms.fast.spread).toBeGreaterThan(3 * close);
  });
});

describe("findings from figures", () => {
  const leading = (more: Partial<Symptoms>): string | undefined =>
    diagnoseSymptoms(figures(more), { healthy: [figures()] }).findings[0]?.cause;

  it.each([
    [{}, "healthy"],
    [{ fastK: measured(18), gapK: measured(18), edgeRiseK: 48 }, "dry-paste"],
    [{ fastK: measured(18), gapK: measured(30), memoryK: measured(6) }, "cooler-held-off"],
    [{ slowK: measured(41) }, "dust-or-airflow"],
    [{ memoryK: measured(24) }, "memory-pads"],
    [{ vrmK: measured(19) }, "vrm-pads"],
    [{ twinLn: measured(Math.log(0.7), 0.01), fansRpm: [1190, 1700] }, "fan-fault"],
    [{ rpmPerPctLn: measured(Math.log(900 / 60), 0.02), twinLn: undefined }, "fan-fault"],
    [{ roomC: measured(35) }, "hot-room"],
  ] as ReadonlyArray<[Partial<Symptoms>, string]>)("%j: %s", (more, cause) => {
    expect(leading(more)).toBe(cause);
  });

  it("do without what the log lacks, and say so", () => {
    const { findings, limits, notJudged } = diagnoseSymptoms(
      figures({
        gapK: undefined,
        memoryK: undefined,
        vrmK: undefined,
        roomC: undefined,
        twinLn: undefined,
        fansRpm: [],
      }),
      { healthy: [figures()] },
    );
    expect(notJudged).toEqual(["memory-pads", "vrm-pads", "hot-room"]);
    expect(findings).toHaveLength(CAUSES.length - notJudged.length);
    expect(limits).toHaveLength(5);
    expect(findings.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 12);
  });

  it("say how sure a coarse jump is, and that a throttled card was held back", () => {
    const { limits } = diagnoseSymptoms(figures({ fastK: measured(9, 3), throttled: true }));
    expect(limits.join(" ")).toMatch(/known to ± 5\.9 K only.*throttled/);
  });
});

describe("what was seen once it lay open", () => {
  // A jump that compound or contact may have made.
  const shareOf = (cause: Cause, opened?: Opened): number =>
    diagnoseSymptoms(figures({ fastK: measured(22), gapK: measured(22) }), {
      healthy: [figures()],
      opened,
    }).findings.find((one) => one.cause === cause)?.probability ?? 0;
  const seen = (more: Partial<Opened>): Opened => ({
    compound: null,
    bareShare: null,
    lopsided: false,
    words: "",
    ...more,
  });

  it("a bare corner speaks for a cooler held off, dry compound for compound, and both say so", () => {
    const corner = seen({ bareShare: 0.2, lopsided: true, words: "bare at the upper left" });
    expect(shareOf("cooler-held-off", corner)).toBeGreaterThan(1.3 * shareOf("cooler-held-off"));
    expect(shareOf("dry-paste", seen({ compound: "cracked" }))).toBeGreaterThan(shareOf("dry-paste"));
    expect(shareOf("dry-paste", seen({ compound: "moist" }))).toBeLessThan(shareOf("dry-paste"));
    expect(shareOf("cooler-held-off", seen({ bareShare: 0 }))).toBeLessThan(shareOf("cooler-held-off"));
    const { findings } = diagnoseSymptoms(figures({ fastK: measured(22) }), { opened: { ...corner, compound: "dry" } });
    expect(findings.find(({ cause }) => cause === "cooler-held-off")?.evidence[0]).toBe("bare at the upper left");
    expect(findings.find(({ cause }) => cause === "dry-paste")?.evidence[0]).toMatch(/compound was dry/);
    expect(findings.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 9);
  });
});
