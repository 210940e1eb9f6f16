// @vitest-environment happy-dom
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Fault } from "../app/fault.ts";
import { mergeChanges } from "../app/merge.ts";
import { adopted, changed, type Outgoing, opened, outbox, outboxKind, takenOver, withdrawn } from "../app/outbox.ts";
import { makeStore } from "../app/store.ts";
import { newestOnly } from "../workers/newest-only.ts";

beforeEach(() => {
  localStorage.clear();
  vi.useRealTimers();
});

const fault = (code: string): { fault: Fault } => ({ fault: { code, what: code, remedy: "", errors: {} } });
type Answer = { version: number } | { fault: Fault };
/** What was sent, and what is answered to it: by hand, so that anything can happen in between. */
const sent: Array<{ value: unknown; version: number; changes: readonly string[]; answer: (now: Answer) => void }> = [];
outboxKind<unknown>({
  name: "test",
  afterMs: 0,
  send: (_id, one) => new Promise((answer) => sent.push({ ...one, answer })),
});
outboxKind<string[]>({
  name: "list",
  afterMs: 0,
  retries: false,
  send: (_id, one) => new Promise((answer) => sent.push({ ...one, answer })),
  rest: (newest, was) => {
    const left = newest.filter((entry) => !was.includes(entry));
    return left.length > 0 ? left : undefined;
  },
});
/** What the other window has saved by now. */
let theirs: { version: number; value: object } | undefined;
outboxKind<Record<string, number>>({
  name: "merged",
  afterMs: 0,
  send: (_id, one) => new Promise((answer) => sent.push({ ...one, answer })),
  merge: mergeChanges,
  newest: () => Promise.resolve(theirs as { version: number; value: Record<string, number> } | undefined),
});

function begun(key = "test 1") {
  sent.length = 0;
  const store = makeStore();
  store.dispatch(opened({ key, version: 3 }));
  const held = (): Outgoing => store.getState().outbox[key]!;
  const change = (value: unknown) => store.dispatch(changed({ key, value }));
  const nextSent = (count: number) => expect.poll(() => sent.length).toBe(count);
  return { store, key, held, change, nextSent };
}

describe("what saves by itself", () => {
  it("goes out with the version it was made from, and is idle once it is answered", async () => {
    const { held, change, nextSent } = begun();
    change("a");
    expect(held()).toMatchObject({ phase: "idle", value: "a" });
    await nextSent(1);
    expect(held().phase).toBe("sending");
    expect(sent[0]).toMatchObject({ value: "a", version: 3 });
    sent[0]!.answer({ version: 4 });
    await expect.poll(() => held().value).toBeUndefined();
    expect(held()).toMatchObject({ phase: "idle", version: 4, changes: [] });
  });

  it("sends the newest only of what came meanwhile, over the version that came back", async () => {
    const { held, change, nextSent } = begun();
    change("a");
    await nextSent(1);
    change("b");
    change("c");
    sent[0]!.answer({ version: 4 });
    await nextSent(2);
    expect(sent[1]).toMatchObject({ value: "c", version: 4 });
    sent[1]!.answer({ version: 5 });
    await expect.poll(() => held().value).toBeUndefined();
    expect(sent).toHaveLength(2);
  });

  it("is sent again after what passes, the same under the same id, something newer under a further one", async () => {
    const { held, change, nextSent } = begun();
    change("a");
    await nextSent(1);
    sent[0]!.answer(fault("unreachable"));
    await expect.poll(() => held().fault?.code).toBe("unreachable");
    await nextSent(2);
    expect(sent[1]).toMatchObject({ value: "a", changes: sent[0]!.changes });
    change("b");
    sent[1]!.answer(fault("database-locked"));
    await nextSent(3);
    expect(sent[2]!.value).toBe("b");
    expect(sent[2]!.changes).toEqual([...sent[0]!.changes, expect.any(String)]);
  });

  it("stands still where it was refused for what is in it, until that is changed", async () => {
    const { held, change, nextSent } = begun();
    change("bad");
    await nextSent(1);
    sent[0]!.answer(fault("bad-input"));
    await expect.poll(() => held().phase).toBe("refused");
    await new Promise((resolve) => setTimeout(resolve, 50));
    expect(sent).toHaveLength(1);
    change("good");
    await nextSent(2);
    expect(sent[1]!.value).toBe("good");
  });

  it("asks in a conflict: mine goes over the other's version, or the other's is taken", async () => {
    const { store, key, held, change, nextSent } = begun();
    change("mine");
    await nextSent(1);
    sent[0]!.answer(fault("changed-elsewhere"));
    await expect.poll(() => held().phase).toBe("conflict");
    change("mine, later");
    await new Promise((resolve) => setTimeout(resolve, 50));
    expect(sent).toHaveLength(1);
    store.dispatch(takenOver({ key, version: 9 }));
    await nextSent(2);
    expect(sent[1]).toMatchObject({ value: "mine, later", version: 9 });
    sent[1]!.answer(fault("changed-elsewhere"));
    await expect.poll(() => held().phase).toBe("conflict");
    store.dispatch(adopted({ key, version: 12 }));
    expect(held()).toEqual({ phase: "idle", version: 12, changes: [], fault: null });
  });

  it("taken back before it went out is not sent; taken back on its way, it is sent as it is now", async () => {
    const { store, key, held, change, nextSent } = begun();
    change("a");
    store.dispatch(withdrawn({ key, value: "as it was" }));
    await new Promise((resolve) => setTimeout(resolve, 50));
    expect([sent.length, held().value]).toEqual([0, undefined]);
    change("b");
    await nextSent(1);
    store.dispatch(withdrawn({ key, value: "as it was" }));
    sent[0]!.answer({ version: 4 });
    await nextSent(2);
    expect(sent[1]!.value).toBe("as it was");
  });

  it("outlives the page with the ids of what had no answer, and goes out again from the next one", async () => {
    const { change, nextSent } = begun();
    change("a");
    await nextSent(1);
    const ids = sent[0]!.changes;
    const next = makeStore();
    next.dispatch(opened({ key: "test 1", version: 7 }));
    await nextSent(2);
    expect(sent[1]).toMatchObject({ value: "a", version: 3 });
    expect(sent[1]!.changes.slice(0, ids.length)).toEqual(ids);
    sent[1]!.answer({ version: 8 });
    await expect.poll(() => Object.keys(localStorage)).toEqual([]);
  });

  it("of things that are added keeps what came since, and gives back what can't be kept", async () => {
    const { held, change, nextSent } = begun("list 1");
    change(["one"]);
    await nextSent(1);
    change(["one", "two"]);
    sent[0]!.answer({ version: 0 });
    await nextSent(2);
    expect(sent[1]!.value).toEqual(["two"]);
    sent[1]!.answer(fault("unreachable"));
    await expect.poll(() => held().phase).toBe("refused");
    expect(held().value).toEqual(["two"]);
  });

  it("that can be made one with another window's change goes over it with both, also what came while it was asked", async () => {
    const { store, key, held, nextSent } = begun("merged 1");
    const change = (value: object) => store.dispatch(changed({ key, value, base: { a: 1, b: 1, c: 1 } }));
    change({ a: 2, b: 1, c: 1 });
    await nextSent(1);
    theirs = { version: 8, value: { a: 1, b: 5, c: 1 } };
    change({ a: 2, b: 1, c: 3 });
    sent[0]?.answer(fault("changed-elsewhere"));
    await nextSent(2);
    expect(sent[1]).toMatchObject({ value: { a: 2, b: 5, c: 3 }, version: 8 });
    sent[1]?.answer({ version: 9 });
    await expect.poll(held).toMatchObject({ phase: "idle", version: 9 });
    expect(held().value).toBeUndefined();
  });

  it("is asked about after all where the other window can't be asked, or is always first", async () => {
    const { store, key, held, nextSent } = begun("merged 2");
    theirs = undefined;
    store.dispatch(changed({ key, value: { a: 2 }, base: { a: 1 } }));
    await nextSent(1);
    sent[0]?.answer(fault("changed-elsewhere"));
    await expect.poll(() => held().phase).toBe("conflict");

    const always = begun("merged 3");
    theirs = { version: 8, value: { a: 1, b: 1 } };
    always.store.dispatch(changed({ key: always.key, value: { a: 2 }, base: { a: 1 } }));
    for (let k = 0; always.held().phase !== "conflict" && k < 20; k++) {
      await always.nextSent(k + 1);
      sent[k]?.answer(fault("changed-elsewhere"));
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
    expect(sent.length).toBe(9);
  });

  it("is a pure matter of states: an answer to nothing changes nothing", () => {
    const { answered, failed, sending } = outbox.actions;
    expect(outbox.reducer({}, sending({ key: "x", id: "1" }))).toEqual({});
    expect(outbox.reducer({}, answered({ key: "x", version: 1, rest: undefined }))).toEqual({});
    expect(outbox.reducer({}, failed({ key: "x", ...fault("gone"), again: true }))).toEqual({});
  });
});

describe("questions to a worker", () => {
  it("are asked one at a time, the newest next, those in between left out", async () => {
    const answers: Array<(text: string) => void> = [];
    const told: Array<[string, boolean]> = [];
    const ask = newestOnly<number, string>(
      () => new Promise((resolve) => answers.push(resolve)),
      (answer, behind) => told.push([answer, behind]),
    );
    for (const question of [1, 2, 3]) ask(question);
    answers[0]!("first");
    await expect.poll(() => answers.length).toBe(2);
    answers[1]!("third");
    await expect
      .poll(() => told)
      .toEqual([
        ["first", true],
        ["third", false],
      ]);
  });
});
