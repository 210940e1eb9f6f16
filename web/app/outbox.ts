import {
  type Action,
  createListenerMiddleware,
  createSlice,
  isAnyOf,
  nanoid,
  type PayloadAction,
  type ThunkDispatch,
} from "@reduxjs/toolkit";
import { type Fault, faultOf, passes } from "./fault.ts";
import { readStored, storeChanges } from "./stored.ts";

/** One thing that saves by itself, on its way to the server. */
export interface Outgoing {
  phase: "idle" | "sending" | "refused" | "conflict";
  /** The newest state that is not saved yet; undefined once all is. */
  value?: unknown;
  /** What was sent last and has no answer yet, or none that settled it. */
  sent?: unknown;
  /** The server's version that `value` was made from. */
  version: number;
  /** What it was made from, where that is needed to make two windows' changes one. */
  base?: unknown;
  /**
   * Ids of the changes sent since the last answer, the newest last: by them the server knows a change of this page again whose answer
   * was lost, and does not take it for another window's.
   */
  changes: string[];
  /** What stood in the way last. */
  fault: Fault | null;
}

export type Outbox = Record<string, Outgoing>;

type Based = Required<Pick<Outgoing, "base" | "version">>;

const NEW: Outgoing = { phase: "idle", version: 0, changes: [], fault: null };

/**
 * Every save-as-you-go is one entry here: idle, sending, refused for what is in it, or in conflict with another window. What is newest is
 * sent; what came while something was under way goes with the next turn. Pure: sending itself is the listener's below.
 */
export const outbox = createSlice({
  name: "outbox",
  initialState: {} as Outbox,
  reducers: {
    /** The page shows what the server has. An unsaved value stays, with the version it was made from. */
    opened(state, { payload: { key, version } }: PayloadAction<{ key: string; version: number }>) {
      const held = state[key];
      if (!held) state[key] = { ...NEW, version };
      else if (held.value === undefined) held.version = Math.max(held.version, version);
    },
    changed(state, { payload: { key, value, base } }: PayloadAction<{ key: string; value: unknown; base?: unknown }>) {
      const held = (state[key] ??= { ...NEW });
      if (held.value === undefined && base !== undefined) held.base = base;
      held.value = value;
      if (held.phase === "refused") held.phase = "idle";
    },
    /** The value is again what the server has: nothing to send, unless something else may be there by now. */
    withdrawn(state, { payload: { key, value } }: PayloadAction<{ key: string; value: unknown }>) {
      const held = state[key];
      if (!held) return;
      if (held.changes.length === 0 && held.phase !== "sending") {
        delete held.value;
        held.fault = null;
        if (held.phase === "refused") held.phase = "idle";
      } else held.value = value;
    },
    sending(state, { payload: { key, id } }: PayloadAction<{ key: string; id: string }>) {
      const held = state[key];
      if (!held || held.value === undefined) return;
      // Unchanged content keeps its id, by which the server knows it again.
      if (held.sent !== held.value || held.changes.length === 0) held.changes.push(id);
      held.phase = "sending";
      held.sent = held.value;
    },
    /** @param rest what of the newest value is still to be saved; undefined when nothing is */
    answered(
      state,
      { payload: { key, version, rest } }: PayloadAction<{ key: string; version: number; rest: unknown }>,
    ) {
      const held = state[key];
      if (!held) return;
      if (held.base !== undefined) held.base = held.sent;
      if (rest === undefined) {
        delete held.value;
        delete held.base;
      } else held.value = rest;
      delete held.sent;
      held.phase = "idle";
      held.version = version;
      held.changes = [];
      held.fault = null;
    },
    /** Another window saved first: what was changed here is laid over what it saved. */
    rebased(state, { payload: { key, value, base, version } }: PayloadAction<{ key: string; value: unknown } & Based>) {
      const held = state[key];
      if (!held) return;
      Object.assign(held, { value, base, version, phase: "idle", changes: [], fault: null });
      delete held.sent;
    },
    /** @param again whether it is tried again by itself */
    failed(state, { payload: { key, fault, again } }: PayloadAction<{ key: string; fault: Fault; again: boolean }>) {
      const held = state[key];
      if (!held) return;
      held.fault = fault;
      held.phase = fault.code === "changed-elsewhere" ? "conflict" : again ? "idle" : "refused";
    },
    /** What the server has is taken: nothing of this page's is left to save. */
    adopted(state, { payload: { key, version } }: PayloadAction<{ key: string; version: number }>) {
      state[key] = { ...NEW, version };
    },
    /** This page's value goes over the version that another window saved. */
    takenOver(state, { payload: { key, version } }: PayloadAction<{ key: string; version: number }>) {
      const held = state[key];
      if (!held) return;
      held.phase = "idle";
      held.version = version;
      held.changes = [];
      held.fault = null;
    },
    /** What was refused is no longer wanted as it is. */
    dropped(state, { payload: key }: PayloadAction<string>) {
      delete state[key];
    },
  },
});

export const { opened, changed, withdrawn, adopted, takenOver, dropped } = outbox.actions;
const { sending, answered, failed, rebased } = outbox.actions;

/** What is sent of an entry, and how its answer is read. */
export interface Sent<V> {
  value: V;
  version: number;
  changes: readonly string[];
}

export interface OutboxKind<V> {
  /** Its entries are called `<name> <id>`: one word. */
  name: string;
  /** Waits so long for more before it sends, ms. */
  afterMs: number;
  /** Sends; answers with the version that came of it, or what stood in the way. */
  send(id: string, sent: Sent<V>, dispatch: Dispatch): Promise<{ version: number } | { fault: Fault }>;
  /** What is left of the newest value once `sent` is saved; usually all of it, if it is another. */
  rest?(newest: V, sent: V): V | undefined;
  /** Whether what passes is tried again by itself; usually yes. Where not, it is as refused. */
  retries?: boolean;
  /** Makes this window's changes and another's one, where that is this thing's way out of a conflict. */
  merge?(base: V, mine: V, theirs: V): V;
  /** What the server has by now; undefined where it can't be asked. */
  newest?(id: string, dispatch: Dispatch): Promise<{ version: number; value: V } | undefined>;
}

/** The store's own; typed where the store is. */
type Dispatch = ThunkDispatch<unknown, unknown, Action>;

const kinds = new Map<string, OutboxKind<never>>();

/** Makes a kind of thing savable; done once, where its page's file is loaded. */
export function outboxKind<V>(kind: OutboxKind<V>): OutboxKind<V> {
  kinds.set(kind.name, kind as OutboxKind<never>);
  return kind;
}

export const keyOf = (kind: Pick<OutboxKind<never>, "name">, id: string): string => `${kind.name} ${id}`;

/** After what passes (a server that is away), ms. */
const AGAIN_MS = 700;
/** So often in a row another window may be first; then a person is asked. */
const MOST_MERGES = 8;

interface WithOutbox {
  outbox: Outbox;
}

/** What a listener gives to one that takes turns. */
interface Turns {
  getState: () => WithOutbox;
  dispatch: Dispatch;
  delay: (ms: number) => Promise<void>;
}

/** Sends the newest state of an entry again and again until nothing waits; once at a time for each entry. */
async function takeTurns(key: string, turning: Set<string>, turns: Turns): Promise<void> {
  const gap = key.indexOf(" ");
  const kind = kinds.get(key.slice(0, gap));
  const waits = (): boolean => {
    const held = turns.getState().outbox[key];
    return held?.value !== undefined && held.phase === "idle";
  };
  if (!kind || turning.has(key)) return;
  turning.add(key);
  let merges = 0;
  try {
    // Nothing may come between the last look and letting go, or what is changed just then would wait for ever.
    while (waits()) {
      await turns.delay(kind.afterMs);
      if (!waits()) continue;
      const wasMerged = await takeTurn(kind, key, key.slice(gap + 1), turns, merges < MOST_MERGES);
      merges = wasMerged ? merges + 1 : 0;
    }
  } finally {
    turning.delete(key);
  }
}

/** @returns whether it came to nothing but another window's changes taken in */
async function takeTurn(
  kind: OutboxKind<never>,
  key: string,
  id: string,
  turns: Turns,
  mayMerge: boolean,
): Promise<boolean> {
  const { dispatch } = turns;
  dispatch(sending({ key, id: nanoid() }));
  const held = turns.getState().outbox[key];
  if (held?.value === undefined) return false;
  const sent = { value: held.value as never, version: held.version, changes: held.changes };
  const answer = await kind.send(id, sent, dispatch);
  if ("version" in answer) {
    const rest = restOf(kind, turns.getState().outbox[key]?.value, held.value);
    dispatch(answered({ key, version: answer.version, rest }));
    return false;
  }
  const { fault } = answer;
  if (mayMerge && fault.code === "changed-elsewhere" && kind.merge) {
    const theirs = await kind.newest?.(id, dispatch);
    const now = turns.getState().outbox[key];
    if (theirs && now?.value !== undefined) {
      const value: unknown = kind.merge(now.base as never, now.value as never, theirs.value);
      dispatch(rebased({ key, value, base: theirs.value, version: theirs.version }));
      return true;
    }
  }
  const again = passes(fault) && kind.retries !== false;
  dispatch(failed({ key, fault, again }));
  if (again) await turns.delay(AGAIN_MS);
  return false;
}

/**
 * Sends what changes, one thing at a time for each entry, the newest state each time. The toolkit's `retry` would send the old state again
 * and keep what stands in the way to itself; here a newer one takes its place, and the page says why it waits.
 */
export function outboxListener() {
  const { middleware, startListening } = createListenerMiddleware<WithOutbox>();
  const turning = new Set<string>();
  startListening({
    matcher: isAnyOf(opened, changed, withdrawn, takenOver),
    effect: (action, listener) => {
      const { key } = (action as PayloadAction<{ key: string }>).payload;
      return takeTurns(key, turning, listener as unknown as Turns);
    },
  });
  return middleware;
}

function restOf(kind: OutboxKind<never>, newest: unknown, sent: unknown): unknown {
  if (newest === undefined || newest === sent) return undefined;
  return kind.rest ? kind.rest(newest as never, sent as never) : newest;
}

/** The answer of a mutation, as an outbox reads it. */
export function sentAnswer<T>(
  answer: { data?: T | undefined; error?: unknown },
  versionOf: (data: T) => number = () => 0,
): { version: number } | { fault: Fault } {
  const fault = faultOf(answer.error);
  if (fault) return { fault };
  return { version: answer.data === undefined ? 0 : versionOf(answer.data) };
}

const PREFIX = "outbox ";

/** What a page before this one had not saved. */
export const storedOutbox = (): Outbox =>
  Object.fromEntries(
    Object.entries(readStored())
      .filter(([form]) => form.startsWith(PREFIX))
      .map(([form, kept]) => [form.slice(PREFIX.length), { ...NEW, ...(kept as Partial<Outgoing>), phase: "idle" }]),
  );

const keptOf = (held: Outgoing | undefined): unknown =>
  held?.value === undefined
    ? undefined
    : { value: held.value, base: held.base, version: held.version, changes: held.changes };

/** Keeps what is unsaved in the browser, so that a lost server or a reload loses nothing. */
export function persistOutbox(now: Outbox, before: Outbox): void {
  const changes: Record<string, unknown> = {};
  for (const key of Object.keys({ ...before, ...now }))
    if (now[key] !== before[key]) changes[PREFIX + key] = keptOf(now[key]);
  storeChanges(changes);
}
