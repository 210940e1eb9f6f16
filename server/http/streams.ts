import { createWriteStream } from "node:fs";
import type { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Request, Response } from "express";
import { Problem } from "#core";

/** Sends what is read, as fast as it is taken; where the reader goes away, what it was read from is closed. */
export async function sendStream(from: Readable, response: Response): Promise<void> {
  await pipeline(from, response).catch((error: NodeJS.ErrnoException) => {
    // A client that closed the connection is not a fault to report.
    if (error.code !== "ERR_STREAM_PREMATURE_CLOSE") throw error;
  });
}

/** Puts what is sent into a file as it comes. @throws Problem `too-large`, `cut-off` */
export async function receive(request: Request, path: string, most: number): Promise<void> {
  let bytes = 0;
  const limited = async function* (from: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
    for await (const piece of from) {
      bytes += piece.length;
      if (bytes > most)
        throw new Problem({
          code: "too-large",
          what: `The file is larger than the ${Math.round(most / 2 ** 20)} MB that are taken.`,
          remedy: "Carry the workshop over as a backup of the database instead.",
        });
      yield piece;
    }
  };
  try {
    await pipeline(request, limited, createWriteStream(path));
  } catch (error) {
    if (!request.complete && !(error instanceof Problem) && request.destroyed)
      throw new Problem({ code: "cut-off", what: "The file came in part only.", remedy: "Send it again." });
    throw error;
  }
}
