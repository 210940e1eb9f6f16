// @vitest-environment happy-dom
import { renderHook } from "@testing-library/react";
import { Provider } from "react-redux";
import { afterEach, expect, it, vi } from "vitest";
import { NO_TERMS } from "#contract";
import { changed } from "../app/outbox.ts";
import { makeStore } from "../app/store.ts";
import { useTerms } from "../parts/day/use-day.ts";

afterEach(() => vi.unstubAllGlobals());

it("a promise that a page before had not saved goes out once the Bench is open", async () => {
  const sent: unknown[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    if (request.method === "PUT") sent.push([new URL(request.url).pathname, await request.json()]);
    return Response.json({ ...NO_TERMS, weight: 3, version: 5 });
  });
  const before = makeStore();
  before.dispatch(changed({ key: "terms s1", value: { ...NO_TERMS, weight: 3 }, base: NO_TERMS }));
  // The page is closed before it was sent; what it kept is there for the next.
  const store = makeStore();
  expect(store.getState().outbox["terms s1"]?.value).toEqual({ ...NO_TERMS, weight: 3 });
  sent.length = 0;
  renderHook(() => useTerms(), { wrapper: ({ children }) => <Provider store={store}>{children}</Provider> });
  await expect.poll(() => store.getState().outbox["terms s1"]?.value).toBeUndefined();
  expect(sent.at(-1)).toMatchObject(["/api/services/s1/terms", { weight: 3 }]);
});
