// @vitest-environment happy-dom
import type { FetchArgs, FetchBaseQueryError } from "@reduxjs/toolkit/query";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { drafts, dropDraft, keepDraft } from "../app/drafts.ts";
import { isTyping, KEYS } from "../app/keys.ts";
import { mergeChanges } from "../app/merge.ts";
import { sendOnce } from "../app/once.ts";
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

describe("what two windows changed", () => {
  it("is put together field by field, and entry by entry in a list of the same length", () => {
    const base = { a: 1, b: 2, list: [{ state: "open" }, { state: "open" }], tags: ["x"] };
    const mine = { ...base, b: 3, list: [{ state: "ok" }, { state: "open" }], tags: ["x", "y"] };
    const theirs = { ...base, a: 9, b: 8, list: [{ state: "open" }, { state: "noted" }], tags: ["z"] };
    expect(mergeChanges(base, mine, theirs)).toEqual({
      a: 9,
      b: 3,
      list: [{ state: "ok" }, { state: "noted" }],
      tags: ["x", "y"],
    });
    expect(mergeChanges(base, base, theirs)).toBe(theirs);
  });
});

describe("an addition", () => {
  const lot = (amount: number) => ({ url: "lots", method: "POST", body: { amount } });
  const keyOf = (headers: FetchArgs["headers"]) => new Headers(headers as HeadersInit).get("Idempotency-Key");
  async function keysOf(sent: FetchArgs[], answers: Array<{ error?: FetchBaseQueryError }>) {
    const keys: Array<string | null> = [];
    for (const [k, request] of sent.entries())
      await sendOnce(request, ({ headers }) => {
        keys.push(keyOf(headers));
        return answers[k] ?? {};
      });
    return keys;
  }
  const lost = { error: { status: "FETCH_ERROR", error: "gone" } } as const;
  const refused = { error: { status: 422, data: null } } as const;

  it("keeps its key until it has an answer, and another content has another", async () => {
    const [first, again, other, anew] = await keysOf([lot(1), lot(1), lot(2), lot(1)], [lost]);
    expect(again).toBe(first);
    expect(new Set([first, other, anew]).size).toBe(3);
  });

  it("with a file is known by what the file is called, how large it is and what comes with it", async () => {
    const upload = (name: string, text: string) => {
      const body = new FormData();
      body.append("run", JSON.stringify({ side: "before" }));
      body.append("log", new File([text], name, { lastModified: 1 }));
      return { url: "runs", method: "POST", body };
    };
    const sent = [upload("a.csv", "1"), upload("a.csv", "1"), upload("b.csv", "1"), upload("a.csv", "12")];
    const [first, again, ...others] = await keysOf(sent, [lost]);
    expect(again).toBe(first);
    expect(new Set([first, ...others]).size).toBe(3);
  });

  it("that was refused, or was left alone for long, is another when it is sent again", async () => {
    const [first, second] = await keysOf([lot(3), lot(3)], [refused]);
    expect(second).not.toBe(first);
    vi.useFakeTimers();
    const before = await keysOf([lot(4)], [lost]);
    vi.advanceTimersByTime(11 * 60 * 1000);
    expect(await keysOf([lot(4)], [])).not.toEqual(before);
    vi.useRealTimers();
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
    expect(names.length).toBeGreaterThan(10);
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
    const all = seriesOf([
      ...(["edge", "hotspot", "memory", "vrm", "coolant", "ambient", "power", "coreClock"] as const).map((role) =>
        column(role, role),
      ),
      ...[1, 2, 3].map((fan) => column(`Fan ${fan}`, "fanRpm")),
      ...[1, 2, 3].map((probe) => column(`Probe ${probe}`, "probe")),
    ]);
    // No two lines of a chart look the same.
    expect(new Set(all.map((line) => `${line.colour} ${line.dash.join()}`)).size).toBe(all.length);
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
