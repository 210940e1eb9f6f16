// @vitest-environment happy-dom
import { act, renderHook } from "@testing-library/react";
import { Provider } from "react-redux";
import { afterEach, expect, it, vi } from "vitest";
import { addScrew, type BoardMap, EMPTY_MAP } from "#core/boardmap/index.ts";
import { makeStore } from "../app/store.ts";
import { useMapEdits } from "../stations/pads/use-map-edits.ts";

afterEach(() => vi.unstubAllGlobals());

const MAP: BoardMap = addScrew(EMPTY_MAP, { xMm: 10, yMm: 10 }).map;
const pulling = (forceN: number): BoardMap => ({ ...MAP, screws: MAP.screws.map((one) => ({ ...one, forceN })) });

it("a screw's pull stays as it was set while what is shown was read before it was saved", async () => {
  let held = { version: 1, map: MAP };
  vi.stubGlobal("fetch", async (request: Request) => {
    if (request.method === "PUT") held = { version: 2, map: ((await request.json()) as typeof held).map };
    return Response.json({ boardModelId: "b1", boardName: "OF-1", underlay: null, ...held });
  });
  const store = makeStore();
  const { result, rerender } = renderHook(({ map, version }) => useMapEdits("b1", map, version), {
    initialProps: held,
    wrapper: ({ children }) => <Provider store={store}>{children}</Provider>,
  });
  const shown = () => result.current.map.screws[0]?.forceN;
  act(() => result.current.keepThings(pulling(36), ["S1"]));
  await act(() => expect.poll(() => store.getState().outbox["map-edits b1"]).toMatchObject({ version: 2 }));
  expect(store.getState().outbox["map-edits b1"]?.value).toBeUndefined();
  expect(shown()).toBe(36);
  // Then somebody else changed it, and that was read.
  rerender({ version: 3, map: pulling(50) });
  expect(shown()).toBe(50);
});
