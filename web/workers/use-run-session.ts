import * as Comlink from "comlink";
import { useEffect, useState } from "react";
import type { RunSession } from "./run-session.ts";

export type RemoteRun = Comlink.Remote<RunSession>;

/** A worker of its own for the component's lifetime. */
export function useRunSession(): RemoteRun | null {
  const [session, setSession] = useState<{ remote: RemoteRun } | null>(null);
  useEffect(() => {
    const worker = new Worker(new URL("./run-worker.ts", import.meta.url), { type: "module" });
    setSession({ remote: Comlink.wrap<RunSession>(worker) });
    return () => worker.terminate();
  }, []);
  return session?.remote ?? null;
}
