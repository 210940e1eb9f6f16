import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { readRun } from "../runfile/index.ts";
import { analyse } from "./index.ts";

interface Load {
  fromS: number;
  toS: number;
  watts: number;
}

/** A card of one heat store, 0.25 K/W and 90 s, at the given loads; the room may drift, K/s. */
function log(lengthS: number, loads: readonly Load[], driftKPerS = 0, column = false) {
  const random = seeded(3);
  const driven = [0, 0];
  const rows = Array.from({ length: lengthS }, (_, s) => {
    const watts = loads.find((load) => s >= load.fromS && s < load.toS)?.watts ?? 15;
    const [edge = 0, memory = 0] = [0.25, 0.2].map((kPerW, k) => {
      driven[k] = (driven[k] ?? 0) + (kPerW * watts - (driven[k] ?? 0)) / 90;
      return 22 + driftKPerS * s + (driven[k] ?? 0) + 0.1 * random.normal();
    });
    const room = column ? (22 + driftKPerS * s).toFixed(2) : "";
    return `${s},${edge.toFixed(2)},${memory.toFixed(2)},${watts},${room}`;
  });
  const head = "Time [s],GPU temperature [°C],Memory temperature [°C],Board power [W],Room air [°C]";
  return readRun([new TextEncoder().encode([head, ...rows].join("\n"))]);
}

describe("several loads in one log", () => {
  const three = log(2400, [
    { fromS: 60, toS: 960, watts: 200 },
    { fromS: 1020, toS: 1320, watts: 120 },
    { fromS: 1400, toS: 1640, watts: 260 },
  ]);

  it("are told apart by idle of 30 s and more, and the longest that came to rest is taken", () => {
    const { loads = [] } = analyse(three);
    expect(loads.map(({ index, chosen, meanPowerW }) => [index, chosen, Math.round(meanPowerW ?? 0)])).toEqual([
      [1, true, 200],
      [2, false, 120],
      [3, false, 260],
    ]);
    for (const [k, fromS, toS] of [
      [0, 60, 960],
      [1, 1020, 1320],
      [2, 1400, 1640],
    ] as const) {
      expect(Math.abs((loads[k]?.fromS ?? 0) - fromS)).toBeLessThan(4);
      expect(Math.abs((loads[k]?.toS ?? 0) - toS)).toBeLessThan(4);
    }
    expect(loads[0]?.steady).toBe(true);
  });

  it("keep their own maxima and means: 22 + 0.25 K/W · W, by hand", () => {
    const [first, third] = [analyse(three), analyse(three, { load: 3 })];
    // No maximum of the hotter load that came later.
    expect(first.roles.edge?.maxC).toBeLessThan(22 + 50 + 1);
    expect(third.roles.edge?.maxC).toBeGreaterThan(22 + 50 + 1);
    expect(third.roles.power?.mean).toBeCloseTo(260, 0);
    const error = Math.abs((third.roles.edge?.finalC ?? 0) - (22 + 65));
    expect(error).toBeLessThan(third.roles.edge?.finalU95K ?? 0);
  });

  it.each([0, 4, 1.5])("refuse number %s, naming what there is", (load) => {
    expect(() => analyse(three, { load })).toThrow(/holds 3, 1 from \d+ to \d+ s/);
  });

  it("a dip of 20 s parts nothing, and a load of 20 s is none", () => {
    const { loads = [] } = analyse(
      log(1500, [
        { fromS: 60, toS: 400, watts: 200 },
        { fromS: 420, toS: 1300, watts: 200 },
        { fromS: 1400, toS: 1420, watts: 200 },
      ]),
    );
    expect(loads).toHaveLength(1);
    expect(Math.abs((loads[0]?.toS ?? 0) - 1300)).toBeLessThan(4);
  });

  it("power that is set anew begins another load", () => {
    const { loads = [] } = analyse(
      log(1500, [
        { fromS: 60, toS: 700, watts: 150 },
        { fromS: 700, toS: 1500, watts: 240 },
      ]),
    );
    expect(loads.map(({ meanPowerW }) => Math.round((meanPowerW ?? 0) / 10))).toEqual([15, 24]);
    expect(Math.abs((loads[1]?.fromS ?? 0) - 700)).toBeLessThan(10);
  });
});

describe("a room that warms by 4 K in half an hour", () => {
  const load = [{ fromS: 60, toS: 1860, watts: 220 }];
  const drift = 4 / 1800;
  const truthK = 0.25 * 220;

  it("widens a figure that was typed once, and asks for a second one", () => {
    const { roles, ambient, notices } = analyse(log(1860, load, drift), { ambientC: 22 });
    expect(notices.map((notice) => notice.code)).toContain("room-drifts");
    expect(ambient?.u95K).toBeGreaterThan(2.5);
    expect(Math.abs((roles.edge?.riseK ?? 0) - truthK)).toBeLessThan(roles.edge?.riseU95K ?? 0);
  });

  it("is followed where it was typed at both ends, or logged, to a kelvin and no wider", () => {
    const typed = analyse(log(1860, load, drift), { ambientC: 22, ambientEndC: 22 + drift * 1859 });
    const logged = analyse(log(1860, load, drift, true));
    for (const { roles } of [typed, logged]) {
      expect(Math.abs((roles.edge?.riseK ?? 0) - truthK)).toBeLessThan(0.5);
      expect(roles.edge?.riseU95K).toBeLessThan(1.2);
    }
  });

  it("is not seen in a room that stands still, whose figure stays what it was", () => {
    const { ambient, notices } = analyse(log(1860, load), { ambientC: 22 });
    expect(ambient?.u95K).toBe(1);
    expect(notices.map((notice) => notice.code)).not.toContain("room-drifts");
  });
});
