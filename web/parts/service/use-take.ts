import { useState } from "react";
import { toast } from "sonner";
import { type Material, STOCK_UNIT } from "#contract";
import { parseAmount } from "#core/units/index.ts";
import { api } from "../../app/api.ts";
import { type Fault, faultOf } from "../../app/fault.ts";

/** Takes an amount, as it is typed, out of a lot for a service. */
export function useTake(serviceId: string) {
  const [add, { isLoading }] = api.useAddUseMutation();
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState<string | undefined>();
  const [fault, setFault] = useState<Fault | null>(null);
  const take = async (
    from: { lotId: string; material: Pick<Material, "kind" | "densityGPerMl"> } | undefined,
    accepted: boolean,
  ): Promise<void> => {
    if (!from) return setWrong("Choose what was used.");
    const unit = STOCK_UNIT[from.material.kind];
    const amount = parseAmount(text, unit, from.material.densityGPerMl);
    if (amount === undefined || amount <= 0) return setWrong(`Type how much, in ${unit}.`);
    setWrong(undefined);
    const answer = await add({ serviceId, body: { lotId: from.lotId, amount, what: "", accepted } });
    const found = faultOf(answer.error);
    setFault(found);
    if (found) return;
    setText("");
    toast("Taken out of the stock");
  };
  return { text, setText, take, wrong, fault, busy: isLoading };
}
