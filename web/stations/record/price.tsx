import { useState } from "react";
import { asTyped } from "#core/units/index.ts";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { numberOrNull, TextField } from "../../ui/field.tsx";

/** What the work costs, kept as the field is left or Enter is pressed. */
export function Price({ id, price, currency }: { id: string; price: number | null; currency: string }) {
  const [set, { error }] = api.useSetPriceMutation();
  const [text, setText] = useState(price === null ? "" : asTyped(price));
  const keep = (): void => {
    const value = numberOrNull(text);
    if (value !== price && !Number.isNaN(value)) void set({ serviceId: id, body: { price: value } });
  };
  const wrong = Number.isNaN(numberOrNull(text)) ? "Type a number." : undefined;
  return (
    <TextField
      label={`Price of the work (${currency})`}
      inputMode="decimal"
      value={text}
      error={faultOf(error)?.errors.price ?? wrong}
      onChange={(event) => setText(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        if (event.key === "Enter") keep();
      }}
    />
  );
}
