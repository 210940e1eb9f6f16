import { createEvents, type EventAttributes } from "ics";
import type { DayView, DueCard } from "#contract";

const MS_A_MIN = 60_000;
/** A calendar shows a moment as a short while. */
const SHOWN_MIN = 15;

/** Promises, days until which a card can be given back, and what dries or sets, and when cards are due again, as iCalendar (RFC 5545). */
export function calendarOf({ cards, plan }: DayView, due: readonly DueCard[]): string {
  const events = cards.flatMap((card): EventAttributes[] => {
    const name = `${card.name} ${card.serial}`.trim();
    const moment = (uid: string, title: string, ms: number) => ({
      uid: `${uid}-${card.serviceId}@algidus`,
      title,
      start: ms,
      startInputType: "utc" as const,
      startOutputType: "utc" as const,
      duration: { minutes: SHOWN_MIN },
    });
    const { promisedAt, returnBy } = card.terms;
    const clocks = (plan?.blocks ?? []).filter(
      ({ serviceId, kind, endMs }) => serviceId === card.serviceId && kind === "rack" && Number.isFinite(endMs),
    );
    return [
      ...(promisedAt ? [moment("promise", `Promised: ${name}`, Date.parse(promisedAt))] : []),
      ...(returnBy
        ? [{ uid: `return-${card.serviceId}@algidus`, title: `Last day to give back: ${name}`, ...wholeDay(returnBy) }]
        : []),
      ...clocks.map(({ id, endMs }) =>
        moment(
          id.replace(/\W+/g, "-"),
          `${card.clocks[id] ?? "Ready"}: ${name}`,
          Math.round(endMs / MS_A_MIN) * MS_A_MIN,
        ),
      ),
    ];
  });
  const again = due.map(
    ({ cardId, name, serial, dueOn }): EventAttributes => ({
      uid: `due-${cardId}@algidus`,
      title: `Due for service: ${name} ${serial}`.trim(),
      ...wholeDay(dueOn),
    }),
  );
  const { error, value } = createEvents([...events, ...again], {
    productId: "-//algidus//day//EN",
    calName: "Algidus",
  });
  if (error || !value) throw error ?? new Error("There is no calendar.");
  return folded(value);
}

type Date3 = [year: number, month: number, day: number];

const date3 = (iso: string): Date3 => [Number(iso.slice(0, 4)), Number(iso.slice(5, 7)), Number(iso.slice(8, 10))];

/** Up to the next day, which is no part of it: as a length of a day the package writes one that the standard does not know. */
function wholeDay(day: string): { start: Date3; end: Date3 } {
  const next = new Date(Date.parse(`${day}T00:00:00Z`) + 24 * 60 * MS_A_MIN).toISOString();
  return { start: date3(day), end: date3(next) };
}

/** A line takes so many octets (RFC 5545, section 3.1); the package counts letters. */
const LINE_OCTETS = 75;

function folded(calendar: string): string {
  return calendar
    .replaceAll(/\r\n[ \t]/g, "")
    .split("\r\n")
    .map((line) => {
      let out = "";
      let octets = 0;
      for (const letter of line) {
        const own = Buffer.byteLength(letter);
        if (octets + own > LINE_OCTETS) {
          out += "\r\n ";
          octets = 1;
        }
        out += letter;
        octets += own;
      }
      return out;
    })
    .join("\r\n");
}
