import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { USUAL_LIMITS } from "#contract";
import { Problem } from "#core";
import { problemOfDatabase } from "../db/faults.ts";
import { openStore, type Store } from "../db/open.ts";
import { boardModels, cards, services } from "../db/schema.ts";
import { everyTime, underKey } from "../db/under-key.ts";
import { isLoopback } from "../http/guards.ts";

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "algidus-faults-"));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const coded = (code: string, message = ""): Error => Object.assign(new Error(message), { code });
const board = (id: string, name: string) => ({
  id,
  name,
  notes: "",
  limits: USUAL_LIMITS,
  createdAt: "",
  updatedAt: "",
  version: 1,
});

describe("faults of the database in words", () => {
  it.each([
    ["SQLITE_FULL", "disk-full"],
    ["SQLITE_NOTADB", "not-a-database"],
    ["SQLITE_CORRUPT", "damaged-database"],
    ["SQLITE_BUSY", "database-locked"],
    ["SQLITE_READONLY", "not-writable"],
  ])("%s becomes %s with a remedy, however deep it lies", (code, word) => {
    const deep = new Error("Failed query: insert into cards", { cause: coded(code) });
    const found = problemOfDatabase(deep, "shop.db");
    expect(found?.code).toBe(word);
    expect(found?.message).not.toMatch(/insert|query/i);
    expect(found?.remedy.length).toBeGreaterThan(10);
  });
  it("leaves what is no fault of the database alone, and a Problem as it is", () => {
    expect(problemOfDatabase(new Error("nothing"), "x")).toBeUndefined();
    const problem = new Problem({ code: "a", what: "b.", remedy: "c." });
    expect(problemOfDatabase(problem, "x")).toBe(problem);
  });
});

it("says that a folder is no database", async () => {
  await expect(openStore(folder)).rejects.toMatchObject({
    code: "not-a-database",
    what: expect.stringMatching(/folder/),
  });
});

describe("one road into the store", () => {
  it("does all of a change or none of it", async () => {
    const store = await openStore(join(folder, "a.db"));
    await expect(
      store.write(async (tx) => {
        await tx.insert(boardModels).values(board("1", "one"));
        throw new Error("in the middle");
      }),
    ).rejects.toThrow("in the middle");
    expect(await store.db.select().from(boardModels)).toEqual([]);
    await store.close();
  });

  it("puts two hundred changes in order beside five hundred reads, none lost", async () => {
    const store = await openStore(join(folder, "b.db"));
    const writes = Array.from({ length: 200 }, (_, k) =>
      store.write((tx) => tx.insert(boardModels).values(board(String(k), `model ${k}`))),
    );
    const reads = Array.from({ length: 500 }, () => store.db.select({ id: boardModels.id }).from(boardModels));
    await Promise.all([...writes, ...reads]);
    expect(await store.db.select().from(boardModels)).toHaveLength(200);
    await store.close();
  });

  it("keeps foreign keys and types strict, also after a transaction", async () => {
    const store = await openStore(join(folder, "c.db"));
    await store.write((tx) => tx.insert(boardModels).values(board("1", "one")));
    await expect(
      store.write((tx) =>
        tx.insert(services).values({ id: "s", cardId: "nobody", openedAt: "", closedAt: null, skips: {}, version: 1 }),
      ),
    ).rejects.toThrow();
    await expect(store.client.execute("INSERT INTO settings (key, value) VALUES (X'00', 1)")).rejects.toThrow();
    expect(await store.db.select().from(cards)).toEqual([]);
    await store.close();
  });

  it("writes ahead, and every change to the disk", async () => {
    const store = await openStore(join(folder, "d.db"));
    expect((await store.client.execute("PRAGMA journal_mode")).rows[0]?.journal_mode).toBe("wal");
    expect((await store.client.execute("PRAGMA synchronous")).rows[0]?.synchronous).toBe(2);
    await store.close();
  });

  it("opens a file whose name has spaces and signs", async () => {
    const file = join(folder, "my shop #1 (50%).db");
    await (await openStore(file)).close();
    const again = await openStore(file);
    expect(await again.db.select().from(cards)).toEqual([]);
    await again.close();
  });
});

describe("a request with a key", () => {
  const named = async (store: Store): Promise<string[]> =>
    (await store.db.select({ name: boardModels.name }).from(boardModels)).map(({ name }) => name).sort();
  const add = (store: Store, name: string) => (): Promise<string> =>
    store.write(async (tx) => {
      const id = store.newId();
      await tx.insert(boardModels).values(board(id, name));
      return id;
    });

  it("makes its change once and gets the same again; another key and none make another", async () => {
    const store = await openStore(join(folder, "once.db"));
    const first = await underKey("a", add(store, "one"));
    expect(await underKey("a", add(store, "again"))).toBe(first);
    expect(await Promise.all([underKey("b", add(store, "two")), underKey("b", add(store, "two too"))])).toEqual([
      expect.any(String),
      await underKey("b", add(store, "two at last")),
    ]);
    await add(store, "three")();
    expect(await named(store)).toEqual(["one", "three", "two"]);
    await store.close();
  });

  it("that was refused is looked at anew", async () => {
    const store = await openStore(join(folder, "refused.db"));
    const refuse = () => store.write(() => Promise.reject(new Error("not today")));
    await expect(underKey("a", refuse)).rejects.toThrow("not today");
    await underKey("a", add(store, "one"));
    expect(await named(store)).toEqual(["one"]);
    await store.close();
  });

  it("that was cut off between two changes makes the second only, also after a restart", async () => {
    const file = join(folder, "between.db");
    const store = await openStore(file);
    const cut = async () => {
      await add(store, "one")();
      throw new Error("killed");
    };
    await expect(underKey("a", cut)).rejects.toThrow("killed");
    await store.close();
    const later = await openStore(file);
    await underKey("a", async () => {
      await add(later, "one more")();
      await add(later, "two")();
    });
    expect(await named(later)).toEqual(["one", "two"]);
    await later.close();
  });

  it("knows beforehand what it made, but for changes that are made every time and what goes on after its answer", async () => {
    const store = await openStore(join(folder, "before.db"));
    let afterwards: Promise<string> | undefined;
    const serve = async (round: number): Promise<string | undefined> => {
      const before = await store.madeBefore<string>();
      await add(store, "one")();
      await everyTime(add(store, `every ${round}`));
      afterwards = new Promise((resolve) => setTimeout(() => resolve(add(store, `after ${round}`)()), 20));
      return before;
    };
    expect(await underKey("a", () => serve(1))).toBeUndefined();
    await afterwards;
    expect(await underKey("a", () => serve(2))).toEqual(expect.any(String));
    await afterwards;
    expect(await named(store)).toEqual(["after 1", "after 2", "every 1", "every 2", "one"]);
    await store.close();
  });
});

describe("isLoopback", () => {
  it.each([
    ["127.0.0.1", true],
    ["127.3.2.1", true],
    ["localhost", true],
    ["::1", true],
    ["[::1]", true],
    ["0.0.0.0", false],
    ["127.0.0.1.evil.example", false],
    ["192.168.0.7", false],
    ["localhost.evil.example", false],
  ])("%s: %s", (host, expected) => {
    expect(isLoopback(host)).toBe(expected);
  });
});
