import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { POWER_ON_ITEMS, type PowerOnInput, SET_ASIDE_REASONS, type ServiceView } from "#contract";
import { Button } from "../../ui/button.tsx";
import { Caution } from "../../ui/caution.tsx";
import { Choice } from "../../ui/choice.tsx";
import { SelectField, TextField } from "../../ui/field.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { usePowerOn } from "./use-power-on.ts";

type Item = (typeof POWER_ON_ITEMS)[number];

/** What to try, in order, each ticked off; it comes into view when the answer is given. */
function RuleOut({
  item,
  tried,
  onTried,
  isNew,
}: {
  item: Item;
  tried: readonly number[];
  onTried: (tried: number[]) => void;
  isNew: boolean;
}) {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    if (isNew) heading.current?.focus();
  }, [isNew]);
  return (
    <div className="rounded-lg border border-amber bg-amber-wash p-3">
      <h3 ref={heading} tabIndex={-1} className="font-semibold outline-none">
        {item.fails}. Rule out, in this order: {tried.length} of {item.ruleOut.length} done
      </h3>
      <ol>
        {item.ruleOut.map((one, k) => (
          <li key={one}>
            <label className="flex min-h-9 items-center gap-3">
              <input
                type="checkbox"
                className="size-5"
                checked={tried.includes(k)}
                onChange={(event) =>
                  onTried(event.target.checked ? [...tried, k].sort((a, b) => a - b) : tried.filter((at) => at !== k))
                }
              />
              {k + 1}. {one}
            </label>
          </li>
        ))}
      </ol>
    </div>
  );
}

/** First power-on, before anything is opened: every answer is kept at once; what fails is set aside, never silently opened. */
export function PowerOn({ service }: { service: ServiceView }) {
  const { value: held, change: save, fault, unsaved } = usePowerOn(service);
  const answerOf = (id: string) => held.answers.find((one) => one.id === id);
  const failed = POWER_ON_ITEMS.filter((item) => answerOf(item.id)?.answer === "no");
  const [justFailed, setJustFailed] = useState<string | null>(null);
  const done = held.answers.every((one) => one.answer !== "open");
  return (
    <Sheet
      title="First power-on"
      action={
        <span role="status" className="text-sm text-soft">
          {unsaved ? "not saved yet" : service.powerOn && "saved"}
        </span>
      }
    >
      <Caution of="switchOn" />
      <ol className="mt-3 divide-y divide-line">
        {POWER_ON_ITEMS.map((item) => {
          const found = answerOf(item.id) ?? { id: item.id, answer: "open" as const, note: "", tried: [] };
          const withAnswer = (more: Partial<typeof found>): PowerOnInput => ({
            ...held,
            answers: POWER_ON_ITEMS.map((one) => {
              const old = answerOf(one.id) ?? { id: one.id, answer: "open" as const, note: "", tried: [] };
              return one.id === item.id ? { ...old, ...more } : old;
            }),
          });
          return (
            <li key={item.id} className="grid gap-2 py-3 md:grid-cols-[minmax(0,1fr)_auto] md:items-start">
              <div>
                <p className="font-semibold">{item.label}</p>
                <p className="text-soft">{item.ask}</p>
              </div>
              <Choice
                label={item.label}
                hideLabel
                value={found.answer}
                options={[
                  { value: "yes", label: "Yes" },
                  { value: "no", label: "No" },
                  { value: "open", label: "Not yet" },
                ]}
                onChange={(answer) => {
                  setJustFailed(answer === "no" ? item.id : null);
                  save(withAnswer({ answer }));
                }}
              />
              {(found.answer === "no" || item.id === "fans") && (
                <div className="md:col-span-2">
                  {found.answer === "no" ? (
                    <RuleOut
                      item={item}
                      tried={found.tried}
                      onTried={(tried) => save(withAnswer({ tried }))}
                      isNew={item.id === justFailed}
                    />
                  ) : (
                    <>
                      <p className="text-sm font-medium">Before you call a fan dead:</p>
                      <ol className="list-decimal pl-5 text-sm">
                        {item.ruleOut.map((one) => (
                          <li key={one}>{one}</li>
                        ))}
                      </ol>
                    </>
                  )}
                  {found.answer === "no" && (
                    <TextField
                      label={`What was seen: ${item.label.toLowerCase()}`}
                      className="mt-2"
                      value={found.note}
                      onChange={(event) => save(withAnswer({ note: event.target.value }))}
                    />
                  )}
                </div>
              )}
            </li>
          );
        })}
      </ol>
      <FaultNote fault={fault} />
      {(failed.length > 0 || held.setAside) && (
        <div className="mt-3 space-y-3 rounded-lg border-l-4 border-amber bg-amber-wash p-4">
          <p className="font-semibold">
            {held.setAside
              ? `Set aside: ${held.setAside}`
              : `Not passed: ${failed.map((one) => one.label.toLowerCase()).join(", ")}. A card that fails is set aside, not opened.`}
          </p>
          <div className="flex flex-wrap items-end gap-3">
            <SelectField
              label="Set aside because of"
              value={held.setAside ?? ""}
              onChange={(event) =>
                save({ ...held, setAside: SET_ASIDE_REASONS.find((one) => one === event.target.value) ?? null })
              }
            >
              <option value="">Not set aside</option>
              {SET_ASIDE_REASONS.map((reason) => (
                <option key={reason}>{reason}</option>
              ))}
            </SelectField>
            {held.setAside && (
              <Button
                onClick={() => {
                  save({ ...held, setAside: null });
                  toast("Back on the bench");
                }}
              >
                Take it back
              </Button>
            )}
          </div>
        </div>
      )}
      {done && failed.length === 0 && <Note title="It works: go on to the baseline" />}
    </Sheet>
  );
}
