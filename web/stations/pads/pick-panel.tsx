import type { MapPart } from "#core/boardmap/index.ts";
import type { GapInference } from "#core/gaps/index.ts";
import type { Judgement, PadChoice, PadMaterial, PadOffer, PadPick, Picks } from "#core/padplan/index.ts";
import { Button } from "../../ui/button.tsx";
import { SelectField } from "../../ui/field.tsx";
import { figure, partTemperature } from "../../ui/format.ts";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";

interface Props {
  places: MapPart[];
  all: MapPart[];
  picks: Picks;
  materials: PadMaterial[];
  offers: PadOffer[];
  gaps: GapInference;
  judgement: Judgement | null;
  choice: PadChoice | null;
  onPick: (ids: string[], pick: ((part: MapPart) => PadPick) | null) => void;
  onSelect: (ids: string[]) => void;
  usual: (part: MapPart, material: PadMaterial, thicknessMm: number | null) => PadPick;
}

/** What lies on the picked places, and what it does there. */
export function PickPanel(props: Props) {
  const { places, all, picks, materials, offers, onPick, onSelect, usual } = props;
  const [lead] = places;
  if (!lead)
    return (
      <Sheet title="Change a pad">
        <p className="mb-2 text-soft">Pick a part or a screw on the plan, or a kind of place:</p>
        <div className="flex flex-wrap gap-1">
          {[...new Set(all.map((one) => one.kind))].map((kind) => (
            <Button key={kind} onClick={() => onSelect(all.filter((one) => one.kind === kind).map((one) => one.id))}>
              all {kind}
            </Button>
          ))}
        </div>
      </Sheet>
    );
  const pick = picks[lead.id] ?? null;
  const material = materials.find((one) => one.id === pick?.materialId);
  const ids = places.map((one) => one.id);
  const thicknesses = [
    ...new Set(offers.filter((one) => one.materialId === pick?.materialId).flatMap((one) => one.thicknessMm ?? [])),
    ...(pick ? [pick.thicknessMm] : []),
  ].sort((a, b) => a - b);
  const set = (more: Partial<PadPick>): void => {
    onPick(ids, (part) => {
      const ownPick = picks[part.id] ?? pick;
      return { ...(ownPick ?? usual(part, materials[0] ?? NO_MATERIAL, null)), ...more };
    });
  };
  return (
    <Sheet
      title={places.length === 1 ? `Pad of ${lead.id}` : `Pads of ${places.length} places`}
      action={
        <Button look="quiet" onClick={() => onSelect(all.filter((one) => one.kind === lead.kind).map((one) => one.id))}>
          All {lead.kind}
        </Button>
      }
    >
      <div className="space-y-3">
        {places.length === 1 && <Facts {...props} part={lead} />}
        <SelectField
          label="Material"
          value={pick?.materialId ?? ""}
          onChange={(event) => {
            const next = materials.find((one) => one.id === event.target.value);
            if (!next) return onPick(ids, null);
            const first = offers.find((one) => one.materialId === next.id)?.thicknessMm ?? null;
            const same = offers.some((one) => one.materialId === next.id && one.thicknessMm === pick?.thicknessMm);
            onPick(ids, (part) => usual(part, next, same ? (pick?.thicknessMm ?? first) : first));
          }}
        >
          <option value="">Nothing</option>
          {materials.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </SelectField>
        {pick && material?.form === "pad" && (
          <div className="grid grid-cols-2 gap-2">
            <SelectField
              label="Thickness"
              value={pick.thicknessMm}
              onChange={(event) => set({ thicknessMm: Number(event.target.value) })}
            >
              {[...new Set(thicknesses)].map((mm) => (
                <option key={mm} value={mm}>
                  {mm} mm
                  {offers.some((one) => one.materialId === pick.materialId && one.thicknessMm === mm && one.inStock)
                    ? ", in stock"
                    : ", to buy"}
                </option>
              ))}
            </SelectField>
            <SelectField
              label="Layers"
              value={pick.layers}
              onChange={(event) => set({ layers: Number(event.target.value) })}
            >
              {[1, 2, 3].map((count) => (
                <option key={count} value={count}>
                  {count}
                </option>
              ))}
            </SelectField>
          </div>
        )}
        {pick && material?.form === "putty" && (
          <NumberField
            label="Put on this thick"
            unit="mm"
            value={pick.thicknessMm}
            least={0.1}
            most={material.mostMm ?? 12}
            onValue={(value) => value !== null && set({ thicknessMm: value })}
          />
        )}
        {pick && material?.form === "pad" && (
          <details open={pick.widthMm !== lead.widthMm || pick.heightMm !== lead.heightMm || pick.filmLeft}>
            <summary className="min-h-9 cursor-pointer content-center font-medium text-ice">
              Size, place and film
            </summary>
            <div className="mt-1 grid grid-cols-2 gap-2">
              {(
                [
                  ["widthMm", "Width", "mm", 0.5],
                  ["heightMm", "Height", "mm", 0.5],
                  ["offXMm", "Off centre x", "mm", -50],
                  ["offYMm", "Off centre y", "mm", -50],
                ] as const
              ).map(([key, label, unit, least]) => (
                <NumberField
                  key={key}
                  label={label}
                  unit={unit}
                  value={pick[key]}
                  least={least}
                  most={200}
                  onValue={(value) => value !== null && set({ [key]: value })}
                />
              ))}
            </div>
            <label className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                className="size-4 accent-[var(--ice)]"
                checked={pick.filmLeft}
                onChange={(event) => set({ filmLeft: event.target.checked })}
              />
              A film was left on
            </label>
          </details>
        )}
      </div>
    </Sheet>
  );
}

const NO_MATERIAL: PadMaterial = {
  id: "",
  name: "",
  form: "pad",
  conductivityWPerMK: 1,
  curve: null,
  mostMm: null,
};

function Facts({ part, gaps, judgement, choice }: Props & { part: MapPart }) {
  const gap = gaps.gaps.find((one) => one.id === part.id);
  const found = judgement?.places.find((one) => one.id === part.id);
  const chosen = choice?.pads.find((one) => one.id === part.id);
  return (
    <>
      <dl className="figure grid grid-cols-[auto_1fr] gap-x-3 text-sm">
        {(
          [
            ["gap", gap ? `${figure(gap.gapMm, 2)} ± ${figure(gap.u95Mm, 2)} mm` : "not measured"],
            [
              "squeezed",
              found?.contact
                ? `${found.compressionPct.toFixed(0)} % to ${figure(found.mountedMm, 2)} mm`
                : "does not touch",
            ],
            ["pressure", found?.contact ? `${found.pressureKPa.toFixed(0)} kPa, ${figure(found.forceN)} N` : "–"],
            ["estimated", `${partTemperature(found?.temperatureC)}, θ ${figure(found?.heat.thetaKPerW, 1)} K/W`],
          ] as const
        ).map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd className="font-semibold">{value}</dd>
          </div>
        ))}
      </dl>
      {found && found.lostK > 0.5 && (
        <p className="text-sm font-medium text-amber">
          Its size, place or film costs {found.lostK.toFixed(0)} K against a full one without film.
        </p>
      )}
      {chosen && (
        <div className="rounded-lg bg-paper p-3 text-sm">
          <p>{chosen.why}</p>
          {chosen.touchProbability !== null && (
            <p className="font-semibold">Touches in {(100 * chosen.touchProbability).toFixed(0)} % of cases.</p>
          )}
          {chosen.neighbours.length > 0 && <p className="mt-1 font-medium">Why not its neighbours</p>}
          <ul className="list-disc pl-4">
            {chosen.neighbours.map((one) => (
              <li key={one.thicknessMm}>{one.text}</li>
            ))}
          </ul>
        </div>
      )}
    </>
  );
}
