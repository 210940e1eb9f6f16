import type { HandTime } from "#core/handwork/index.ts";
import { Button } from "../../ui/button.tsx";
import { clock } from "../../ui/format.ts";
import { Note } from "../../ui/note.tsx";
import type { Marks } from "./use-marks.ts";

/** A gap of over ten minutes between two steps: was it work? Asked once, the oldest first. */
export function PauseQuestion({ time, mark }: { time: HandTime; mark: Marks["mark"] }) {
  const pause = time.pauses.find(({ worked }) => worked === null);
  if (!pause) return null;
  const say = (value: string): void => mark({ stepId: pause.fromAt, what: "pause", value });
  return (
    <Note title={`From ${clock(pause.fromAt)} to ${clock(pause.toAt)} no step was marked: were hands on it?`}>
      <span className="mt-1 flex flex-wrap gap-2">
        <Button onClick={() => say("worked")}>Yes, count {Math.round(pause.minutes)} min</Button>
        <Button onClick={() => say("away")}>No, it lay there</Button>
      </span>
    </Note>
  );
}
