import { useState } from "react";
import * as v from "valibot";
import { FAN_KEPT, PaperInput, USE_KINDS } from "#contract";
import { paperChange } from "#core/findings/index.ts";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { withUndo } from "../../app/with-undo.ts";
import { Button } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { numberOrNull, SelectField, TextField } from "../../ui/field.tsx";
import { figure, signed, widthOf } from "../../ui/format.ts";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";

const WORKS = ["repasted", "paste and pads", "pads", "cleaned", "fans", "another cooler"];
const NUMBERS = ["beforeC", "afterC", "roomBeforeC", "roomAfterC", "ageYears"] as const;
type Typed = Record<(typeof NUMBERS)[number], string>;
const UNTYPED: Typed = { beforeC: "", afterC: "", roomBeforeC: "", roomAfterC: "", ageYears: "" };

/** “Before 79, after 68, same fan, room about 22”: one result without a log. */
export function OnePaper({ start }: { start: PaperInput }) {
  const [paper, setPaper] = useState(start);
  const [typed, setTyped] = useState(UNTYPED);
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [take, { error, isLoading }] = api.useImportPaperMutation();
  const [setRemoved] = api.useRemoveImportMutation();
  const set = (more: Partial<PaperInput>): void => setPaper({ ...paper, ...more });
  const parsed = v.safeParse(PaperInput, {
    ...paper,
    ...Object.fromEntries(NUMBERS.map((name) => [name, numberOrNull(typed[name])])),
  });
  const keep = async (): Promise<void> => {
    if (!parsed.success) {
      setErrors(
        Object.fromEntries(
          parsed.issues.map((issue) => [
            String(issue.path?.[0]?.key),
            issue.received === "null" || issue.received === "NaN" ? "Type a number." : issue.message,
          ]),
        ),
      );
      return;
    }
    setErrors({});
    let id: string | undefined;
    const done = await withUndo("One result taken in", async (forth) => {
      if (!forth) return id === undefined ? {} : setRemoved({ importId: id, body: { removed: true } });
      const mapping = { fields: {}, fahrenheit: false, rises: false, monthFirst: false };
      const name = `${parsed.output.model}, from paper`;
      const made = await take({ name, headers: [], mapping, rows: [parsed.output] });
      id = made.data?.[0]?.id;
      return made;
    });
    if (!done) return;
    setPaper({ ...start, work: paper.work, compound: paper.compound });
    setTyped(UNTYPED);
  };
  const change = parsed.success ? paperChange(parsed.output) : null;
  const number = (name: keyof Typed, label: string, hint?: string) => (
    <TextField
      label={label}
      inputMode="decimal"
      value={typed[name]}
      hint={hint}
      error={errors[name]}
      onChange={({ target }) => setTyped({ ...typed, [name]: target.value })}
    />
  );
  return (
    <Sheet title="One result from paper">
      <form
        noValidate
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <TextField
            label="Card or board model"
            value={paper.model}
            error={errors.model ?? faultOf(error)?.errors.rows}
            onChange={({ target }) => set({ model: target.value })}
          />
          {number("beforeC", "Before (°C)")}
          {number("afterC", "After (°C)")}
          <SelectField label="What was done" value={paper.work} onChange={({ target }) => set({ work: target.value })}>
            {WORKS.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </SelectField>
          {number("roomBeforeC", "Room before (°C)", "Empty: not known")}
          {number("roomAfterC", "Room after (°C)", "Empty: about the same")}
          <TextField
            label="Compound"
            value={paper.compound}
            onChange={({ target }) => set({ compound: target.value })}
          />
          <TextField label="Pads" value={paper.pads} onChange={({ target }) => set({ pads: target.value })} />
          {number("ageYears", "Age (years)")}
          <SelectField
            label="Use"
            value={paper.use}
            onChange={({ target }) => set({ use: USE_KINDS.find((one) => one === target.value) ?? "unknown" })}
          >
            {USE_KINDS.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </SelectField>
        </div>
        <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
          <Choice
            label="Fan speed of both runs"
            value={paper.fan}
            options={FAN_KEPT.map((value) => ({ value, label: value }))}
            onChange={(fan) => set({ fan })}
          />
          <label className="flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              className="size-5"
              checked={paper.roomIsRead}
              onChange={({ target }) => set({ roomIsRead: target.checked })}
            />
            room was read off a thermometer
          </label>
        </div>
        <FaultNote error={error} />
        <div className="flex flex-wrap items-center justify-between gap-3">
          <p role="status">
            {change ? (
              <>
                Counts as{" "}
                <strong>
                  {signed(change.changeK)} ± {widthOf(change.u95K)} K
                </strong>
                <span className="block text-sm text-soft">
                  read by eye {figure(change.parts.reading)}, room {figure(change.parts.room)}, from run to run{" "}
                  {figure(change.parts.scatter)}, fan {figure(change.parts.fan)} K
                </span>
              </>
            ) : (
              <span className="text-soft">Type what was written down; what is missing makes it wider.</span>
            )}
          </p>
          <Button look="main" type="submit" disabled={isLoading}>
            Take it in
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
