import { basename, dirname } from "node:path";
import type { RequestHandler } from "express";
import multer from "multer";
import { MOST_LOG_BYTES } from "#contract";
import { Problem } from "#core";
import { problemOfDatabase } from "../db/faults.ts";
import { tempFile } from "../temp.ts";
import { BAD_UPLOAD } from "./problems.ts";

/** By the field of the form. */
const MOST_BYTES: Readonly<Record<string, number>> = { log: MOST_LOG_BYTES, photo: 25 * 1024 * 1024 };

/** Into a file that is there already, so that it keeps its rights. */
const storage = multer.diskStorage({
  destination(_request, file, done) {
    const path = tempFile();
    Object.assign(file, { given: basename(path) });
    done(null, dirname(path));
  },
  filename: (_request, file, done) => done(null, String((file as { given?: string }).given)),
});

/**
 * Takes the one file of a form in. Whatever the parser of forms stumbles over, in its own words and without a code, is a form that did not arrive whole; a full disk
 * stays one.
 */
export function upload(field: string): RequestHandler {
  const take = multer({
    storage,
    limits: { fileSize: MOST_BYTES[field] ?? 0, files: 1, fieldSize: 1024 * 1024 },
    defParamCharset: "utf8",
  }).single(field);
  return (request, response, next) => {
    take(request, response, (error: unknown) => {
      if (!error || error instanceof multer.MulterError || problemOfDatabase(error, "database")) return next(error);
      return next(new Problem(BAD_UPLOAD));
    });
  };
}
