// @vitest-environment happy-dom
import { act, renderHook } from "@testing-library/react";
import { Provider } from "react-redux";
import { expect, it } from "vitest";
import type { Fault } from "../app/fault.ts";
import { outboxKind } from "../app/outbox.ts";
import { makeStore } from "../app/store.ts";
import { useOutbox } from "../app/use-outbox.ts";

const AWAY: Fault = { code: "unreachable", what: "The server does not answer.", remedy: "", errors: {} };

it("what waits for a save waits for the next try after a lost answer, and is told where that fails too", async () => {
  const answers: Array<{ version: number } | { fault: Fault }> = [{ fault: AWAY }, { version: 4 }];
  const kind = outboxKind<{ a: number }>({
    name: "settling",
    afterMs: 0,
    send: () => Promise.resolve(answers.shift() ?? { fault: AWAY }),
  });
  const store = makeStore();
  const { result } = renderHook(() => useOutbox(kind, "s1", 3), {
    wrapper: ({ children }) => <Provider store={store}>{children}</Provider>,
  });
  act(() => result.current.change({ a: 1 }));
  await act(() => expect.poll(() => result.current.fault).toMatchObject({ code: AWAY.code }));
  await act(async () => expect(await result.current.settled()).toBe(4));
  act(() => result.current.change({ a: 2 }));
  await act(async () => expect(await result.current.settled()).toBeUndefined());
});
