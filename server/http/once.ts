import { eq, lt } from "drizzle-orm";
import type { RequestHandler, Response } from "express";
import { hashOf } from "../db/open.ts";
import { answers } from "../db/schema.ts";
import type { Context } from "../services/context.ts";

const KEPT_MS = 24 * 3600 * 1000;

function turn(): { answered: Promise<void>; done: () => void } {
  let done!: () => void;
  const answered = new Promise<void>((resolve) => {
    done = resolve;
  });
  return { answered, done };
}

/**
 * What is added with an `Idempotency-Key` is added once: sent again, its answer having been lost, it gets that answer again for a day.
 * What was refused is looked at anew; what is answered with a secret (`Cache-Control: no-store`) is not kept. Source of the header: IETF draft-ietf-httpapi-idempotency-key-header (from memory).
 */
export function once({ store }: Context, log: (error: unknown) => void): RequestHandler {
  const underWay = new Map<string, Promise<void>>();

  async function keepRow(key: string, status: number, body: string): Promise<void> {
    const at = store.now();
    await store.write(async (tx) => {
      await tx.delete(answers).where(lt(answers.at, new Date(Date.parse(at) - KEPT_MS).toISOString()));
      await tx.insert(answers).values({ key, status, body, at }).onConflictDoNothing();
    });
  }

  /** Keeps what is answered before it is sent, also when nobody listens any more. */
  function keepAnswer(response: Response, key: string): void {
    const send = response.json.bind(response);
    response.json = (body: unknown) => {
      const open = response.statusCode < 400 && response.get("Cache-Control") !== "no-store";
      const kept = open ? keepRow(key, response.statusCode, JSON.stringify(body)) : Promise.resolve();
      // It is added, kept or not: an answer that could not be kept is true nevertheless.
      kept.catch(log).then(() => send(body), log);
      return response;
    };
  }

  return async (request, response, next) => {
    const sent = request.get("Idempotency-Key");
    if (request.method !== "POST" || !sent) return next();
    const key = hashOf(Buffer.from(`${request.originalUrl} ${sent}`));
    while (underWay.has(key)) await underWay.get(key);
    const { answered, done } = turn();
    underWay.set(key, answered);
    const end = response.end.bind(response);
    response.end = ((...sending: Parameters<typeof end>) => {
      underWay.delete(key);
      done();
      return end(...sending);
    }) as typeof end;
    const [kept] = await store.db.select().from(answers).where(eq(answers.key, key));
    if (!kept) {
      keepAnswer(response, key);
      return next();
    }
    request.resume();
    response.status(kept.status).type("json").send(kept.body);
  };
}
