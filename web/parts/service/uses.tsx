import { useState } from "react";
import { STOCK_UNIT, type Use } from "#contract";
import { api } from "../../app/api.ts";
import { withUndo } from "../../app/with-undo.ts";
import { Button } from "../../ui/button.tsx";
import { SelectField, TextField } from "../../ui/field.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { plural, sizeOf } from "../stores/size.ts";
import { useTake } from "./use-take.ts";

/** What this service took from the stock; taken out of its lot at once, given back with one click. */
export function Uses({ serviceId }: { serviceId: string }) {
  const { data: stores } = api.useStoresQuery();
  const { data: uses = [] } = api.useUsesQuery(serviceId);
  const { text, setText, take, wrong, fault, busy } = useTake(serviceId);
  const [remove] = api.useRemoveUseMutation();
  const [lotId, setLotId] = useState("");
  const materialOf = (id: string) => stores?.materials.find((one) => one.id === id);
  const lots = stores?.lots.filter((lot) => lot.amount > 0 && materialOf(lot.materialId)) ?? [];
  const lot = lots.find((one) => one.id === lotId);
  const material = lot && materialOf(lot.materialId);
  const unit = material ? STOCK_UNIT[material.kind] : "";
  const from = lot && material && { lotId, material };
  if (lots.length === 0 && uses.length === 0) return null;
  return (
    <Sheet title="Used from stock">
      {uses.length > 0 && (
        <ul className="mb-3 divide-y divide-line">
          {uses.map((use) => (
            <UseRow
              key={use.id}
              use={use}
              onRemove={() =>
                void withUndo(`${use.materialName} given back`, (removed) =>
                  remove({ serviceId, useId: use.id, body: { removed } }),
                )
              }
            />
          ))}
        </ul>
      )}
      <form
        noValidate
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void take(from, false);
        }}
      >
        <SelectField
          label="What"
          value={lotId}
          className="min-w-0 max-sm:w-full"
          onChange={(event) => setLotId(event.target.value)}
        >
          <option value="">Choose…</option>
          {lots.map((one) => (
            <option key={one.id} value={one.id}>
              {materialOf(one.materialId)?.name} · {sizeOf(one)} ({one.amount}{" "}
              {STOCK_UNIT[materialOf(one.materialId)?.kind ?? "pad"]})
            </option>
          ))}
        </SelectField>
        <TextField
          label={unit ? `How much (${unit})` : "How much"}
          inputMode="decimal"
          value={text}
          error={wrong}
          onChange={(event) => setText(event.target.value)}
        />
        <Button type="submit" disabled={busy}>
          Take it out
        </Button>
      </form>
      {fault?.code === "needs-accept" ? (
        <div className="mt-3">
          <Note kind="fault" live title={fault.what}>
            {fault.remedy}
            <div className="mt-2">
              <Button look="danger" onClick={() => void take(from, true)}>
                I checked it and accept
              </Button>
            </div>
          </Note>
        </div>
      ) : (
        <FaultNote fault={fault} />
      )}
    </Sheet>
  );
}

function UseRow({ use, onRemove }: { use: Use; onRemove: () => void }) {
  return (
    <li className="flex items-center justify-between gap-2">
      <span>
        <strong>
          {use.amount} {plural(use.amount, use.unit)}
        </strong>{" "}
        {use.materialName} {use.what && <span className="text-sm text-soft">{use.what}</span>}
        {use.accepted && !use.what && <span className="text-sm text-amber"> danger accepted</span>}
      </span>
      {use.bookingId === null && (
        <Button look="quiet" onClick={onRemove}>
          Give back
        </Button>
      )}
    </li>
  );
}
