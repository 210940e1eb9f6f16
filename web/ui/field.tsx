import { type ComponentProps, type ReactNode, useId } from "react";

interface FieldProps {
  label: string;
  hint?: ReactNode;
  error?: string | undefined;
  className?: string;
}

const BOX =
  "min-h-11 w-full rounded-lg border border-edge bg-sheet px-3 py-2 text-ink aria-invalid:border-danger aria-invalid:border-2";

function Frame({ id, label, hint, error, className = "", children }: FieldProps & { id: string; children: ReactNode }) {
  return (
    <div className={className}>
      <label htmlFor={id} className="mb-1 block font-medium">
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

export function TextField({ label, hint, error, className = "", ...rest }: FieldProps & ComponentProps<"input">) {
  const id = useId();
  return (
    <Frame id={id} label={label} hint={hint} error={error} className={className}>
      <input
        id={id}
        className={BOX}
        aria-invalid={error ? true : undefined}
        aria-describedby={described(id, hint, error)}
        {...rest}
      />
    </Frame>
  );
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
  children,
  ...rest
}: FieldProps & ComponentProps<"select">) {
  const id = useId();
  return (
    <Frame id={id} label={label} hint={hint} error={error} className={className}>
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

/** Reads a number field: empty is null, a decimal comma counts as a point, anything else stays text for the check to name. */
export function numberOrNull(text: unknown): number | null {
  if (typeof text === "number") return Number.isNaN(text) ? null : text;
  if (text === null || text === undefined || String(text).trim() === "") return null;
  return Number(String(text).replace(",", "."));
}
