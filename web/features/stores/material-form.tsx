import { useState } from "react";
import { toast } from "sonner";
import * as v from "valibot";
import { EMPTY_MATERIAL, MATERIAL_KINDS, type Material, MaterialInput, STOCK_UNIT } from "#contract";
import { api } from "../../app/api.ts";
import { dropDraft, keepDraft } from "../../app/drafts.ts";
import { faultOf } from "../../app/fault.ts";
import { useAppDispatch, useAppSelector } from "../../app/store.ts";
import { Button } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { AreaField, numberOrNull, SelectField, TextField } from "../../ui/field.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";

const HAS_HEAT = ["pad", "putty", "paste", "phase-change", "liquid metal", "adhesive"];
const HAS_CURVE = ["pad", "putty"];

interface Typed {
  input: MaterialInput;
  /** As typed: `0 0, 10 35, 20 80`. */
  curve: string;
}

const curveText = (curve: MaterialInput["curve"]): string =>
  (curve ?? []).map(([strain, kPa]) => `${Math.round(1000 * strain) / 10} ${kPa}`).join(", ");

/** Squeeze in per cent and pressure in kPa, pair by pair. */
function readCurve(text: string): MaterialInput["curve"] | string {
  if (text.trim() === "") return null;
  const pairs = text
    .split(/[,;\n]+/)
    .map((pair) => pair.trim())
    .filter(Boolean)
    .map((pair) => pair.split(/\s+/).map(Number));
  if (pairs.some((pair) => pair.length !== 2 || pair.some((one) => !Number.isFinite(one))))
    return "Type pairs of squeeze (%) and pressure (kPa), such as 0 0, 10 35, 20 80.";
  return pairs.map(([percent = 0, kPa = 0]) => [percent / 100, kPa]);
}

/** A material, new or changed. */
export function MaterialForm({ material, onDone }: { material?: Material; onDone: () => void }) {
  const key = `material ${material?.id ?? "new"}`;
  const dispatch = useAppDispatch();
  const draft = useAppSelector((state) => state.drafts[key]) as Typed | undefined;
  const [typed, setTyped] = useState<Typed>(
    draft ?? { input: material ?? EMPTY_MATERIAL, curve: curveText(material?.curve ?? null) },
  );
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [add, adding] = api.useAddMaterialMutation();
  const [change, changing] = api.useChangeMaterialMutation();
  const { refetch } = api.useStoresQuery();
  const [conflict, setConflict] = useState(false);
  const { input } = typed;
  const type = (next: Typed): void => {
    setTyped(next);
    dispatch(keepDraft({ form: key, value: next }));
  };
  const set = (more: Partial<MaterialInput>): void => type({ ...typed, input: { ...input, ...more } });
  const save = async (version = material?.version ?? 0): Promise<void> => {
    const curve = readCurve(typed.curve);
    if (typeof curve === "string") return setErrors({ curve });
    const found = v.safeParse(MaterialInput, { ...input, curve });
    if (!found.success)
      return setErrors(
        Object.fromEntries(
          found.issues.map((issue) => [(v.getDotPath(issue) ?? "name").split(".")[0] ?? "name", issue.message]),
        ),
      );
    setErrors({});
    const answer = material
      ? await change({ id: material.id, body: { ...found.output, version } })
      : await add(found.output);
    if ("error" in answer) {
      if (faultOf(answer.error)?.code === "changed-elsewhere") setConflict(true);
      return;
    }
    dispatch(dropDraft(key));
    toast("Saved");
    onDone();
  };
  const numberField = (name: "conductivityWPerMK" | "mostMm" | "densityGPerMl" | "lowAt", label: string) => (
    <TextField
      key={name}
      label={label}
      inputMode="decimal"
      defaultValue={input[name] ?? ""}
      error={errors[name]}
      onChange={(event) => set({ [name]: numberOrNull(event.target.value) })}
    />
  );
  return (
    <Sheet title={material ? `Change ${material.name}` : "New material"}>
      <form
        noValidate
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <SelectField
            label="Kind"
            value={input.kind}
            onChange={(event) => set({ kind: event.target.value as MaterialInput["kind"] })}
          >
            {MATERIAL_KINDS.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </SelectField>
          <TextField
            label="Name"
            value={input.name}
            error={errors.name}
            onChange={(event) => set({ name: event.target.value })}
          />
          {HAS_HEAT.includes(input.kind) && numberField("conductivityWPerMK", "Conductivity (W/mK)")}
          {numberField("lowAt", `Low at (${STOCK_UNIT[input.kind]})`)}
          {input.kind === "putty" && numberField("mostMm", "Fills at most (mm)")}
          {["g", "ml"].includes(STOCK_UNIT[input.kind]) && numberField("densityGPerMl", "Density (g/ml)")}
        </div>
        {HAS_CURVE.includes(input.kind) && (
          <div className="grid gap-3 sm:grid-cols-2">
            <TextField
              label="Softness: squeeze (%) and pressure (kPa)"
              placeholder="0 0, 10 35, 20 80, 30 150"
              value={typed.curve}
              error={errors.curve}
              hint={
                input.kind === "pad"
                  ? "A pad without a curve can’t be computed with. 1 psi is 6.9 kPa."
                  : "Empty for a usual putty."
              }
              onChange={(event) => type({ ...typed, curve: event.target.value })}
            />
            <TextField
              label="Where the curve is from"
              value={input.curveSource}
              hint="data sheet, own measurement, a guess"
              onChange={(event) => set({ curveSource: event.target.value })}
            />
          </div>
        )}
        <div className="flex flex-wrap gap-x-4">
          {(
            [
              ["conductsElectricity", "Conducts electricity"],
              ["attacksAluminium", "Attacks aluminium"],
            ] as const
          ).map(([name, label]) => (
            <label key={name} className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-[var(--ice)]"
                checked={input[name]}
                onChange={(event) => set({ [name]: event.target.checked })}
              />
              {label}
            </label>
          ))}
        </div>
        <AreaField
          label="Worth knowing"
          rows={2}
          value={input.note}
          error={errors.note}
          onChange={(event) => set({ note: event.target.value })}
        />
        <FaultNote error={adding.error ?? changing.error} />
        <div className="flex justify-end gap-2">
          <Button
            onClick={() => {
              dispatch(dropDraft(key));
              onDone();
            }}
          >
            Leave it
          </Button>
          <Button look="main" type="submit" disabled={adding.isLoading || changing.isLoading}>
            Save the material
          </Button>
        </div>
      </form>
      <ConflictDialog
        open={conflict}
        what="material"
        onKeep={() => {
          setConflict(false);
          dispatch(dropDraft(key));
          onDone();
        }}
        onTakeOver={() => {
          setConflict(false);
          void refetch().then(({ data }) => save(data?.materials.find((one) => one.id === material?.id)?.version));
        }}
      />
    </Sheet>
  );
}
