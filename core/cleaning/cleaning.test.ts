import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { airLoad } from "./air.ts";
import { creviceMinutes } from "./dry.ts";
import { saturationKPa, wetBulbC } from "./humidity.ts";
import { changesNeeded, cleanerOn, dry, readDry } from "./index.ts";

const ROOM = { airC: 23, relativeHumidityPct: 50, crevices: [{ id: "screw hole", depthMm: 3 }] };

describe("water in air", () => {
  it.each([
    [10, 1.2281],
    [20, 2.3392],
    [30, 4.2467],
    [40, 7.3844],
    [50, 12.351],
    [60, 19.946],
  ])("saturates at %i °C at %f kPa, as steam tables have it (IAPWS-IF97, from memory)", (celsius, kPa) => {
    expect(saturationKPa(celsius) / kPa).toBeCloseTo(1, 2);
  });

  it.each([
    [25, 50, 17.9],
    [30, 40, 20.1],
    [20, 50, 13.8],
    [35, 20, 19.0],
  ])(
    "%i °C and %i %%: a wet thermometer shows %f °C (psychrometric chart at sea level, from memory)",
    (airC, pct, wet) => {
      expect(Math.abs(wetBulbC(airC, pct / 100, 101.325) - wet)).toBeLessThan(0.35);
    },
  );

  it("saturated air leaves a wet thermometer as warm as it is, drier air ever cooler", () => {
    expect(wetBulbC(22, 1, 101.325)).toBeCloseTo(22, 6);
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 60, noNaN: true }),
        fc.double({ min: 0, max: 0.9, noNaN: true }),
        (airC, humidity) => {
          const wet = wetBulbC(airC, humidity, 101.325);
          expect(wet).toBeLessThan(airC);
          expect(wetBulbC(airC, humidity + 0.05, 101.325)).toBeGreaterThan(wet);
        },
      ),
    );
  });
});

/** The same hole dried in small steps of time: what leaves is what diffuses through the air above the water. */
function slowTwin(depthMm: number, partC: number, mouthKPa: number, pressureKPa: number): number {
  const kelvin = partC + 273.15;
  const diffusion = 0.242e-4 * (kelvin / 293.15) ** 1.81 * (101.325 / pressureKPa);
  const molesPerM3 = (pressureKPa * 1000) / (8.314462618 * kelvin);
  let [leftM, seconds] = [depthMm / 1000, 0];
  const stepM = leftM / 20_000;
  while (leftM > 0) {
    // Of the air above it, in the middle of the step.
    const aboveM = depthMm / 1000 - leftM + stepM / 2;
    const flux =
      ((diffusion * molesPerM3) / aboveM) * Math.log((pressureKPa - mouthKPa) / (pressureKPa - saturationKPa(partC)));
    seconds += (stepM * 998) / 0.01801528 / flux;
    leftM -= stepM;
  }
  return seconds / 60;
}

describe("a crevice full of water", () => {
  it("dries as a twin that goes step by step, cold and warm, high up and at the sea", () => {
    for (const [depthMm, partC, mouthKPa, pressureKPa] of [
      [3, 23, 1.4, 101.325],
      [12, 55, 1.2, 101.325],
      [1, 15, 0.6, 80],
    ] as const)
      expect(creviceMinutes(depthMm, partC, mouthKPa, pressureKPa)).toBeCloseTo(
        slowTwin(depthMm, partC, mouthKPa, pressureKPa),
        1,
      );
  });

  it("takes four times as long at twice the depth, less when it is warm, and hours as the trade knows (common practice)", () => {
    const of = (depthMm: number, partC = 23): number => creviceMinutes(depthMm, partC, 1.4, 101.325) ?? Number.NaN;
    expect(of(6) / of(3)).toBeCloseTo(4, 9);
    expect(of(3, 50)).toBeLessThan(of(3) / 3);
    expect(of(3) / 60).toBeGreaterThan(2);
    expect(of(3) / 60).toBeLessThan(24);
  });

  it("never dries at the dew point or below, and boiling is no drying", () => {
    expect(creviceMinutes(3, 12, saturationKPa(12), 101.325)).toBeNull();
    expect(creviceMinutes(3, 8, saturationKPa(12), 101.325)).toBeNull();
    expect(creviceMinutes(3, 105, 1.4, 101.325)).toBeNull();
    expect(dry(readDry({ ...ROOM, partC: 10, relativeHumidityPct: 60 }))).toMatchObject({ totalMin: null });
  });

  it("the deepest says how long the part must rest", () => {
    const found = dry(readDry({ ...ROOM, crevices: [...ROOM.crevices, { id: "fins", depthMm: 8 }] }));
    expect(found.totalMin).toBe(found.crevices[1]?.minutes);
    expect(found.solvent).toBeNull();
    expect(dry(readDry({ ...ROOM, crevices: [] })).totalMin).toBeNull();
  });
});

describe("a solvent in the room's air", () => {
  const use = { kind: "isopropanol", usedMl: 20, minutes: 30, roomM3: 30, airChangesPerHour: 1 } as const;

  it("in a closed room all of it is there at the end, half of it on average: 20 mL in 30 m³ by hand", () => {
    // 20 mL × 0.785 g/mL ÷ 60.096 g/mol × 24.3 L/mol (23 °C) = 6.35 L of vapour, 212 ppm of 30 m³.
    const closed = airLoad({ ...use, airChangesPerHour: 0 }, 23, 101.325);
    expect(closed.peakPpm).toBeCloseTo(211.6, 0);
    expect(closed.meanPpm).toBeCloseTo(closed.peakPpm / 2, 6);
    expect(closed).toMatchObject({ limitPpm: 400, lowerFlammablePpm: 20_000 });
  });

  it("goes with the air as a room followed second by second", () => {
    for (const airChangesPerHour of [0.001, 1, 12]) {
      const { peakPpm, meanPpm } = airLoad({ ...use, airChangesPerHour }, 23, 101.325);
      const closedPpm = airLoad({ ...use, airChangesPerHour: 0 }, 23, 101.325).peakPpm;
      let [ppm, sum] = [0, 0];
      const seconds = use.minutes * 60;
      for (let s = 0; s < seconds; s++) {
        const next = ppm + closedPpm / seconds - (ppm * airChangesPerHour) / 3600;
        sum += (ppm + next) / 2;
        ppm = next;
      }
      expect(peakPpm / ppm).toBeCloseTo(1, 2);
      expect(meanPpm / (sum / seconds)).toBeCloseTo(1, 2);
    }
  });
});

describe("what can't be told", () => {
  it.each([
    ["more than 95 % humidity", { relativeHumidityPct: 96 }, "too-humid", "relativeHumidityPct"],
    ["humidity over 100 %", { relativeHumidityPct: 130 }, "bad-dry", "relativeHumidityPct"],
    ["no humidity", { relativeHumidityPct: undefined }, "bad-dry", "relativeHumidityPct"],
    ["a hole of no depth", { crevices: [{ id: "a", depthMm: 0 }] }, "bad-dry", "crevices[0].depthMm"],
    [
      "an unknown solvent",
      { solvent: { kind: "water glass", usedMl: 1, minutes: 1, roomM3: 1, airChangesPerHour: 0 } },
      "bad-dry",
      "solvent.kind",
    ],
    [
      "a room without size",
      { solvent: { kind: "isopropanol", usedMl: 1, minutes: 1, roomM3: 0, airChangesPerHour: 0 } },
      "bad-dry",
      "solvent.roomM3",
    ],
  ])("%s is refused beside its field", (_, more, code, where) => {
    expect(() => readDry({ ...ROOM, ...more })).toThrow(expect.objectContaining({ code, where }));
  });
});

describe("air changes that bring a solvent under its limits", () => {
  const use = { kind: "isopropanol", usedMl: 200, minutes: 30, roomM3: 20, airChangesPerHour: 0 } as const;

  it("do, and a tenth fewer do not; none are asked where none are needed", () => {
    const needed = changesNeeded(use, 23, 101.325) ?? 0;
    expect(airLoad({ ...use, airChangesPerHour: needed }, 23, 101.325).meanPpm).toBeLessThanOrEqual(400.001);
    expect(airLoad({ ...use, airChangesPerHour: needed * 0.9 }, 23, 101.325).meanPpm).toBeGreaterThan(400);
    expect(changesNeeded({ ...use, usedMl: 5 }, 23, 101.325)).toBe(0);
  });

  it("no window is enough for a litre in a cupboard", () => {
    expect(changesNeeded({ ...use, usedMl: 5000, minutes: 1, roomM3: 1 }, 23, 101.325)).toBeNull();
  });
});

describe("what may touch what (guides of chemical resistance and common practice, from memory)", () => {
  it.each([
    ["acetone", "plastic", "refused"],
    ["isopropanol", "plastic", "degree"],
    ["isopropanol", "bearing", "refused"],
    ["soap", "electronics", "refused"],
    ["soap", "aluminium", "degree"],
    ["isopropanol", "die", "fine"],
  ] as const)("%s on %s: %s", (cleaner, surface, verdict) => {
    const found = cleanerOn(cleaner, surface);
    expect(found.verdict).toBe(verdict);
    expect(found.source === "").toBe(verdict === "fine");
  });
});
