import * as v from "valibot";
import { describe, expect, it } from "vitest";
import { PROTOCOLS } from "#core";
import {
  BenchInput,
  CHOICES,
  DecisionInput,
  EMPTY_BENCH,
  EMPTY_POWER_ON,
  LiveStart,
  POWER_ON_ITEMS,
  PowerOnInput,
  ProtocolInput,
  PushInput,
  ReadingInput,
} from "./index.ts";

const faults = (schema: v.GenericSchema, value: unknown): string[] => {
  const result = v.safeParse(schema, value);
  return result.success ? [] : result.issues.map((issue) => v.getDotPath(issue) ?? "");
};
const bench = { ...EMPTY_BENCH, name: "Left" };
const soak = { kind: "soak", label: "Soak", fan: 62, powerPct: 100, minutes: 20, early: true };
const cycles = { kind: "cycles", label: "Cycles", fan: "automatic", count: 6, loadMinutes: 8, idleMinutes: 4 };
const protocol = { name: "Own", about: "", steps: [soak, cycles] };
const start = {
  benchId: "b",
  serviceId: "s",
  side: "before",
  protocol,
  loadName: "",
  sidePanel: "unknown",
  roomC: 21,
};
const reading = {
  kind: "infrared",
  place: "",
  shown: 60,
  emissivity: 0.93,
  surroundC: 22,
  note: "",
  liveId: null,
};

describe("test benches and protocols at the border", () => {
  it("take every protocol that comes with the application", () => {
    for (const one of PROTOCOLS) expect(faults(ProtocolInput, one)).toEqual([]);
    expect(faults(BenchInput, bench)).toEqual([]);
    expect(faults(LiveStart, start)).toEqual([]);
  });

  it.each([
    ["no name", { name: " " }, "name"],
    ["a hundred samples a second", { intervalS: 0.01 }, "intervalS"],
    ["a thousand times real speed", { speed: 1000 }, "speed"],
    ["a seed that is no number", { seed: Number.NaN }, "seed"],
    ["an unknown driver", { driver: "telepathy" }, "driver"],
  ])("refuse a bench with %s and name the field", (_, wrong, field) => {
    expect(faults(BenchInput, { ...bench, ...wrong })).toContain(field);
  });

  it.each([
    ["no step", { steps: [] }, "steps"],
    ["a fan of 130 %", { steps: [{ ...soak, fan: 130 }] }, "steps.0.fan"],
    ["a fan in words", { steps: [{ ...soak, fan: "fast" }] }, "steps.0.fan"],
    ["a soak of a week", { steps: [{ ...soak, minutes: 10_080 }] }, "steps.0.minutes"],
    ["a power limit of nothing", { steps: [{ ...soak, powerPct: 0 }] }, "steps.0.powerPct"],
    ["cycles without count", { steps: [soak, { ...cycles, count: 0 }] }, "steps.1.count"],
    ["a step of no kind", { steps: [{ ...soak, kind: "nap" }] }, "steps.0.kind"],
  ])("refuse a protocol with %s and name the step", (_, wrong, field) => {
    expect(faults(ProtocolInput, { ...protocol, ...wrong })).toContain(field);
    expect(faults(LiveStart, { ...start, protocol: { ...protocol, ...wrong } })).toContain(`protocol.${field}`);
  });

  it("refuse room air in Fahrenheit, and samples that are none", () => {
    expect(faults(LiveStart, { ...start, roomC: 72 })).toEqual(["roomC"]);
    expect(faults(PushInput, { samples: [] })).toEqual(["samples"]);
    expect(faults(PushInput, { samples: ["61"] })).not.toEqual([]);
    expect(faults(PushInput, { samples: Array.from({ length: 5001 }, () => ({})) })).toEqual(["samples"]);
  });
});

describe("readings at the border", () => {
  it.each([
    ["infrared", 60, true],
    ["infrared", 600, false],
    ["probe", -20, true],
    ["probe", -200, false],
    ["wallPower", 310, true],
    ["wallPower", -3, false],
    ["sound", 38.5, true],
    ["sound", 3, false],
    ["room", 21, true],
    ["room", 70, false],
  ])("%s of %s: %s", (kind, shown, fine) => {
    expect(faults(ReadingInput, { ...reading, kind, shown })).toEqual(fine ? [] : ["shown"]);
  });

  it("name emissivity and surroundings that can't be, and a figure that is none", () => {
    expect(faults(ReadingInput, { ...reading, emissivity: 0 })).toContain("emissivity");
    expect(faults(ReadingInput, { ...reading, surroundC: 300 })).toContain("surroundC");
    expect(faults(ReadingInput, { ...reading, shown: Number.NaN })).toContain("shown");
  });
});

describe("power-on and decision at the border", () => {
  it("ask everything once, in the order in which it is tried", () => {
    expect(faults(PowerOnInput, EMPTY_POWER_ON)).toEqual([]);
    expect(EMPTY_POWER_ON.answers.map((one) => one.id)).toEqual(POWER_ON_ITEMS.map((one) => one.id));
    expect(POWER_ON_ITEMS.map((one) => one.id)).toEqual(["supply", "picture", "firmware", "drivers", "memory", "fans"]);
    expect(faults(PowerOnInput, { ...EMPTY_POWER_ON, setAside: "tired of it" })).toEqual(["setAside"]);
  });

  it("let a recommendation be followed without words but overruled with a reason only", () => {
    for (const { id } of CHOICES)
      expect(faults(DecisionInput, { choice: id, recommended: id, reason: "" })).toEqual([]);
    const overruled = { choice: "leave", recommended: "repaste", reason: "" };
    expect(faults(DecisionInput, overruled)).toEqual(["reason"]);
    expect(faults(DecisionInput, { ...overruled, reason: "  x " })).toEqual(["reason"]);
    expect(faults(DecisionInput, { ...overruled, reason: "owner wants it back today" })).toEqual([]);
  });
});
