import { rm } from "node:fs/promises";
import { type Request, type RequestHandler, type Response, Router } from "express";
import * as v from "valibot";
import {
  type AnswerOf,
  type BodyOf,
  type Fixed,
  faultsOfAnswer,
  type Media,
  type ParamsOf,
  partOf,
  type QueryOf,
  type Wire,
  type WireTable,
} from "#contract";
import { inZone } from "../db/days.ts";
import { underKey } from "../db/under-key.ts";
import { checkedBody, InputProblem } from "./problems.ts";
import { upload } from "./uploads.ts";

/** A file that came with a form; it is gone once the request is answered. */
export interface SentFile {
  path: string;
  name: string;
}

export interface Asked<R extends Wire> {
  params: ParamsOf<R>;
  query: QueryOf<R>;
  body: BodyOf<R>;
  file: SentFile | undefined;
  request: Request;
  response: Response;
}

/** A handler that wrote the answer itself gives this back. */
export const ANSWERED = { answered: true } as const;

type Given<R extends Wire> = R["answers"] extends null
  ? undefined | void
  : R["answers"] extends Media
    ? typeof ANSWERED
    : Fixed<AnswerOf<R>>;
type Handler<R extends Wire> = (asked: Asked<R>) => Given<R> | Promise<Given<R>>;

/** What it is asked and answers is held to its line where it is given. */
type AnyHandler = (asked: never) => unknown;

/** One line of the API and what serves it. */
export interface Route {
  name: string;
  wire: Wire;
  handle: RequestHandler;
  /** Run before the handler: they take a file in, or limit tries. */
  first: readonly RequestHandler[];
}

/** What is checked of every answer where that is worth its time: in tests. */
const CHECKED = process.env.ALGIDUS_CHECK_ANSWERS === "1";

/**
 * Serves the lines of a table, each by the handler of its name.
 * @param first by name, what runs before the handler
 */
export function serve<T extends WireTable>(
  table: T,
  handlers: { [K in keyof T]: Handler<T[K]> },
  first: { [K in keyof T]?: RequestHandler } = {},
): Route[] {
  return Object.entries(table).map(([name, wire]) => {
    const before = first[name];
    const file = Object.entries(wire.form ?? {}).find(([, part]) => partOf(part) === "file")?.[0];
    return {
      name,
      wire,
      handle: handlerOf(wire, handlers[name] as AnyHandler),
      first: [...(before ? [before] : []), ...(file ? [upload(file)] : [])],
    };
  });
}

function handlerOf(wire: Wire, handle: AnyHandler): RequestHandler {
  const status = wire.adds ? 201 : 200;
  return async (request, response) => {
    const serveIt = async () => {
      const { file } = request;
      const asked: Asked<Wire> = {
        params: textsOf(request.params),
        query: wire.queries && checkedBody(v.object(wire.queries), textsOf(request.query)),
        body: bodyOf(wire, request) as undefined,
        file: file && { path: file.path, name: file.originalname },
        request,
        response,
      };
      return handle(asked as never);
    };
    const { key } = response.locals as { key?: string };
    try {
      const answer: unknown = await inZone(request.get("Time-Zone"), () => (key ? underKey(key, serveIt) : serveIt()));
      if (answer === ANSWERED) return;
      if (CHECKED) needSaid(wire, answer);
      if (answer === undefined) response.status(204).end();
      else response.status(status).json(answer);
    } finally {
      // Whatever became of it, what came with it has been read by now.
      if (request.file) await rm(request.file.path, { force: true });
    }
  };
}

const textsOf = (found: object): Record<string, string> =>
  Object.fromEntries(
    Object.entries(found).flatMap(([name, value]) => (typeof value === "string" ? [[name, value]] : [])),
  );

function bodyOf({ takes, form }: Wire, request: Request): unknown {
  if (takes) return checkedBody(takes, request.body ?? {});
  if (!form) return undefined;
  const parts = Object.entries(form).filter(([, part]) => partOf(part) !== "file");
  const sent = (request.body ?? {}) as Record<string, unknown>;
  return Object.fromEntries(
    parts.map(([name, part]) => [
      name,
      checkedBody(part, partOf(part) === "json" ? parsed(name, sent[name]) : sent[name]),
    ]),
  );
}

function parsed(name: string, text: unknown): unknown {
  if (text === undefined) return undefined;
  try {
    return JSON.parse(String(text));
  } catch {
    throw new InputProblem({ [name]: "This part of the form is not JSON." });
  }
}

/** @throws Error where what is answered is not what the line says */
function needSaid(wire: Wire, answer: unknown): void {
  const [...faults] = faultsOfAnswer(wire, answer === undefined ? undefined : JSON.parse(JSON.stringify(answer)));
  if (faults.length > 0) throw new Error(`An answer is not as its line of the API says:\n${faults.join("\n")}`);
}

export function routerOf(routes: readonly Route[]): Router {
  const router = Router();
  for (const { wire, first, handle } of routes) router[wire.method](wire.path, ...first, handle);
  return router;
}
