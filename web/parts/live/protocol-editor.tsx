import { useState } from "react";
import { toast } from "sonner";
import type { OwnProtocol } from "#contract";
import type { ProtocolStep } from "#core";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { withUndo } from "../../app/with-undo.ts";
import { Button } from "../../ui/button.tsx";
import { numberOrNull, TextField } from "../../ui/field.tsx";
import { FaultNote } from "../../ui/note.tsx";

interface StepText {
  kind: ProtocolStep["kind"];
  label: string;
  fan: string;
  powerPct: string;
  minutes: string;
  early: boolean;
  matchDb: string;
  count: string;
  idleMinutes: string;
}

const textOf = (step: ProtocolStep): StepText => ({
  kind: step.kind,
  label: step.label,
  fan: String(step.fan),
  powerPct: step.kind === "soak" ? String(step.powerPct) : "100",
  minutes: String(step.kind === "soak" ? step.minutes : step.loadMinutes),
  early: step.kind === "soak" && step.early,
  matchDb: step.kind === "soak" && step.matchDb !== undefined ? String(step.matchDb) : "",
  count: step.kind === "cycles" ? String(step.count) : "6",
  idleMinutes: step.kind === "cycles" ? String(step.idleMinutes) : "4",
});

const number = (text: string): number => numberOrNull(text) ?? Number.NaN;

function stepOf(text: StepText): ProtocolStep {
  const fan = /^auto/i.test(text.fan.trim()) ? ("automatic" as const) : number(text.fan);
  if (text.kind === "cycles")
    return {
      kind: "cycles",
      label: text.label,
      fan,
      count: number(text.count),
      loadMinutes: number(text.minutes),
      idleMinutes: number(text.idleMinutes),
    };
  const matchDb = numberOrNull(text.matchDb);
  return {
    kind: "soak",
    label: text.label,
    fan,
    powerPct: number(text.powerPct),
    minutes: number(text.minutes),
    early: text.early,
    ...(matchDb === null ? {} : { matchDb }),
  };
}

/** Changes the steps of a protocol for this run, or keeps them as the workshop's own. */
export function ProtocolEditor({ start, onUse }: { start: OwnProtocol; onUse: (protocol: OwnProtocol) => void }) {
  const [name, setName] = useState(start.id ? start.name : `${start.name}, own`);
  const [steps, setSteps] = useState(() => start.steps.map(textOf));
  const [add, { error, isLoading }] = api.useAddProtocolMutation();
  const [remove] = api.useRemoveProtocolMutation();
  const fault = faultOf(error);
  const made = (): OwnProtocol => ({ id: null, name, about: start.about, steps: steps.map(stepOf) });
  const change = (index: number, more: Partial<StepText>): void => {
    setSteps((old) => old.map((step, at) => (at === index ? { ...step, ...more } : step)));
  };
  const keepProtocol = async (): Promise<void> => {
    const { id: _id, ...body } = made();
    const answer = await add(body);
    if ("error" in answer) return;
    toast("Protocol kept");
    onUse(made());
  };
  return (
    <div className="mt-3 space-y-3">
      <TextField label="Name of the protocol" value={name} onChange={(event) => setName(event.target.value)} />
      <ol className="space-y-3">
        {steps.map((step, index) => {
          const at = (field: string): string | undefined => fault?.errors[`steps.${index}.${field}`];
          return (
            <li
              // biome-ignore lint/suspicious/noArrayIndexKey: steps have no identity but their place
              key={index}
              className="rounded-lg border border-line p-3"
            >
              <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
                <TextField
                  label="Step"
                  value={step.label}
                  error={at("label")}
                  onChange={(event) => change(index, { label: event.target.value })}
                />
                <TextField
                  label="Fan (% or automatic)"
                  value={step.fan}
                  error={at("fan")}
                  onChange={(event) => change(index, { fan: event.target.value })}
                />
                <TextField
                  label="Minutes of load at most"
                  inputMode="decimal"
                  value={step.minutes}
                  error={at("minutes") ?? at("loadMinutes")}
                  onChange={(event) => change(index, { minutes: event.target.value })}
                />
                {step.kind === "soak" ? (
                  <TextField
                    label="Power limit (%)"
                    inputMode="decimal"
                    value={step.powerPct}
                    error={at("powerPct")}
                    onChange={(event) => change(index, { powerPct: event.target.value })}
                  />
                ) : (
                  <TextField
                    label="Cycles"
                    inputMode="numeric"
                    value={step.count}
                    error={at("count")}
                    onChange={(event) => change(index, { count: event.target.value })}
                  />
                )}
              </div>
              <div className="mt-2 flex flex-wrap items-center gap-3">
                {step.kind === "soak" && (
                  <label className="flex min-h-11 items-center gap-2">
                    <input
                      type="checkbox"
                      className="size-5"
                      checked={step.early}
                      onChange={(event) => change(index, { early: event.target.checked })}
                    />
                    Stop when the answer is known to ± 0.5 K
                  </label>
                )}
                <Button
                  look="quiet"
                  disabled={steps.length === 1}
                  onClick={() => setSteps((old) => old.filter((_, place) => place !== index))}
                >
                  Remove step {index + 1}
                </Button>
              </div>
            </li>
          );
        })}
      </ol>
      {fault && Object.keys(fault.errors).length === 0 && <FaultNote fault={fault} />}
      <div className="flex flex-wrap gap-2">
        <Button
          onClick={() =>
            setSteps((old) => [
              ...old,
              textOf(
                start.steps[0] ?? { kind: "soak", label: "Soak", fan: 62, powerPct: 100, minutes: 20, early: true },
              ),
            ])
          }
        >
          Add a step
        </Button>
        <Button onClick={() => onUse(made())}>Use for this run</Button>
        <Button disabled={isLoading} onClick={() => void keepProtocol()}>
          Keep as my own
        </Button>
        {start.id && (
          <Button
            look="danger"
            onClick={() => {
              const { id } = start;
              if (id) void withUndo("Protocol removed", (removed) => remove({ protocolId: id, body: { removed } }));
            }}
          >
            Remove this protocol
          </Button>
        )}
      </div>
    </div>
  );
}
