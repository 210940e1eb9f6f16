import * as Comlink from "comlink";
import { FileUp } from "lucide-react";
import { startTransition, useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { Mapping } from "#contract";
import type { ProblemDetail, Role } from "#core";
import type { FanDrive, LoadInLog } from "#core/soak/index.ts";
import { api } from "../../app/api.ts";
import { dropDraft, keepDraft } from "../../app/drafts.ts";
import { faultOf } from "../../app/fault.ts";
import { useKeptFiles } from "../../app/kept-files.ts";
import { useAppDispatch, useAppSelector } from "../../app/store.ts";
import { useElsewhere } from "../../app/use-elsewhere.ts";
import { Button } from "../../ui/button.tsx";
import { numberOrNull, TextField } from "../../ui/field.tsx";
import { FileDrop } from "../../ui/file-drop.tsx";
import { figure, span } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import type { CardChoice, RunView } from "../../workers/run-session.ts";
import { SAMPLES, type SampleId, sampleFile } from "../../workers/sample-logs.ts";
import { useRunSession } from "../../workers/use-run-session.ts";
import { Columns } from "./columns.tsx";
import { Conditions, type TypedConditions, typedFrom } from "./conditions.tsx";
import { toRunInput } from "./to-input.ts";
import { tooLarge } from "./too-large.ts";
import { TypeRun } from "./type-run.tsx";
import { cardWords, WhichCard } from "./which-card.tsx";

interface DropRunProps {
  serviceId: string;
  side: "before" | "after";
  /** Conditions of the last run, offered again. */
  like: Partial<TypedConditions>;
}

/** Drop a log, see what its columns are, say the conditions, keep it. Several files wait in line. */
export function DropRun({ serviceId, side, like }: DropRunProps) {
  const hasTyped = useAppSelector((state) => state.drafts[`typed run ${serviceId} ${side}`] !== undefined);
  const [queue, setQueue] = useKeptFiles(`${serviceId} ${side}`);
  const [isTyping, setTyping] = useState(hasTyped);
  const first = queue[0];
  const add = (files: readonly File[]): void => setQueue([...queue, ...files]);
  const addSample = async (id: SampleId): Promise<void> => add([await sampleFile(id)]);
  return (
    <div className="space-y-4">
      <FileDrop anywhere multiple className="min-h-28 gap-1 border-2 p-5" onFiles={add}>
        <FileUp aria-hidden className="size-7 text-ice" />
        <span className="text-lg font-semibold">
          {side === "before" ? "Drop the log of a baseline run" : "Drop the log of a run after the work"}
        </span>
        <span className="text-sm text-soft">or choose files: delimited text, or one JSON object per line</span>
      </FileDrop>
      {!first && isTyping && <TypeRun serviceId={serviceId} side={side} like={like} onClose={() => setTyping(false)} />}
      {!first && !isTyping && (
        <p className="flex flex-wrap items-center gap-2 text-sm text-soft">
          No log?
          <button
            type="button"
            className="min-h-9 rounded-md border border-edge bg-sheet px-3 text-ice hover:border-ice"
            onClick={() => setTyping(true)}
          >
            Type figures from paper
          </button>
          or try a sample:
          {SAMPLES.filter((sample) => sample.side === side).map((sample) => (
            <button
              key={sample.id}
              type="button"
              className="min-h-9 rounded-md border border-edge bg-sheet px-3 text-ice hover:border-ice"
              onClick={() => void addSample(sample.id)}
            >
              {sample.label}
            </button>
          ))}
        </p>
      )}
      {first && (
        <NewRun
          key={`${first.name} ${first.lastModified} ${queue.length}`}
          file={first}
          waiting={queue.length - 1}
          serviceId={serviceId}
          side={side}
          like={like}
          onDone={() => setQueue(queue.slice(1))}
        />
      )}
    </div>
  );
}

function NewRun({
  file,
  waiting,
  serviceId,
  side,
  like,
  onDone,
}: DropRunProps & { file: File; waiting: number; onDone: () => void }) {
  const session = useRunSession();
  const dispatch = useAppDispatch();
  const go = useNavigate();
  const draftKey = `run ${serviceId} ${side}`;
  const draft = useAppSelector((state) => state.drafts[draftKey]) as TypedConditions | undefined;
  const [share, setShare] = useState(0);
  const [view, setView] = useState<RunView | null>(null);
  const [problem, setProblem] = useState<ProblemDetail | null>(null);
  const [cards, setCards] = useState<CardChoice[]>([]);
  const [loads, setLoads] = useState<LoadInLog[]>([]);
  const [taken, setTaken] = useState<readonly number[]>([]);
  const [isJudged, setJudged] = useState(false);
  const [fan, setFan] = useState<FanDrive | null>(null);
  const [mapping, setMapping] = useState<Mapping>([]);
  const [interval, setInterval] = useState("");
  const [typed, setTyped] = useState<TypedConditions>(draft ?? { ...typedFrom({}), ...like, ambientC: "" });
  useElsewhere(draftKey, (value) => {
    setTyped(value as TypedConditions);
    dispatch(keepDraft({ form: draftKey, value }));
  });
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [findChoice] = api.useHeaderChoiceMutation();
  const [addRun, { error, isLoading }] = api.useAddRunMutation();
  const choice = useRef<Mapping>([]);
  const isFanChosen = useRef(false);

  const settle = async (map: Mapping, intervalS: number | null): Promise<void> => {
    if (!session) return;
    const answer = await session.limited((remote) =>
      remote.settle({
        map: map.map(({ header, role }) => [role, header] as const),
        intervalS: intervalS ?? undefined,
      }),
    );
    if ("ok" in answer) {
      setJudged(false);
      startTransition(() => setView(answer.ok));
      setProblem(null);
      const judged = await session.limited((remote) => remote.analyse({}));
      const found = "ok" in judged ? (judged.ok.loads ?? []) : [];
      const drive = ("ok" in judged && judged.ok.fanDrive) || null;
      setFan(drive);
      // What the log says comes before how the last run was driven, not before what a person chose for this one.
      if (drive && !isFanChosen.current)
        setTyped((old) => ({
          ...old,
          fanMode: drive.mode,
          fanPct: drive.mode === "fixed" ? String(drive.pct ?? old.fanPct) : "",
        }));
      setLoads(found);
      setTaken(found.flatMap((load) => (load.chosen ? [load.index] : [])));
      setJudged(true);
    } else {
      setProblem(answer.problem);
      if (answer.problem.code === "which-card") await lookForCards();
    }
  };
  const lookForCards = async (): Promise<void> => {
    const found = await session?.limited((remote) => remote.cards());
    if (found && "ok" in found) setCards(found.ok);
  };
  const chooseCard = (map: Mapping): void => {
    setCards([]);
    setMapping(map);
    void settle(map, null);
  };

  useEffect(() => {
    if (!session) return;
    const refused = tooLarge(file);
    if (refused) {
      setProblem(refused);
      return;
    }
    void (async () => {
      const opened = await session.limited((remote) =>
        remote.openFile(
          file,
          Comlink.proxy((done: number) => setShare(done)),
        ),
      );
      if ("problem" in opened) {
        setProblem(opened.problem);
        return;
      }
      const known = await findChoice({ headers: opened.ok.headers });
      choice.current = known.data?.mapping ?? [];
      setMapping(choice.current);
      await settle(choice.current, null);
    })();
    // A file is read once per session, whatever else changes.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [session, file]);

  const setRole = (header: string, role: Role | null): void => {
    const next = [
      ...(view?.columns ?? [])
        .filter(
          (column) =>
            column.header !== header &&
            (role === null || column.role !== role || role === "fanRpm" || role === "probe"),
        )
        .map((column) => ({ header: column.header, role: column.role })),
      { header, role },
    ];
    setMapping(next);
    void settle(next, numberOrNull(interval));
  };
  const keepRun = async (): Promise<void> => {
    // What is chosen by itself stays so, also when the figures are computed anew.
    const wanted = loads.length > 1 ? taken : [null];
    let lastId = "";
    for (const load of wanted) {
      const name = wanted.length > 1 ? `${typed.name || file.name}, load ${load}` : typed.name;
      const made = toRunInput(
        { ...typed, name },
        { side, mapping, intervalS: numberOrNull(interval), window: null, load, attempt: null, leftOut: "" },
      );
      if ("errors" in made) {
        setErrors(made.errors);
        return;
      }
      setErrors({});
      const answer = await addRun({ serviceId, form: { log: file, run: made.input } });
      if (!answer.data) return;
      lastId = answer.data.id;
      // What is kept is not asked for again when a later one is refused.
      setTaken((old) => old.filter((one) => one !== load));
    }
    dispatch(dropDraft(draftKey));
    onDone();
    if (waiting === 0) await go(`/runs/${lastId}`);
  };
  const hasRoomColumn = view?.columns.some((column) => column.role === "ambient") ?? false;
  const fault = faultOf(error);
  return (
    <Sheet
      title={file.name}
      action={waiting > 0 ? <span className="text-sm text-soft">{waiting} more waiting</span> : undefined}
    >
      {!view && !problem && (
        <p role="status">
          Reading: {Math.round(share * 100)} %
          <progress className="ml-3 align-middle" value={share} max={1} aria-label="Reading the log" />
        </p>
      )}
      {problem && (
        <div className="space-y-3">
          <Note kind={problem.code === "which-card" ? "caution" : "fault"} title={problem.what} live>
            {HERE[problem.code] ?? problem.remedy} Nothing else was changed.
          </Note>
          {problem.code === "no-time" && (
            <div className="flex items-end gap-2">
              <TextField
                label="Seconds between rows"
                inputMode="decimal"
                value={interval}
                onChange={(event) => setInterval(event.target.value)}
              />
              <Button onClick={() => void settle(mapping, numberOrNull(interval))}>Read again</Button>
            </div>
          )}
          <WhichCard cards={cards} onChoose={chooseCard} />
          <Button onClick={onDone}>Discard this file</Button>
        </div>
      )}
      {view && !problem && (
        <form
          noValidate
          className="space-y-5"
          onSubmit={(event) => {
            event.preventDefault();
            void keepRun();
          }}
        >
          {view.cards.length > 1 && (
            <div className="space-y-2">
              <Note title={`This log holds ${view.cards.length} cards`}>
                Taken: {view.cards.flatMap((card) => (card.chosen ? [cardWords(card)] : [])).join(", ")}. Columns of the
                others are left out.
              </Note>
              {cards.length > 0 ? (
                <WhichCard cards={cards} onChoose={chooseCard} />
              ) : (
                <Button onClick={() => void lookForCards()}>Take another card</Button>
              )}
            </div>
          )}
          <p>
            {view.rows.toLocaleString("en")} rows over {span(view.durationS)} minutes.
          </p>
          <Loads loads={loads} taken={taken} onTake={setTaken} />
          {!hasRoomColumn && typed.ambientC === "" && (
            <Note kind="caution" title="Room air is missing">
              The run can be kept, but its rises can’t be computed and it can’t be compared. Type the room air below, or
              add it later.
            </Note>
          )}
          <Conditions
            value={typed}
            onChange={(value) => {
              if (value.fanMode !== typed.fanMode || value.fanPct !== typed.fanPct) isFanChosen.current = true;
              setTyped(value);
              dispatch(keepDraft({ form: draftKey, value }));
            }}
            errors={{ ...errors, ...fault?.errors }}
            hasRoomColumn={hasRoomColumn}
          />
          {fan && typed.fanMode !== "unknown" && typed.fanMode !== fan.mode && (
            <Note kind="caution" title={`By its log the fan was ${fan.mode}`}>
              {fan.mode === "automatic"
                ? "It moves with the temperature under load. Choose Automatic, unless it was set anew by hand on the way."
                : "It stands still under load while the card warms up. Choose Fixed, unless its curve is flat there."}
            </Note>
          )}
          <Columns folded columns={view.columns} onRole={setRole} />
          <FaultNote fault={fault} />
          <div className="sticky bottom-0 -mx-2 flex flex-wrap justify-end gap-2 border-t border-line bg-sheet px-2 py-2">
            <Button onClick={onDone}>Discard this file</Button>
            <Button
              look="main"
              type="submit"
              disabled={isLoading || !isJudged || (loads.length > 1 && taken.length === 0)}
            >
              {isLoading ? "Keeping the run…" : taken.length > 1 ? `Keep ${taken.length} runs` : "Keep this run"}
            </Button>
          </div>
        </form>
      )}
    </Sheet>
  );
}

/** What to do about it on this page, where that is something else than on the command line. */
const HERE: Partial<Record<string, string>> = {
  "no-time": "Type the seconds between two rows, or choose the time column.",
  "which-card": "Choose the one this service is about.",
};

/** Several loads in one log: which of them become runs. */
function Loads({
  loads,
  taken,
  onTake,
}: {
  loads: readonly LoadInLog[];
  taken: readonly number[];
  onTake: (taken: readonly number[]) => void;
}) {
  if (loads.length < 2) return null;
  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold">This log holds {loads.length} loads. Each that you tick becomes a run.</legend>
      {loads.map(({ index, fromS, toS, meanPowerW, steady, chosen }) => (
        <label key={index} className="flex min-h-9 flex-wrap items-center gap-x-3">
          <input
            type="checkbox"
            className="size-5"
            checked={taken.includes(index)}
            onChange={(event) =>
              onTake(
                event.target.checked ? [...taken, index].sort((a, b) => a - b) : taken.filter((one) => one !== index),
              )
            }
          />
          <span className="font-semibold">
            {span(fromS)} to {span(toS)} min
          </span>
          <span>
            {meanPowerW === null ? "" : `${figure(meanPowerW, 0)} W, `}
            {steady ? "came to rest" : "had not settled"}
            {chosen ? (steady ? ": the longest that came to rest" : ": the longest") : ""}
          </span>
        </label>
      ))}
    </fieldset>
  );
}
