import { createReadStream } from "node:fs";
import { rm } from "node:fs/promises";
import type { Response } from "express";
import { MOST_IMPORT_BYTES, WIRES } from "#contract";
import { dayOf } from "../db/days.ts";
import { ANSWERED, type Route, serve } from "../http/route.ts";
import { receive, sendStream } from "../http/streams.ts";
import type { Backups } from "../services/backups.ts";
import { tempFile, tempPath } from "../temp.ts";

/** Backups, those taken by themselves and those carried away. */
export const keepingRoutes = (backups: Backups): Route[] =>
  serve(WIRES.keeping, {
    keeping: () => backups.state(),
    backUp: async () => {
      await backups.make("by-hand");
      return backups.state();
    },
    changeBackupFolder: async ({ body }) => {
      await backups.setFolder(body.folder);
      return backups.state();
    },
    backup: async ({ response }) => {
      await sendMade(response, `algidus-${day()}.db`, "application/vnd.sqlite3", (path, stop) =>
        backups.copyTo(path, stop),
      );
      return ANSWERED;
    },
    exportAll: async ({ response }) => {
      await sendMade(response, "algidus-export.json", "application/json", (path, stop) => backups.exportTo(path, stop));
      return ANSWERED;
    },
    importFile: async ({ request }) => {
      const path = tempFile(".json");
      try {
        await receive(request, path, MOST_IMPORT_BYTES);
        return await backups.importFrom(path);
      } finally {
        await rm(path, { force: true });
      }
    },
  });

const day = (): string => dayOf(new Date().toISOString());

/** Sends a file that is made for this; it is gone afterwards, and is not made to an end where the reader goes away. */
async function sendMade(
  response: Response,
  name: string,
  type: string,
  make: (path: string, stop: AbortSignal) => Promise<void>,
): Promise<void> {
  const gone = new AbortController();
  response.once("close", () => gone.abort());
  const path = tempPath();
  try {
    await make(path, gone.signal);
    response.attachment(name).type(type);
    await sendStream(createReadStream(path), response);
  } catch (error) {
    if (!gone.signal.aborted) throw error;
  } finally {
    await rm(path, { force: true });
  }
}
