import { useCallback, useEffect, useRef, useState } from "react";
import type { PadJob, PadPlanChange, PadPlanInput } from "#contract";
import { api } from "../../app/api.ts";
import { dropDraft, keepDraft } from "../../app/drafts.ts";
import { type Fault, faultOf, passes } from "../../app/fault.ts";
import { useAppDispatch, useAppSelector } from "../../app/store.ts";
import { Unanswered } from "../../app/unanswered.ts";

const RETRY_MS = 500;

/** The pad plan being made: shown at once, saved by itself, kept in the browser while the server is away. */
export function usePlan(job: PadJob) {
  const key = `pads ${job.serviceId}`;
  const dispatch = useAppDispatch();
  const draft = useAppSelector((state) => state.drafts[key]) as PadPlanChange | undefined;
  const [plan, setPlan] = useState(draft?.plan ?? job.plan);
  const [save] = api.useChangePadsMutation();
  const [fault, setFault] = useState<Fault | null>(null);
  const [conflict, setConflict] = useState(false);
  const saved = useRef({ plan: job.plan, version: draft?.version ?? job.version });
  const [unanswered] = useState(() => new Unanswered(draft?.changes));
  const pending = useRef<Promise<void> | null>(null);
  const latest = useRef(plan);
  /** Sent and refused for what is in it: not sent again as it is. */
  const refused = useRef<unknown>(null);

  const keep = useCallback((): void => {
    const value: PadPlanChange = { plan: latest.current, version: saved.current.version, changes: unanswered.ids };
    dispatch(keepDraft({ form: key, value }));
  }, [dispatch, key, unanswered]);
  const put = useCallback(
    async (next: PadPlanInput): Promise<void> => {
      unanswered.sending(next);
      keep();
      const { version } = saved.current;
      const answer = await save({ serviceId: job.serviceId, body: { plan: next, version, changes: unanswered.ids } });
      const found = "error" in answer ? faultOf(answer.error) : null;
      if (found?.code === "changed-elsewhere") return setConflict(true);
      setFault(found);
      if (found && !passes(found)) refused.current = next;
      if (found || !answer.data) return;
      unanswered.answered();
      saved.current = { plan: next, version: answer.data.version };
      if (latest.current === next) dispatch(dropDraft(key));
    },
    [save, job.serviceId, dispatch, key, unanswered, keep],
  );
  /** One after the other: what comes while one is under way is sent by the next turn. */
  const send = useCallback(
    (next: PadPlanInput): Promise<void> => {
      if (pending.current) return pending.current;
      const going = put(next).finally(() => {
        pending.current = null;
      });
      pending.current = going;
      return going;
    },
    [put],
  );
  useEffect(() => {
    latest.current = plan;
    if (plan === saved.current.plan || conflict) return;
    keep();
    void send(plan);
    const timer = setInterval(() => {
      if (plan === saved.current.plan || plan === refused.current) clearInterval(timer);
      else void send(plan);
    }, RETRY_MS);
    return () => clearInterval(timer);
  }, [plan, conflict, send, keep]);

  /** What the server has become by another way than this page's own saving: booking, another window. */
  const adopt = useCallback(
    (from: PadJob): void => {
      unanswered.answered();
      saved.current = { plan: from.plan, version: from.version };
      setPlan(from.plan);
      setConflict(false);
    },
    [unanswered],
  );
  return {
    plan,
    fault,
    conflict,
    change: (more: Partial<PadPlanInput>) => setPlan((now) => ({ ...now, ...more })),
    adopt,
    /** The version under which all that is shown here is saved; undefined where that can't be done now. */
    settled: async (): Promise<number | undefined> => {
      await pending.current;
      if (latest.current !== saved.current.plan) await send(latest.current);
      return latest.current === saved.current.plan ? saved.current.version : undefined;
    },
    showConflict: () => setConflict(true),
    takeOver: (from: PadJob) => {
      unanswered.answered();
      saved.current = { plan: from.plan, version: from.version };
      setConflict(false);
    },
  };
}

export type Plan = ReturnType<typeof usePlan>;
