import { useCallback, useState } from "react";
import { api } from "./api.ts";
import type { Fault } from "./fault.ts";
import { changed, keyOf, type OutboxKind, opened, outboxKind, type Sent, sentAnswer } from "./outbox.ts";
import { type AppStore, useAppStore } from "./store.ts";
import { useOutbox } from "./use-outbox.ts";

export interface Stored<V> {
  version: number;
  value: V;
}

type Dispatch = AppStore["dispatch"];

interface Declared<V extends object, View> {
  /** One word. */
  name: string;
  /** Waits so long for more before it sends, ms. */
  afterMs?: number;
  /** The read that shows it, and with what that is called; usually the thing’s id. */
  read: keyof typeof api.endpoints;
  of: (view: View, id: string) => Stored<V> | undefined;
  call?: (id: string) => string | undefined;
  /** The change that keeps it; its answer has the version that came of it. */
  send: (id: string, sent: Sent<V>, dispatch: Dispatch) => PromiseLike<{ data?: unknown; error?: unknown }>;
  /** How two windows’ changes become one; without it a person is asked whose stay. */
  merge?: (base: V, mine: V, theirs: V) => V;
}

export interface DocumentKind<V extends object> extends OutboxKind<V> {
  /** What the server has of it, as far as this page knows. */
  known(store: AppStore, id: string): Stored<V> | undefined;
}

/** One value with a version that the server keeps of a thing: declared once, changed by `useDocument`. */
export function documentKind<V extends object, View>({
  name,
  afterMs = 0,
  read,
  of,
  call = (id) => id,
  send,
  merge,
}: Declared<V, View>): DocumentKind<V> {
  const endpoint = api.endpoints[read] as unknown as typeof api.endpoints.card;
  const viewed = (data: unknown, id: string): Stored<V> | undefined => (data ? of(data as View, id) : undefined);
  const kind: DocumentKind<V> = {
    name,
    afterMs,
    send: async (id, sent, dispatch) =>
      sentAnswer(await send(id, sent, dispatch as Dispatch), (made) => (made as { version?: number }).version ?? 0),
    known: (store, id) => viewed(endpoint.select(call(id) as string)(store.getState()).data, id),
    ...(merge && {
      merge,
      async newest(id, dispatch) {
        const asked = endpoint.initiate(call(id) as string, { forceRefetch: true, subscribe: false });
        return viewed((await (dispatch as Dispatch)(asked)).data, id);
      },
    }),
  };
  outboxKind(kind);
  return kind;
}

/** A change, or how it follows from what the document is by then. */
export type Change<V> = Partial<V> | ((now: V) => Partial<V>);

/** Changes a document from what it is by then: quick hands change twice before the first has its answer. */
export function changeDocument<V extends object>(
  store: AppStore,
  kind: DocumentKind<V>,
  id: string,
  stored: V,
  change: Change<V>,
): void {
  const key = keyOf(kind, id);
  const known = kind.known(store, id);
  const base = known?.value ?? stored;
  if (known) store.dispatch(opened({ key, version: known.version }));
  const now = (store.getState().outbox[key]?.value as V | undefined) ?? base;
  store.dispatch(changed({ key, base, value: { ...now, ...(typeof change === "function" ? change(now) : change) } }));
}

export interface Kept<V> {
  value: V;
  fault: Fault | null;
  unsaved: boolean;
  /** For what is in it: it waits to be changed or left out. */
  refused: boolean;
  /** Another window saved first, or somebody asked for what it has. */
  conflict: boolean;
  change: (change: Change<V>) => void;
  /** What the server has is taken: what was changed here is left out. */
  adopt: (from: Stored<V>) => void;
  /** What was changed here goes over what the other window saved. */
  takeOver: (from: Stored<V>) => void;
  showConflict: () => void;
  /** The version under which everything of this page is saved; undefined where that can't be done now. */
  settled: () => Promise<number | undefined>;
}

/** One document: shown at once as it was changed here, saved by itself, kept in the browser while the server is away. */
export function useDocument<V extends object>(kind: DocumentKind<V>, id: string, stored: Stored<V>): Kept<V> {
  const store = useAppStore();
  const out = useOutbox(kind, id, stored.version);
  const [asked, setAsked] = useState(false);
  const { adopt, takeOver } = out;
  return {
    value: out.value ?? stored.value,
    fault: out.phase === "conflict" ? null : out.fault,
    unsaved: out.unsaved,
    refused: out.phase === "refused",
    conflict: asked || out.phase === "conflict",
    change: (change) => changeDocument(store, kind, id, stored.value, change),
    adopt: useCallback(
      (from: Stored<V>) => {
        adopt(from.version);
        setAsked(false);
      },
      [adopt],
    ),
    takeOver: (from) => {
      setAsked(false);
      takeOver(from.version);
    },
    showConflict: () => setAsked(true),
    settled: out.settled,
  };
}
