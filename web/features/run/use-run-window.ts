import { useEffect, useMemo, useState } from "react";
import { API, type Run, urlOf } from "#contract";
import type { Analysis, ProblemDetail, Stretch } from "#core";
import { newestOnly } from "../../workers/newest-only.ts";
import type { RunView, WindowFigures } from "../../workers/run-session.ts";
import { useRunSession } from "../../workers/use-run-session.ts";

/** The run's samples in a worker, and the steady window as it is kept or dragged, with figures that follow the drag. */
export function useRunWindow(run: Run) {
  const session = useRunSession();
  const [view, setView] = useState<RunView | null>(null);
  const [problem, setProblem] = useState<ProblemDetail | null>(null);
  const [dragged, setDragged] = useState<Stretch | null>(null);
  const [live, setLive] = useState<WindowFigures | null>(null);
  useEffect(() => {
    if (!session) return;
    void session
      .limited((remote) => remote.openSamples(urlOf(API.samples, { runId: run.id })))
      .then((answer) => ("ok" in answer ? setView(answer.ok) : setProblem(answer.problem)));
  }, [session, run.id]);
  const { ambientC, ambientU95K } = run;
  // Figures follow a drag without a queue building up.
  const follow = useMemo(
    () =>
      newestOnly(
        async ({ fromS, toS }: Stretch) => {
          const room = { ambientC: ambientC ?? undefined, ambientU95K: ambientU95K ?? undefined };
          return session?.remote.figuresIn(fromS, toS, room);
        },
        (figures) => figures && setLive(figures),
      ),
    [session, ambientC, ambientU95K],
  );
  const shown = useMemo(() => dragged ?? suggestedWindow(run.analysis), [dragged, run.analysis]);
  return {
    session: session?.remote ?? null,
    view,
    problem,
    dragged,
    shown,
    /** Of the dragged window, or of the kept one. */
    figures: live ?? run.analysis,
    drag: (next: Stretch): void => {
      setDragged(next);
      follow(next);
    },
    letGo: (): void => {
      setDragged(null);
      setLive(null);
    },
  };
}

export type RunWindow = ReturnType<typeof useRunWindow>;

/** The kept window, or, where it never settled, the last two minutes of the load to start from. */
function suggestedWindow(analysis: Analysis): Stretch | null {
  const { fromS, toS } = analysis.steady;
  if (fromS !== null && toS !== null) return { fromS, toS };
  const load = analysis.phases.filter((phase) => phase.kind === "warmup").at(-1);
  return load && load.toS - load.fromS > 60 ? { fromS: Math.max(load.fromS, load.toS - 120), toS: load.toS } : null;
}
