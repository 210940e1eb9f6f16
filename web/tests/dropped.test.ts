// @vitest-environment happy-dom
import { afterEach, describe, expect, it, vi } from "vitest";
import { takeDropped, watchDrops } from "../app/dropped.ts";

const leave: Array<() => void> = [];
afterEach(() => {
  for (const stop of leave.splice(0)) stop();
});

/** Something dropped on the page, files or else; whether the browser was kept from opening it. */
function drop(names: readonly string[], types: readonly string[] = ["Files"]): boolean {
  const event = new Event("drop", { bubbles: true, cancelable: true });
  const files = names.map((name) => new File(["x"], name));
  Object.assign(event, { dataTransfer: { types, files } });
  document.body.dispatchEvent(event);
  return event.defaultPrevented;
}
const named = (files: readonly File[]): string[] => files.map(({ name }) => name);

describe("files dropped beside every box", () => {
  it("go to whoever asked last, and to the one before when that is gone", () => {
    const nobody = vi.fn();
    leave.push(watchDrops(nobody));
    const [first, second] = [vi.fn(), vi.fn()];
    leave.push(takeDropped((files) => first(named(files))));
    const stop = takeDropped((files) => second(named(files)));
    expect(drop(["a.csv", "b.csv"])).toBe(true);
    stop();
    expect(drop(["c.csv"])).toBe(true);
    expect(second.mock.calls).toEqual([[["a.csv", "b.csv"]]]);
    expect(first.mock.calls).toEqual([[["c.csv"]]]);
    expect(nobody).not.toHaveBeenCalled();
  });

  it("wait where nobody wants any, come once to the next who does, and are never the browser's", () => {
    const nobody = vi.fn();
    leave.push(watchDrops(nobody));
    expect(drop(["lonely.csv"])).toBe(true);
    expect(nobody).toHaveBeenCalledOnce();
    const [taker, later] = [vi.fn(), vi.fn()];
    leave.push(takeDropped((files) => taker(named(files))));
    leave.push(takeDropped((files) => later(named(files))));
    expect([taker.mock.calls, later.mock.calls]).toEqual([[[["lonely.csv"]]], []]);
  });

  it("that are no files stay what they are: words dragged into a field", () => {
    leave.push(watchDrops(vi.fn()));
    expect(drop([], ["text/plain"])).toBe(false);
  });

  it("are looked for no more once that is over", () => {
    const stop = watchDrops(vi.fn());
    stop();
    expect(drop(["late.csv"])).toBe(false);
  });
});
