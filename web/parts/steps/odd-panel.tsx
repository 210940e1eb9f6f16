import { useEffect, useRef, useState } from "react";
import { ODD_KINDS } from "#core/handwork/index.ts";
import { Button } from "../../ui/button.tsx";
import { TextField } from "../../ui/field.tsx";

/** "This one is different": what, in a word and in a few more. */
export function OddPanel({
  what,
  held,
  onSave,
  onCancel,
}: {
  what: string;
  held: { kind: string; text: string } | null;
  onSave: (kind: string, text: string) => void;
  onCancel: () => void;
}) {
  const [kind, setKind] = useState<string>(held?.kind ?? "");
  const [text, setText] = useState(held?.text ?? "");
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => form.current?.querySelector("input")?.focus(), []);
  return (
    <form
      ref={form}
      aria-label="This one is different"
      className="space-y-3 rounded-xl border border-amber bg-amber-wash p-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (kind !== "") onSave(kind, text.trim());
      }}
      onKeyDown={(event) => {
        if (event.key !== "Escape") return;
        // It closes this panel, not the whole mode.
        event.preventDefault();
        event.stopPropagation();
        onCancel();
      }}
    >
      <fieldset>
        <legend className="mb-2 text-lg font-semibold">{what}: what is different?</legend>
        <div className="flex flex-wrap gap-2">
          {ODD_KINDS.map((one) => (
            <label
              key={one}
              className="flex min-h-12 cursor-pointer items-center gap-2 rounded-lg border border-edge bg-sheet px-4 text-lg has-checked:border-ice has-checked:bg-frost has-checked:font-semibold"
            >
              <input
                type="radio"
                name="odd"
                className="size-5 accent-[var(--ice)]"
                checked={kind === one}
                onChange={() => setKind(one)}
              />
              {one}
            </label>
          ))}
        </div>
      </fieldset>
      <TextField
        label="In a few words"
        value={text}
        maxLength={200}
        autoComplete="off"
        onChange={(event) => setText(event.target.value)}
      />
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look="main" disabled={kind === ""}>
          Note it
        </Button>
        {held && <Button onClick={() => onSave("", "")}>It is as it should be</Button>}
        <Button look="quiet" onClick={onCancel}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
