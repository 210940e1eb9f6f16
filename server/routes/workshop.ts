import { createReadStream } from "node:fs";
import { rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import express, { type Response, Router } from "express";
import { ExportFile, PassphraseInput, SettingsInput } from "#contract";
import { copyTo } from "../db/open.ts";
import { COOKIE, signInLimit } from "../http/guards.ts";
import { openApi } from "../http/openapi.ts";
import { checkedBody } from "../http/problems.ts";
import type { Context } from "../services/context.ts";
import { hasPassphrase, setPassphrase, signIn } from "../services/sessions.ts";
import { changeSettings, readSettings } from "../services/settings.ts";
import { exportAll, exportCardsCsv, exportNotesCsv, exportRunsCsv, importAll } from "../services/transfer.ts";

const MOST_IMPORT = "1024mb";

/** What may be asked without a session. */
export function openRoutes(context: Context): Router {
  const router = Router();
  router.get("/health", (_request, response) => {
    response.json({ ok: true });
  });
  router.get("/openapi.json", (_request, response) => {
    response.json(openApi());
  });
  router.post("/sign-in", signInLimit, async (request, response) => {
    const token = await signIn(context, String(request.body?.passphrase ?? ""));
    response
      .cookie(COOKIE, token, { httpOnly: true, sameSite: "strict", maxAge: 14 * 86_400_000, path: "/" })
      .status(204)
      .end();
  });
  return router;
}

const CSV = { "cards.csv": exportCardsCsv, "runs.csv": exportRunsCsv, "notes.csv": exportNotesCsv } as const;

export function workshopRoutes(context: Context): Router {
  const router = Router();
  router.get("/settings", async (_request, response) => {
    response.json(await readSettings(context));
  });
  router.put("/settings", async (request, response) => {
    response.json(await changeSettings(context, checkedBody(SettingsInput, request.body)));
  });
  router.get("/passphrase", async (_request, response) => {
    response.json({ set: await hasPassphrase(context) });
  });
  router.put("/passphrase", async (request, response) => {
    await setPassphrase(context, checkedBody(PassphraseInput, request.body).passphrase);
    response.json({ set: true });
  });
  router.get("/export.json", async (_request, response) => {
    response.attachment("algidus-export.json").json(await exportAll(context));
  });
  for (const [name, write] of Object.entries(CSV))
    router.get(`/export/${name}`, async (_request, response) => {
      response
        .attachment(name)
        .type("text/csv")
        .send(`\ufeff${await write(context)}`);
    });
  router.post("/import", express.json({ limit: MOST_IMPORT, type: () => true }), async (request, response) => {
    response.json(await importAll(context, checkedBody(ExportFile, request.body)));
  });
  router.get("/backup", async (_request, response) => {
    await sendBackup(context, response);
  });
  return router;
}

async function sendBackup({ store }: Context, response: Response): Promise<void> {
  const target = join(tmpdir(), `algidus-${store.newId()}.db`);
  await copyTo(store.client, target);
  response.attachment(`algidus-${store.now().slice(0, 10)}.db`).type("application/vnd.sqlite3");
  createReadStream(target)
    .on("close", () => void rm(target, { force: true }))
    .pipe(response);
}
