import type { Material } from "#contract";
import { SOFTNESSES, type Softness, softnessOf, TYPICAL_CURVES, typicalSource } from "#core/padplan/index.ts";
import { api } from "../../app/api.ts";
import { Button } from "../../ui/button.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Term } from "../../ui/term.tsx";

/** Pads of which nobody knows how soft they are: a typical curve for each, and which are computed with one. */
export function Softnesses() {
  const { data: stores } = api.useStoresQuery();
  const [change, { error }] = api.useChangeMaterialMutation();
  const pads = stores?.materials.filter(({ kind }) => kind === "pad") ?? [];
  const unknown = pads.filter(({ curve, conductivityWPerMK }) => !curve && conductivityWPerMK !== null);
  const typical = pads.flatMap(({ name, curve }) => {
    const softness = curve && softnessOf(curve);
    return softness ? `${name}: softness ${typicalSource(softness)}` : [];
  });
  const take = ({ id, version, ...material }: Material, softness: Softness): void => {
    const curve = TYPICAL_CURVES[softness].map(([strain, kPa]): [number, number] => [strain, kPa]);
    void change({ materialId: id, body: { ...material, version, curve, curveSource: typicalSource(softness) } });
  };
  if (unknown.length === 0 && typical.length === 0) return null;
  return (
    <div className="mb-3 space-y-2">
      {unknown.map((material) => (
        <Note key={material.id} kind="caution" title={`How soft is ${material.name}?`}>
          Without its <Term of="softness">softness</Term> it is left out. Take a typical one, or type its own under
          Stores.
          <span className="mt-2 flex flex-wrap gap-2">
            {SOFTNESSES.map((softness) => (
              <Button key={softness} onClick={() => take(material, softness)}>
                {softness}
              </Button>
            ))}
          </span>
        </Note>
      ))}
      {typical.length > 0 && (
        <p className="text-sm font-medium text-amber">{typical.join(". ")}. The answer is as good as that guess.</p>
      )}
      <FaultNote error={error} />
    </div>
  );
}
