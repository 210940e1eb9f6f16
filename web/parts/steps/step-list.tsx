import { type Folded, type HandStep, isDone } from "#core/handwork/index.ts";

/** What can be ticked without an answer of its own. */
const TICKED: ReadonlySet<HandStep["kind"]> = new Set(["check", "screw", "turn", "plug", "lift"]);

/** All steps at once, for who knows the work: several are ticked in one go, in any order. */
export function StepList({
  steps,
  folded,
  onTick,
}: {
  steps: readonly HandStep[];
  folded: Folded;
  onTick: (step: HandStep, done: boolean) => void;
}) {
  const groups = [...new Set(steps.map(({ group }) => group))];
  return (
    <div className="grid items-start gap-x-8 gap-y-4 lg:grid-cols-2">
      {groups.map((group) => (
        <section key={group} aria-label={group}>
          <h3 className="mb-1 text-lg font-semibold">{group}</h3>
          <ul className="divide-y divide-line">
            {steps
              .filter((step) => step.group === group)
              .map((step) => {
                const state = folded.get(step.id);
                return (
                  <li key={step.id}>
                    <label className="flex min-h-12 items-center gap-3 py-1">
                      <input
                        type="checkbox"
                        className="size-6 shrink-0 accent-[var(--ice)]"
                        checked={isDone(folded, step.id)}
                        disabled={!TICKED.has(step.kind) && !isDone(folded, step.id)}
                        onChange={(event) => onTick(step, event.target.checked)}
                      />
                      <span className="min-w-0">
                        <span className={isDone(folded, step.id) ? "text-soft" : ""}>{step.text}</span>
                        {state?.value && <span className="text-soft"> · {answerOf(step, state.value)}</span>}
                        {state?.odd && (
                          <span className="block text-sm text-amber">
                            {state.odd.kind}
                            {state.odd.text && `: ${state.odd.text}`}
                          </span>
                        )}
                        {!TICKED.has(step.kind) && !isDone(folded, step.id) && (
                          <span className="block text-sm text-soft">Needs an answer: one at a time.</span>
                        )}
                      </span>
                    </label>
                  </li>
                );
              })}
          </ul>
        </section>
      ))}
    </div>
  );
}

const answerOf = (step: HandStep, value: string): string =>
  step.kind === "imprint"
    ? "noted"
    : (step.choices.find((one) => one.value === value)?.label.toLowerCase() ??
      [value, step.figure?.unit].filter(Boolean).join(" "));
