import { FileUp } from "lucide-react";
import { useState } from "react";
import { useKeptFiles } from "../../app/kept-files.ts";
import { useAppSelector } from "../../app/store.ts";
import { FileDrop } from "../../ui/file-drop.tsx";
import { SAMPLES, type SampleId, sampleFile } from "../../workers/sample-logs.ts";
import { NewRun } from "./new-run.tsx";
import { TypeRun } from "./type-run.tsx";
import type { NewRunProps } from "./use-new-run.ts";

/** Drop a log, see what its columns are, say the conditions, keep it. Several files wait in line. */
export function DropRun({ serviceId, side, like }: Pick<NewRunProps, "serviceId" | "side" | "like">) {
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
