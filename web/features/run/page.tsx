import { ArrowLeft } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { API, type Run, type TypedInput, urlOf } from "#contract";
import type { Role } from "#core";
import { api } from "../../app/api.ts";
import { withUndo } from "../../app/with-undo.ts";
import { RunChart } from "../../charts/run-chart.tsx";
import { RunCauses } from "../../parts/run/causes.tsx";
import { Columns } from "../../parts/run/columns.tsx";
import { Conditions } from "../../parts/run/conditions.tsx";
import { runName } from "../../parts/run/run-name.ts";
import { readTyped, TypedFigures, textsOf } from "../../parts/run/typed-figures.tsx";
import { Button, LinkButton } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { span } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";
import { Term } from "../../ui/term.tsx";
import { Figures } from "./figures.tsx";
import { type RunForm, useRunForm } from "./use-run-form.ts";
import { type RunWindow, useRunWindow } from "./use-run-window.ts";

export function RunPage() {
  const { runId = "" } = useParams();
  const { data: run, error } = api.useRunQuery(runId);
  if (!run) return <Page title="Run">{error ? <FaultNote error={error} /> : <Waiting what="the run" />}</Page>;
  return <RunSheet key={run.id} run={run} />;
}

function RunSheet({ run }: { run: Run }) {
  return run.typed ? <TypedRun run={run} typed={run.typed} /> : <LoggedRun run={run} />;
}

function LoggedRun({ run }: { run: Run }) {
  const steady = useRunWindow(run);
  const form = useRunForm(run, steady.letGo);
  return (
    <RunFrame
      run={run}
      form={form}
      over={<OverTime run={run} steady={steady} form={form} />}
      figures={<Figures analysis={run.analysis} live={steady.figures} />}
    >
      {steady.view && (
        <Sheet title="Columns" className="mt-4">
          <Columns
            columns={run.analysis.columns.map((column) => ({
              ...column,
              role: column.role as Role | null,
              sample: column.mean === null ? "" : `mean ${Math.round(column.mean * 10) / 10}`,
            }))}
            onRole={form.setRole}
          />
          <a
            className="mt-3 inline-block font-medium text-ice hover:underline"
            href={urlOf(API.original, { runId: run.id })}
          >
            The log as it was dropped
          </a>
        </Sheet>
      )}
    </RunFrame>
  );
}

/** A run without a log: what was typed stands where the lines would. */
function TypedRun({ run, typed }: { run: Run; typed: TypedInput }) {
  const form = useRunForm(run, () => undefined);
  const [texts, setTexts] = useState(() => textsOf(typed));
  const [errors, setErrors] = useState<Partial<Record<string, string>>>({});
  return (
    <RunFrame
      run={run}
      form={form}
      over={
        <Sheet title="Typed from paper">
          <form
            noValidate
            className="space-y-4"
            onSubmit={(event) => {
              event.preventDefault();
              const read = readTyped(texts);
              setErrors("errors" in read ? read.errors : {});
              if ("typed" in read) void form.save({ typed: read.typed });
            }}
          >
            <TypedFigures texts={texts} onChange={setTexts} errors={errors} />
            <Button type="submit" disabled={form.busy || JSON.stringify(texts) === JSON.stringify(textsOf(typed))}>
              Save these figures
            </Button>
          </form>
        </Sheet>
      }
      figures={<Figures analysis={run.analysis} live={run.analysis} />}
    />
  );
}

/** What every run's page shows: what it is of, figures, notices, causes, conditions, and the way on. */
function RunFrame({
  run,
  form,
  over,
  figures,
  children,
}: PartProps & { over: ReactNode; figures: ReactNode; children?: ReactNode }) {
  const go = useNavigate();
  const [remove] = api.useRemoveRunMutation();
  const { data: card } = api.useCardQuery(run.cardId);
  const back = `/cards/${run.cardId}/${run.side === "before" ? "baseline" : "prove"}`;
  return (
    <Page
      wide
      title={`${runName(run)}, ${run.side === "before" ? "before the work" : "after the work"}`}
      lead={
        <Link to={back} className="inline-flex items-center gap-1 font-medium text-ice hover:underline">
          <ArrowLeft aria-hidden className="size-4" />
          {card ? `${card.maker} ${card.model}` : "Back"}
        </Link>
      }
      action={
        <div className="flex flex-wrap gap-2">
          <Button
            look="danger"
            onClick={() =>
              void withUndo("Run removed", (removed) => remove({ runId: run.id, body: { removed } })).then(
                (done) => done && go(back),
              )
            }
          >
            Remove run
          </Button>
          <LinkButton to={run.side === "before" ? `/cards/${run.cardId}/decide` : back} look="main">
            {run.side === "before" ? "Next: decide" : "Next: the verdict"}
          </LinkButton>
        </div>
      }
    >
      <div className="grid grid-cols-[minmax(0,1fr)] gap-4 xl:grid-cols-[minmax(0,1fr)_27rem]">
        {over}
        <Sheet title="Figures">{figures}</Sheet>
      </div>
      {run.analysis.notices.length > 0 && (
        <div className="mt-4">
          <Note title={run.typed ? "Worth knowing" : "What was found while reading"}>
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
      <ConditionsSheet run={run} form={form} />
      {children}
      <ConflictDialog what="run" {...form.conflict} />
    </Page>
  );
}

interface PartProps {
  run: Run;
  form: RunForm;
}

/** The lines, and the steady window that can be set by hand. */
function OverTime({ run, steady, form }: PartProps & { steady: RunWindow }) {
  // Where nothing came to rest the last minutes are shown: to be drawn elsewhere by hand.
  const isSteady = run.analysis.steady.reached || steady.dragged !== null;
  return (
    <Sheet title="Over time">
      {steady.problem && (
        <Note kind="fault" title={steady.problem.what}>
          {steady.problem.remedy}
        </Note>
      )}
      {steady.session && steady.view ? (
        <RunChart
          session={steady.session}
          view={steady.view}
          phases={run.analysis.phases}
          window={steady.shown}
          onWindow={steady.drag}
        />
      ) : (
        !steady.problem && <Waiting what="the samples" />
      )}
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <span>
          <Term of="settled">
            <span className="font-semibold">
              {steady.shown
                ? `${isSteady ? "Steady window" : "Not steady yet,"} ${span(steady.shown.fromS)} to ${span(steady.shown.toS)} min`
                : "No steady window"}
              {run.analysis.steady.byHand && !steady.dragged ? ", set by hand" : ""}
            </span>
          </Term>
          <span className="block text-sm text-soft">
            {steady.shown && isSteady
              ? "All figures are means over it: nothing moves there any more but noise."
              : "Nothing came to rest: figures are where it would settle."}
          </span>
        </span>
        {steady.dragged && (
          <>
            <Button look="main" disabled={form.busy} onClick={() => void form.save({ window: steady.dragged })}>
              Keep this window
            </Button>
            <Button onClick={steady.letGo}>Back to the kept one</Button>
          </>
        )}
        {!steady.dragged && run.window && (
          <Button disabled={form.busy} onClick={() => void form.save({ window: null })}>
            Find it automatically
          </Button>
        )}
      </div>
    </Sheet>
  );
}

function ConditionsSheet({ run, form }: PartProps) {
  return (
    <Sheet title="Conditions" className="mt-4">
      <Conditions
        value={form.typed}
        onChange={form.type}
        errors={form.errors}
        hasRoomColumn={run.mapping.some((one) => one.role === "ambient")}
      />
      <div className="mt-3">
        <FaultNote fault={form.fault} />
      </div>
      <div className="mt-3 flex items-center justify-end gap-3">
        {form.dirty && <span className="text-sm text-soft">Not saved yet</span>}
        <Button look="main" disabled={!form.dirty || form.busy} onClick={() => void form.save()}>
          Save and compute anew
        </Button>
      </div>
    </Sheet>
  );
}
