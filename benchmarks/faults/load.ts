/** Thirty clients that read and write a workshop of 2,000 cards, and one that drops a log of 1,800 rows again and again. */
import { copyFileSync } from "node:fs";
import { join } from "node:path";
import { quantile } from "simple-statistics";
import { seeded } from "#core/random/index.ts";
import { logText, MIDSIZE, simulate } from "#core/virtualcard/index.ts";
import { RUN } from "#server/tests/server.ts";
import { makeShop } from "../make-shop.ts";
import { asked } from "./asked.ts";
import { pause, serve } from "./server.ts";

const CLIENTS = 30;
/** A server that has just begun reads its own code first: told apart. */
const WARM_UP_S = 6;
const SECONDS = Number(process.env.LOAD_SECONDS ?? 60);
/** On a quiet machine. */
const MOST_MS = { upload: 1000, other: 150, loop: 50, still: 100 };
/** A person looks at what came before the next click. */
const THINK_MS = [300, 1500] as const;

interface Line {
  cardId: string;
  serviceId: string;
}

export async function load(folder: string): Promise<void> {
  const database = join(folder, "load.db");
  if (process.env.SHOP) copyFileSync(process.env.SHOP, database);
  else await makeShop(database);
  const server = await serve(database);
  const times = new Map<string, number[]>();
  const errors: string[] = [];
  const ask = async (kind: string, path: string, init: RequestInit = {}): Promise<unknown> => {
    const begun = performance.now();
    const answer = await fetch(new URL(path, server.address), init).catch((error: unknown) => String(error));
    const text = typeof answer === "string" ? answer : await answer.text();
    times.set(kind, [...(times.get(kind) ?? []), performance.now() - begun]);
    if (typeof answer === "string" || answer.status >= 400) errors.push(`${kind}: ${text.slice(0, 200)}`);
    return typeof answer !== "string" && answer.ok && text ? JSON.parse(text) : undefined;
  };
  const json = (method: string, body: object): RequestInit => ({
    method,
    headers: { "Content-Type": "application/json", "Idempotency-Key": crypto.randomUUID() },
    body: JSON.stringify(body),
  });
  const lines = (await ask("start", "api/bench?limit=500")) as Line[];
  const boards = (await ask("start", "api/boards")) as Array<{ id: string }>;
  const stamps = new Map<number, string>();
  const note = { doneOn: "2026-05-04", person: "Runa", work: ["cleaned"], compound: "", minutes: 5, text: "" };
  const steps = simulate({
    seed: 5,
    build: MIDSIZE,
    steps: [
      { durationS: 60, load: 0 },
      { durationS: 1740, load: 1 },
    ],
  });
  const log = logText(steps);
  const end = performance.now() + 1000 * (WARM_UP_S + SECONDS);

  const client = async (index: number): Promise<void> => {
    const random = seeded(index);
    const moves: Array<(line: Line) => Promise<unknown>> = [
      () => ask("Bench", "api/bench?closed=false&limit=100"),
      () => ask("Cards", "api/bench?limit=100"),
      () => ask("Cards, found", `api/bench?limit=100&find=brevane%20${30 + Math.floor(random.between(0, 40))}`),
      (line) => ask("service", `api/services/${line.serviceId}`),
      (line) => ask("card", `api/cards/${line.cardId}`),
      (line) => ask("advice", `api/services/${line.serviceId}/advice`),
      (line) => ask("pads", `api/services/${line.serviceId}/pads`),
      () => ask("stores", "api/stores"),
      async () => {
        const day = (await ask(
          "day",
          stamps.get(index) ? `api/day?known=${encodeURIComponent(stamps.get(index) ?? "")}` : "api/day",
        )) as { stamp: string } | undefined;
        if (day) stamps.set(index, day.stamp);
      },
      () =>
        ask(
          "findings",
          "api/findings",
          json("POST", { by: "compound", adjust: [], only: {}, measure: "die", paper: true }),
        ),
      () => ask("model", `api/boards/${random.pick(boards as [{ id: string }, ...Array<{ id: string }>]).id}/known`),
      () => ask("live", "api/live"),
      (line) => ask("write: note", `api/services/${line.serviceId}/notes`, json("POST", note)),
      async (line) => {
        const card = (await ask("card", `api/cards/${line.cardId}`)) as object;
        await ask("write: card", `api/cards/${line.cardId}`, json("PUT", { ...card, ownerName: `Owner ${index}` }));
      },
    ];
    while (performance.now() < end) {
      await random.pick(moves as [(typeof moves)[number], ...typeof moves])(random.pick(lines as [Line, ...Line[]]));
      await pause(random.between(...THINK_MS));
    }
  };
  const dropper = async (): Promise<void> => {
    for (let k = 0; performance.now() < end; k++) {
      const form = new FormData();
      form.set("log", new Blob([`${log}${2000 + k},60\n`]), "run.csv");
      form.set("run", JSON.stringify(RUN));
      await ask("upload of 1,800 rows", `api/services/${lines[k % lines.length]?.serviceId}/runs`, {
        method: "POST",
        body: form,
      });
      await pause(500);
    }
  };
  const memory: number[] = [];
  const watch = async (): Promise<void> => {
    for (let k = 0; k <= 4; k++) {
      memory.push(server.memoryMb());
      if (k < 4) await pause((1000 * SECONDS) / 4);
    }
  };
  await server.stoodStill();
  const warmUp = async (): Promise<{ maxMs: number }> => {
    await pause(1000 * WARM_UP_S);
    times.clear();
    return server.stoodStill();
  };
  const [first] = await Promise.all([
    warmUp(),
    ...Array.from({ length: CLIENTS }, (_, index) => client(index)),
    dropper(),
    watch(),
  ]);
  const still = await server.stoodStill();
  const all = [...times.values()].reduce((sum, some) => sum + some.length, 0);
  asked(
    errors.length === 0,
    `${all} requests of ${CLIENTS} clients in ${SECONDS} s, ${errors.length} refused or lost (asked for: none)`,
  );
  for (const text of errors.slice(0, 5)) console.log(`  ${text}`);
  for (const [kind, some] of [...times].sort(([one], [other]) => one.localeCompare(other)))
    if (kind !== "start") {
      const most = kind.startsWith("upload") ? MOST_MS.upload : MOST_MS.other;
      const p95 = quantile(some, 0.95);
      asked(
        p95 <= most,
        `${kind}: ${some.length} times, ${quantile(some, 0.5).toFixed(0)} ms in the median, 95 % under ${p95.toFixed(0)} ms (asked for: ${most})`,
      );
    }
  asked(
    still.p99Ms <= MOST_MS.loop && still.maxMs <= MOST_MS.still,
    `event loop: stood still for ${still.maxMs.toFixed(0)} ms at most (asked for: ${MOST_MS.still}), 99 % under ${still.p99Ms.toFixed(0)} ms (asked for: ${MOST_MS.loop}); in the first ${WARM_UP_S} s ${first.maxMs.toFixed(0)} ms`,
  );
  console.log(`memory, MB: ${memory.map((mb) => mb.toFixed(0)).join(", ")} (asked for: flat)`);
  await server.stop();
}
