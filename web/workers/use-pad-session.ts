import * as Comlink from "comlink";
import { useEffect, useMemo, useState } from "react";
import type { Judgement, PadWork } from "#core/padplan/index.ts";
import type { ProblemDetail } from "#core/problem/index.ts";
import { newestOnly } from "./newest-only.ts";
import type { PadSession } from "./pad-session.ts";

export type RemotePads = Comlink.Remote<PadSession>;

/** A worker of its own for the component's lifetime. */
export function usePadSession(): RemotePads | null {
  const [session, setSession] = useState<{ remote: RemotePads } | null>(null);
  useEffect(() => {
    const worker = new Worker(new URL("./pad-worker.ts", import.meta.url), { type: "module" });
    setSession({ remote: Comlink.wrap<PadSession>(worker) });
    return () => worker.terminate();
  }, []);
  return session?.remote ?? null;
}

export interface Judged {
  judgement: Judgement | null;
  problem: ProblemDetail | null;
  /** An answer to something newer is under way. */
  behind: boolean;
}

export const BROKEN: ProblemDetail = {
  code: "fault",
  what: "The computation met a fault of its own.",
  remedy: "Change something, or reload the page; what you chose is kept.",
};

/** Follows the work as it changes: one question at a time, the newest next, those in between left out. */
export function useJudgement(remote: RemotePads | null, work: PadWork | null): Judged {
  const [judged, setJudged] = useState<Judged>({ judgement: null, problem: null, behind: true });
  const ask = useMemo(
    () =>
      remote &&
      newestOnly(
        (asked: PadWork) => remote.judge(asked).catch(() => ({ problem: BROKEN })),
        (answer, behind) =>
          setJudged((last) =>
            "ok" in answer
              ? { judgement: answer.ok, problem: null, behind }
              : { judgement: last.judgement, problem: answer.problem, behind },
          ),
      ),
    [remote],
  );
  useEffect(() => {
    if (ask && work) ask(work);
  }, [ask, work]);
  return judged;
}
