import { toJsonSchema, toJsonSchemaDefs } from "@valibot/to-json-schema";
import * as v from "valibot";
import * as contract from "#contract";
import { isMedia, paramsIn, partOf, type Wire } from "#contract";

const ONCE = "Sent again with the same key within a day, it adds nothing and is answered as the first time.";
const TEXT = { type: "string" };
const AT = "#/components/schemas/";
const JSON_TYPE = "application/json";

/** Refusals in words (RFC 9457). */
const ProblemAnswer = v.object({
  type: v.optional(v.string()),
  title: v.string(),
  status: v.number(),
  detail: v.string(),
  code: v.string(),
  what: v.string(),
  where: v.optional(v.string()),
  remedy: v.string(),
  errors: v.optional(v.record(v.string(), v.string())),
});

/** What the contract gives a name is named in the description too, and described once. */
const NAMED: Record<string, v.GenericSchema> = {
  ...Object.fromEntries(Object.entries(contract).filter(([, thing]) => isSchema(thing))),
  ProblemAnswer,
};

function isSchema(thing: unknown): thing is v.GenericSchema {
  return typeof thing === "object" && thing !== null && "kind" in thing && thing.kind === "schema";
}

// Checks that JSON Schema can't say (one field against another) stand in the answer's words instead.
const HOW = { errorMode: "ignore", target: "draft-2020-12" } as const;

/** What is sent is described in full: it may leave out what an answer always has. */
const sent = (schema: v.GenericSchema): object => bare(toJsonSchema(schema, { ...HOW, typeMode: "input" }));

/** Without what a whole document of its own would say of itself. */
function bare({ $schema: _schema, $defs: _defs, ...rest }: { $schema?: unknown; $defs?: unknown }): object {
  return rest;
}

interface Description {
  openapi: string;
  info: object;
  paths: Record<string, Record<string, object>>;
  components: { schemas: Record<string, object> };
}

/** The HTTP API as OpenAPI 3.1, read off its table. */
export function openApi(routes: ReadonlyArray<{ name: string; wire: Wire }>): Description {
  const paths: Description["paths"] = {};
  const names = new Map(Object.entries(NAMED).map(([name, schema]) => [schema, name]));
  for (const { name, wire } of routes)
    if (wire.answers && !isMedia(wire.answers) && !names.has(wire.answers)) names.set(wire.answers, `${name}Answer`);
  // All at once: of each, what it speaks of would be made anew.
  const all = toJsonSchemaDefs(Object.fromEntries([...names].map(([schema, name]) => [name, schema])), {
    ...HOW,
    typeMode: "output",
    overrideRef: ({ referenceId }) => AT + referenceId,
  });
  for (const { name, wire } of routes) {
    const path = `/api${wire.path.replace(/:(\w+)/g, "{$1}")}`;
    const answer = names.get(wire.answers as v.GenericSchema);
    paths[path] = { ...paths[path], [wire.method]: { operationId: name, ...operationOf(wire, answer) } };
  }
  return {
    openapi: "3.1.0",
    info: { title: "Algidus", version: "0.1.0" },
    paths,
    ...needed(JSON.stringify(paths), all),
  };
}

/** The named shapes that are spoken of, and those that these speak of. */
function needed(text: string, schemas: Record<string, object>): Pick<Description, "components"> {
  const found = new Map<string, object>();
  const look = (words: string): void => {
    for (const [, name = ""] of words.matchAll(/#\/components\/schemas\/(\w+)/g)) {
      const schema = schemas[name];
      if (!schema || found.has(name)) continue;
      found.set(name, bare(schema));
      look(JSON.stringify(schema));
    }
  };
  look(text);
  return { components: { schemas: Object.fromEntries(found) } };
}

function operationOf(
  { path, does, takes, form, file, queries = {}, answers, adds }: Wire,
  answer: string | undefined,
): object {
  const parameters: object[] = [
    ...paramsIn(path).map((name) => ({ name, in: "path", required: true, schema: TEXT })),
    ...Object.entries(queries).map(([name, schema]) => ({
      name,
      in: "query",
      schema: sent(schema as v.GenericSchema),
    })),
  ];
  if (adds) parameters.push({ name: "Idempotency-Key", in: "header", description: ONCE, schema: TEXT });
  const content = takes
    ? { [JSON_TYPE]: { schema: sent(takes) } }
    : form
      ? { "multipart/form-data": { schema: formOf(form) } }
      : file && { [file]: { schema: {} } };
  return {
    summary: does,
    parameters,
    ...(content ? { requestBody: { content } } : {}),
    responses: {
      ...answerOf(answers, answer, adds),
      default: {
        description: "Refused, in words",
        content: { "application/problem+json": { schema: { $ref: `${AT}ProblemAnswer` } } },
      },
    },
  };
}

function answerOf(answers: Wire["answers"], answer = "", adds = false): Record<string, object> {
  if (answers === null) return { 204: { description: "Done" } };
  const content = isMedia(answers)
    ? { [answers.media]: { schema: {} } }
    : { [JSON_TYPE]: { schema: { $ref: AT + answer } } };
  return { [adds ? 201 : 200]: { description: adds ? "Added" : "Done", content } };
}

const formOf = (form: v.ObjectEntries): object => ({
  type: "object",
  properties: Object.fromEntries(
    Object.entries(form).map(([name, part]) => {
      const kind = partOf(part as v.GenericSchema);
      return [name, kind === "file" ? { type: "string", format: "binary" } : sent(part as v.GenericSchema)];
    }),
  ),
});
