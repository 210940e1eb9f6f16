import type { ServiceView } from "#contract";
import { valueOf } from "#core/handwork/index.ts";
import { useMarks } from "../../parts/steps/use-marks.ts";
import { Caution } from "../../ui/caution.tsx";
import { Choice } from "../../ui/choice.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";

/** In the order in which they are seen; what to do where one fails (common practice). */
const CHECKS = [
  {
    id: "power:light",
    label: "A light comes on",
    fails: "No light: supply’s own switch, power connectors pushed home, then the slot.",
  },
  {
    id: "power:fans",
    label: "All fans start; a second of full speed is normal",
    fails:
      "Switch off at once. A fan stands still: its plug was forgotten or a cable touches a blade. Open it again under Strip.",
  },
  {
    id: "power:picture",
    label: "A picture",
    fails:
      "Switch off. Cable and input, the connectors, another slot; then look for a loose screw, and at the die’s contact.",
  },
] as const;

/** The first power-on after a card was closed by steps: before any run. */
export function PowerUp({ service }: { service: ServiceView }) {
  const attempt = service.attempts.length;
  const { folded, mark, of, fault, unsaved, ready } = useMarks(service.id, "prove", attempt, false);
  const isRun = service.runs.some((run) => run.side === "after" && run.attempt === attempt);
  const answers = CHECKS.map(({ id }) => valueOf(folded, id));
  const isDone = answers.every((answer) => answer === "yes");
  if (!ready || of("closeUp", attempt).length === 0 || (isRun && isDone)) return null;
  return (
    <Sheet
      title="First power-on after the work"
      action={
        <span role="status" className="text-sm text-soft">
          {unsaved > 0 ? "not saved yet" : answers.some(Boolean) && "saved"}
        </span>
      }
    >
      {!isDone && <Caution of="switchOnAgain" />}
      <ol className="mt-2 divide-y divide-line">
        {CHECKS.map(({ id, label, fails }) => (
          <li key={id} className="flex flex-wrap items-center justify-between gap-2 py-2">
            <span className="text-lg font-semibold">{label}</span>
            <Choice
              label={label}
              hideLabel
              value={valueOf(folded, id) ?? "open"}
              options={[
                { value: "yes", label: "Yes" },
                { value: "no", label: "No" },
                { value: "open", label: "Not yet" },
              ]}
              onChange={(value) => mark({ stepId: id, what: "value", value: value === "open" ? "" : value })}
            />
            {valueOf(folded, id) === "no" && (
              <div className="w-full">
                <Note kind="caution" title={fails} />
              </div>
            )}
          </li>
        ))}
      </ol>
      <FaultNote fault={fault} />
      {isDone && <Note title="It works: now the same runs as before the work" />}
    </Sheet>
  );
}
