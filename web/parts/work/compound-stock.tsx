import { useState } from "react";
import { toast } from "sonner";
import { EMPTY_MATERIAL, type Material, type MaterialKind, STOCK_UNIT } from "#contract";
import { parseAmount } from "#core/units/index.ts";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { Button } from "../../ui/button.tsx";
import { SelectField, TextField } from "../../ui/field.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { useTake } from "../service/use-take.ts";

/** What a die can be joined to its cooler with. */
const KINDS = ["paste", "phase-change", "liquid metal"] as const satisfies readonly MaterialKind[];

export const compoundsOf = (materials: readonly Material[]): Material[] =>
  materials.filter(({ kind }) => KINDS.some((one) => one === kind));

const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

/** A compound that was noted: taken out of the stock, or added to the stores first where nobody has it there yet. */
export function CompoundStock({ serviceId, compound }: { serviceId: string; compound: string }) {
  const { data: stores } = api.useStoresQuery();
  const { data: uses } = api.useUsesQuery(serviceId);
  if (!stores || !uses) return null;
  const material = compoundsOf(stores.materials).find(({ name }) => same(name, compound));
  const lot = stores.lots.find((one) => one.materialId === material?.id && one.amount > 0);
  const isDrawn = uses.some((use) =>
    stores.lots.some(({ id, materialId }) => id === use.lotId && materialId === material?.id),
  );
  if (isDrawn) return null;
  return material && lot ? (
    <DrawCompound serviceId={serviceId} material={material} lotId={lot.id} left={lot.amount} />
  ) : (
    <AddCompound compound={compound} known={material} />
  );
}

/** Adds it with what there is of it; where the stores know it, only that. */
function AddCompound({ compound, known }: { compound: string; known: Material | undefined }) {
  const [addMaterial] = api.useAddMaterialMutation();
  const [addLot] = api.useAddLotMutation();
  const [chosen, setKind] = useState<(typeof KINDS)[number]>("paste");
  const kind = known?.kind ?? chosen;
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState<string | undefined>();
  const [fault, setFault] = useState<ReturnType<typeof faultOf>>(null);
  const unit = STOCK_UNIT[kind];
  const add = async (): Promise<void> => {
    const amount = parseAmount(text, unit, null);
    if (amount === undefined || amount <= 0) return setWrong(`Type how much there is, in ${unit}.`);
    setWrong(undefined);
    const made = known ? undefined : await addMaterial({ ...EMPTY_MATERIAL, name: compound, kind });
    setFault(faultOf(made?.error));
    const material = known ?? made?.data?.materials.find(({ name }) => same(name, compound));
    if (!material) return;
    const lot = {
      label: "",
      thicknessMm: null,
      widthMm: null,
      heightMm: null,
      price: 0,
      openedOn: null,
      useBefore: null,
    };
    const kept = await addLot({ ...lot, materialId: material.id, amount });
    setFault(faultOf(kept.error));
    if (kept.data) toast(`${compound} is in the stores`);
  };
  return (
    <Note title={known ? `There is no ${compound} in stock` : `${compound} is not in the stores`}>
      <form
        noValidate
        className="mt-2 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        {!known && (
          <SelectField
            label="It is a"
            value={kind}
            onChange={(event) => setKind(KINDS.find((one) => one === event.target.value) ?? "paste")}
          >
            {KINDS.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </SelectField>
        )}
        <TextField
          label={`There is (${unit})`}
          inputMode="decimal"
          value={text}
          error={wrong}
          onChange={(event) => setText(event.target.value)}
        />
        <Button type="submit">Add it to the stores</Button>
      </form>
      <FaultNote fault={fault} />
    </Note>
  );
}

function DrawCompound({
  serviceId,
  material,
  lotId,
  left,
}: {
  serviceId: string;
  material: Material;
  lotId: string;
  left: number;
}) {
  const { text, setText, take, wrong, fault, busy } = useTake(serviceId);
  const { name, kind } = material;
  const unit = STOCK_UNIT[kind];
  return (
    <Note title={`How much ${name} went on?`}>
      <form
        noValidate
        className="mt-2 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void take({ lotId, material }, false);
        }}
      >
        <TextField
          label={`Of ${name} (${unit}; ${left} left)`}
          inputMode="decimal"
          value={text}
          error={wrong}
          onChange={(event) => setText(event.target.value)}
        />
        <Button type="submit" disabled={busy}>
          Take it out of the stock
        </Button>
        {fault?.code === "needs-accept" && (
          <Button look="danger" onClick={() => void take({ lotId, material }, true)}>
            I checked it and accept
          </Button>
        )}
      </form>
      <FaultNote fault={fault} />
    </Note>
  );
}
