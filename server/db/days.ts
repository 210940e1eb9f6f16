import { AsyncLocalStorage } from "node:async_hooks";

const zones = new AsyncLocalStorage<string>();

/** Serves a request in the time zone of the person who sent it (IANA name); one that is not known is passed over. */
export function inZone<T>(zone: string | undefined, serve: () => T): T {
  return zone !== undefined && clockOf(zone) ? zones.run(zone, serve) : serve();
}

const clocks = new Map<string | undefined, Intl.DateTimeFormat>();
const MOST_CLOCKS = 500;

/** What writes an instant as clocks in a zone show it, as ISO 8601 does; undefined for a zone that is not known. To make one takes a hundred times as long as to use it. */
function clockOf(zone: string | undefined): Intl.DateTimeFormat | undefined {
  const known = clocks.get(zone);
  if (known) return known;
  try {
    // This language writes days as ISO 8601 does.
    const made = new Intl.DateTimeFormat("sv-SE", { timeZone: zone, dateStyle: "short", timeStyle: "medium" });
    if (clocks.size < MOST_CLOCKS) clocks.set(zone, made);
    return made;
  } catch {
    return undefined;
  }
}

/** What clocks in a zone show at an instant, where it is not known those of the server: `2026-11-28T14:05:00`. */
export function wallClock(instant: string | number, zone: string | undefined): string {
  const clock = clockOf(zone) ?? clockOf(undefined);
  const at = new Date(instant);
  return clock ? clock.format(at).replace(" ", "T") : at.toISOString().slice(0, 19);
}

/** The calendar day of an instant where the person is, else where the server is: `2026-11-28`. */
export const dayOf = (instant: string): string => wallClock(instant, zones.getStore()).slice(0, 10);

/** The time zone of the person who asks; undefined for that of the server. */
export const zoneOf = (): string | undefined => zones.getStore();
