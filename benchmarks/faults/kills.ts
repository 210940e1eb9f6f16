/** Servers that are killed while they are written to: what was answered is there, what was not is sent again and is there once. */
import { join } from "node:path";
import sharp from "sharp";
import {
  type Card,
  EMPTY_BENCH,
  EMPTY_MATERIAL,
  type ExportFile,
  type LiveRun,
  type Stores,
  type TestBench,
} from "#contract";
import { connect } from "#server/db/copying.ts";
import { checkDatabase } from "#server/services/check.ts";
import { openContext } from "#server/start.ts";
import { CARD, RUN, runForm, testLog } from "#server/tests/server.ts";
import { asked } from "./asked.ts";
import { pause, serve } from "./server.ts";

const KILLS = Number(process.env.KILLS ?? 40);

const post = async (
  address: string,
  path: string,
  body: object,
  headers: Record<string, string> = {},
  method: "POST" | "PUT" = "POST",
): Promise<Response> =>
  fetch(new URL(path, address), {
    method,
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

/** What is written: how it is sent, and where the keys of all that came in are read. */
interface Kind {
  name: string;
  send: (key: string) => readonly [method: "POST" | "PUT", path: string, body: object];
  keys: string;
}

const FLAT = { thicknessMm: null, widthMm: null, heightMm: null, price: 1, openedOn: null, useBefore: null };

async function kindsOf(address: string): Promise<Kind[]> {
  const { id, serviceId } = (await answered(post(address, "api/cards", CARD))) as Card;
  const service = `api/services/${serviceId}`;
  await answered(post(address, `${service}/runs`, runForm(testLog(), RUN)));
  const { materials } = (await answered(
    post(address, "api/materials", { ...EMPTY_MATERIAL, name: "Wipes", kind: "wipes" }),
  )) as Stores;
  const materialId = materials[0]?.id ?? "";
  const { lots } = (await answered(
    post(address, "api/lots", { ...FLAT, materialId, label: "all", amount: 100_000 }),
  )) as Stores;
  const lotId = lots[0]?.id ?? "";
  const whole = (await (await fetch(new URL("api/export.json", address))).json()) as ExportFile;
  const picture = await sharp({ create: { width: 60, height: 40, channels: 3, background: "#888" } })
    .jpeg()
    .toBuffer();
  const photo = (caption: string): FormData => {
    const form = new FormData();
    form.append("photo", new Blob([new Uint8Array(picture)]), "front.jpg");
    form.append("caption", caption);
    return form;
  };
  const imported = (serial: string): object => {
    const [card] = whole.tables.cards as Array<Record<string, unknown>>;
    const [its] = whole.tables.services as Array<Record<string, unknown>>;
    const none = Object.fromEntries(Object.keys(whole.tables).map((name) => [name, []]));
    return {
      ...whole,
      tables: {
        ...none,
        boardModels: whole.tables.boardModels,
        cards: [{ ...card, id: serial, serial }],
        services: [{ ...its, id: `service of ${serial}`, cardId: serial }],
      },
    };
  };
  const note = { doneOn: "2026-05-04", person: "Runa", work: ["cleaned"], compound: "", minutes: 5 };
  const mark = { station: "strip", attempt: 1, what: "done", value: "", text: "", at: "2026-05-04T08:00:00.000Z" };
  let seed = 2;
  return [
    {
      name: "cards",
      send: (serial) => ["POST", "api/cards", { ...CARD, serial }],
      keys: "SELECT serial AS key FROM cards WHERE id NOT LIKE 'imports %'",
    },
    {
      name: "notes",
      send: (text) => ["POST", `${service}/notes`, { ...note, text }],
      keys: "SELECT text AS key FROM work_notes",
    },
    {
      name: "runs",
      send: (name) => ["POST", `${service}/runs`, runForm(testLog({ seed: seed++ }), { ...RUN, name })],
      keys: "SELECT name AS key FROM runs",
    },
    {
      name: "photos",
      send: (caption) => ["POST", `api/cards/${id}/photos`, photo(caption)],
      keys: "SELECT caption AS key FROM photos",
    },
    {
      name: "marks",
      send: (key) => ["POST", `${service}/steps`, { marks: [{ ...mark, id: key, stepId: `out:${key}` }] }],
      keys: "SELECT substr(step_id, 5) AS key FROM step_marks",
    },
    {
      name: "lots",
      send: (label) => ["POST", "api/lots", { ...FLAT, materialId, label, amount: 5 }],
      keys: "SELECT label AS key FROM lots",
    },
    {
      name: "uses",
      send: (what) => ["POST", `${service}/uses`, { lotId, amount: 1, what, accepted: true }],
      keys: "SELECT what AS key FROM lot_uses",
    },
    {
      name: "plans",
      send: (name) => ["POST", "api/protocols", { name, about: "", steps: [SOAK] }],
      keys: "SELECT name AS key FROM protocols",
    },
    {
      name: "imports",
      send: (serial) => ["POST", "api/import", imported(serial)],
      keys: "SELECT serial AS key FROM cards WHERE id LIKE 'imports %'",
    },
  ];
}

const SOAK = { kind: "soak", label: "Soak", fan: 62, powerPct: 100, minutes: 20, early: false };

/** Every kind of write, each with a key. */
async function writes(folder: string): Promise<void> {
  const database = join(folder, "writes.db");
  const saved = new Map<string, Set<string>>();
  const open = new Map<string, () => Promise<unknown>>();
  let address = "";
  let kinds: Kind[] = [];
  let lostAnswers = 0;
  const send = async ({ name, send: sent }: Kind, key: string): Promise<boolean> => {
    const [method, path, body] = sent(key);
    const again = () => answered(post(address, path, body, { "Idempotency-Key": key }, method));
    const keep = async (): Promise<boolean> => {
      if (!(await again())) return false;
      open.delete(key);
      saved.set(name, (saved.get(name) ?? new Set()).add(key));
      return true;
    };
    open.set(key, keep);
    return keep();
  };
  for (let round = 0; round <= KILLS; round++) {
    const server = await serve(database);
    ({ address } = server);
    if (kinds.length === 0) kinds = await kindsOf(address);
    lostAnswers += open.size;
    for (const again of Array.from(open.values())) await again();
    if (round === KILLS) {
      await server.stop();
      break;
    }
    const writers = kinds.map(async (kind, index) => {
      for (let k = 0; ; k++) {
        if (!(await send(kind, `${kind.name} ${round}-${k}`))) return;
        // Hands, and a copy before each import, take their time.
        await pause(index * 3);
      }
    });
    await pause(60 + ((round * 37) % 400));
    await server.kill();
    await Promise.all(writers);
  }
  const client = connect(database);
  for (const { name, keys } of kinds) {
    const found = (await client.execute(keys)).rows.map((row) => String(row.key));
    const own = found.filter((key) => key.startsWith(`${name} `));
    const sent = saved.get(name) ?? new Set<string>();
    const lost = [...sent].filter((key) => !own.includes(key)).length;
    asked(
      lost === 0 && own.length === new Set(own).size && own.length === sent.size,
      `${name}: ${sent.size} answered, ${lost} lost, ${own.length - new Set(own).size} twice, ${own.length - sent.size} never answered (asked for: none)`,
    );
  }
  client.close();
  const { sound, summaries, stock } = await checkDatabase(database, false, () => openContext(database));
  asked(
    sound,
    `${KILLS} kills, ${lostAnswers} sent again; afterwards ${summaries.wrong.length} summaries and ${stock.wrong.length} lots are wrong (asked for: sound)`,
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
    steps: [{ ...SOAK, minutes: 200 }],
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
  asked(
    counts.kept === sent - 1,
    `${kills} kills of a live run, ${sent - 1} samples sent: ${counts.kept} kept (asked for: all, once), the run is ${status}`,
  );
}

export async function kills(folder: string): Promise<void> {
  await writes(folder);
  await samples(folder);
}
