import { GLUE } from "#core/handwork/index.ts";
import type { Clock } from "#core/service/index.ts";
import { useNow } from "../../app/use-now.ts";
import { Button } from "../../ui/button.tsx";
import { Caution } from "../../ui/caution.tsx";
import { ClockLine } from "../../ui/clock.tsx";
import { Sheet } from "../../ui/page.tsx";
import type { Marks } from "./use-marks.ts";

const EVERY_MS = 15_000;

/** Heatsinks that are glued on: tried first, then a clock until it is set, or an acceptance that goes on record. */
export function Glue({ marks, clock }: { marks: Marks; clock: Clock | undefined }) {
  const now = useNow(EVERY_MS);
  const isSet = marks.folded.get(GLUE.set)?.done ?? false;
  const end = (value: string): void =>
    marks.mark({ stepId: GLUE.set, what: "value", value }, { stepId: GLUE.set, what: "done" });
  return (
    <Sheet title="Heatsinks glued on">
      {clock ? (
        <div className="space-y-2">
          <ClockLine clock={clock} />
          {now >= (clock.untilMs ?? 0) ? (
            <Button onClick={() => end("set")}>It is set</Button>
          ) : (
            <Button look="danger" onClick={() => end("accept")}>
              I accept: it is closed before it has set
            </Button>
          )}
        </div>
      ) : (
        <div className="space-y-2">
          {isSet && <p className="text-soft">It is set, or was gone on with.</p>}
          <Caution of="adhesive" />
          <Button onClick={() => marks.mark({ stepId: GLUE.set, what: "undone" }, { stepId: GLUE.on, what: "done" })}>
            Tried, and glued on now
          </Button>
        </div>
      )}
    </Sheet>
  );
}
