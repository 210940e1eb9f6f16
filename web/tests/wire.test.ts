// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { API, EMPTY_CARD, type Stores } from "#contract";
import { api } from "../app/api.ts";
import { makeStore } from "../app/store.ts";
import { requestOf, staleAfter } from "../app/wire.ts";

describe("a line of the API is called", () => {
  it("with its one id, with its body, or with both by name", () => {
    expect(requestOf(API.card, "a/b")).toEqual({ url: "cards/a%2Fb", method: "GET" });
    expect(requestOf(API.boards, undefined)).toEqual({ url: "boards", method: "GET" });
    expect(requestOf(API.signIn, { passphrase: "open" })).toMatchObject({ body: { passphrase: "open" } });
    expect(requestOf(API.removePhoto, { cardId: "c", photoId: "p", body: { removed: true } })).toEqual({
      url: "cards/c/photos/p/removed",
      method: "PUT",
      body: { removed: true },
    });
    expect(requestOf(API.liveRows, { liveId: "l", after: "12" })).toMatchObject({ url: "live/l/rows?after=12" });
  });

  it("as an addition where it adds, under a key of its own; a form holds files, texts and JSON", () => {
    expect(requestOf(API.beginService, "c")).toEqual({ adds: "cards/c/services", body: {} });
    const form = { log: new File(["1,2"], "run.csv"), run: { name: "one" } };
    const { body } = requestOf(API.addRun, { serviceId: "s", form }) as { body: FormData };
    expect((body.get("log") as File).name).toBe("run.csv");
    expect(JSON.parse(body.get("run") as string)).toEqual({ name: "one" });
  });

  it("never without the thing it is about", () => {
    expect(() => requestOf(API.card, undefined)).toThrow("cardId");
  });
});

describe("after a change", () => {
  it("what it was answered with is not read again, but is where another was first", () => {
    expect(staleAfter(API.changeLot, undefined)).toEqual(["uses", "quote"]);
    expect(staleAfter(API.changeLot, { status: 409, data: null })).toContain("stores");
    expect(staleAfter(API.changeLot, { status: 422, data: null })).toEqual([]);
    expect(staleAfter(API.changeLot, { status: "FETCH_ERROR", error: "" })).toEqual([]);
  });

  const asked: string[] = [];
  let answers: Record<string, unknown> = {};
  beforeEach(() => {
    asked.length = 0;
    vi.stubGlobal("fetch", (request: Request) => {
      const { pathname } = new URL(request.url);
      asked.push(`${request.method} ${pathname}`);
      return Promise.resolve(Response.json(answers[`${request.method} ${pathname}`] ?? {}));
    });
  });
  afterEach(() => vi.unstubAllGlobals());

  it("its answer stands where it is read, at once and without another request", async () => {
    const of = (name: string) => ({ materials: [{ id: name }], lots: [], offers: [] }) as unknown as Stores;
    answers = { "GET /api/stores": of("old"), "POST /api/lots": of("new") };
    const store = makeStore();
    const read = store.dispatch(api.endpoints.stores.initiate());
    await read;
    await store.dispatch(api.endpoints.addLot.initiate({} as never));
    expect(api.endpoints.stores.select()(store.getState()).data).toEqual(of("new"));
    expect(asked).toEqual(["GET /api/stores", "POST /api/lots"]);
    read.unsubscribe();
  });

  it("what nobody looked at yet is there for who looks next; an older version takes no newer one's place", async () => {
    answers = {
      "POST /api/cards": { ...EMPTY_CARD, id: "c", photos: [] },
      "GET /api/boards/b/map": { boardModelId: "b", version: 4 },
      "PUT /api/boards/b/map": { boardModelId: "b", version: 3 },
    };
    const store = makeStore();
    await store.dispatch(api.endpoints.takeIn.initiate(EMPTY_CARD));
    await vi.waitFor(() => expect(api.endpoints.card.select("c")(store.getState()).data?.id).toBe("c"));
    const map = store.dispatch(api.endpoints.boardMap.initiate("b"));
    await map;
    await store.dispatch(api.endpoints.changeBoardMap.initiate({ boardId: "b", body: {} as never }));
    expect(api.endpoints.boardMap.select("b")(store.getState()).data?.version).toBe(4);
    map.unsubscribe();
  });
});
