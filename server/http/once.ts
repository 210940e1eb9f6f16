import type { RequestHandler } from "express";
import { hashOf } from "../db/stored.ts";

/**
 * What carries an `Idempotency-Key` is done once: sent again within a day, its answer having been lost, it is answered from what was made
 * the first time. What was refused is looked at anew. Source of the header: IETF draft-ietf-httpapi-idempotency-key-header (from memory).
 */
export const once: RequestHandler = (request, response, next) => {
  const sent = request.get("Idempotency-Key");
  if (sent && request.method !== "GET")
    response.locals.key = hashOf(Buffer.from(`${request.method} ${request.originalUrl} ${sent}`));
  next();
};
