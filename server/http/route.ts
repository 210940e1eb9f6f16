import { rm } from "node:fs/promises";
import { type Request, type RequestHandler, type Response, Router } from "express";
import * as v from "valibot";
import { inZone } from "../db/days.ts";
import { underKey } from "../db/under-key.ts";
import { checkedBody } from "./problems.ts";

export interface Asked<Body = undefined> {
  params: Readonly<Record<string, string>>;
  query: Readonly<Record<string, string>>;
  body: Body;
  request: Request;
  response: Response;
}

/** One line of the API: what serves a request and what describes it. */
export interface Route {
  method: "get" | "post" | "put";
  /** Below `/api`, with parameters as `:name`. */
  path: string;
  /** What it does, for the description. */
  summary: string;
  /** What the body must be; undefined where none is sent, or where it is a file. */
  schema: v.GenericSchema | undefined;
  /** Runs before the handler: takes a file in, or limits tries. */
  first: RequestHandler | undefined;
  /** Names of the parts of a form. */
  form: readonly string[];
  /** Names of what may stand after the question mark. */
  queries: readonly string[];
  handle: RequestHandler;
}

/** A handler that wrote the answer itself gives this back. */
export const ANSWERED = Symbol("answered");

type Handler<Body> = (asked: Asked<Body>) => unknown;

interface More {
  status?: number;
  first?: RequestHandler;
  form?: readonly string[];
  queries?: readonly string[];
}

const textsOf = (found: object): Record<string, string> =>
  Object.fromEntries(
    Object.entries(found).flatMap(([name, value]) => (typeof value === "string" ? [[name, value]] : [])),
  );

function route<Body>(
  method: Route["method"],
  path: string,
  summary: string,
  schema: v.GenericSchema | undefined,
  handle: Handler<Body>,
  { status = 200, first, form = [], queries = [] }: More = {},
): Route {
  return {
    method,
    path,
    summary,
    schema,
    first,
    form,
    queries,
    handle: async (request, response) => {
      const serve = async () => {
        const body = (schema ? checkedBody(schema, request.body ?? {}) : undefined) as Body;
        return handle({ params: textsOf(request.params), query: textsOf(request.query), body, request, response });
      };
      const { key } = response.locals as { key?: string };
      try {
        const answer = await inZone(request.get("Time-Zone"), () => (key ? underKey(key, serve) : serve()));
        if (answer === ANSWERED) return;
        if (answer === undefined) response.status(204).end();
        else response.status(status).json(answer);
      } finally {
        // Whatever became of it, what came with it has been read by now.
        if (request.file) await rm(request.file.path, { force: true });
      }
    },
  };
}

export const get = (path: string, summary: string, handle: Handler<undefined>, more?: More): Route =>
  route("get", path, summary, undefined, handle, more);

/** Adds something; answered with 201. */
export const post = <S extends v.GenericSchema>(
  path: string,
  summary: string,
  schema: S,
  handle: Handler<v.InferOutput<S>>,
  more: More = {},
): Route => route("post", path, summary, schema, handle, { status: 201, ...more });

export const put = <S extends v.GenericSchema>(
  path: string,
  summary: string,
  schema: S,
  handle: Handler<v.InferOutput<S>>,
  more?: More,
): Route => route("put", path, summary, schema, handle, more);

/** Takes files in (multipart), or an order without a body. */
export const bare = (
  method: "post" | "put",
  path: string,
  summary: string,
  handle: Handler<undefined>,
  more?: More,
): Route => route(method, path, summary, undefined, handle, more);

const Removed = v.object({ removed: v.optional(v.boolean("Give true or false."), false) });

/** The two-way switch that everything removable has at `…/removed`. */
export const removable = (
  path: string,
  summary: string,
  set: (params: Readonly<Record<string, string>>, removed: boolean) => Promise<unknown>,
): Route => put(`${path}/removed`, summary, Removed, ({ params, body }) => set(params, body.removed));

export function routerOf(routes: readonly Route[]): Router {
  const router = Router();
  for (const { method, path, first, handle } of routes) router[method](path, ...(first ? [first] : []), handle);
  return router;
}

/** The value of a parameter that the path is known to have. @throws RangeError where it has not: a fault of the route's own table */
export function param(params: Readonly<Record<string, string>>, name: string): string {
  const found = params[name];
  if (found === undefined) throw new RangeError(`The path has no “:${name}”.`);
  return found;
}
