import type { Analysis } from "#core";

const DAY_MS = 86_400_000;
/** A clock that was never set. */
const LEAST_MS = Date.UTC(2000, 0, 1);

/**
 * When a run was made: by its log's own clock where that tells a date, else when it was kept. A log that says it was made before 2000 or more
 * than a day after it was kept has a clock that was never set.
 * @param keptAt ISO 8601
 * @returns ISO 8601, without an offset where the log's clock names none: that of wherever it is read is meant; noon where only the day is told
 */
export function ranAt({ start }: Pick<Analysis, "start">, keptAt: string): string {
  if (!start) return keptAt;
  const ms = start.epochS * 1000 + (start.dayOnly ? DAY_MS / 2 : 0);
  if (!(ms >= LEAST_MS) || ms > Date.parse(keptAt) + DAY_MS) return keptAt;
  const iso = new Date(ms).toISOString();
  return start.clock === "utc" ? iso : iso.slice(0, -1);
}

/** When a run began, ms since 1970, where its log's own clock tells it to the second; else null. */
export function begunMs(analysis: Pick<Analysis, "start">, keptAt: string): number | null {
  const at = ranAt(analysis, keptAt);
  return analysis.start?.dayOnly === false && at !== keptAt ? Date.parse(at) : null;
}
