import { useEffect, useEffectEvent, useState } from "react";
import { parseLengthMm } from "#core/units/index.ts";
import { TextField } from "./field.tsx";

/** A number in millimetres (or another unit as `label` says); kept when the field is left or Enter is pressed, inches are converted. */
export function MmField({
  label,
  value,
  onValue,
  least = Number.NEGATIVE_INFINITY,
  most = Number.POSITIVE_INFINITY,
  optional = false,
  className = "",
  hint,
}: {
  label: string;
  value: number | null;
  onValue: (value: number | null) => void;
  least?: number;
  most?: number;
  optional?: boolean;
  className?: string;
  hint?: string;
}) {
  const shown = value === null ? "" : String(value);
  const [text, setText] = useState(shown);
  const [error, setError] = useState<string | undefined>();
  // While it is drawn, not after: what is typed right then must not be wiped.
  const [was, setWas] = useState(shown);
  if (was !== shown) {
    setWas(shown);
    setText(shown);
    setError(undefined);
  }
  const keepValue = (): void => {
    if (text.trim() === "" && optional) {
      setError(undefined);
      if (value !== null) onValue(null);
      return;
    }
    const found = parseLengthMm(text);
    if (found === undefined) return setError("Type a number, such as 12.5.");
    if (found < least || found > most) return setError(`Between ${least} and ${most}.`);
    setError(undefined);
    if (found !== value) onValue(found);
    else setText(shown);
  };
  const leave = useEffectEvent(keepValue);
  // A field that goes while it has the focus is never left: the next tap on a plan takes it away.
  useEffect(() => () => leave(), []);
  return (
    <TextField
      label={label}
      hint={hint}
      inputMode="decimal"
      isLength
      value={text}
      error={error}
      className={className}
      onChange={(event) => setText(event.target.value)}
      onBlur={keepValue}
      onKeyDown={(event) => {
        if (event.key === "Enter") keepValue();
      }}
    />
  );
}
