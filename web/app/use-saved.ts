import { useCallback, useState } from "react";
import type { Fault } from "./fault.ts";
import type { OutboxKind } from "./outbox.ts";
import { useOutbox } from "./use-outbox.ts";

export interface Stored<V> {
  version: number;
  value: V;
}

export interface Saved<V> {
  value: V;
  fault: Fault | null;
  /** Another window saved first, or somebody asked for what it has. */
  conflict: boolean;
  change: (more: Partial<V>) => void;
  /** What the server has become by another way than this page’s own saving. */
  adopt: (from: Stored<V>) => void;
  settled: () => Promise<number | undefined>;
  showConflict: () => void;
  takeOver: (from: Stored<V>) => void;
}

/** One document of a service: shown at once, saved by itself, kept in the browser while the server is away. */
export function useSaved<V extends object>(kind: OutboxKind<V>, id: string, stored: Stored<V>): Saved<V> {
  const out = useOutbox(kind, id, stored.version);
  const { change, adopt: adoptVersion, takeOver, settled, phase, fault } = out;
  const [value, setValue] = useState(out.value ?? stored.value);
  const [asked, setAsked] = useState(false);
  const adopt = useCallback(
    (from: Stored<V>): void => {
      adoptVersion(from.version);
      setValue(from.value);
      setAsked(false);
    },
    [adoptVersion],
  );
  return {
    value,
    fault: phase === "conflict" ? null : fault,
    conflict: asked || phase === "conflict",
    change: (more) => {
      const next = { ...value, ...more };
      setValue(next);
      change(next);
    },
    adopt,
    settled,
    showConflict: () => setAsked(true),
    takeOver: (from) => {
      setAsked(false);
      change(value);
      takeOver(from.version);
    },
  };
}
