import type { ReactNode } from "react";
import { useNavigate } from "react-router";
import { currentStep, type HandStep } from "#core/handwork/index.ts";
import { Button } from "../../ui/button.tsx";
import { Sheet } from "../../ui/page.tsx";
import type { Marks } from "./use-marks.ts";

/** The address of a station whose steps are open. */
const STEPS_OPEN = "?do=steps";

/** How far a station is, what is next, and the way into its steps. */
export function StepsSheet({
  steps,
  marks,
  ended,
  action,
  mayBegin = true,
  children,
}: {
  steps: readonly HandStep[];
  marks: Marks;
  /** What it is once all steps are done. */
  ended: string;
  action?: ReactNode;
  mayBegin?: boolean;
  children: ReactNode;
}) {
  const go = useNavigate();
  const next = currentStep(steps, marks.folded);
  const isBegun = marks.marks.length > 0;
  const at = next ? steps.indexOf(next) : steps.length;
  return (
    <Sheet
      title={next ? (isBegun ? `${at} of ${steps.length} steps done` : `${steps.length} steps`) : ended}
      action={action}
    >
      {next && isBegun && <p className="mb-3 text-xl font-semibold">Next: {next.text}</p>}
      <Button
        look={next ? "main" : "plain"}
        className={next ? "min-h-16 w-full text-xl sm:w-auto sm:px-10" : ""}
        disabled={!mayBegin}
        onClick={() => void go(STEPS_OPEN)}
      >
        {next ? (isBegun ? "Go on" : "Begin") : "Look at the steps"}
      </Button>
      <div className="mt-4 empty:hidden">{children}</div>
    </Sheet>
  );
}
