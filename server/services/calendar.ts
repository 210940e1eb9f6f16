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
      ...(returnBy ? [{ ...moment("return", `Last day to give back: ${name}`, 0), ...wholeDay(returnBy) }] : []),
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
  return value;
}

function wholeDay(day: string): { start: [number, number, number]; duration: { days: number } } {
  const [year = 1970, month = 1, date = 1] = day.split("-").map(Number);
  return { start: [year, month, date], duration: { days: 1 } };
}
