import { expect, it, vi } from "vitest";
import { withinBudget } from "../workers/time-budget.ts";

it("a log that is read for too long is stopped, in words; one that is done in time is not", async () => {
  const stop = vi.fn();
  expect(await withinBudget(Promise.resolve({ ok: 7 }), stop, 20)).toEqual({ ok: 7 });
  await new Promise((resolve) => setTimeout(resolve, 40));
  expect(stop).not.toHaveBeenCalled();
  const never = new Promise<{ ok: number }>(() => undefined);
  expect(await withinBudget(never, stop, 20)).toMatchObject({ problem: { code: "too-slow" } });
  expect(stop).toHaveBeenCalledOnce();
  await expect(withinBudget(Promise.reject(new Error("broken")), stop, 20)).rejects.toThrow("broken");
});
