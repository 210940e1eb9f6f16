import { toast } from "sonner";
import * as v from "valibot";
import { EMPTY_MATERIAL, MATERIAL_KINDS, type Material, MaterialInput, STOCK_UNIT } from "#contract";
import { SOFTNESSES, TYPICAL_CURVES, typicalSource } from "#core/padplan/index.ts";
import { api } from "../../app/api.ts";
import { useDraftForm } from "../../app/use-draft-form.ts";
import { Button } from "../../ui/button.tsx";
import { ConflictDialog } from "../../ui/conflict.tsx";
import { AreaField, numberOrNull, SelectField, TextField } from "../../ui/field.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";

const HAS_HEAT = ["pad", "putty", "paste", "phase-change", "liquid metal", "adhesive"];
const HAS_CURVE = ["pad", "putty"];

const curveText = (curve: ReadonlyArray<readonly [number, number]> | null): string =>
  (curve ?? []).map(([strain, kPa]) => `${Math.round(1000 * strain) / 10} ${kPa}`).join(", ");

const PAIRS = "Type pairs of squeeze (%) and pressure (kPa), such as 0 0, 10 35, 20 80.";

/** Squeeze in per cent and pressure in kPa, pair by pair, as typed: `0 0, 10 35, 20 80`. */
const CurveText = v.pipe(
  v.string(),
  v.transform((text) =>
    text
      .split(/[,;\n]+/)
      .map((pair) => pair.trim())
      .filter(Boolean)
      .map((pair) => pair.split(/\s+/).map(Number)),
  ),
  v.check((pairs) => pairs.every((pair) => pair.length === 2 && pair.every(Number.isFinite)), PAIRS),
  v.transform((pairs) =>
    pairs.length === 0 ? null : pairs.map(([percent, kPa]) => [(percent ?? Number.NaN) / 100, kPa ?? Number.NaN]),
  ),
  v.check(
    (curve) => v.is(MaterialInput.entries.curve, curve),
    ({ input }) => v.safeParse(MaterialInput.entries.curve, input).issues?.[0].message ?? PAIRS,
  ),
  v.transform((curve) => curve as MaterialInput["curve"]),
);
const MaterialText = v.object({ ...MaterialInput.entries, curve: CurveText });

const textOf = ({ curve, ...rest }: MaterialInput) => ({ ...rest, curve: curveText(curve) });

/** A material, new or changed. */
export function MaterialForm({ material, onDone }: { material?: Material; onDone: () => void }) {
  const [add] = api.useAddMaterialMutation();
  const [change] = api.useChangeMaterialMutation();
  const { refetch } = api.useStoresQuery();
  const { id, version } = material ?? { id: "new", version: 0 };
  const { form, submit, busy, fault, discard, conflict } = useDraftForm({
    name: `material ${id}`,
    schema: MaterialText,
    load: { start: textOf(material ?? EMPTY_MATERIAL), version },
    save: (body, over) => (material ? change({ materialId: id, body: { ...body, version: over } }) : add(body)),
    newest: async () => {
      const now = (await refetch()).data?.materials.find((one) => one.id === id);
      return now && { start: textOf(now), version: now.version };
    },
    onSaved: () => {
      toast("Saved");
      onDone();
    },
    onKept: onDone,
  });
  const { register, watch, setValue, formState } = form;
  const { errors } = formState;
  const kind = watch("kind");
  const numberField = (name: "conductivityWPerMK" | "mostMm" | "densityGPerMl" | "lowAt", label: string) => (
    <TextField
      key={name}
      label={label}
      inputMode="decimal"
      error={errors[name]?.message}
      {...register(name, { setValueAs: numberOrNull })}
    />
  );
  return (
    <Sheet title={material ? `Change ${material.name}` : "New material"}>
      <form noValidate className="space-y-3" onSubmit={submit}>
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <SelectField label="Kind" {...register("kind")}>
            {MATERIAL_KINDS.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </SelectField>
          <TextField label="Name" error={errors.name?.message} {...register("name")} />
          {HAS_HEAT.includes(kind) && numberField("conductivityWPerMK", "Conductivity (W/mK)")}
          {numberField("lowAt", `Warn when fewer than (${STOCK_UNIT[kind]})`)}
          {kind === "putty" && numberField("mostMm", "Fills at most (mm)")}
          {["g", "ml"].includes(STOCK_UNIT[kind]) && numberField("densityGPerMl", "Density (g/ml)")}
        </div>
        {HAS_CURVE.includes(kind) && (
          <div className="grid gap-3 sm:grid-cols-2">
            <TextField
              label="Softness: squeeze (%) and pressure (kPa)"
              placeholder="0 0, 10 35, 20 80, 30 150"
              error={errors.curve?.message}
              hint={
                kind === "pad"
                  ? "Without one nothing can be computed with it. 1 psi is 6.9 kPa."
                  : "Empty for a usual putty."
              }
              {...register("curve")}
            />
            {kind === "pad" && (
              <div className="flex flex-wrap items-center gap-2 sm:order-last sm:col-span-2">
                <span className="text-sm">No data sheet? Take a typical one:</span>
                {SOFTNESSES.map((softness) => (
                  <Button
                    key={softness}
                    onClick={() => {
                      setValue("curve", curveText(TYPICAL_CURVES[softness]), { shouldDirty: true });
                      setValue("curveSource", typicalSource(softness), { shouldDirty: true });
                    }}
                  >
                    {softness}
                  </Button>
                ))}
              </div>
            )}
            <TextField
              label="Where the curve is from"
              hint="data sheet, own measurement, a guess"
              {...register("curveSource")}
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
              <input type="checkbox" className="size-4 accent-[var(--ice)]" {...register(name)} />
              {label}
            </label>
          ))}
        </div>
        <AreaField label="Worth knowing" rows={2} error={errors.note?.message} {...register("note")} />
        <FaultNote fault={fault} />
        <div className="flex justify-end gap-2">
          <Button
            onClick={() => {
              discard();
              onDone();
            }}
          >
            Cancel
          </Button>
          <Button look="main" type="submit" disabled={busy}>
            Save the material
          </Button>
        </div>
      </form>
      <ConflictDialog what="material" {...conflict} />
    </Sheet>
  );
}
