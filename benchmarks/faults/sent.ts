/** Requests that something went wrong with, as sent over the wire: each is answered in words, none by a fault, and the server goes on. */
import { once } from "node:events";
import { connect } from "node:net";
import { join } from "node:path";
import type { Card } from "#contract";
import type { ProblemDetail } from "#core";
import { seeded } from "#core/random/index.ts";
import { checkDatabase } from "#server/services/check.ts";
import { openContext } from "#server/start.ts";
import { CARD, RUN } from "#server/tests/server.ts";
import { asked } from "./asked.ts";
import { mutated, plainLog } from "./mutated.ts";
import { serve } from "./server.ts";

type Random = ReturnType<typeof seeded>;

interface Told {
  taken: number;
  refused: number;
  /** Closed without an answer, as one may do with what is no HTTP. */
  closed: number;
  longestMs: number;
  faults: string[];
}

const ODD = [
  "",
  " ",
  "0",
  "-1",
  "é",
  "%00",
  "a".repeat(9000),
  "; charset=utf-99",
  '"',
  "\u0001",
  "1e9",
  "../../x",
  "null",
];
const HEADS: ReadonlyArray<readonly [name: string, values: readonly string[]]> = [
  [
    "Content-Type",
    ["text/plain", "multipart/form-data", "application/json; charset=x", "multipart/form-data; boundary="],
  ],
  ["Content-Encoding", ["gzip", "br", "zebra"]],
  ["Content-Length", ["0", "5", "99999999999999"]],
  ["Transfer-Encoding", ["chunked", "gzip, chunked"]],
  ["Idempotency-Key", ["one", "one", "k".repeat(500)]],
  ["Origin", ["null", "http://elsewhere.test"]],
  ["Sec-Fetch-Site", ["cross-site"]],
  ["If-None-Match", ["*"]],
  ["Range", ["bytes=-1", "bytes=9-2"]],
  ["Cookie", ["session=x; session=y", "=;=;="]],
];
/** Heads that say where a body ends. */
const FRAMING = ["Content-Length", "Transfer-Encoding"];
const some = (random: Random, share: number): boolean => random.between(0, 1) < share;
const whole = (random: Random, below: number): number => Math.floor(random.between(0, Math.max(1, below)));
const one = <T>(random: Random, of: readonly T[]): T => random.pick(of as readonly [T, ...T[]]);

/** A form that carries a log and its conditions; in some its lines are lost, doubled or changed. */
function form(log: string, random: Random): string {
  const lines = [
    "--b",
    `Content-Disposition: form-data; name="run"`,
    "",
    some(random, 0.2) ? mutated(JSON.stringify(RUN), random) : JSON.stringify(RUN),
    "--b",
    `Content-Disposition: form-data; name="log"; filename="a.csv"`,
    "Content-Type: text/csv",
    "",
    log,
    "--b--",
    "",
  ];
  const at = whole(random, lines.length);
  if (some(random, 0.3)) lines.splice(at, whole(random, 3), ...(some(random, 0.5) ? [one(random, ODD)] : []));
  return lines.join("\r\n");
}

interface Request {
  bytes: Buffer;
  /** Its length is another than it says, maybe: who sent it tells that there is no more. */
  lies: boolean;
}

function request(card: Card, log: string, random: Random): Request {
  const [method, path, type, body] = one(random, [
    ["POST", `/api/services/${card.serviceId}/runs`, "multipart/form-data; boundary=b", form(log, random)],
    ["POST", `/api/cards/${card.id}/photos`, "multipart/form-data; boundary=b", form(log, random)],
    ["POST", "/api/cards", "application/json", mutated(JSON.stringify({ ...CARD, maker: log.slice(0, 40) }), random)],
    ["PUT", `/api/cards/${card.id}`, "application/json", mutated(JSON.stringify({ ...CARD, version: 1 }), random)],
    ["POST", "/api/import", "application/json", mutated('{"format":"algidus","tables":{"cards":[]}}', random)],
  ] as const);
  const heads = new Map([
    ["Host", "127.0.0.1"],
    ["Content-Type", type],
    ["Content-Length", String(Buffer.byteLength(body))],
  ]);
  const changed = some(random, 0.5) ? one(random, HEADS) : undefined;
  if (changed) {
    const [name, values] = changed;
    heads.set(name, some(random, 0.5) ? one(random, values) : one(random, ODD));
  }
  const address = some(random, 0.1)
    ? path + one(random, ["/", "?x=%E0%A4%A", "/%2e%2e/", "?version=1&version=2"])
    : path;
  const head = [`${method} ${address} HTTP/1.1`, ...[...heads].map(([name, value]) => `${name}: ${value}`)];
  return {
    bytes: Buffer.from(`${head.join("\r\n")}\r\nConnection: close\r\n\r\n${body}`),
    lies: changed !== undefined && FRAMING.includes(changed[0]),
  };
}

const WAIT_MS = 20_000;
const MOST_MS = 5000;

/** @returns status and body, undefined where the connection closed without one */
async function answerTo(
  address: string,
  { bytes, lies }: Request,
): Promise<{ status: number; body: string } | undefined> {
  const socket = connect(Number(new URL(address).port), "127.0.0.1");
  let said = "";
  socket.on("data", (data) => {
    said += data.toString();
  });
  socket.on("error", () => socket.destroy());
  socket.setTimeout(WAIT_MS, () => socket.destroy());
  if (lies) socket.end(bytes);
  else socket.write(bytes);
  await once(socket, "close");
  const status = /^HTTP\/1\.1 (\d{3})/.exec(said);
  return status ? { status: Number(status[1]), body: said.slice(said.indexOf("\r\n\r\n") + 4) } : undefined;
}

/** What is not as it should be in an answer; undefined where all is. */
function wrongIn({ status, body }: { status: number; body: string }): string | undefined {
  if (status >= 500) return `${status}: ${body.slice(0, 200)}`;
  // What is no HTTP is refused below the application, which has no words for it.
  if (status < 400 || body === "") return;
  const from = body.indexOf("{");
  const { what, remedy } = (
    from < 0 ? {} : JSON.parse(body.slice(from, body.lastIndexOf("}") + 1))
  ) as Partial<ProblemDetail>;
  return what && remedy ? undefined : `${status} without words: ${body.slice(0, 200)}`;
}

/** Sends so many requests to a server that has this card. */
export async function sendMutated(address: string, card: Card, seed: number, count: number): Promise<Told> {
  const random = seeded(seed);
  const told: Told = { taken: 0, refused: 0, closed: 0, longestMs: 0, faults: [] };
  for (let k = 0; k < count; k++) {
    const asking = request(card, mutated(plainLog(random), random), random);
    const begun = performance.now();
    const answer = await answerTo(address, asking);
    told.longestMs = Math.max(told.longestMs, performance.now() - begun);
    const wrong = answer && wrongIn(answer);
    if (wrong) told.faults.push(`request ${k} of seed ${seed}: ${wrong}\n${asking.bytes.toString().slice(0, 400)}`);
    else if (!answer) told.closed++;
    else if (answer.status < 400) told.taken++;
    else told.refused++;
  }
  return told;
}

const REQUESTS = Number(process.env.REQUESTS ?? 2000);

export async function sent(folder: string): Promise<void> {
  const database = join(folder, "sent.db");
  const server = await serve(database);
  const made = await fetch(new URL("api/cards", server.address), {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(CARD),
  });
  const card = (await made.json()) as Card;
  const told = await sendMutated(server.address, card, 1, REQUESTS);
  const alive = await fetch(new URL(`api/cards/${card.id}`, server.address));
  const said = server.said();
  await server.stop();
  const { faults } = told;
  asked(
    faults.length === 0,
    `${REQUESTS} mutated requests: ${told.taken} taken, ${told.refused} refused in words, ${told.closed} closed, ${faults.length} faults (asked for: none)`,
  );
  asked(alive.ok && said === "", `the server goes on and logged no fault${said && `: ${said.slice(0, 300)}`}`);
  asked(told.longestMs < MOST_MS, `the longest took ${(told.longestMs / 1000).toFixed(2)} s (asked for: under 5)`);
  const { sound } = await checkDatabase(database, false, () => openContext(database));
  asked(sound, "what came in is sound");
  for (const fault of faults.slice(0, 5)) console.log(`  ${fault}`);
}
