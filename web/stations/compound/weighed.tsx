import { toast } from "sonner";
import { STOCK_UNIT } from "#contract";
import { api } from "../../app/api.ts";
import { faultOf } from "../../app/fault.ts";
import { Button } from "../../ui/button.tsx";
import { figure } from "../../ui/format.ts";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import type { Compound } from "./use-compound.ts";

/** What was really used, by weighing the syringe; taken out of the stock with one press, once. */
export function Weighed({
  serviceId,
  compound,
  usedG,
}: {
  serviceId: string;
  compound: Compound;
  usedG: number | null;
}) {
  const { plan, stores, doseUl } = compound;
  const { data: uses } = api.useUsesQuery(serviceId);
  const [add, { error, isLoading }] = api.useAddUseMutation();
  if (!plan || !stores || !uses || usedG === null || usedG <= 0) return null;
  const material = stores.materials.find(({ id }) => id === plan.materialId);
  const lot = stores.lots.find((one) => one.materialId === material?.id && one.amount >= usedG);
  const isBooked = uses.some((use) =>
    stores.lots.some(({ id, materialId }) => id === use.lotId && materialId === material?.id),
  );
  const planned = plan.densityGPerMl === null ? null : doseUl * plan.densityGPerMl;
  const book = async (accepted: boolean): Promise<void> => {
    if (!lot) return;
    const answer = await add({ serviceId, body: { lotId: lot.id, amount: usedG, what: "on the die", accepted } });
    if (!answer.error) toast("Taken out of the stock");
  };
  return (
    <Sheet title="Really used">
      <p className="text-xl font-semibold">
        {figure(1000 * usedG, 0)} mg
        {planned !== null && <span className="font-normal text-soft"> of {figure(planned, 0)} planned</span>}
      </p>
      {isBooked ? (
        <p className="text-soft">It is out of the stock.</p>
      ) : material && lot && STOCK_UNIT[material.kind] === "g" ? (
        <div className="mt-2 flex flex-wrap gap-2">
          <Button disabled={isLoading} onClick={() => void book(false)}>
            Take {figure(usedG, 2)} g out of the stock
          </Button>
          {faultOf(error)?.code === "needs-accept" && (
            <Button look="danger" onClick={() => void book(true)}>
              I checked it and accept
            </Button>
          )}
        </div>
      ) : (
        <p className="text-soft">It is not in the stock: add it under Stores, then take it out here.</p>
      )}
      <FaultNote error={error} />
    </Sheet>
  );
}
