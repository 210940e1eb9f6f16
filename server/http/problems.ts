import type { ErrorRequestHandler, Response } from "express";
import multer from "multer";
import * as v from "valibot";
import { Problem, type ProblemDetail } from "#core";
import { typeWords } from "#core/problem/index.ts";
import { problemOfDatabase } from "../db/faults.ts";

const STATUS: Record<string, number> = {
  "not-found": 404,
  "changed-elsewhere": 409,
  "same-log": 409,
  "already-there": 409,
  "already-closed": 409,
  "bench-busy": 409,
  "not-running": 409,
  "signed-out": 401,
  "wrong-token": 401,
  "wrong-passphrase": 401,
  "foreign-origin": 403,
  "foreign-host": 403,
  "bad-address": 400,
  "bad-upload": 400,
  "bad-body": 400,
  "bad-encoding": 415,
  "too-many-tries": 429,
  "too-many-watchers": 429,
  "too-busy": 429,
  "too-large": 413,
  "disk-full": 507,
  "database-locked": 503,
  "damaged-database": 503,
  "database-gone": 503,
  "not-writable": 503,
};

/** Answers with RFC 9457 problem+json. `errors` names fields where the input had several faults. */
export function sendProblem(response: Response, detail: ProblemDetail, errors?: Record<string, string>): void {
  const status = STATUS[detail.code] ?? 422;
  response
    .status(status)
    .type("application/problem+json")
    .send(
      JSON.stringify({
        type: `about:blank#${detail.code}`,
        title: detail.what,
        status,
        detail: detail.remedy,
        ...detail,
        errors,
      }),
    );
}

export class InputProblem extends Problem {
  constructor(readonly errors: Record<string, string>) {
    const [first] = Object.entries(errors);
    super({
      code: "bad-input",
      what: first ? `${first[0]}: ${first[1]}` : "The input is not usable.",
      remedy: "Correct the fields that are marked.",
    });
  }
}

/** A page shows no more of them at once. */
const MOST_ERRORS = 20;

/** Checks a body against its schema. @throws InputProblem with one message per field */
export function checkedBody<T extends v.GenericSchema>(schema: T, body: unknown): v.InferOutput<T> {
  // To the schemas a list is an object without its fields.
  if (Array.isArray(body) && schema.type !== "array")
    throw new InputProblem({ body: "Send one JSON object, not a list." });
  // Where a schema has no words of its own.
  const result = v.safeParse(schema, body, { message: typeWords });
  if (result.success) return result.output;
  const errors: Record<string, string> = {};
  for (const issue of result.issues.slice(0, MOST_ERRORS)) errors[v.getDotPath(issue) ?? "body"] ??= issue.message;
  throw new InputProblem(errors);
}

export const BAD_UPLOAD: ProblemDetail = {
  code: "bad-upload",
  what: "The upload did not arrive as a whole form with one file.",
  remedy: "Drop the file again.",
};

/** What the reader of bodies calls its faults. */
const BODY_FAULTS: Readonly<Record<string, ProblemDetail>> = {
  "entity.too.large": { code: "too-large", what: "The input is too large.", remedy: "Send less at once." },
  "entity.parse.failed": { code: "bad-body", what: "The input is not JSON.", remedy: "Send a JSON document." },
  "encoding.unsupported": {
    code: "bad-encoding",
    what: "The body is packed in a way that is not read here.",
    remedy: "Send it plain, or packed with gzip.",
  },
  "charset.unsupported": {
    code: "bad-encoding",
    what: "The body is in a character set that is not read here.",
    remedy: "Send it as UTF-8.",
  },
  "request.size.invalid": {
    code: "bad-body",
    what: "The body is not as long as was said before.",
    remedy: "Send it again.",
  },
};

const BAD_PACKING: ProblemDetail = {
  code: "bad-body",
  what: "The body is not packed as its header says.",
  remedy: "Send it plain, or pack it again.",
};
/** The packers of Node name their faults `Z_DATA_ERROR`, `ERR__ERROR_FORMAT_…` (Brotli), `ZSTD_error_…`. */
const isUnpacking = (error: unknown): boolean =>
  error instanceof Error && "code" in error && /^(Z_|ERR__ERROR_|ZSTD_)/.test(String(error.code));

/** The one place where faults become answers. */
export function faultHandler(log: (error: unknown) => void): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    const known = problemOfDatabase(error, "database");
    if (error instanceof InputProblem) return sendProblem(response, error.detail(), error.errors);
    if (known) return sendProblem(response, known.detail());
    if (error instanceof multer.MulterError)
      return sendProblem(
        response,
        error.code === "LIMIT_FILE_SIZE"
          ? {
              code: "too-large",
              what: "The file is too large.",
              remedy: "A log may have 256 MB, a photo 25 MB. Cut the log to the load, or log once a second.",
            }
          : BAD_UPLOAD,
      );
    const type = typeof error === "object" && error !== null && "type" in error ? String(error.type) : "";
    const bad = BODY_FAULTS[type] ?? (type === "" && isUnpacking(error) ? BAD_PACKING : undefined);
    if (bad) return sendProblem(response, bad);
    // Whoever asked went away in the middle of it: there is nobody to answer, and no fault.
    if (request.readableAborted || response.destroyed) return response.end();
    if (error instanceof URIError)
      return sendProblem(response, {
        code: "bad-address",
        what: "This address is not written as one: a % stands before something that is no pair of hexadecimal digits.",
        remedy: "Follow a link of the page, or write % as %25.",
      });
    log(error);
    response
      .status(500)
      .type("application/problem+json")
      .send(
        JSON.stringify({
          title: "The server met a fault of its own.",
          status: 500,
          detail: "What you typed is still in the page. Try again.",
          code: "fault",
          what: "The server met a fault of its own.",
          remedy: "What you typed is still in the page. Try again.",
        }),
      );
  };
}
