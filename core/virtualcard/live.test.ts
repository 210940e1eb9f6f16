import { describe, expect, it } from "vitest";
import { LIVE_CHANNELS, liveCard, MIDSIZE, settledRises } from "./index.ts";

const at = (role: string): number => LIVE_CHANNELS.findIndex((channel) => channel.role === role);
const still = { roomDriftKPerH: 0, roomSwingK: 0 };
const steps = [{ durationS: 1, load: 1 }];

describe("a card that runs live", () => {
  it("settles where the same card settles when simulated whole", () => {
    const card = liveCard({ seed: 2, build: MIDSIZE, bench: still });
    card.set({ load: 1, fan: 55 });
    const values = card.next(3600);
    const truth = settledRises({ seed: 2, build: MIDSIZE, bench: { ...still, fan: 55 }, steps });
    const rise = (role: string): number => (values[at(role)] ?? 0) - (values[at("ambient")] ?? 0);
    expect(Math.abs(rise("edge") - truth.edgeK)).toBeLessThan(1.5);
    expect(Math.abs(rise("hotspot") - truth.hotspotK)).toBeLessThan(1.8);
    expect(Math.abs((values[at("power")] ?? 0) / truth.powerW - 1)).toBeLessThan(0.04);
  });

  it("answers to load, fan and power limit while it runs", () => {
    const card = liveCard({ seed: 2, build: MIDSIZE, bench: still });
    const read = (role: string, after: number): number => card.next(after)[at(role)] ?? 0;
    expect(read("power", 30)).toBeLessThan(20);
    card.set({ load: 1, fan: 40 });
    expect(read("power", 30)).toBeGreaterThan(180);
    card.set({ powerPct: 70 });
    expect(read("power", 30)).toBeLessThan(150);
    card.set({ fan: 100 });
    const fast = read("fanRpm", 60);
    card.set({ fan: 30 });
    expect(read("fanRpm", 60)).toBeLessThan(fast / 2);
  });

  it("gets louder with its fans: some 15 dB from one speed to twice that, over the quiet room", () => {
    const card = liveCard({ seed: 2, build: MIDSIZE, bench: still });
    const loud = (fan: number): { db: number; rpm: number } => {
      card.set({ fan });
      const values = card.next(60);
      return { db: values[at("sound")] ?? 0, rpm: values[at("fanRpm")] ?? 0 };
    };
    const slow = loud(45);
    const fast = loud(95);
    // 50·log₁₀ of the speed ratio (fan engineering handbooks, from memory), less what the room's own noise adds to the slow one.
    const law = 50 * Math.log10(fast.rpm / slow.rpm);
    expect(fast.db - slow.db).toBeGreaterThan(0.7 * law);
    expect(fast.db - slow.db).toBeLessThan(law + 1);
  });

  it("leaves out what the card has no sensor for, and reads no finer than its display", () => {
    const card = liveCard({
      seed: 2,
      build: { ...MIDSIZE, hasHotspot: false, hasMemorySensor: false },
      sensors: { room: null },
    });
    const values = card.next(20);
    for (const role of ["hotspot", "memory", "ambient"]) expect(values[at(role)]).toBeNaN();
    expect(Number.isInteger(values[at("edge")])).toBe(true);
  });
});
