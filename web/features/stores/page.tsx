import { useState } from "react";
import { MATERIAL_KINDS, type Material, type Stores } from "#contract";
import { api } from "../../app/api.ts";
import { plural } from "../../parts/stores/size.ts";
import { Button, LinkButton } from "../../ui/button.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Page, Sheet, Waiting } from "../../ui/page.tsx";
import { MaterialCard } from "./material-card.tsx";
import { MaterialForm } from "./material-form.tsx";

/** What is in stock and what can be bought, by kind; what is low comes first. */
export function StoresPage() {
  const { data, error, isLoading } = api.useStoresQuery();
  const [adding, setAdding] = useState(false);
  return (
    <Page
      title="Stores"
      lead={data ? `${data.materials.length} ${data.materials.length === 1 ? "material" : "materials"}` : undefined}
      action={
        !adding && (
          <div className="flex flex-wrap gap-2">
            <LinkButton to="/stores/buying">To buy</LinkButton>
            <Button look="main" onClick={() => setAdding(true)}>
              Add a material
            </Button>
          </div>
        )
      }
    >
      {isLoading && <Waiting what="the stores" />}
      <FaultNote error={error} />
      <div className="space-y-4">
        {adding && <MaterialForm onDone={() => setAdding(false)} />}
        {data && <Attention stores={data} />}
        {data?.materials.length === 0 && !adding && (
          <div className="rounded-xl border border-dashed border-edge p-8 text-center">
            <p className="text-lg font-semibold">The stores are empty</p>
            <p className="mx-auto mt-1 mb-4 max-w-prose text-soft">
              Add the pads you cut from: thickness and size of each sheet, what it conducts, and its softness curve if
              its maker gives one. Then thicknesses are chosen from what you really have.
            </p>
            <Button look="main" onClick={() => setAdding(true)}>
              Add the first material
            </Button>
          </div>
        )}
        {data && MATERIAL_KINDS.map((kind) => <Kind key={kind} kind={kind} stores={data} />)}
      </div>
    </Page>
  );
}

function Attention({ stores: { low, stale } }: { stores: Stores }) {
  if (low.length === 0 && stale.length === 0) return null;
  return (
    <Note kind="caution" title="Needs attention">
      <ul>
        {low.map((one) => (
          <li key={one.materialId}>
            {one.name}: {one.left} {plural(one.left, one.unit)} left, wanted more than {one.lowAt}.
          </li>
        ))}
        {stale.map((one) => (
          <li key={one.lotId}>
            {one.name}: was to be used before {one.useBefore}.
          </li>
        ))}
      </ul>
    </Note>
  );
}

function Kind({ kind, stores }: { kind: Material["kind"]; stores: Stores }) {
  const materials = stores.materials.filter((one) => one.kind === kind);
  if (materials.length === 0) return null;
  return (
    <Sheet title={kind[0]?.toUpperCase() + kind.slice(1)}>
      <ul className="divide-y divide-line">
        {materials.map((material) => (
          <MaterialCard key={material.id} material={material} stores={stores} />
        ))}
      </ul>
    </Sheet>
  );
}
