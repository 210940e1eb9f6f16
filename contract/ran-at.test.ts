import { expect, it } from "vitest";
import { begunMs, ranAt } from "./index.ts";

const KEPT = "2026-11-30T18:00:00.000Z";
const at = (iso: string, clock: "utc" | "wall" = "utc", dayOnly = false) => ({
  start: { epochS: Date.parse(iso) / 1000, clock, dayOnly },
});

it("a run was made when its log says, or when it was kept where the log says nothing or its clock was never set", () => {
  expect(ranAt(at("2026-11-03T08:00:00Z"), KEPT)).toBe("2026-11-03T08:00:00.000Z");
  // By a wall clock: whatever the reader's zone, that hour there.
  expect(ranAt(at("2026-11-03T08:00:00Z", "wall"), KEPT)).toBe("2026-11-03T08:00:00.000");
  expect(ranAt(at("2026-11-03T00:00:00Z", "wall", true), KEPT)).toBe("2026-11-03T12:00:00.000");
  for (const start of [undefined, null]) expect(ranAt({ start }, KEPT)).toBe(KEPT);
  expect(ranAt(at("1980-01-06T00:00:00Z"), KEPT)).toBe(KEPT);
  expect(ranAt(at("2031-01-01T00:00:00Z"), KEPT)).toBe(KEPT);
  expect(begunMs(at("2026-11-03T00:00:00Z", "wall", true), KEPT)).toBeNull();
  expect(begunMs(at("2026-11-03T08:00:00Z"), KEPT)).toBe(Date.parse("2026-11-03T08:00:00Z"));
});
