import { describe, expect, it } from "vitest";
import { readRun } from "../runfile/index.ts";
import { analyse } from "../soak/index.ts";
import { logText, MIDSIZE, simulate } from "../virtualcard/index.ts";
import { type HandsFacts, handsRule, quietOf, type ServiceFacts, STAYS_CLOSED } from "./index.ts";
import { NOTHING as FACTS } from "./tests/made-run.ts";

const OWN: HandsFacts = { begun: false, finished: false, opened: false, words: "Grey paste", clocks: [] };
const rule = handsRule({ todo: "", kinds: ["repasted"], not: STAYS_CLOSED, everyTime: true, quiet: false });
const wanted = (facts: Partial<ServiceFacts>, own: Partial<HandsFacts> = {}) =>
  rule.wanted?.({ ...FACTS, ...facts }, { ...OWN, ...own });

describe("a station between opening and closing", () => {
  it("comes up by itself unless what was decided leaves the card closed, or a note told all of the work", () => {
    expect(wanted({})).toBe(true);
    for (const choice of STAYS_CLOSED) expect(wanted({ choice })).toBe(false);
    expect(wanted({ work: ["cleaned"] })).toBe(false);
    // Cutting pads notes itself; that says nothing of compound.
    expect(wanted({ work: ["pads replaced"] })).toBe(true);
  });

  it("that was begun stays wanted until the card has run after it", () => {
    expect(wanted({ choice: "clean", work: ["cleaned"] }, { begun: true })).toBe(true);
    const after = { side: "after", attempt: 1 } as ServiceFacts["runs"][number];
    expect(wanted({ runs: [after] }, { begun: true })).toBe(false);
    expect(wanted({ runs: [{ ...after, attempt: 2 }] }, { begun: true })).toBe(true);
  });

  it("comes again when the card is opened again, and a note of the first attempt does not count for the second", () => {
    const again = { attempt: 2, work: ["repasted"] };
    expect(wanted(again)).toBe(false);
    expect(wanted(again, { opened: true })).toBe(true);
    expect(rule.done({ ...FACTS, ...again }, OWN)).toBe(false);
    expect(rule.done({ ...FACTS, work: ["repasted"] }, OWN)).toBe(true);
    expect(rule.figure({ ...FACTS, ...again }, { ...OWN, finished: true })).toBe("Grey paste");
  });
});

/** A settled run of a card that keeps its layers, at this fan and room. */
function ran(fan: number, roomC: number) {
  const steps = [
    { durationS: 30, load: 0 },
    { durationS: 1500, load: 1 },
  ];
  const spec = { seed: fan, build: MIDSIZE, bench: { fan, roomC }, steps };
  const analysis = analyse(readRun([Buffer.from(logText(simulate(spec)))]));
  return { side: "after" as const, fanMode: "fixed" as const, fanPct: fan, attempt: 1, leftOut: "", analysis };
}

describe("the quietest fan of a simulated card", () => {
  it("keeps its edge the margin under its limit when that card is run so in that room, and wastes little", () => {
    const limits = { edgeC: 78, hotspotC: null, memoryC: null, vrmC: null };
    const found = quietOf([ran(45, 21), ran(80, 22)], limits, { roomC: 30, marginK: 8 });
    expect(found?.law).toBe("own runs");
    const full = found?.steps.at(-1);
    const edge = ran(full?.fanPct ?? 100, 30).analysis.roles.edge;
    expect(edge?.meanC ?? edge?.finalC).toBeLessThanOrEqual(70.5);
    expect(edge?.meanC ?? edge?.finalC).toBeGreaterThan(64);
  });

  it("is not told where no run after the work shows fan and room", () => {
    const limits = { edgeC: 85, hotspotC: null, memoryC: null, vrmC: null };
    expect(quietOf([], limits, { roomC: 30, marginK: 8 })).toBeUndefined();
    const { analysis, ...run } = ran(60, 22);
    const roomless = { ...run, analysis: { ...analysis, ambient: null } };
    expect(quietOf([roomless], limits, { roomC: 30, marginK: 8 })).toBeUndefined();
    expect(quietOf([{ ...run, analysis, side: "before" as const }], limits, { roomC: 30, marginK: 8 })).toBeUndefined();
  });
});
