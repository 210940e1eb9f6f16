import { describe, expect, it } from "vitest";
import { logText, MIDSIZE, type RunSpec, settledRises, simulate } from "./index.ts";

const STEPS = [
  { durationS: 60, load: 0 },
  { durationS: 900, load: 1 },
];
const spec = (more: Partial<RunSpec> = {}): RunSpec => ({ seed: 1, build: MIDSIZE, steps: STEPS, ...more });
const last = (values: Float64Array): number => values.at(-1) ?? Number.NaN;

describe("virtual card", () => {
  it("makes the same run from the same seed and another from another", () => {
    expect(logText(simulate(spec()))).toBe(logText(simulate(spec())));
    expect(logText(simulate(spec()))).not.toBe(logText(simulate(spec({ seed: 2 }))));
  });

  it("carries all heat to the air when settled: power × the chain of resistances, worked by hand", () => {
    const bare = { ...MIDSIZE, dieShare: 1, memoryShare: 0, vrmShare: 0 };
    const { edgeK, fanRpm, powerW } = settledRises(spec({ build: bare }));
    const flow = fanRpm / bare.fanRefRpm;
    const chain = bare.pasteKPerW + bare.plateKPerW + bare.finsKPerW * flow ** -bare.fanExponent + bare.airKPerW / flow;
    // Memory and VRM lead a little heat from the plate to the board's air, 3.2 K/W each way.
    expect(edgeK / powerW).toBeLessThan(chain);
    expect(edgeK / powerW).toBeGreaterThan(chain * 0.9);
  });

  it.each([
    [
      "dried paste raises edge and gap",
      { dryPaste: 0.6 },
      (sound: number, faulty: number, gap: number) => faulty > sound + 3 && gap > 1,
    ],
    [
      "dust raises the edge and leaves the gap",
      { dust: 0.8 },
      (sound: number, faulty: number, gap: number) => faulty > sound + 5 && Math.abs(gap) < 0.01,
    ],
    [
      "a cooler held off raises the gap most",
      { heldOffMm: 0.1 },
      (sound: number, faulty: number, gap: number) => faulty > sound && gap > 4,
    ],
    ["a weak fan raises the edge", { weakFan: 1 }, (sound: number, faulty: number) => faulty > sound + 3],
  ])("%s", (_, faults, holds) => {
    const sound = settledRises(spec());
    const faulty = settledRises(spec({ faults }));
    expect(holds(sound.edgeK, faulty.edgeK, faulty.hotspotK - faulty.edgeK - (sound.hotspotK - sound.edgeK))).toBe(
      true,
    );
  });

  it("warms the memory alone when its pads are missing", () => {
    const sound = settledRises(spec());
    const faulty = settledRises(spec({ faults: { memoryPads: "missing" } }));
    expect(faulty.memoryK - sound.memoryK).toBeGreaterThan(15);
    expect(Math.abs(faulty.edgeK - sound.edgeK)).toBeLessThan(1.5);
  });

  it("keeps fans still when cool in zero-fan mode and turns them under load", () => {
    const run = simulate(spec({ bench: { fan: "automatic" } }));
    expect(run.fan1Rpm[30]).toBe(0);
    expect(last(run.fan1Rpm)).toBeGreaterThan(800);
  });

  it("lowers its power at its limit and stays there", () => {
    const run = simulate(spec({ build: { ...MIDSIZE, edgeLimitC: 60 }, bench: { fan: 40 } }));
    expect(last(run.powerW)).toBeLessThan(185);
    expect(Math.abs(last(run.edgeC) - 60)).toBeLessThan(3);
  });
});
