import type { PowerOnInput } from "#contract";
import { type Context, changeService, record } from "../../services/context.ts";

/** Keeps the first power-on check, or sets the card aside. */
export async function keepPowerOn({ store }: Context, serviceId: string, input: PowerOnInput): Promise<void> {
  await store.write(async (tx) => {
    await changeService(tx, serviceId, () => ({ powerOn: input }));
    await record(store, tx, input.setAside ? "set aside" : "power-on check", serviceId, input);
  });
}
