import { Validator } from "@seriousme/openapi-schema-validator";
import { Ajv2020, type ValidateFunction } from "ajv/dist/2020.js";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import {
  API,
  type Card,
  EMPTY_BENCH,
  EMPTY_MATERIAL,
  type Run,
  type Stores,
  type TestBench,
  type Wire,
} from "#contract";
import { EMPTY_COOLER } from "#core/coolers/index.ts";
import { type Random, seeded } from "#core/random/index.ts";
import { dropRun, openTestServer, RUN, runForm, type TestServer, takeIn, testLog } from "./server.ts";

type Schema = Record<string, unknown> & { properties?: Record<string, Schema>; items?: Schema; anyOf?: Schema[] };
interface Operation {
  operationId: string;
  parameters: Array<{ name: string; in: string; schema: Schema }>;
  requestBody?: { content: Record<string, { schema: Schema }> };
  responses: Record<string, { content?: Record<string, { schema: Schema }> }>;
}
interface Described {
  paths: Record<string, Record<string, Operation>>;
  components: { schemas: Record<string, Schema> };
}

let server: TestServer;
let described: Described;
beforeAll(async () => {
  server = await openTestServer();
  described = (await server.ask<Described>("GET", "/api/openapi.json")).body;
});
afterAll(() => server.close());

const operations = (): Array<[path: string, method: string, operation: Operation]> =>
  Object.entries(described.paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]): [string, string, Operation] => [path, method, operation]),
  );

/** Something that a schema allows, or nearly: its checks of one field against another are not said in it. */
function made(schema: Schema, random: Random, depth = 0): unknown {
  const among = (schema.anyOf ?? schema.oneOf) as Schema[] | undefined;
  if (among) return made(random.pick(among as [Schema, ...Schema[]]), random, depth);
  if (schema.const !== undefined) return schema.const;
  if (schema.enum) return random.pick(schema.enum as [unknown, ...unknown[]]);
  const { minimum: low = 0, maximum: high = 9 } = schema as { minimum?: number; maximum?: number };
  switch (schema.type) {
    case "object":
      return Object.fromEntries(
        Object.entries(schema.properties ?? {}).map(([name, field]) => [
          name,
          // The first version of nearly everything here is 0 or 1.
          name === "version" && depth === 0 ? random.pick([0, 1]) : made(field, random, depth + 1),
        ]),
      );
    case "array": {
      const few = Number(schema.minItems ?? 0);
      const items = (schema.prefixItems as Schema[] | undefined) ?? Array(few + (depth < 5 ? 1 : 0)).fill(schema.items);
      return items.map((item: Schema) => made(item, random, depth + 1));
    }
    case "boolean":
      return random.between(0, 1) < 0.5;
    case "integer":
      return Math.ceil(random.between(low, high));
    case "number":
      return random.between(low, high);
    case "null":
      return null;
    default:
      if (schema.format === "date") return "2026-05-04";
      if (schema.format === "date-time") return "2026-05-04T10:00:00Z";
      return "word ".repeat(4).slice(0, Math.min(20, Number(schema.maxLength ?? 20)));
  }
}

describe("the description of the API", () => {
  it("is one that a public validator of OpenAPI 3.1 takes", async () => {
    expect(await new Validator().validate({ ...structuredClone(described) })).toMatchObject({ valid: true });
  });

  it("has a shape for whatever is answered, and one for every refusal", () => {
    expect(operations().length).toBe(Object.keys(API).length);
    for (const [path, method, { responses }] of operations())
      for (const [status, { content }] of Object.entries(responses))
        if (status !== "204")
          for (const { schema } of Object.values(content ?? { none: { schema: undefined } }))
            expect(schema, `${method} ${path} ${status}`).toBeTypeOf("object");
  });

  it("says what a body must hold and what a list can be asked for", () => {
    const bodyOf = (path: string, method: string) =>
      described.paths[path]?.[method]?.requestBody?.content["application/json"]?.schema.required;
    expect(bodyOf("/api/offers/{offerId}", "put")).toEqual(expect.arrayContaining(["price", "version"]));
    expect(bodyOf("/api/services/{serviceId}/notes", "post")).toContain("work");
    expect(described.paths["/api/bench"]?.get?.parameters.map(({ name }) => name)).toEqual(
      expect.arrayContaining(["find", "closed", "after", "limit"]),
    );
  });

  it("tells what comes: every line is called with what there is and with made-up bodies, and answers as described", async () => {
    const ids = await oneOfEach();
    const ajv = new Ajv2020({ strict: false, validateFormats: false });
    ajv.addSchema({ $id: "described", components: described.components });
    const checks = new Map<Schema, ValidateFunction>();
    const checkOf = (schema: Schema): ValidateFunction => {
      const whole = JSON.stringify(schema).replaceAll('"#/components', '"described#/components');
      const check = checks.get(schema) ?? ajv.compile(JSON.parse(whole) as Schema);
      checks.set(schema, check);
      return check;
    };
    const answered = new Set<string>();
    const call = async ([path, method, operation]: ReturnType<typeof operations>[number], random: Random) => {
      const json = operation.requestBody?.content["application/json"]?.schema;
      const form = operation.requestBody?.content["multipart/form-data"] && runForm(testLog().slice(0, 4000), RUN);
      const answer = await fetch(
        new URL(
          path.replace(/\{(\w+)\}/g, (_, name: string) => ids[name] ?? "none"),
          server.running.address,
        ),
        {
          method: method.toUpperCase(),
          ...(json
            ? { headers: { "Content-Type": "application/json" }, body: JSON.stringify(made(json, random)) }
            : {}),
          ...(form ? { body: form } : {}),
        },
      );
      const type = (answer.headers.get("Content-Type") ?? "").split(";")[0] as string;
      if (answer.ok) answered.add(operation.operationId);
      if (type === "text/event-stream") return answer.body?.cancel();
      const expected = operation.responses[String(answer.status)] ?? operation.responses.default;
      const words = `${method} ${path}: ${answer.status}`;
      expect(answer.status, words).toBeLessThan(500);
      if (answer.status === 204) return answer.text();
      const schema = expected?.content?.[type]?.schema;
      expect(schema, `${words} ${type}`).toBeDefined();
      if (!type.endsWith("json")) return answer.arrayBuffer();
      const body: unknown = await answer.json();
      const check = checkOf(schema as Schema);
      check(body);
      expect(check.errors ?? [], `${words} ${JSON.stringify(body).slice(0, 300)}`).toEqual([]);
    };
    const all = operations().filter(([, , { operationId }]) => operationId !== "signOut");
    const reads = all.filter(([, method]) => method === "get");
    const random = seeded(29);
    for (const line of reads) await call(line, random);
    const changes = all.filter(([, method]) => method !== "get");
    for (const line of [...changes, ...reads]) await call(line, random);
    // Nearly every read has something to tell: else the rest of this proves little.
    const silent = Object.entries<Wire>(API).filter(([name, { method }]) => method === "get" && !answered.has(name));
    expect(silent.map(([name]) => name)).toEqual(["underlay"]);
    expect(answered.size).toBeGreaterThan(80);
  });
});

/** A shop with one of each thing. @returns their ids by the names of parameters */
async function oneOfEach(): Promise<Record<string, string>> {
  const add = async <T>(path: string, body: unknown): Promise<T> => {
    const answer = await server.ask<T>("POST", path, body);
    expect(answer.status, `${path} ${JSON.stringify(answer.body)}`).toBe(path === "/api/benches" ? 200 : 201);
    return answer.body;
  };
  const card = await takeIn(server);
  const of = `/api/services/${card.serviceId}`;
  const run = await dropRun(server, card);
  await dropRun(server, card, { seed: 2 }, { side: "after" });
  const photo = new FormData();
  photo.append("photo", new Blob([await onePixel()]), "one.png");
  const { photos } = await add<Card>(`/api/cards/${card.id}/photos`, photo);
  const { materials } = await add<Stores>("/api/materials", { ...EMPTY_MATERIAL, name: "Violet pad" });
  const sheet = { label: "", thicknessMm: 1.5, widthMm: 120, heightMm: 85, price: 15, materialId: materials[0]?.id };
  const { lots } = await add<Stores>("/api/lots", { ...sheet, amount: 3, openedOn: null, useBefore: null });
  const { offers } = await add<Stores>("/api/offers", { ...sheet, leadDays: 2, orderedOn: null });
  const [use] = await add<Array<{ id: string }>>(`${of}/uses`, {
    lotId: lots[0]?.id,
    amount: 1,
    what: "",
    accepted: false,
  });
  const note = { doneOn: "2026-05-04", person: "Runa", work: ["cleaned"], compound: "", minutes: 5, text: "" };
  const { notes } = await add<{ notes: Array<{ id: string }> }>(`${of}/notes`, note);
  const bench = await add<TestBench>("/api/benches", { ...EMPTY_BENCH, name: "Left" });
  const cooler = await add<{ id: string }>("/api/coolers", { cooler: { ...EMPTY_COOLER, name: "Fjord twin" } });
  const protocol = {
    name: "Short",
    about: "",
    steps: [{ kind: "soak", label: "soak", fan: 60, powerPct: 100, minutes: 2, early: false }],
  };
  const protocols = await add<Array<{ id?: string }>>("/api/protocols", protocol);
  const live = await add<{ id: string }>("/api/live", {
    benchId: bench.id,
    serviceId: card.serviceId,
    side: "before",
    protocol,
    loadName: "loop",
    sidePanel: "open bench",
    roomC: 22,
  });
  const [reading] = await add<Array<{ id: string }>>(`${of}/readings`, {
    kind: "probe",
    shown: 61,
    place: "die",
    liveId: null,
    emissivity: null,
    surroundC: null,
    note: "",
  });
  const ids = {
    cardId: card.id,
    serviceId: card.serviceId,
    runId: (run satisfies Run).id,
    boardId: card.boardModelId,
    photoId: photos[0]?.id,
    materialId: materials[0]?.id,
    lotId: lots[0]?.id,
    offerId: offers[0]?.id,
    useId: use?.id,
    noteId: notes[0]?.id,
    benchId: bench.id,
    coolerId: cooler.id,
    protocolId: protocols.find(({ id }) => id)?.id,
    liveId: live.id,
    readingId: reading?.id,
  };
  expect(Object.entries(ids).filter(([, id]) => !id)).toEqual([]);
  return ids as Record<string, string>;
}

async function onePixel(): Promise<Uint8Array<ArrayBuffer>> {
  const { default: sharp } = await import("sharp");
  const image = sharp({ create: { width: 2, height: 2, channels: 3, background: "teal" } });
  return new Uint8Array(await image.png().toBuffer());
}
