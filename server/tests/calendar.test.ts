import { expect, it } from "vitest";
import type { DayView } from "#contract";
import { calendarOf } from "../services/calendar.ts";

const NAME = `Ostrel Fjell 70, ${"very long; ".repeat(6)}größer ${"🙂".repeat(30)}`;
const card = {
  serviceId: "s1",
  name: NAME,
  serial: "S\\1",
  clocks: { "dry-1": "Dry" },
  terms: { promisedAt: "2026-12-05T10:00:00Z", returnBy: "2026-12-31", weight: 1, held: {} },
};
const block = { serviceId: "s1", kind: "rack", endMs: Date.UTC(2026, 11, 5, 12, 30), id: "dry-1" };
const day = { cards: [card], plan: { blocks: [block] } } as unknown as DayView;
const text = calendarOf(day, [
  { cardId: "c1", serviceId: "s2", name: "Brevane Tarn", serial: "", boardModelId: null, dueOn: "2028-02-29" } as never,
]);

it("writes lines that any calendar reads: 75 octets at most, no letter cut (RFC 5545, section 3.1)", () => {
  const lines = text.split("\r\n");
  expect(lines.length).toBeGreaterThan(25);
  for (const line of lines) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
  expect(text).not.toContain("\ufffd");
  const whole = text.replaceAll("\r\n ", "");
  expect(whole).toContain(`SUMMARY:Promised: ${NAME.replaceAll(/[,;]/g, String.raw`\$&`)} S\\\\1\r\n`);
});

it("ends whole days on the next one, and writes lengths that are lengths (sections 3.3.6 and 3.8.2.2)", () => {
  expect(text).toContain("DTSTART;VALUE=DATE:20261231\r\nDTEND;VALUE=DATE:20270101\r\n");
  expect(text).toContain("DTSTART;VALUE=DATE:20280229\r\nDTEND;VALUE=DATE:20280301\r\n");
  const lengths = [...text.matchAll(/^DURATION:(.*)$/gm)].map(([, length]) => length?.trim());
  expect(lengths.length).toBeGreaterThan(0);
  // dur-date or dur-time of the grammar: a T stands before hours, minutes or seconds only.
  for (const length of lengths) expect(length).toMatch(/^P(\d+W|\d+D(T(\d+[HMS])+)?|T(\d+[HMS])+)$/);
});
