import { ArrowLeftRight, FileUp } from "lucide-react";
import { useState } from "react";
import { useNavigate } from "react-router";
import { EMPTY_CARD, type Run, type RunInput, UNTOLD, USUAL_LIMITS, USUAL_SETTINGS } from "#contract";
import { comparePairs } from "#core/service/index.ts";
import { api } from "../../app/api.ts";
import { ComparisonSheet } from "../../parts/run/comparison.tsx";
import { Button } from "../../ui/button.tsx";
import { numberOrNull, TextField } from "../../ui/field.tsx";
import { FileDrop } from "../../ui/file-drop.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Sheet } from "../../ui/page.tsx";
import { inOrder } from "./in-order.ts";
import { LogSide } from "./log-side.tsx";
import { type ReadLog, useLog } from "./use-log.ts";

/** Two logs, one answer: what the logs do not say is asked once, the verdict stands at once, and may be kept as a card. */
export function ComparePage() {
  const [files, setFiles] = useState<{ before: File | null; after: File | null }>({ before: null, after: null });
  const add = (added: readonly File[]): void =>
    setFiles((old) => {
      const all = [...(old.before ? [old.before] : []), ...(old.after ? [old.after] : []), ...added].slice(-2);
      const [before = null, after = null] = old.before && !old.after ? [old.before, added[0] ?? null] : inOrder(all);
      return { before, after };
    });
  const [roomC, setRoomC] = useState("");
  const [roomAfterC, setRoomAfterC] = useState<string | null>(null);
  const before = useLog(files.before, numberOrNull(roomC));
  const after = useLog(files.after, numberOrNull(roomAfterC ?? roomC));
  const asks = (before.view && !before.hasRoomColumn) || (after.view && !after.hasRoomColumn);
  const { data: settings = USUAL_SETTINGS } = api.useSettingsQuery();
  const runs = {
    before: asRun("before", files.before, before),
    after: asRun("after", files.after, after),
  };
  const pair =
    runs.before && runs.after
      ? comparePairs([runs.before, runs.after], { ...settings, limits: USUAL_LIMITS, complaint: "" })[0]
      : undefined;
  return (
    <Page title="Compare two logs" lead="Before and after the work, of one card. Nothing is kept until you say so.">
      <div className="space-y-4">
        {!(files.before && files.after) && (
          <FileDrop anywhere multiple className="min-h-32 gap-1 border-2 p-5" onFiles={add}>
            <FileUp aria-hidden className="size-7 text-ice" />
            <span className="text-lg font-semibold">
              {files.before ? "Drop the log after the work" : "Drop both logs, before and after"}
            </span>
            <span className="text-sm text-soft">or choose files: delimited text, or one JSON object per line</span>
          </FileDrop>
        )}
        {files.before && (
          <div className="grid gap-4 lg:grid-cols-2">
            <LogSide title="Before" file={files.before} log={before} />
            {files.after && <LogSide title="After" file={files.after} log={after} />}
          </div>
        )}
        {files.before && files.after && (
          <div className="flex flex-wrap items-end gap-3">
            {asks && (
              <TextField
                label={roomAfterC === null ? "Room air in both runs (°C)" : "Room air before (°C)"}
                inputMode="decimal"
                value={roomC}
                onChange={(event) => setRoomC(event.target.value)}
              />
            )}
            {asks && roomAfterC !== null && (
              <TextField
                label="Room air after (°C)"
                inputMode="decimal"
                value={roomAfterC}
                onChange={(event) => setRoomAfterC(event.target.value)}
              />
            )}
            {asks && roomAfterC === null && (
              <Button onClick={() => setRoomAfterC(roomC)}>The rooms were not alike</Button>
            )}
            <Button onClick={() => setFiles({ before: files.after, after: files.before })}>
              <ArrowLeftRight aria-hidden className="size-5" />
              Swap before and after
            </Button>
            <Button onClick={() => setFiles({ before: null, after: null })}>Other logs</Button>
          </div>
        )}
        {pair && runs.before && runs.after && (
          <ComparisonSheet pair={pair} before={runs.before} after={runs.after} limits={USUAL_LIMITS} isKept={false} />
        )}
        {pair && runs.before && runs.after && files.before && files.after && (
          <KeepAsCard
            before={{ file: files.before, run: inputOf(runs.before) }}
            after={{ file: files.after, run: inputOf(runs.after) }}
          />
        )}
      </div>
    </Page>
  );
}

/** A log that was read and judged as the run it would be kept as. */
function asRun(side: Run["side"], file: File | null, log: ReadLog): Run | null {
  if (!file || !log.view || !log.analysis) return null;
  const { fan } = log.view;
  return {
    ...UNTOLD,
    id: side,
    serviceId: "",
    cardId: "",
    side,
    name: "",
    fileName: file.name,
    fileBytes: file.size,
    attempt: 1,
    fanMode: fan?.mode ?? "unknown",
    fanPct: fan?.mode === "fixed" ? fan.pct : null,
    loadName: "",
    sidePanel: "unknown",
    clocks: "",
    powerLimitPct: null,
    picture: "works",
    ambientC: log.ambientC,
    ambientU95K: null,
    intervalS: null,
    mapping: log.mapping,
    window: null,
    analysis: log.analysis,
    createdAt: "",
    version: 0,
  };
}

function inputOf(run: Run): RunInput {
  const { id: _id, serviceId: _service, cardId: _card, fileName: _file, fileBytes: _bytes, ...rest } = run;
  const { analysis: _analysis, createdAt: _created, version: _version, ...input } = rest;
  return { ...input, attempt: null };
}

/** Keeps both runs under a new card: two words about it are enough. */
function KeepAsCard({ before, after }: Record<"before" | "after", { file: File; run: RunInput }>) {
  const go = useNavigate();
  const [maker, setMaker] = useState("");
  const [model, setModel] = useState("");
  const [kept, setKept] = useState<{ id: string; serviceId: string; before: boolean } | null>(null);
  const [takeIn, taking] = api.useTakeInMutation();
  const [addRun, adding] = api.useAddRunMutation();
  const keep = async (): Promise<void> => {
    // What was answered as kept is not sent again after a refusal.
    let card = kept;
    if (!card) {
      const made = await takeIn({ ...EMPTY_CARD, maker, model });
      if (!made.data) return;
      card = { id: made.data.id, serviceId: made.data.serviceId, before: false };
      setKept(card);
    }
    if (!card.before) {
      const first = await addRun({ serviceId: card.serviceId, ...before });
      if (!first.data) return;
      card = { ...card, before: true };
      setKept(card);
    }
    const second = await addRun({ serviceId: card.serviceId, ...after });
    if (second.data) await go(`/cards/${card.id}/prove`);
  };
  const busy = taking.isLoading || adding.isLoading;
  return (
    <Sheet title="Keep it as a card">
      <form
        noValidate
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <TextField label="Maker" value={maker} maxLength={80} onChange={(event) => setMaker(event.target.value)} />
        <TextField label="Model" value={model} maxLength={120} onChange={(event) => setModel(event.target.value)} />
        <Button look="main" type="submit" disabled={busy || maker.trim() === "" || model.trim() === ""}>
          {busy ? "Keeping both runs…" : "Keep card and runs"}
        </Button>
      </form>
      <FaultNote error={taking.error ?? adding.error} />
      {kept && !busy && adding.error && (
        <Note title="The card is kept">What is missing is sent when you press the button again.</Note>
      )}
    </Sheet>
  );
}
