import * as Comlink from "comlink";
import { useState } from "react";
import type { ProblemDetail } from "#core";
import type { PadChoice } from "#core/padplan/index.ts";
import { Button } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { BROKEN, type usePadSession } from "../../workers/use-pad-session.ts";
import { Softnesses } from "./softnesses.tsx";
import type { PadStepProps } from "./step-props.ts";

/** Thickness and softness for every place, chosen in the worker, with the chances and what to measure to be surer. */
export function ChoosePanel({
  plan,
  choice,
  remote,
  input,
  onChoice,
}: {
  plan: PadStepProps["plan"];
  choice: PadChoice | null;
  remote: ReturnType<typeof usePadSession>;
  /** Null until map and stores are there. */
  input: Parameters<NonNullable<typeof remote>["choose"]>[0] | null;
  onChoice: (choice: PadChoice) => void;
}) {
  const [share, setShare] = useState<number | null>(null);
  const [problem, setProblem] = useState<ProblemDetail | null>(null);
  const choose = async (): Promise<void> => {
    if (!remote || !input) return;
    setShare(0);
    setProblem(null);
    const progress = Comlink.proxy((done: number) => setShare(done));
    const answer = await remote.choose(input, progress).catch(() => ({ problem: BROKEN }));
    setShare(null);
    if ("problem" in answer) setProblem(answer.problem);
    else onChoice(answer.ok);
  };
  return (
    <Sheet title="Choose for me">
      <Softnesses />
      <Choice
        label="First of all"
        value={plan.plan.prefer}
        options={[
          { value: "fewest", label: "Fewest different sheets" },
          { value: "contact", label: "Best contact" },
        ]}
        onChange={(prefer) => plan.change({ prefer })}
      />
      <div className="mt-3">
        <Button look="main" disabled={share !== null || !remote || !input} onClick={() => void choose()}>
          {share === null ? "Choose thickness and softness" : `Choosing… ${Math.round(100 * share)} %`}
        </Button>
      </div>
      {problem && (
        <div className="mt-2">
          <Note kind="fault" live title={problem.what}>
            {problem.remedy}
          </Note>
        </div>
      )}
      {choice && (
        <div className="mt-3" aria-live="polite">
          <p className="font-semibold">
            {choice.thicknesses} {choice.thicknesses === 1 ? "sheet" : "different sheets"}; the die seats in{" "}
            {(100 * choice.seatProbability).toFixed(0)} % of cases
          </p>
          <p className="text-sm text-soft">
            and every pad touches as well in {(100 * choice.allGoodProbability).toFixed(0)} %, given the measured gaps
            and how hands tighten screws (60 drawn cases).
          </p>
          <LeastSure choice={choice} />
          {choice.pads.some((pad) => pad.pick === null) && (
            <Note
              kind="caution"
              title={`Nothing fits ${choice.pads
                .filter((pad) => !pad.pick)
                .map((pad) => pad.id)
                .join(", ")}`}
            >
              {choice.pads.find((pad) => !pad.pick)?.why}
            </Note>
          )}
        </div>
      )}
    </Sheet>
  );
}

const LEAST_SHOWN = 3;
const HARDLY_SURE = 0.97;

/** Where another reading, or a thicker pad, would help most. */
function LeastSure({ choice }: { choice: PadChoice }) {
  const weak = choice.pads
    .flatMap(({ id, touchProbability }) =>
      touchProbability !== null && touchProbability < HARDLY_SURE ? [{ id, touchProbability }] : [],
    )
    .sort((a, b) => a.touchProbability - b.touchProbability);
  if (weak.length === 0) return null;
  return (
    <p className="my-2 text-sm">
      Least sure to touch:{" "}
      <strong>
        {weak
          .slice(0, LEAST_SHOWN)
          .map(({ id, touchProbability }) => `${id} ${(100 * touchProbability).toFixed(0)} %`)
          .join(", ")}
      </strong>
      {weak.length > LEAST_SHOWN && ` and ${weak.length - LEAST_SHOWN} more`}. Measure there to be surer.
    </p>
  );
}
