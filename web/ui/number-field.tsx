import { useEffect, useEffectEvent, useState } from "react";
import { asTyped, isWhole, readQuantity, symbolOf, type TypedUnit } from "#core/units/index.ts";
import { TextField } from "./field.tsx";

/** What a field of a unit is called; without words of its own it is the unit. */
const labelOf = (label: string, unit: TypedUnit): string =>
  [label, label && symbolOf(unit) ? `(${symbolOf(unit)})` : symbolOf(unit)].filter(Boolean).join(" ");

/** A number of a unit; kept when the field is left or Enter is pressed. Lengths may be typed in inches, what may be two numbers is asked about. */
export function NumberField({
  label = "",
  unit,
  value,
  onValue,
  least = Number.NEGATIVE_INFINITY,
  most = Number.POSITIVE_INFINITY,
  optional = false,
  className = "",
  hint,
}: {
  label?: string;
  unit: TypedUnit;
  value: number | null;
  onValue: (value: number | null) => void;
  least?: number;
  most?: number;
  optional?: boolean;
  className?: string;
  hint?: string;
}) {
  const shown = value === null ? "" : asTyped(value);
  const [text, setText] = useState(shown);
  const [error, setError] = useState<string | undefined>();
  // While it is drawn, not after: what is typed right then must not be wiped.
  const [was, setWas] = useState(shown);
  if (was !== shown) {
    setWas(shown);
    setText(shown);
    setError(undefined);
  }
  const read = (typed: string) => readQuantity(typed, unit, { least, most });
  const keepValue = (): void => {
    // What is there stays as it is until somebody types, whatever it is: figures of runs need not be whole.
    if (text === shown) return setError(undefined);
    if (text.trim() === "" && optional) {
      setError(undefined);
      if (value !== null) onValue(null);
      return;
    }
    const typed = read(text);
    if (typed && "either" in typed) return;
    const found = typed?.value;
    if (found === undefined) return setError(`Type a number, such as ${isWhole(unit) ? "12" : "12.5"}.`);
    if (isWhole(unit) && !Number.isInteger(found)) return setError("Type a whole number.");
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
      label={labelOf(label, unit)}
      hint={hint}
      inputMode="decimal"
      readAs={read}
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
