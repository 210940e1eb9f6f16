import { createReadStream } from "node:fs";
import { rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { Response } from "express";
import * as v from "valibot";
import { ExportFile, PassphraseInput, SettingsInput } from "#contract";
import { copyTo } from "../db/open.ts";
import { COOKIE, signInLimit } from "../http/guards.ts";
import { ANSWERED, get, post, put, type Route } from "../http/route.ts";
import type { Context } from "../services/context.ts";
import { hasPassphrase, setPassphrase, signIn } from "../services/sessions.ts";
import { changeSettings, readSettings } from "../services/settings.ts";
import { exportAll, exportCardsCsv, exportNotesCsv, exportRunsCsv, importAll } from "../services/transfer.ts";

const SignIn = v.object({ passphrase: v.optional(v.string(), "") });
const SESSION_MS = 14 * 86_400_000;

/** What may be asked without a session. */
export const openRoutes = (context: Context, describe: () => object): Route[] => [
  get("/health", "Is the server there", () => ({ ok: true })),
  get("/openapi.json", "This description", describe),
  post(
    "/sign-in",
    "Start a session with the passphrase (only where the server listens to the network)",
    SignIn,
    async ({ body, response }) => {
      const token = await signIn(context, body.passphrase);
      response.cookie(COOKIE, token, { httpOnly: true, sameSite: "strict", maxAge: SESSION_MS, path: "/" });
    },
    { upload: signInLimit },
  ),
];

const CSV = [
  { name: "cards.csv", summary: "Cards as CSV", write: exportCardsCsv },
  { name: "runs.csv", summary: "Runs as CSV", write: exportRunsCsv },
  { name: "notes.csv", summary: "Work notes as CSV", write: exportNotesCsv },
] as const;

export const workshopRoutes = (context: Context): Route[] => [
  get("/settings", "The workshop's settings", () => readSettings(context.store)),
  put("/settings", "Change the settings", SettingsInput, ({ body }) => changeSettings(context, body)),
  get("/passphrase", "Is a passphrase set", async () => ({ set: await hasPassphrase(context) })),
  put("/passphrase", "Set the passphrase for listening to the network", PassphraseInput, async ({ body }) => {
    await setPassphrase(context, body.passphrase);
    return { set: true };
  }),
  get("/export.json", "Everything as one JSON document", ({ response }) => {
    response.attachment("algidus-export.json");
    return exportAll(context);
  }),
  ...CSV.map(({ name, summary, write }) =>
    get(`/export/${name}`, summary, async ({ response }) => {
      response.attachment(name).type("text/csv");
      await sendStream(Readable.from(write(context)), response);
      return ANSWERED;
    }),
  ),
  post("/import", "Add an export of another machine", ExportFile, ({ body }) => importAll(context, body), {
    status: 200,
  }),
  get("/backup", "A copy of the database", async ({ response }) => {
    await sendBackup(context, response);
    return ANSWERED;
  }),
];

async function sendStream(from: Readable, response: Response): Promise<void> {
  await pipeline(from, response).catch((error: NodeJS.ErrnoException) => {
    // A client that closed the connection is not a fault to report.
    if (error.code !== "ERR_STREAM_PREMATURE_CLOSE") throw error;
  });
}

async function sendBackup({ store }: Context, response: Response): Promise<void> {
  const target = join(tmpdir(), `algidus-${store.newId()}.db`);
  try {
    await copyTo(store.client, target);
    response.attachment(`algidus-${store.now().slice(0, 10)}.db`).type("application/vnd.sqlite3");
    await sendStream(createReadStream(target), response);
  } finally {
    await rm(target, { force: true });
  }
}
