import type { FetchArgs, FetchBaseQueryError } from "@reduxjs/toolkit/query/react";
import { API, EVERYTHING, faultsOfAnswer, paramsIn, pathOf, type Wire } from "#contract";

/** Something added at a path: sent again after its answer was lost, it is added once. */
export interface Addition {
  adds: string;
  body: unknown;
}

const LINES: Readonly<Record<string, Wire>> = API;

export const isRead = ({ method, reads }: Wire): boolean => method === "get" || reads === true;

/** Names of all that is read, by which the cache knows what became stale. */
export const READS: readonly string[] = Object.entries(LINES).flatMap(([name, wire]) => (isRead(wire) ? [name] : []));

type Named = Readonly<Record<string, unknown>>;

/** What a page calls a line with, by name. */
function namedOf({ path, takes, file }: Wire, call: unknown): Named {
  const [first] = paramsIn(path);
  if (typeof call === "string" && first !== undefined) return { [first]: call };
  return first === undefined && (takes !== undefined || file !== undefined) ? { body: call } : ((call ?? {}) as Named);
}

/** @throws RangeError where a parameter is missing */
export function requestOf(wire: Wire, call: unknown): FetchArgs | Addition {
  const named = namedOf(wire, call);
  const path = pathOf(wire.path, named).slice(1);
  const queries = new URLSearchParams(
    Object.keys(wire.queries ?? {}).flatMap((name) => (named[name] ? [[name, String(named[name])]] : [])),
  );
  const url = queries.size > 0 ? `${path}?${queries}` : path;
  const body = wire.form ? formOf(named.form as Named) : named.body;
  if (wire.adds) return { adds: url, body: body ?? {} };
  return {
    url,
    method: wire.method.toUpperCase(),
    ...(body === undefined ? {} : { body }),
    ...(wire.file ? { headers: { "Content-Type": wire.file } } : {}),
  };
}

function formOf(parts: Named): FormData {
  const data = new FormData();
  for (const [name, value] of Object.entries(parts)) {
    if (value === undefined || value === null) continue;
    if (value instanceof Blob) data.append(name, value, value instanceof File ? value.name : `${name}.jpg`);
    else data.append(name, typeof value === "string" ? value : JSON.stringify(value));
  }
  return data;
}

/** What was read before is not newer by this: a change was refused because of another one, or its thing is gone. */
const LATE = [404, 409];

/** What a change makes stale, and what it was answered with does not. */
export function staleAfter({ stale = [], fills }: Wire, error: FetchBaseQueryError | undefined): string[] {
  const names = stale === EVERYTHING ? READS : stale;
  if (!error) return names.filter((name) => name !== fills);
  return LATE.includes(error.status as number) ? [...names, ...(fills ? [fills] : [])] : [];
}

/** Whether what came is to stand where something is: an answer that was under way longer may be the older one. */
export function isNewer({ newest }: Wire, held: unknown, come: unknown): boolean {
  if (!newest) return true;
  const sizeOf = (answer: unknown): number => {
    const value = (answer as Named)[newest];
    return Array.isArray(value) ? value.length : Number(value);
  };
  return sizeOf(come) >= sizeOf(held);
}

/** The read that a change is answered with, and for which thing; undefined where it is answered with something of its own. */
export function filledBy(
  wire: Wire,
  call: unknown,
  answer: unknown,
): { name: string; wire: Wire; of: string | undefined } | undefined {
  const filled = wire.fills === undefined ? undefined : LINES[wire.fills];
  if (!filled || wire.fills === undefined) return undefined;
  const [param] = paramsIn(filled.path);
  const from = filled.idIn ? (answer as Named)[filled.idIn] : param && namedOf(wire, call)[param];
  return { name: wire.fills, wire: filled, of: from as string | undefined };
}

/** While the page is worked on, an answer that is not as its line says is a fault. */
export function checked(wire: Wire, answer: unknown): unknown {
  if (import.meta.env.MODE !== "development") return answer;
  const faults = faultsOfAnswer(wire, answer ?? undefined);
  if (faults.length > 0) throw new TypeError(faults.join("\n"));
  return answer;
}
