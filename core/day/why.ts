import type { PlannedBlock } from "./block.ts";
import type { Day, DayShop } from "./day.ts";
import { MS_A_MIN } from "./day.ts";

const NEAR_MS = 1000;

/** What a step waits for: the step of its own card before it, a bench or hands that are taken, parts, or that somebody comes. */
export function whyNotEarlier(
  block: PlannedBlock,
  blocks: readonly PlannedBlock[],
  day: Day,
  { shop }: Pick<DayShop, "shop">,
): string {
  if (block.begun || block.startMs <= day.nowMs + NEAR_MS) return "";
  if (block.held) return "held there";
  const job = shop.jobs.find(({ id }) => id === block.serviceId);
  const step = job?.steps.find(({ id }) => id === block.id);
  const own = blocks.filter(({ serviceId, id }) => serviceId === block.serviceId && (step?.after ?? []).includes(id));
  const ready = own.toSorted((a, b) => b.endMs - a.endMs)[0];
  if (ready && ready.endMs >= block.startMs - NEAR_MS)
    return ready.kind === "rack" ? "waits until it is dry or set" : "";
  const partsMs = day.nowMs + (step?.earliestMin ?? 0) * MS_A_MIN;
  if (partsMs >= block.startMs - NEAR_MS) return "waits for parts";
  const ending = blocks.find(
    (other) => other !== block && other.kind === block.kind && Math.abs(other.endMs - block.startMs) < NEAR_MS,
  );
  if (ending) {
    const name = day.cards.find(({ serviceId }) => serviceId === ending.serviceId)?.name ?? "another card";
    const what =
      block.kind === "bench"
        ? (day.benches[ending.lane]?.name ?? "the test bench")
        : (day.people[ending.lane]?.name ?? "free hands");
    return `waits for ${what}, which ${name} has`;
  }
  if (day.closed.some(({ untilMs }) => Math.abs(untilMs - block.startMs) < NEAR_MS))
    return "waits until somebody is there";
  return "others go first";
}
