import { describe, expect, it } from "vitest";
import { LIVE_CHANNELS, liveCard, MIDSIZE, settledRises } from "../virtualcard/index.ts";
import { PROTOCOLS, type Protocol, ProtocolRunner } from "./index.ts";

const LIMITS = { edgeC: 95, hotspotC: 112, memoryC: 110, vrmC: 120 };
const protocolNamed = (name: string): Protocol => {
  const found = PROTOCOLS.find((one) => one.name === name);
  if (!found) throw new Error(`no protocol ${name}`);
  return found;
};

/** Looking ahead costs; what a soak comes to is no matter here. */
const short = (step: Protocol["steps"][number]): Protocol["steps"][number] =>
  step.kind === "soak" ? { ...step, minutes: 6, early: false } : step;

/** Runs a protocol on the simulated bench; one entry per sample. */
function drive(protocol: Protocol, faults = {}, limits = LIMITS, everyS = 1) {
  const card = liveCard({ seed: 4, build: MIDSIZE, faults });
  const runner = new ProtocolRunner(protocol, LIVE_CHANNELS, limits);
  const log: Array<{
    tS: number;
    phase: string;
    segment: number;
    edgeC: number;
    soundDb: number;
    fan: number | "automatic";
  }> = [];
  for (let tS = 0; !runner.finished && tS < 6 * 3600; tS += everyS) {
    const values = card.next(everyS);
    const state = runner.feed(tS, values);
    card.set(state.setting);
    log.push({
      tS,
      phase: state.phase,
      segment: state.segment,
      edgeC: values[0] ?? Number.NaN,
      soundDb: values.at(-1) ?? Number.NaN,
      fan: state.setting.fan,
    });
  }
  return { state: runner.state, log };
}

describe("protocol on a simulated bench", () => {
  it("stops a fixed-fan soak early, knowing where it settles to half a kelvin", () => {
    const { state, log } = drive(protocolNamed("Fixed fan"));
    expect(state.phase).toBe("done");
    expect(state.outlook?.known).toBe(true);
    expect(log.filter((one) => one.phase === "load").length).toBeLessThan(25 * 60 * 0.67);
    const truth = settledRises({ seed: 4, build: MIDSIZE, bench: { fan: 62 }, steps: [{ durationS: 1, load: 1 }] });
    const settles = state.outlook?.settles.edge?.finalC ?? 0;
    expect(Math.abs(settles - (state.outlook?.ambientC ?? 0) - truth.edgeK)).toBeLessThan(0.7);
  });

  it("cools down between the soaks of a sweep and keeps one run per fan setting", () => {
    const sweep = protocolNamed("Fan sweep");
    const { state, log } = drive({ ...sweep, steps: sweep.steps.map(short) });
    expect(state.phase).toBe("done");
    expect([...new Set(log.map((one) => one.segment))].sort((a, b) => a - b)).toEqual([-1, 0, 1, 2]);
    for (const segment of [1, 2]) {
      const first = log.find((one) => one.segment === segment);
      expect(first?.edgeC ?? 99).toBeLessThan(33);
    }
  });

  it("takes the load off when a sensor stays over its limit, and says which", () => {
    const { state } = drive(protocolNamed("Full fan"), { dryPaste: 0.6 }, { ...LIMITS, edgeC: 50 });
    expect(state.phase).toBe("stopped");
    expect(state.reason).toMatch(/Edge read 5\d °C, over its safety limit of 50 °C/);
    expect(state.setting.load).toBe(0);
  });

  it("matches the sound level by stepping the fan", () => {
    const { state, log } = drive(protocolNamed("Matched noise"));
    expect(state.phase).toBe("done");
    const loaded = log.filter((one) => one.phase === "load").slice(60);
    const mean = loaded.reduce((sum, one) => sum + one.soundDb, 0) / loaded.length;
    expect(Math.abs(mean - 40)).toBeLessThan(1);
  });

  it("gives a phase-change sheet its heat cycles before it measures", () => {
    const heating = protocolNamed("Heat cycles");
    const { state, log } = drive({ ...heating, steps: heating.steps.map(short) }, {}, LIMITS, 2);
    expect(state.phase).toBe("done");
    const cycles = log.filter((one) => one.segment === 0);
    const starts = cycles.filter((one, k) => one.phase === "load" && cycles[k - 1]?.phase !== "load");
    expect(starts).toHaveLength(6);
    expect(log.some((one) => one.segment === 1 && one.phase === "load")).toBe(true);
  });

  it("runs to the end where early stopping is not asked for", () => {
    const { log } = drive({
      name: "x",
      about: "",
      steps: [{ kind: "soak", label: "x", fan: 62, powerPct: 100, minutes: 12, early: false }],
    });
    const loaded = log.filter((one) => one.phase === "load").length;
    expect(Math.abs(loaded - 720)).toBeLessThanOrEqual(2);
  });

  it("waits for a card that comes warm from its last run", () => {
    const card = liveCard({ seed: 4, build: MIDSIZE });
    card.set({ load: 1, fan: 30 });
    card.next(600);
    const runner = new ProtocolRunner(protocolNamed("Fixed fan"), LIVE_CHANNELS, LIMITS);
    let begun = 0;
    for (let tS = 0; runner.state.phase === "idle" && tS < 900; tS++) {
      card.set(runner.feed(tS, card.next(1)).setting);
      begun = tS;
    }
    expect(begun).toBeGreaterThan(90);
    expect(card.next(1)[0]).toBeLessThan(40);
  });

  it("asks for hands where the bench can't set load and fan, and goes on when the load shows", () => {
    const runner = new ProtocolRunner(protocolNamed("Fixed fan"), LIVE_CHANNELS, LIMITS, { byHand: true });
    const card = liveCard({ seed: 4, build: MIDSIZE });
    let tS = 0;
    for (; tS < 100; tS++) runner.feed(tS, card.next(1));
    expect(runner.state).toMatchObject({ phase: "idle", hands: "Set the fan to 62 % and start the load." });
    card.set({ load: 1, fan: 62 });
    for (; tS < 110; tS++) runner.feed(tS, card.next(1));
    expect(runner.state).toMatchObject({ phase: "load", hands: null });
  });

  it("can be sent on or stopped by hand", () => {
    const runner = new ProtocolRunner(protocolNamed("Fan sweep"), LIVE_CHANNELS, LIMITS);
    const card = liveCard({ seed: 4, build: MIDSIZE });
    for (let tS = 0; tS < 100; tS++) card.set(runner.feed(tS, card.next(1)).setting);
    runner.skipAhead(100);
    expect(runner.state).toMatchObject({ phase: "rest", setting: { load: 0 } });
    runner.stop("Stopped by hand.");
    expect(runner.state).toMatchObject({ phase: "stopped", reason: "Stopped by hand." });
  });

  it("gives matching up where the bench hears nothing, and says so", () => {
    const deaf = LIVE_CHANNELS.filter((channel) => channel.role !== "sound");
    const runner = new ProtocolRunner(protocolNamed("Matched noise"), deaf, LIMITS);
    const card = liveCard({ seed: 4, build: MIDSIZE });
    for (let tS = 0; !runner.finished && tS < 600; tS++) card.set(runner.feed(tS, card.next(1).slice(0, -1)).setting);
    expect(runner.state).toMatchObject({ phase: "stopped", setting: { load: 0 } });
    expect(runner.state.reason).toMatch(/no sound level/);
  });

  it("forgives a single wild reading over a limit", () => {
    const runner = new ProtocolRunner(protocolNamed("Full fan"), LIVE_CHANNELS, LIMITS);
    const card = liveCard({ seed: 4, build: MIDSIZE });
    for (let tS = 0; tS < 120; tS++) {
      const values = card.next(1);
      if (tS % 10 === 5) values[0] = 140;
      card.set(runner.feed(tS, values).setting);
    }
    expect(runner.state).toMatchObject({ phase: "load", reason: null });
  });

  it("still looks ahead well after many minutes at ten samples a second", () => {
    const long = {
      name: "x",
      about: "",
      steps: [{ kind: "soak" as const, label: "x", fan: 62, powerPct: 100, minutes: 240, early: false }],
    };
    const runner = new ProtocolRunner(long, LIVE_CHANNELS, LIMITS);
    const card = liveCard({ seed: 4, build: MIDSIZE });
    for (let tenth = 0; tenth < 15_000; tenth++) card.set(runner.feed(tenth / 10, card.next(0.1)).setting);
    // 15 000 samples, of which it keeps a few thousand.
    expect(runner.state.outlook?.settles.edge?.u95K).toBeLessThan(0.6);
  });
});
