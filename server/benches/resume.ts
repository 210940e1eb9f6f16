import type { ProtocolRunner } from "#core";
import type { LiveOrder } from "../db/schema.ts";
import type { Context } from "../services/context.ts";
import type { Resumed } from "./driver.ts";
import { chunksOf } from "./journal.ts";

export function obey(runner: ProtocolRunner, { tS, kind }: LiveOrder): void {
  if (kind === "skip") runner.skipAhead(tS);
  else runner.confirm();
}

/**
 * Leads a protocol through the samples that are kept of a run, and through what a person ordered meanwhile.
 * @returns how many pieces they are kept in, their times, and what was set when
 */
export async function replay(
  context: Context,
  live: { id: string; channels: readonly unknown[]; orders: readonly LiveOrder[] },
  runner: ProtocolRunner,
): Promise<Pick<Resumed, "times" | "settings"> & { chunks: number }> {
  const times: number[] = [];
  const settings: Array<Resumed["settings"][number]> = [];
  const orders = [...live.orders];
  const width = live.channels.length + 2;
  let chunks = 0;
  const note = (tS: number): void => {
    const last = settings.at(-1);
    if (JSON.stringify(last?.setting) !== JSON.stringify(runner.state.setting))
      settings.push({ tS, setting: { ...runner.state.setting } });
  };
  note(0);
  for await (const { flat, rows, seq } of chunksOf(context, live.id)) {
    chunks = seq + 1;
    for (let row = 0; row < rows; row++) {
      const [tS = Number.NaN, , ...values] = flat.subarray(row * width, (row + 1) * width);
      while (orders[0] && orders[0].tS < tS) obey(runner, orders.shift() as LiveOrder);
      runner.feed(tS, values);
      times.push(tS);
      note(tS);
    }
  }
  for (const order of orders) obey(runner, order);
  note(times.at(-1) ?? 0);
  return { times, settings, chunks };
}
