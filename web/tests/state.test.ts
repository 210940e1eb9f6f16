// @vitest-environment happy-dom
import { beforeEach, describe, expect, it } from "vitest";
import { drafts, dropDraft, keepDraft } from "../app/drafts.ts";
import { isTyping, KEYS } from "../app/keys.ts";
import { makeStore } from "../app/store.ts";
import { seriesOf } from "../charts/series.ts";
import type { ColumnView } from "../workers/run-session.ts";

beforeEach(() => localStorage.clear());

describe("drafts", () => {
  it("outlive the page and go when they were saved", () => {
    const first = makeStore();
    first.dispatch(keepDraft({ form: "card 1", value: { maker: "Ostrel" } }));
    first.dispatch(keepDraft({ form: "card 2", value: { maker: "Brevane" } }));
    const second = makeStore();
    expect(second.getState().drafts["card 1"]).toEqual({ maker: "Ostrel" });
    second.dispatch(dropDraft("card 1"));
    expect(Object.keys(makeStore().getState().drafts)).toEqual(["card 2"]);
  });

  it("of two windows live side by side", () => {
    const [one, other] = [makeStore(), makeStore()];
    one.dispatch(keepDraft({ form: "card 1", value: { maker: "Ostrel" } }));
    other.dispatch(keepDraft({ form: "card 2", value: { maker: "Brevane" } }));
    expect(makeStore().getState().drafts).toEqual({ "card 1": { maker: "Ostrel" }, "card 2": { maker: "Brevane" } });
    one.dispatch(dropDraft("card 1"));
    other.dispatch(keepDraft({ form: "card 2", value: { maker: "Quillmar" } }));
    expect(makeStore().getState().drafts).toEqual({ "card 2": { maker: "Quillmar" } });
  });

  it("start empty when the browser's store is damaged", () => {
    localStorage.setItem("algidus-drafts", "{half");
    expect(makeStore().getState().drafts).toEqual({});
    expect(drafts.reducer({}, { type: "other" })).toEqual({});
  });
});

describe("keys", () => {
  it("are left alone where something is typed", () => {
    for (const tag of ["input", "textarea", "select"]) expect(isTyping(document.createElement(tag))).toBe(true);
    expect(isTyping(document.createElement("button"))).toBe(false);
    expect(isTyping(null)).toBe(false);
  });
  it("are each named once in the help", () => {
    const names = KEYS.map(([name]) => name);
    expect(new Set(names).size).toBe(names.length);
  });
});

describe("lines of the chart", () => {
  const column = (header: string, role: ColumnView["role"]): ColumnView => ({
    header,
    role,
    unit: null,
    sure: true,
    sample: "",
  });
  it("draw what has a place, leave out what has none, and prefer speed to duty", () => {
    const lines = seriesOf([
      column("GPU", "edge"),
      column("Note", null),
      column("Fan %", "fanPct"),
      column("Fan", "fanRpm"),
      column("W", "power"),
    ]);
    expect(lines.map((line) => [line.label, line.panel])).toEqual([
      ["Edge", "temperature"],
      ["Fan speed", "fan"],
      ["Power", "power"],
    ]);
  });
  it("tell two fans apart by name and dash, not by colour alone", () => {
    const [first, second] = seriesOf([column("Fan 1", "fanRpm"), column("Fan 2", "fanRpm")]);
    expect([first?.label, second?.label]).toEqual(["Fan 1", "Fan 2"]);
    expect(first?.dash).not.toEqual(second?.dash);
  });
  it("show duty where there is no speed, and every named probe", () => {
    expect(seriesOf([column("Fan %", "fanPct"), column("Backplate", "probe")]).map((line) => line.label)).toEqual([
      "Fan duty",
      "Backplate",
    ]);
  });
});
