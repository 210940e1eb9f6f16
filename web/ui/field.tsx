import { type ComponentProps, type ReactNode, useId, useRef, useState } from "react";
import { asTyped, type NumberRead, readNumber } from "#core/units/index.ts";

interface FieldProps {
  label: string;
  hint?: ReactNode;
  error?: string | undefined;
  className?: string;
  /** The label stands elsewhere for those who see it. */
  hideLabel?: boolean;
}

const BOX =
  "min-h-11 w-full rounded-lg border border-edge bg-sheet px-3 py-2 text-ink aria-invalid:border-danger aria-invalid:border-2";

function Frame({
  id,
  label,
  hint,
  error,
  className = "",
  hideLabel = false,
  children,
}: FieldProps & { id: string; children: ReactNode }) {
  return (
    <div className={className}>
      <label htmlFor={id} className={hideLabel ? "sr-only" : "mb-1 block font-medium"}>
        {label}
      </label>
      {children}
      {hint && (
        <p id={`${id}-hint`} className="mt-1 text-sm text-soft">
          {hint}
        </p>
      )}
      {error && (
        <p id={`${id}-error`} role="alert" className="mt-1 text-sm font-medium text-danger">
          {error}
        </p>
      )}
    </div>
  );
}

const described = (id: string, hint: ReactNode, error: string | undefined): string | undefined =>
  [hint ? `${id}-hint` : "", error ? `${id}-error` : ""].filter(Boolean).join(" ") || undefined;

type TextFieldProps = FieldProps &
  ComponentProps<"input"> & {
    /** What a number field takes its text for; what may be two numbers is asked about. */
    readAs?: (text: string) => NumberRead;
  };

export function TextField({
  label,
  hint,
  error,
  className = "",
  readAs = readNumber,
  hideLabel = false,
  onInput,
  ref,
  ...rest
}: TextFieldProps) {
  const id = useId();
  const box = useRef<HTMLInputElement>(null);
  const [typed, setTyped] = useState("");
  const read = rest.inputMode === "decimal" ? readAs(String(rest.value ?? typed)) : undefined;
  const either = read && "either" in read ? read.either : undefined;
  return (
    <Frame
      id={id}
      label={label}
      hint={hint}
      error={either ? undefined : error}
      className={className}
      hideLabel={hideLabel}
    >
      <input
        id={id}
        ref={(element) => {
          box.current = element;
          if (typeof ref === "function") return ref(element);
          if (ref) ref.current = element;
          return undefined;
        }}
        className={BOX}
        aria-invalid={error || either ? true : undefined}
        aria-describedby={described(id, hint, error ?? (either && "which"))}
        onInput={(event) => {
          setTyped(event.currentTarget.value);
          onInput?.(event);
        }}
        {...rest}
      />
      {either && (
        <p id={`${id}-error`} role="alert" className="mt-1 flex flex-wrap items-center gap-2 text-sm font-medium">
          Which is meant?
          {either.map((value) => (
            <button
              key={value}
              type="button"
              className="min-h-9 rounded-md border border-edge bg-sheet px-2 text-ice hover:border-ice"
              onClick={() => box.current && typeInto(box.current, asTyped(value))}
            >
              {value}
            </button>
          ))}
        </p>
      )}
    </Frame>
  );
}

/** Puts text into a field as if it had been typed, whoever holds its value. */
function typeInto(field: HTMLInputElement, text: string): void {
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set?.call(field, text);
  field.dispatchEvent(new Event("input", { bubbles: true }));
  field.focus();
}

/** `which`: the browser offers the one it knows, or to make a new one. */
export function PassphraseField({
  which,
  value,
  onValue,
  ...rest
}: FieldProps & { which: "current" | "new"; value: string; onValue: (value: string) => void }) {
  return (
    <TextField
      type="password"
      autoComplete={`${which}-password`}
      value={value}
      onChange={(event) => onValue(event.target.value)}
      {...rest}
    />
  );
}

export function AreaField({ label, hint, error, className = "", ...rest }: FieldProps & ComponentProps<"textarea">) {
  const id = useId();
  return (
    <Frame id={id} label={label} hint={hint} error={error} className={className}>
      <textarea
        id={id}
        rows={3}
        className={BOX}
        aria-invalid={error ? true : undefined}
        aria-describedby={described(id, hint, error)}
        {...rest}
      />
    </Frame>
  );
}

export function SelectField({
  label,
  hint,
  error,
  className = "",
  hideLabel = false,
  children,
  ...rest
}: FieldProps & ComponentProps<"select">) {
  const id = useId();
  return (
    <Frame id={id} label={label} hint={hint} error={error} className={className} hideLabel={hideLabel}>
      <select
        id={id}
        className={BOX}
        aria-invalid={error ? true : undefined}
        aria-describedby={described(id, hint, error)}
        {...rest}
      >
        {children}
      </select>
    </Frame>
  );
}

/** Reads a number field: empty is null; what is no number, or may be two, is NaN, for the check to name. */
export function numberOrNull(text: unknown): number | null {
  if (typeof text === "number") return Number.isNaN(text) ? null : text;
  if (text === null || text === undefined || String(text).trim() === "") return null;
  const read = readNumber(String(text));
  return read && "value" in read ? read.value : Number.NaN;
}
