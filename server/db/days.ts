import { AsyncLocalStorage } from "node:async_hooks";

const zones = new AsyncLocalStorage<string>();

/** Serves a request in the time zone of the person who sent it (IANA name); one that is not known is passed over. */
export function inZone<T>(zone: string | undefined, serve: () => T): T {
  return zone !== undefined && writerFor(zone) ? zones.run(zone, serve) : serve();
}

const writers = new Map<string | undefined, Intl.DateTimeFormat>();
const MOST_WRITERS = 500;

function writerFor(zone: string | undefined): Intl.DateTimeFormat | undefined {
  const known = writers.get(zone);
  if (known) return known;
  try {
    // This language writes days as ISO 8601 does.
    const made = new Intl.DateTimeFormat("sv-SE", { timeZone: zone, dateStyle: "short" });
    if (writers.size < MOST_WRITERS) writers.set(zone, made);
    return made;
  } catch {
    return undefined;
  }
}

/** The calendar day of an instant where the person is, else where the server is: `2026-11-28`. */
export function dayOf(instant: string): string {
  const writer = writerFor(zones.getStore()) ?? writerFor(undefined);
  return writer ? writer.format(new Date(instant)) : instant.slice(0, 10);
}

/** The time zone of the person who asks; undefined for that of the server. */
export const zoneOf = (): string | undefined => zones.getStore();
