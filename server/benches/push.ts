import { Problem } from "#core";
import { type Driver, type Listener, type OpenDriver, runClock, type Sample } from "./driver.ts";
import { channelsFrom, valueIn } from "./numbers.ts";

/** How long a start waits for the first sample, ms. */
const PATIENCE_MS = 20_000;
/** Clocks of two machines differ; further ahead than this is a wrong time, s. */
const AHEAD_S = 5;
/** Further back than this is a wrong time, not a repeat, s. */
const BEHIND_S = 2;
const CLOCK_MOVED = 3;

type Row = Record<string, unknown>;
/** Scripts that send before a run was started: their first row names the channels. */
const lastSeen = new Map<string, Row>();
const waiting = new Map<string, (row: Row) => void>();

/** Remembers what a script sends while no run is on, so that a start knows the channels. */
export function seen(benchId: string, rows: readonly Row[]): void {
  const row = rows.at(-1);
  if (!row) return;
  lastSeen.set(benchId, row);
  waiting.get(benchId)?.(row);
}

/** Takes samples that a script sends. `at` (ISO time or epoch seconds) orders them; without it the time of arrival counts. */
export const openPush: OpenDriver = async ({ benchId, resumed }) => {
  const first = resumed ? undefined : (lastSeen.get(benchId) ?? (await firstRow(benchId)));
  const names =
    resumed?.channels.map(({ header }) => header) ?? Object.keys(first ?? {}).filter((name) => name !== "at");
  const channels = channelsFrom(names);
  if (!channels.some(({ role }) => role === "edge" || role === "hotspot" || role === "memory"))
    throw new Problem({
      code: "no-channels",
      what: "The script’s samples name no temperature of a card.",
      remedy: "Name one such as “GPU temperature [°C]”; see docs/push.md.",
    });
  let listener: Listener | undefined;
  const clock = runClock(resumed);
  /** Times that are kept: what was sent before, its answer lost, is known again however much came since. */
  const known = new Set(resumed?.times);
  let lastS = resumed?.times.at(-1) ?? -1;
  /** By the sender's clock, when the run began, ms. */
  let zeroMs = resumed?.place ?? undefined;
  let odd = 0;
  const driver: Driver = {
    channels: channels.map(({ header, role, unit }) => ({ header, role, unit })),
    place: () => zeroMs ?? null,
    start(given) {
      listener = given;
    },
    push(rows) {
      const left = { repeated: 0, notNumbers: 0, outOfTime: 0 };
      const kept: Sample[] = [];
      for (const row of rows) {
        const nowS = clock();
        const atMs = stampOf(row.at);
        // The sender's clock may be off as a whole; only its steps count.
        if (atMs !== undefined && !Number.isNaN(atMs)) zeroMs ??= atMs - 1000 * nowS;
        const tS = atMs === undefined ? nowS : (atMs - (zeroMs ?? 0)) / 1000;
        if (known.has(tS)) {
          left.repeated++;
          continue;
        }
        const off = Number.isNaN(tS) || tS > nowS + AHEAD_S || tS < lastS - BEHIND_S;
        odd = off ? odd + 1 : 0;
        // One odd time is a slip; several in a row mean that the sender's clock was set: they are taken as of now.
        const moved = odd >= CLOCK_MOVED && atMs !== undefined && !Number.isNaN(atMs);
        if (moved) {
          zeroMs = atMs - 1000 * nowS;
          odd = 0;
        }
        const at = moved ? nowS : tS;
        if (off && !moved) left.outOfTime++;
        else if (at <= lastS) left.repeated++;
        else {
          lastS = at;
          known.add(at);
          kept.push({
            tS: at,
            values: channels.map((channel) => {
              const value = valueIn(channel, row[channel.header]);
              if (value === undefined) left.notNumbers++;
              return value ?? Number.NaN;
            }),
          });
        }
      }
      if (left.repeated + left.notNumbers + left.outOfTime > 0) listener?.left(left);
      if (kept.length > 0) void listener?.samples(kept);
      return { kept: kept.length };
    },
    close() {
      listener = undefined;
      return Promise.resolve();
    },
  };
  return driver;
};

/** @returns ms since 1970; NaN for a time that is none; undefined without one */
function stampOf(at: unknown): number | undefined {
  if (at === undefined || at === null) return undefined;
  return typeof at === "number" ? at * 1000 : Date.parse(String(at));
}

function firstRow(benchId: string): Promise<Row> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => {
      waiting.delete(benchId);
      reject(
        new Problem({
          code: "no-device",
          what: "No script has sent a sample to this bench yet.",
          remedy: "Start the script with the bench’s token first; docs/push.md has an example.",
        }),
      );
    }, PATIENCE_MS);
    waiting.set(benchId, (row) => {
      clearTimeout(timer);
      waiting.delete(benchId);
      resolve(row);
    });
  });
}
