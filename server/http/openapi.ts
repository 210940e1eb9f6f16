import { toJsonSchema } from "@valibot/to-json-schema";
import type { Route } from "./route.ts";

const ONCE = "Sent again with the same key within a day, it adds nothing and is answered as the first time.";
const TEXT = { type: "string" };

/** The HTTP API as OpenAPI 3.1, read off the routes themselves; bodies are the schemas of `contract/`. */
export function openApi(routes: readonly Route[]): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const one of routes) {
    const path = `/api${one.path.replace(/:(\w+)/g, "{$1}")}`;
    paths[path] = { ...paths[path], [one.method]: operationOf(one) };
  }
  return { openapi: "3.1.0", info: { title: "Algidus", version: "0.1.0" }, paths };
}

function operationOf({ method, path, summary, schema, form, queries }: Route): object {
  const parameters: object[] = [
    ...[...path.matchAll(/:(\w+)/g)].map(([, name]) => ({ name, in: "path", required: true, schema: TEXT })),
    ...queries.map((name) => ({ name, in: "query", schema: TEXT })),
  ];
  if (method === "post") parameters.push({ name: "Idempotency-Key", in: "header", description: ONCE, schema: TEXT });
  const content = schema
    ? // Checks that JSON Schema can't say (one field against another) stand in the answer's words instead.
      { "application/json": { schema: toJsonSchema(schema, { errorMode: "ignore", typeMode: "input" }) } }
    : form.length > 0
      ? {
          "multipart/form-data": {
            schema: { type: "object", properties: Object.fromEntries(form.map((name) => [name, TEXT])) },
          },
        }
      : undefined;
  return {
    summary,
    parameters,
    ...(content ? { requestBody: { content } } : {}),
    responses: {
      "2XX": { description: "Done" },
      default: { description: "RFC 9457 problem", content: { "application/problem+json": {} } },
    },
  };
}
