/** Servers that are killed while they are written to: what was answered is there, what was not is sent again and is there once. */
import { join } from "node:path";
import { type Card, EMPTY_BENCH, type LiveRun, type TestBench } from "#contract";
import { openStore } from "#server/db/open.ts";
import { CARD, RUN, runForm, testLog } from "#server/tests/server.ts";
import { pause, serve } from "./server.ts";

const KILLS = Number(process.env.KILLS ?? 40);
const WRITERS = 3;

const post = async (
  address: string,
  path: string,
  body: object,
  headers: Record<string, string> = {},
): Promise<Response> =>
  fetch(new URL(path, address), {
    method: "POST",
    headers: { ...(body instanceof FormData ? {} : { "Content-Type": "application/json" }), ...headers },
    body: body instanceof FormData ? body : JSON.stringify(body),
  });

/** Answered in full; false where the server was killed first. */
async function answered(sent: Promise<Response>): Promise<unknown> {
  try {
    const answer = await sent;
    const text = await answer.text();
    if (!answer.ok) throw new RangeError(`${answer.status}: ${text.slice(0, 200)}`);
    return text ? JSON.parse(text) : true;
  } catch (error) {
    if (error instanceof RangeError) throw error;
    return false;
  }
}

/** Cards and runs with a key each. */
async function writes(folder: string): Promise<void> {
  const database = join(folder, "writes.db");
  const saved = new Set<string>();
  const open = new Map<string, () => Promise<unknown>>();
  let address = "";
  let serviceId = "";
  let lostAnswers = 0;
  const log = testLog();
  const send = async (key: string, path: string, body: () => object): Promise<boolean> => {
    open.set(key, () => answered(post(address, path, body(), { "Idempotency-Key": key })));
    if (!(await open.get(key)?.())) return false;
    open.delete(key);
    saved.add(key);
    return true;
  };
  for (let round = 0; round <= KILLS; round++) {
    const server = await serve(database);
    ({ address } = server);
    serviceId ||= ((await answered(post(address, "api/cards", CARD))) as Card).serviceId;
    lostAnswers += open.size;
    for (const [key, again] of open)
      if (await again()) {
        open.delete(key);
        saved.add(key);
      }
    if (round === KILLS) {
      await server.stop();
      break;
    }
    const writers = Array.from({ length: WRITERS }, async (_, writer) => {
      for (let k = 0; ; k++) {
        const serial = `card ${round}-${writer}-${k}`;
        if (!(await send(serial, "api/cards", () => ({ ...CARD, serial })))) return;
      }
    });
    const dropped = send(`run ${round}`, `api/services/${serviceId}/runs`, () =>
      runForm(`${log}${2000 + round},60\n`, RUN),
    );
    await pause(40 + ((round * 37) % 300));
    await server.kill();
    await Promise.all([...writers, dropped]);
  }
  const store = await openStore(database);
  const [serials, runs, check] = await Promise.all([
    store.client.execute("SELECT serial FROM cards WHERE serial LIKE 'card %'"),
    store.client.execute("SELECT count(*) AS n FROM runs"),
    store.client.execute("PRAGMA integrity_check"),
  ]);
  await store.close();
  const found = serials.rows.map((row) => String(row.serial));
  const lost = [...saved].filter((key) => key.startsWith("card") && !found.includes(key)).length;
  console.log(
    `${KILLS} kills, ${saved.size} writes answered, ${lostAnswers} sent again: ${lost} lost, ${found.length - new Set(found).size} cards twice (asked for: none); ${runs.rows[0]?.n} of ${KILLS} runs; integrity ${String(check.rows[0]?.integrity_check)}`,
  );
}

/** Samples of a live run, sent again with their time where there was no answer. */
async function samples(folder: string): Promise<void> {
  const database = join(folder, "live.db");
  const first = await serve(database);
  const card = (await answered(post(first.address, "api/cards", CARD))) as Card;
  const bench = (await answered(
    post(first.address, "api/benches", { ...EMPTY_BENCH, name: "Script", driver: "push" }),
  )) as TestBench;
  const sample = (k: number) => ({ at: 1_800_000_000 + k / 1000, "GPU temperature [°C]": 40 + (k % 7) / 10 });
  const push = (address: string, from: number, to: number) =>
    answered(
      post(
        address,
        `api/benches/${bench.id}/samples`,
        { samples: Array.from({ length: to - from }, (_, k) => sample(from + k)) },
        { Authorization: `Bearer ${bench.token}` },
      ),
    );
  await push(first.address, 0, 1);
  const protocol = {
    name: "Soak",
    about: "",
    steps: [{ kind: "soak", label: "Soak", fan: 62, powerPct: 100, minutes: 200, early: false }],
  };
  const live = (await answered(
    post(first.address, "api/live", {
      benchId: bench.id,
      serviceId: card.serviceId,
      side: "before",
      protocol,
      loadName: "loop",
      sidePanel: "open bench",
      roomC: 21,
    }),
  )) as LiveRun;
  await first.stop();
  let kept = 1;
  let sent = 1;
  const kills = Math.ceil(KILLS / 4);
  for (let round = 0; round < kills; round++) {
    const server = await serve(database);
    const going = (async () => {
      for (;;) {
        sent += 4;
        if (!(await push(server.address, kept, sent))) return;
        kept = sent;
      }
    })();
    await pause(150 + ((round * 53) % 200));
    await server.kill();
    await going;
  }
  const last = await serve(database);
  await push(last.address, kept, sent);
  const { status, counts } = (await (await fetch(new URL(`api/live/${live.id}`, last.address))).json()) as LiveRun;
  await last.stop();
  console.log(
    `${kills} kills of a live run, ${sent - 1} samples sent: ${counts.kept} kept (asked for: all, once), the run is ${status}`,
  );
}

export async function kills(folder: string): Promise<void> {
  await writes(folder);
  await samples(folder);
}
