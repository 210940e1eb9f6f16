import * as v from "valibot";
import { describe, expect, it } from "vitest";
import { EMPTY_MAP, NEW_SCREW } from "#core/boardmap/index.ts";
import {
  BoardInput,
  BoardMapFile,
  CardChange,
  CardInput,
  EMPTY_CARD,
  LOOK_OVER_ITEMS,
  NoteInput,
  RunInput,
  SettingsInput,
  SkipInput,
  STATIONS,
  StepMarksInput,
  USUAL_LIMITS,
  USUAL_SETTINGS,
} from "./index.ts";

const faults = (schema: v.GenericSchema, value: unknown): string[] => {
  const result = v.safeParse(schema, value);
  return result.success ? [] : result.issues.map((issue) => v.getDotPath(issue) ?? "");
};
const card = { ...EMPTY_CARD, maker: "Ostrel", model: "Fjell" };
const run = {
  side: "before",
  name: "",
  fanMode: "fixed",
  fanPct: 62,
  loadName: "",
  sidePanel: "unknown",
  clocks: "",
  powerLimitPct: null,
  picture: "works",
  ambientC: 21.5,
  ambientU95K: 0.5,
  intervalS: null,
  mapping: [{ header: "GPU", role: "edge" }],
  window: null,
};

describe("what the border lets in", () => {
  it("takes the smallest card, and every look-over item once", () => {
    expect(faults(CardInput, card)).toEqual([]);
    expect(EMPTY_CARD.lookOver.map((entry) => entry.id)).toEqual(LOOK_OVER_ITEMS.map((item) => item.id));
    expect(faults(CardChange, card)).toEqual(["version"]);
  });

  it.each([
    ["an empty maker", { maker: "   " }, "maker"],
    ["a serial without end", { serial: "x".repeat(200) }, "serial"],
    ["a negative price", { price: -1 }, "price"],
    ["a price that is no number", { price: Number.NaN }, "price"],
    ["an age of a century", { ageYears: 100 }, "ageYears"],
    ["an unknown seal", { seal: "glued" }, "seal"],
    ["an unknown thing looked at", { lookOver: [{ id: "smell", state: "ok", text: "" }] }, "lookOver.0.id"],
  ])("refuses a card with %s and names the field", (_, wrong, field) => {
    expect(faults(CardInput, { ...card, ...wrong })).toContain(field);
  });

  it("keeps odd characters in a serial as they are, trimmed", () => {
    const parsed = v.parse(CardInput, { ...card, serial: "  Ø-1/“x”\u202e<b>' OR 1=1  " });
    expect(parsed.serial).toBe("Ø-1/“x”\u202e<b>' OR 1=1");
  });

  it.each([
    ["a room in Fahrenheit", { ambientC: 70 }, "ambientC"],
    ["a fan past full", { fanPct: 130 }, "fanPct"],
    ["an interval of nothing", { intervalS: 0 }, "intervalS"],
    ["a role that is none", { mapping: [{ header: "GPU", role: "nose" }] }, "mapping.0.role"],
    ["a window that is none", { window: { fromS: "0" } }, "window.fromS"],
    ["a third side", { side: "during" }, "side"],
  ])("refuses a run with %s", (_, wrong, field) => {
    expect(faults(RunInput, run)).toEqual([]);
    expect(faults(RunInput, { ...run, ...wrong })).toContain(field);
  });

  it("refuses a skip without a reason but takes one back", () => {
    expect(faults(SkipInput, { station: "baseline", reason: "x" })).toContain("reason");
    expect(faults(SkipInput, { station: "baseline", reason: null })).toEqual([]);
    expect(faults(SkipInput, { station: "takeIn", reason: "because" })).toContain("station");
  });

  it("checks notes, boards and settings", () => {
    const note = { doneOn: "2026-02-30", person: "p".repeat(81), work: [], compound: "", minutes: 1e9, text: "" };
    expect(faults(NoteInput, note)).toEqual(expect.arrayContaining(["person", "work", "minutes"]));
    expect(faults(BoardInput, { name: "", notes: "", limits: { ...USUAL_LIMITS, vrmC: 20 } })).toEqual([
      "name",
      "limits.vrmC",
    ]);
    expect(faults(SettingsInput, USUAL_SETTINGS)).toEqual([]);
    expect(faults(SettingsInput, { ...USUAL_SETTINGS, scatterRunK: 99, currency: "" })).toEqual([
      "currency",
      "scatterRunK",
    ]);
  });

  it("lists its stations in working order, the first and the last not to be skipped", () => {
    expect(STATIONS.map((station) => station.id)).toEqual([
      "takeIn",
      "baseline",
      "decide",
      "strip",
      "clean",
      "pads",
      "compound",
      "fans",
      "closeUp",
      "prove",
      "record",
    ]);
    expect([STATIONS[0].skipWhy, STATIONS.at(-1)?.skipWhy]).toEqual([null, null]);
  });

  it("fills in what an older board map lacks, and names every layer once", () => {
    const screw = {
      id: "S1",
      xMm: 1,
      yMm: 2,
      holeMm: 3.2,
      forceN: 55,
      springNPerMm: 12,
      washerMm: 0,
      shouldered: false,
    };
    const { format, board } = EMPTY_MAP;
    const first = { format, version: 1, board, die: null, screws: [screw], parts: [], cooler: null };
    expect(v.parse(BoardMapFile, first)).toEqual({ ...EMPTY_MAP, screws: [{ ...NEW_SCREW, ...screw }] });
    const newer = { ...EMPTY_MAP, version: EMPTY_MAP.version + 1 };
    expect(faults(BoardMapFile, newer)).toEqual(["version"]);
    expect(faults(BoardMapFile, { ...EMPTY_MAP, layers: EMPTY_MAP.layers.slice(1) })).toEqual(["layers"]);
    const [bracket] = EMPTY_MAP.layers;
    expect(faults(BoardMapFile, { ...EMPTY_MAP, layers: EMPTY_MAP.layers.map(() => bracket) })).toEqual(["layers"]);
    expect(
      faults(BoardMapFile, { ...EMPTY_MAP, screws: [{ ...NEW_SCREW, ...screw, thread: "M99", lengthMm: 600 }] }),
    ).toEqual(expect.arrayContaining(["screws.0.thread", "screws.0.lengthMm"]));
  });

  it("bounds what a device may send of its steps", () => {
    const mark = {
      id: "a-mark-of-its-own",
      station: "strip",
      attempt: 1,
      stepId: "off",
      what: "done",
      value: "",
      text: "",
      at: "2026-03-01T09:00:00.000Z",
    };
    expect(faults(StepMarksInput, { marks: [mark] })).toEqual([]);
    expect(
      faults(StepMarksInput, { marks: [{ ...mark, id: "short", at: "nine", attempt: 0, what: "burnt" }] }),
    ).toEqual(expect.arrayContaining(["marks.0.id", "marks.0.at", "marks.0.attempt", "marks.0.what"]));
    expect(faults(StepMarksInput, { marks: [] })).toEqual(["marks"]);
  });
});
