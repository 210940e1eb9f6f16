import { AsyncLocalStorage } from "node:async_hooks";

interface Serving {
  key: string;
  changes: number;
  isOver: boolean;
}

const serving = new AsyncLocalStorage<Serving>();
const underWay = new Map<string, Promise<unknown>>();

/**
 * Serves a request that was given a key by its sender: every change made meanwhile is kept under it, in the transaction that makes it, and
 * is not made again when the request comes again (`Store.write`). Two with one key are served one after the other.
 */
export async function underKey<T>(key: string, serve: () => Promise<T>): Promise<T> {
  while (underWay.has(key)) await underWay.get(key);
  const request: Serving = { key, changes: 0, isOver: false };
  const served = serving.run(request, serve);
  underWay.set(
    key,
    served.catch(() => undefined),
  );
  try {
    return await served;
  } finally {
    // What goes on after the answer, as a run on a test bench does, belongs to no request.
    request.isOver = true;
    underWay.delete(key);
  }
}

function current(): Serving | undefined {
  const request = serving.getStore();
  return request?.isOver ? undefined : request;
}

/** Name of the coming change; undefined where the request has no key. The same request sent again makes its changes in the same order. */
export function nameOfChange(): string | undefined {
  const request = current();
  return request && `${request.key}:${request.changes + 1}`;
}

/** Counts a change as begun. */
export function beginChange(): void {
  const request = current();
  if (request) request.changes++;
}

/** Makes a change that is to be made again when its request comes again. */
export const everyTime = <T>(change: () => Promise<T>): Promise<T> => serving.exit(change);
