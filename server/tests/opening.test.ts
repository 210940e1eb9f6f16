import { expect, it } from "vitest";
import { closedTimes, instantOf } from "../services/opening.ts";

const nine = { fromMin: 9 * 60, untilMin: 18 * 60 };
const week = { opening: [nine, nine, nine, nine, nine, nine, null] };
const iso = (ms: number): string => new Date(ms).toISOString();

it("is closed from evening to morning and over Sunday, in the zone of whoever asks", () => {
  // Saturday 2026-11-28, 17:00 in a zone an hour ahead of UTC.
  const closed = closedTimes(week, Date.parse("2026-11-28T16:00:00Z"), "Europe/Berlin");
  expect(closed.slice(0, 2).map(({ fromMs, untilMs }) => [iso(fromMs), iso(untilMs)])).toEqual([
    ["2026-11-28T17:00:00.000Z", "2026-11-30T08:00:00.000Z"],
    ["2026-11-30T17:00:00.000Z", "2026-12-01T08:00:00.000Z"],
  ]);
});

it("opens at nine by the clock also when clocks were changed by an hour", () => {
  // Clocks go forward on 2027-03-28 (EU rule: last Sunday of March).
  const closed = closedTimes(week, Date.parse("2027-03-26T12:00:00Z"), "Europe/Berlin");
  const until = closed.map(({ untilMs }) => iso(untilMs));
  expect(until).toContain("2027-03-27T08:00:00.000Z");
  expect(until).toContain("2027-03-29T07:00:00.000Z");
  expect(iso(instantOf(Date.parse("2027-03-28T12:00:00Z"), "Europe/Berlin"))).toBe("2027-03-28T10:00:00.000Z");
});

it("has no closed time where it never closes", () => {
  const always = { opening: Array.from({ length: 7 }, () => ({ fromMin: 0, untilMin: 1440 })) };
  expect(closedTimes(always, Date.parse("2026-11-28T16:00:00Z"), "UTC")).toEqual([]);
});
