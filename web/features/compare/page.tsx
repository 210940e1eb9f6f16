import { ArrowLeftRight, FileUp } from "lucide-react";
import { useState } from "react";
import { type Run, USUAL_LIMITS, USUAL_SETTINGS } from "#contract";
import { comparePairs } from "#core/service/index.ts";
import { api } from "../../app/api.ts";
import { useAppSelector } from "../../app/store.ts";
import { ComparisonSheet } from "../../parts/run/comparison.tsx";
import { Button } from "../../ui/button.tsx";
import { numberOrNull, TextField } from "../../ui/field.tsx";
import { FileDrop } from "../../ui/file-drop.tsx";
import { Page } from "../../ui/page.tsx";
import { AroundBoth, inletOf, NOBODY_SAID, type TypedAround } from "./around.tsx";
import { asRun, inputOf } from "./as-run.ts";
import { inOrder } from "./in-order.ts";
import { KeepAsCard } from "./keep-as-card.tsx";
import { LogSide } from "./log-side.tsx";
import { TYPED_BOTH, TypeBoth } from "./type-both.tsx";
import { type ReadLog, useLog } from "./use-log.ts";

const NOTHING_SAID = { before: NOBODY_SAID, after: NOBODY_SAID };

/** Two logs, one answer: what the logs do not say is asked once, the verdict stands at once, and may be kept as a card. */
export function ComparePage() {
  const [files, setFiles] = useState<{ before: File | null; after: File | null }>({ before: null, after: null });
  const hasTyped = useAppSelector((state) => state.drafts[TYPED_BOTH] !== undefined);
  const [isTyping, setTyping] = useState(hasTyped);
  const add = (added: readonly File[]): void =>
    setFiles((old) => {
      const all = [...(old.before ? [old.before] : []), ...(old.after ? [old.after] : []), ...added].slice(-2);
      const [before = null, after = null] = old.before && !old.after ? [old.before, added[0] ?? null] : inOrder(all);
      return { before, after };
    });
  const [roomC, setRoomC] = useState("");
  const [roomAfterC, setRoomAfterC] = useState<string | null>(null);
  const [around, setAround] = useState(NOTHING_SAID);
  const before = useLog(files.before, numberOrNull(roomC));
  const after = useLog(files.after, numberOrNull(roomAfterC ?? roomC));
  const asks = (before.view && !before.hasRoomColumn) || (after.view && !after.hasRoomColumn);
  const { data: settings = USUAL_SETTINGS } = api.useSettingsQuery();
  const runs = {
    before: ofLog("before", files.before, before, around.before),
    after: ofLog("after", files.after, after, around.after),
  };
  const pair =
    runs.before && runs.after
      ? comparePairs([runs.before, runs.after], { ...settings, limits: USUAL_LIMITS, complaint: "" })[0]
      : undefined;
  return (
    <Page title="Compare two logs" lead="Before and after the work, of one card. Nothing is kept until you say so.">
      <div className="space-y-4">
        {!files.before && isTyping && <TypeBoth onClose={() => setTyping(false)} />}
        {!(files.before && files.after) && (
          <FileDrop anywhere multiple className="min-h-32 gap-1 border-2 p-5" onFiles={add}>
            <FileUp aria-hidden className="size-7 text-ice" />
            <span className="text-lg font-semibold">
              {files.before ? "Drop the log after the work" : "Drop both logs, before and after"}
            </span>
            <span className="text-sm text-soft">or choose files: delimited text, or one JSON object per line</span>
          </FileDrop>
        )}
        {!files.before && !isTyping && <Button onClick={() => setTyping(true)}>No logs? Type both from paper</Button>}
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
            <Button
              onClick={() => {
                setFiles({ before: files.after, after: files.before });
                setAround({ before: around.after, after: around.before });
              }}
            >
              <ArrowLeftRight aria-hidden className="size-5" />
              Swap before and after
            </Button>
            <Button
              onClick={() => {
                setFiles({ before: null, after: null });
                setAround(NOTHING_SAID);
              }}
            >
              Other logs
            </Button>
          </div>
        )}
        {runs.before && runs.after && (
          <AroundBoth
            value={around}
            analyses={{ before: runs.before.analysis, after: runs.after.analysis }}
            onChange={setAround}
          />
        )}
        {pair && runs.before && runs.after && (
          <ComparisonSheet pair={pair} before={runs.before} after={runs.after} limits={USUAL_LIMITS} isKept={false} />
        )}
        {pair && runs.before && runs.after && files.before && files.after && (
          <KeepAsCard
            before={{ log: files.before, run: inputOf(runs.before) }}
            after={{ log: files.after, run: inputOf(runs.after) }}
          />
        )}
      </div>
    </Page>
  );
}

/** A log that was read and judged as the run it would be kept as. */
function ofLog(
  side: Run["side"],
  file: File | null,
  { view, analysis, ambientC, mapping }: ReadLog,
  around: TypedAround,
): Run | null {
  if (!file || !view || !analysis) return null;
  return asRun(side, {
    ...around,
    inletC: inletOf(around, analysis).inletC,
    fileName: file.name,
    fileBytes: file.size,
    fanMode: analysis.fanDrive?.mode ?? "unknown",
    fanPct: analysis.fanDrive?.mode === "fixed" ? analysis.fanDrive.pct : null,
    ambientC,
    mapping,
    analysis,
  });
}
