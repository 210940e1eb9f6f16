import { useState } from "react";
import { threadDiameterMm } from "#core/coolers/index.ts";
import { TextField } from "../../ui/field.tsx";

/** A thread by its name; kept once it is one. */
export function ThreadField({ value, onValue }: { value: string; onValue: (thread: string) => void }) {
  const [text, setText] = useState(value);
  const [was, setWas] = useState(value);
  if (was !== value) {
    setWas(value);
    setText(value);
  }
  const clean = text.trim().toUpperCase();
  const isKnown = threadDiameterMm(clean) !== null;
  return (
    <TextField
      className="mt-2"
      label="Thread"
      value={text}
      maxLength={20}
      error={isKnown ? undefined : "Write it as M2.5 or 6-32 UNC."}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => isKnown && clean !== value && onValue(clean)}
      onKeyDown={(event) => {
        if (event.key === "Enter" && isKnown && clean !== value) onValue(clean);
      }}
    />
  );
}
