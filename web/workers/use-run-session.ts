import * as Comlink from "comlink";
import { useEffect, useState } from "react";
import type { Answer, RunSession } from "./run-session.ts";
import { withinBudget } from "./time-budget.ts";

export type RemoteRun = Comlink.Remote<RunSession>;

export interface RunWorker {
  remote: RemoteRun;
  /** Asks for what takes as long as the log is large, and ends the worker where that is too long. */
  limited<T>(ask: (remote: RemoteRun) => Promise<Answer<T>>): Promise<Answer<T>>;
}

/** A worker of its own for the component's lifetime. */
export function useRunSession(): RunWorker | null {
  const [session, setSession] = useState<RunWorker | null>(null);
  useEffect(() => {
    const worker = new Worker(new URL("./run-worker.ts", import.meta.url), { type: "module" });
    const remote = Comlink.wrap<RunSession>(worker);
    setSession({ remote, limited: (ask) => withinBudget(ask(remote), () => worker.terminate()) });
    return () => worker.terminate();
  }, []);
  return session;
}
