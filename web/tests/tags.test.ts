// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { api } from "../app/api.ts";
import { connection } from "../app/connection.ts";
import { type AppStore, makeStore } from "../app/store.ts";
import { READS } from "../app/wire.ts";

const asked: string[] = [];
let status = 200;
beforeEach(() => {
  localStorage.clear();
  asked.length = 0;
  status = 200;
  vi.stubGlobal("fetch", async (request: Request) => {
    asked.push(`${request.method} ${new URL(request.url).pathname}`);
    return new Response(JSON.stringify([]), { status, headers: { "Content-Type": "application/json" } });
  });
});
afterEach(() => vi.unstubAllGlobals());

/** One question of each kind, as pages that are open ask them. */
const OPEN = (store: AppStore) => [
  store.dispatch(api.endpoints.lines.initiate({ find: "", closed: false, limit: 20 })),
  store.dispatch(api.endpoints.card.initiate("c")),
  store.dispatch(api.endpoints.service.initiate("s")),
  store.dispatch(api.endpoints.boards.initiate()),
  store.dispatch(api.endpoints.boardMap.initiate("b")),
  store.dispatch(api.endpoints.settings.initiate()),
  store.dispatch(api.endpoints.testBenches.initiate()),
  store.dispatch(api.endpoints.runningLive.initiate()),
  store.dispatch(api.endpoints.protocols.initiate()),
  store.dispatch(api.endpoints.readings.initiate("s")),
  store.dispatch(api.endpoints.pads.initiate("s")),
  store.dispatch(api.endpoints.stores.initiate()),
  store.dispatch(api.endpoints.packages.initiate()),
  store.dispatch(api.endpoints.advice.initiate("s")),
];
describe("what pages show", () => {
  it.each([
    ["an import", (store: AppStore) => store.dispatch(api.endpoints.importFile.initiate(new Blob(["{}"])))],
    ["signing in", (store: AppStore) => store.dispatch(api.endpoints.signIn.initiate({ passphrase: "a passphrase" }))],
    [
      "the server's coming back",
      (store: AppStore) => Promise.resolve(store.dispatch(api.util.invalidateTags([...READS]))),
    ],
  ] as const)("is all asked anew after %s", async (_, happen) => {
    const store = makeStore();
    const open = OPEN(store);
    await Promise.all(open);
    const first = asked.filter((one) => one.startsWith("GET"));
    expect(new Set(first).size).toBe(open.length);
    asked.length = 0;
    await happen(store);
    await expect.poll(() => new Set(asked.filter((one) => one.startsWith("GET")))).toEqual(new Set(first));
    for (const one of open) one.unsubscribe();
  });

  it("is not asked anew after an import that was refused", async () => {
    const store = makeStore();
    const open = OPEN(store);
    await Promise.all(open);
    asked.length = 0;
    status = 422;
    await store.dispatch(api.endpoints.importFile.initiate(new Blob(["{}"])));
    await new Promise((resolve) => setTimeout(resolve, 50));
    expect(asked).toEqual(["POST /api/import"]);
    for (const one of open) one.unsubscribe();
  });
});

describe("the connection", () => {
  it("is signed out by a 401 of anything but signing in, and in again by the next answer", async () => {
    const store = makeStore();
    status = 401;
    await store.dispatch(api.endpoints.signIn.initiate({ passphrase: "wrong passphrase" }));
    expect(store.getState().connection.signedOut).toBe(false);
    await store.dispatch(api.endpoints.settings.initiate());
    expect(store.getState().connection.signedOut).toBe(true);
    status = 200;
    await store.dispatch(api.endpoints.signIn.initiate({ passphrase: "a passphrase" }));
    expect(store.getState().connection).toEqual({ lost: false, signedOut: false });
  });

  it("is lost when nothing answers, and found by whatever does", async () => {
    const store = makeStore();
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("gone")));
    await store.dispatch(api.endpoints.settings.initiate());
    expect(store.getState().connection.lost).toBe(true);
    store.dispatch(connection.actions.found());
    expect(store.getState().connection.lost).toBe(false);
  });
});
