import { describe, expect, it } from "vitest";
import { Problem } from "../problem/index.ts";
import {
  type Cooler,
  coolerFromMap,
  coolerToSvg,
  dieRangeKPa,
  differences,
  EMPTY_COOLER,
  fit,
  fitTaskOf,
  leakGate,
  mountedOn,
  padForGap,
  planOfCooler,
  readLeakLog,
  roomOf,
  screwsAtHand,
  turnedOverCooler,
  withPlan,
} from "./index.ts";
import { BLOCK as COOLER, ON_MAP as MAP, memory } from "./tests/made.ts";

describe("a cooler on a board’s map", () => {
  const found = fit(fitTaskOf(MAP, COOLER, []));
  const mounted = mountedOn(MAP, COOLER, found, []);

  it("takes the places of the original’s screws and pads and leaves the map itself as it was", () => {
    expect(found.fits).toBe(true);
    expect(mounted.keptOff).toEqual(["S5"]);
    expect(mounted.map.screws.map(({ id }) => id)).toEqual(["S1", "S2", "S3", "S4"]);
    // The spring is stretched by half a millimetre of washer more: together they pull what was typed.
    expect(mounted.map.screws[0]).toMatchObject({ lengthMm: 8, washerMm: 0.5, forceN: 35, springNPerMm: 10 });
    // 2.4 − 0.5 − 1.1 of the package.
    expect(mounted.gapsMm.M1).toBeCloseTo(2.4 - 0.5 - memory.tallMm, 9);
    expect(mounted.map.parts[0]?.cooledBy).toBe("pad");
    expect(MAP.screws).toHaveLength(5);
  });

  it("tells a kind of the drawer apart from one of the kit that is called alike, and names it where it is used", () => {
    const kitTooShort = { ...COOLER, kit: COOLER.kit.map((one) => ({ ...one, lengthMm: 5 })) };
    const drawer = COOLER.kit.map((one) => ({ ...one, shouldered: true }));
    const byDrawer = fit(fitTaskOf(MAP, kitTooShort, drawer));
    expect(byDrawer.posts.map(({ screwId }) => screwId)).toEqual(Array(4).fill("kit (drawer)"));
    expect(screwsAtHand(kitTooShort, drawer).map(({ id, lengthMm }) => [id, lengthMm])).toEqual([
      ["kit", 5],
      ["kit (drawer)", 8],
    ]);
    expect(mountedOn(MAP, kitTooShort, byDrawer, drawer).map.screws[0]).toMatchObject({
      lengthMm: 8,
      shouldered: true,
    });
  });

  it("spreads the pressure on the die by what screws scatter, less where shoulders end their travel", () => {
    // Four alike, each ± 25 %: half of that together; ± 5 %: 2.5 %.
    expect(dieRangeKPa(mounted.map, 400)).toEqual({ lowKPa: expect.closeTo(350, 9), highKPa: expect.closeTo(450, 9) });
    const ended = { ...mounted.map, screws: mounted.map.screws.map((one) => ({ ...one, shouldered: true })) };
    expect(dieRangeKPa(ended, 400).highKPa).toBeCloseTo(410, 9);
    expect(dieRangeKPa({ ...MAP, screws: [] }, 0)).toEqual({ lowKPa: 0, highKPa: 0 });
  });

  it("tells the room between a part and what lies lowest over it, below none where it collides", () => {
    expect(found.headroom).toEqual([{ partId: "M1", roomMm: expect.closeTo(2.4 - 0.5 - memory.tallMm, 9) }]);
    const lower = { ...COOLER, faces: COOLER.faces.map((face) => ({ ...face, levelMm: -1.5, for: "none" as const })) };
    const under = fit(fitTaskOf(MAP, lower, []));
    expect(under.headroom[0]?.roomMm).toBeCloseTo(2.4 - 1.5 - memory.tallMm, 9);
    expect(under.collisions[0]?.byMm).toBeCloseTo(-(under.headroom[0]?.roomMm ?? 0), 9);
    expect(fit(fitTaskOf(MAP, { ...COOLER, faces: [] }, [])).headroom).toEqual([]);
  });

  it("lists what differs from the layout it was drawn for, nothing where all lies right", () => {
    expect(differences(MAP, COOLER, found)).toEqual([]);
    const other = { ...COOLER, faces: [...COOLER.faces, { ...COOLER.faces[0]!, id: "f2", xMm: 60 }] };
    expect(differences(MAP, other, fit(fitTaskOf(MAP, other, [])))).toEqual(["Under f2 lies no part."]);
    const bare = { ...COOLER, faces: [] };
    expect(differences(MAP, bare, fit(fitTaskOf(MAP, bare, [])))).toEqual(["Nothing reaches M1."]);
  });

  it("refuses a map without a die, and a cooler without a plate", () => {
    expect(() => fitTaskOf({ ...MAP, die: null }, COOLER, [])).toThrow(/no die/);
    expect(() => fitTaskOf(MAP, { ...COOLER, plate: null }, [])).toThrow(/no plate/);
  });

  it.each([
    [0.5, 0.75],
    [0.6, 0.75],
    [1, 1.25],
    [1.9, 2.5],
    [0.05, null],
    [4, null],
  ])("a gap of %s mm takes a pad of %s", (gap, pad) => {
    expect(padForGap(gap)).toBe(pad);
  });
});

describe("the plan of a cooler", () => {
  it("comes back from the editor’s plan as it went there", () => {
    expect(withPlan(COOLER, planOfCooler(COOLER))).toEqual(COOLER);
    const without = { ...COOLER, outline: null };
    expect(withPlan(without, planOfCooler(without))).toEqual(without);
  });

  it("turned over twice is itself; a drawing carries all of it", () => {
    expect(turnedOverCooler(turnedOverCooler(COOLER))).toEqual(COOLER);
    const svg = coolerToSvg({ ...COOLER, note: "a < b & c" });
    const kept = /<metadata id="algidus-cooler">(.*)<\/metadata>/.exec(svg)?.[1] ?? "";
    const text = kept.replace(/&lt;/g, "<").replace(/&gt;/g, ">").replace(/&amp;/g, "&");
    expect(JSON.parse(text)).toEqual({ ...COOLER, note: "a < b & c" });
  });

  it("of a heatsink is as large as its base, with room about it", () => {
    const fins = { widthMm: 14, lengthMm: 12, baseMm: 1.5, finHeightMm: 6, finThickMm: 0.8, count: 6 };
    const sink: Cooler = { ...EMPTY_COOLER, name: "Fin", kind: "heatsink", fins };
    const plan = planOfCooler(sink);
    expect(plan.cooler).toMatchObject({ widthMm: 14, heightMm: 12 });
    expect(plan.board.widthMm).toBeGreaterThan(14);
    expect(withPlan(sink, plan)).toEqual(sink);
  });

  it("made of a foreign drawing has its origin in the plate’s middle", () => {
    const made = coolerFromMap(planOfCooler(COOLER), "Foreign");
    expect(made.posts.map(({ xMm, yMm }) => [xMm, yMm])).toEqual(COOLER.posts.map(({ xMm, yMm }) => [xMm, yMm]));
    expect(made.plate).toMatchObject({ xMm: 0, yMm: 0, widthMm: 40 });
  });
});

describe("room and weight", () => {
  it("counts slots of 20.32 mm, reach and moment, and says what the case lacks", () => {
    const cooler = { outline: { xMm: 20, yMm: 0, widthMm: 200, heightMm: 100 }, heightMm: 58, weightG: 900 };
    const found = roomOf(cooler, 100, { slots: 2, lengthMm: 210 });
    // 60.67 of 60.96 mm; 100 + 20 + 100 mm; 0.9 kg × 9.81 m/s² × 0.12 m.
    expect(found).toMatchObject({ slots: 3, lengthMm: 220, supportAdvised: false });
    expect(found.momentNm).toBeCloseTo(1.0595, 3);
    expect(found.faults).toHaveLength(2);
    expect(roomOf({ ...cooler, weightG: 1400 }, 100, { slots: null, lengthMm: null })).toMatchObject({
      supportAdvised: true,
      faults: [],
    });
  });
});

describe("a leak test on file", () => {
  const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

  it("reads mbar, °F and clock times, thinned to what is kept", () => {
    const rows = Array.from({ length: 600 }, (_, k) => `${k * 10};${400 - k / 100};70`);
    const found = readLeakLog(bytes(`Time [s];Pressure [mbar];Room [°F]\n${rows.join("\n")}`), 100);
    expect(found).toHaveLength(100);
    expect(found[0]?.pressureKPa).toBeCloseTo(40, 1);
    expect(found[0]?.airC).toBeCloseTo(21.11, 2);
    expect(found.at(-1)?.atMin).toBeGreaterThan(99);
  });

  it.each([
    ["no pressure", "Time [s];Room [°C];x\n0;20;1\n1;20;1\n2;20;1", /is a pressure/],
    ["no air", "Time [s];Pressure [kPa];x\n0;20;1\n1;20;1\n2;20;1", /air/],
  ])("refuses a log with %s", (_, text, words) => {
    expect(() => readLeakLog(bytes(text), 100)).toThrow(Problem);
    expect(() => readLeakLog(bytes(text), 100)).toThrow(words);
  });

  it("opens the gate only for what is tight or taken on; a broken gauge keeps it shut", () => {
    const test = { namedKPaPerH: 2, gaugeStepKPa: 0.1, airStepK: 0.1, readings: [], accepted: "" };
    const steady = Array.from({ length: 12 }, (_, k) => ({ atMin: 5 * k, pressureKPa: 40, airC: 21 }));
    expect(leakGate(COOLER, test)).toBe("to test");
    expect(leakGate({ kind: "air" }, test)).toBe("dry");
    expect(leakGate(null, test)).toBe("dry");
    expect(leakGate(COOLER, { ...test, readings: steady })).toBe("tight");
    const stuck = steady.map((one) => ({ ...one, airC: 20 + one.atMin / 10 }));
    expect(leakGate(COOLER, { ...test, readings: stuck })).toBe("to test");
    const falling = steady.map((one) => ({ ...one, pressureKPa: 40 - one.atMin / 4 }));
    expect(leakGate(COOLER, { ...test, readings: falling })).toBe("leaking");
    expect(leakGate(COOLER, { ...test, readings: falling, accepted: "watched" })).toBe("accepted");
  });
});
