import { toast } from "sonner";
import { STOCK_UNIT, type Stores } from "#contract";
import type { SpreadAmount } from "#core/padplan/index.ts";
import { amountIn } from "#core/units/index.ts";
import { api } from "../../app/api.ts";
import { Button } from "../../ui/button.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";

/** Putty and paste that the pads plan takes: how much, whether it is there, and out of the stock with one click. */
export function Spread({ amounts, stores, serviceId }: { amounts: SpreadAmount[]; stores: Stores; serviceId: string }) {
  if (amounts.length === 0) return null;
  return (
    <Sheet title="Putty and paste">
      <ul className="divide-y divide-line">
        {amounts.map((amount) => (
          <SpreadRow key={amount.materialId} amount={amount} stores={stores} serviceId={serviceId} />
        ))}
      </ul>
    </Sheet>
  );
}

const USE_WORDS = "On the pad places";

function SpreadRow({ amount, stores, serviceId }: { amount: SpreadAmount; stores: Stores; serviceId: string }) {
  const { data: uses = [] } = api.useUsesQuery(serviceId);
  const [add, { error, isLoading }] = api.useAddUseMutation();
  const material = stores.materials.find((one) => one.id === amount.materialId);
  if (!material) return null;
  const unit = STOCK_UNIT[material.kind];
  const wanted = amountIn(amount.volumeMl, "ml", unit, material.densityGPerMl);
  const ownLots = stores.lots.filter((lot) => lot.materialId === material.id && lot.amount > 0);
  const left = ownLots.reduce((sum, lot) => sum + lot.amount, 0);
  const from = ownLots.find((lot) => wanted !== undefined && lot.amount >= wanted);
  const taken = uses.filter((use) => ownLots.some((lot) => lot.id === use.lotId) && use.what === USE_WORDS);
  const take = async (): Promise<void> => {
    if (!from || wanted === undefined) return;
    const body = { lotId: from.id, amount: Math.round(100 * wanted) / 100, what: USE_WORDS, accepted: false };
    const answer = await add({ serviceId, body });
    if (!("error" in answer)) toast("Taken out of the stock");
  };
  return (
    <li className="flex flex-wrap items-center justify-between gap-2 py-2">
      <div className="min-w-0">
        <p>
          <strong>
            {material.name}: {amount.volumeMl.toFixed(2)} ml
            {wanted !== undefined && unit !== "ml" && `, ${wanted.toFixed(1)} ${unit}`}
          </strong>{" "}
          for {amount.forParts.join(", ")}
        </p>
        <p className="text-sm text-soft">
          {Number(left.toFixed(2))} {unit} in stock.{" "}
          {wanted === undefined && "Its density is not known: add it under Stores to have the weight."}
          {taken.length > 0 &&
            `Taken out for this card: ${taken.map((use) => `${use.amount} ${use.unit}`).join(", ")}.`}
        </p>
        {wanted !== undefined && !from && (
          <Note kind="caution" title={left >= wanted ? "No single lot holds that much" : "That is more than there is"}>
            {left >= wanted
              ? "Take it from two lots under Work."
              : "Buy some, or choose pads for some of these places."}
          </Note>
        )}
        <FaultNote error={error} />
      </div>
      <Button disabled={!from || isLoading} onClick={() => void take()}>
        Take it out
      </Button>
    </li>
  );
}
