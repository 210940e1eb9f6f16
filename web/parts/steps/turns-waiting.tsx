import type { ReactNode } from "react";
import { STEP } from "#core/handwork/index.ts";
import { Button } from "../../ui/button.tsx";
import { Note } from "../../ui/note.tsx";
import type { Marks } from "./use-marks.ts";
import { BY_CROSS, type Turns } from "./use-turns.ts";

/** What is to be waited for before a screw is turned: the turns, unless hands go by the cross; null where nothing is. */
export function turnsWaiting({ turns, kept, progress }: Turns, mark: Marks["mark"]): ReactNode | null {
  if (kept || turns || progress === null) return null;
  return (
    <Note title={`Working out how far to turn each screw: ${Math.round(100 * progress)} %`}>
      <Button className="mt-2" onClick={() => mark({ stepId: STEP.plan, what: "value", value: BY_CROSS })}>
        Don’t wait: by the cross, a little each
      </Button>
    </Note>
  );
}

/** Why there are no turns, beside the screws that go by the cross instead. */
export function TurnsProblem({ turning: { problem, kept, turns } }: { turning: Turns }) {
  if (!problem || kept || turns) return null;
  return (
    <Note kind="caution" title={`Turns can’t be worked out: ${problem.what}`}>
      {problem.remedy} Until then: crosswise, a little each.
    </Note>
  );
}
