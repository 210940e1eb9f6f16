import { ArrowLeft } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { toast } from "sonner";
import type { Run } from "#contract";
import type { Analysis, ProblemDetail, Role, Stretch } from "#core";
import { api } from "../../app/api.ts";
import { dropDraft, keepDraft } from "../../app/drafts.ts";
import { type Fault, faultOf } from "../../app/fault.ts";
import { useAppDispatch, useAppSelector } from "../../app/store.ts";
import { withUndo } from "../../app/with-undo.ts";
import { RunChart } from "../../charts/run-chart.tsx";
import { RunCauses } from "../../parts/run/causes.tsx";
import { Columns } from "../../parts/run/columns.tsx";
import { Conditions, type TypedConditions, typedFrom } from "../../parts/run/conditions.tsx";
import { toRunInput } from "../../parts/run/to-input.ts";
import { Button } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { span } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";
import { newestOnly } from "../../workers/newest-only.ts";
import type { RunView, WindowFigures } from "../../workers/run-session.ts";
import { useRunSession } from "../../workers/use-run-session.ts";
import { Figures } from "./figures.tsx";

export function RunPage() {
  const { runId = "" } = useParams();
  const { data: run, error } = api.useRunQuery(runId);
  if (!run) return <Page title="Run">{error ? <FaultNote error={error} /> : <Waiting what="the run" />}</Page>;
  return <RunSheet key={run.id} run={run} />;
}

const same = (a: TypedConditions, b: TypedConditions): boolean => JSON.stringify(a) === JSON.stringify(b);

function RunSheet({ run }: { run: Run }) {
  const session = useRunSession();
  const go = useNavigate();
  const [view, setView] = useState<RunView | null>(null);
  const [problem, setProblem] = useState<ProblemDetail | null>(null);
  const [dragged, setDragged] = useState<Stretch | null>(null);
  const [live, setLive] = useState<WindowFigures | null>(null);
  const form = `run ${run.id}`;
  const dispatch = useAppDispatch();
  const draft = useAppSelector((state) => state.drafts[form]) as
    | { typed: TypedConditions; version: number }
    | undefined;
  const kept = typedFrom(run);
  const typed = draft?.typed ?? kept;
  const type = (next: TypedConditions): void => {
    const value = { typed: next, version: draft?.version ?? run.version };
    dispatch(same(next, kept) ? dropDraft(form) : keepDraft({ form, value }));
  };
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [fault, setFault] = useState<Fault | null>(null);
  const [conflict, setConflict] = useState<(() => void) | null>(null);
  const [change, { isLoading }] = api.useChangeRunMutation();
  const [remove] = api.useRemoveRunMutation();
  const { data: card } = api.useCardQuery(run.cardId);
  const { refetch } = api.useRunQuery(run.id);

  useEffect(() => {
    if (!session) return;
    void session
      .openSamples(`/api/runs/${run.id}/samples`)
      .then((answer) => ("ok" in answer ? setView(answer.ok) : setProblem(answer.problem)));
  }, [session, run.id]);

  const { ambientC, ambientU95K } = run;
  // Figures follow a drag without a queue building up.
  const follow = useMemo(
    () =>
      newestOnly(
        async ({ fromS, toS }: Stretch) => {
          const room = { ambientC: ambientC ?? undefined, ambientU95K: ambientU95K ?? undefined };
          return session?.figuresIn(fromS, toS, room);
        },
        (figures) => figures && setLive(figures),
      ),
    [session, ambientC, ambientU95K],
  );
  const window = useMemo(() => dragged ?? suggestedWindow(run.analysis), [dragged, run.analysis]);

  const save = async (
    what: { window?: Run["window"]; mapping?: Run["mapping"] } = {},
    version = draft?.version ?? run.version,
  ): Promise<void> => {
    const made = toRunInput(typed, {
      side: run.side,
      mapping: what.mapping ?? run.mapping,
      intervalS: run.intervalS,
      window: what.window === undefined ? run.window : what.window,
    });
    if ("errors" in made) return setErrors(made.errors);
    setErrors({});
    setFault(null);
    const answer = await change({ id: run.id, body: { ...made.input, version } });
    if ("error" in answer) {
      const found = faultOf(answer.error);
      if (found?.code === "changed-elsewhere") {
        const now = await refetch();
        setConflict(() => () => void save(what, now.data?.version ?? version));
      } else setFault(found);
      return;
    }
    setDragged(null);
    setLive(null);
    await refetch();
    dispatch(dropDraft(form));
    toast("Saved");
  };
  const setRole = (header: string, role: Role | null): void =>
    void save({
      mapping: run.mapping.map((one) =>
        one.header === header
          ? { header, role }
          : role !== null && one.role === role && role !== "fanRpm" && role !== "probe"
            ? { header: one.header, role: null }
            : one,
      ),
    });
  const dirty = !same(typed, kept);
  const back = `/cards/${run.cardId}/${run.side === "before" ? "baseline" : "prove"}`;
  return (
    <Page
      wide
      title={`${run.name || run.fileName}, ${run.side === "before" ? "before the work" : "after the work"}`}
      lead={
        <Link to={back} className="inline-flex items-center gap-1 font-medium text-ice hover:underline">
          <ArrowLeft aria-hidden className="size-4" />
          {card ? `${card.maker} ${card.model}` : "Back"}
        </Link>
      }
      action={
        <Button
          look="danger"
          onClick={() =>
            void withUndo("Run removed", (removed) => remove({ id: run.id, removed })).then((done) => done && go(back))
          }
        >
          Remove run
        </Button>
      }
    >
      <div className="grid gap-4 xl:grid-cols-[minmax(0,1fr)_27rem]">
        <Sheet title="Over time">
          {problem && (
            <Note kind="fault" title={problem.what}>
              {problem.remedy}
            </Note>
          )}
          {session && view ? (
            <RunChart
              session={session}
              view={view}
              phases={run.analysis.phases}
              window={window}
              onWindow={(next) => {
                setDragged(next);
                follow(next);
              }}
            />
          ) : (
            !problem && <Waiting what="the samples" />
          )}
          <div className="mt-3 flex flex-wrap items-center gap-2">
            <span>
              {window ? `Steady window ${span(window.fromS)} to ${span(window.toS)} min` : "No steady window"}
              {run.analysis.steady.byHand && !dragged ? ", set by hand" : ""}
            </span>
            {dragged && (
              <>
                <Button look="main" disabled={isLoading} onClick={() => void save({ window: dragged })}>
                  Keep this window
                </Button>
                <Button
                  onClick={() => {
                    setDragged(null);
                    setLive(null);
                  }}
                >
                  Back to the kept one
                </Button>
              </>
            )}
            {!dragged && run.window && (
              <Button disabled={isLoading} onClick={() => void save({ window: null })}>
                Find it automatically
              </Button>
            )}
          </div>
        </Sheet>
        <Sheet title="Figures">
          <Figures analysis={run.analysis} live={live ?? run.analysis} />
        </Sheet>
      </div>
      {run.analysis.notices.length > 0 && (
        <div className="mt-4">
          <Note title="What was found while reading">
            <ul className="list-disc pl-4">
              {run.analysis.notices.map((notice) => (
                <li key={notice.text}>{notice.text}</li>
              ))}
            </ul>
          </Note>
        </div>
      )}
      <Sheet title="Likely causes" className="mt-4">
        <RunCauses runId={run.id} />
      </Sheet>
      <Sheet title="Conditions" className="mt-4">
        <Conditions
          value={typed}
          onChange={type}
          errors={{ ...errors, ...fault?.errors }}
          hasRoomColumn={run.mapping.some((one) => one.role === "ambient")}
        />
        <div className="mt-3">
          <FaultNote fault={fault} />
        </div>
        <div className="mt-3 flex items-center justify-end gap-3">
          {dirty && <span className="text-sm text-soft">Not saved yet</span>}
          <Button look="main" disabled={!dirty || isLoading} onClick={() => void save()}>
            Save and compute anew
          </Button>
        </div>
      </Sheet>
      {view && (
        <Sheet title="Columns" className="mt-4">
          <Columns
            columns={run.analysis.columns.map((column) => ({
              ...column,
              role: column.role as Role | null,
              sample: column.mean === null ? "" : `mean ${Math.round(column.mean * 10) / 10}`,
            }))}
            onRole={setRole}
          />
          <a className="mt-3 inline-block font-medium text-ice hover:underline" href={`/api/runs/${run.id}/original`}>
            The log as it was dropped
          </a>
        </Sheet>
      )}
      <ConflictDialog
        open={conflict !== null}
        what="run"
        onKeep={() => {
          setConflict(null);
          dispatch(dropDraft(form));
        }}
        onTakeOver={() => {
          conflict?.();
          setConflict(null);
        }}
      />
    </Page>
  );
}

/** The kept window, or, where it never settled, the last two minutes of the load to start from. */
function suggestedWindow(analysis: Analysis): Stretch | null {
  const { fromS, toS } = analysis.steady;
  if (fromS !== null && toS !== null) return { fromS, toS };
  const load = analysis.phases.filter((phase) => phase.kind === "warmup").at(-1);
  return load && load.toS - load.fromS > 60 ? { fromS: Math.max(load.fromS, load.toS - 120), toS: load.toS } : null;
}
