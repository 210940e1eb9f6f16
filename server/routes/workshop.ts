import { Readable } from "node:stream";
import type { Response } from "express";
import { WIRES } from "#contract";
import { settings } from "../db/schema.ts";
import { COOKIE, limitTries, sessionToken } from "../http/guards.ts";
import { ANSWERED, type Route, serve } from "../http/route.ts";
import { sendStream } from "../http/streams.ts";
import type { Context } from "../services/context.ts";
import { exportCardsCsv, exportNotesCsv, exportRunsCsv } from "../services/csv.ts";
import { changePassphrase, hasPassphrase, signIn, signOut } from "../services/sessions.ts";
import { changeSettings, changeWeek, readSettings } from "../services/settings.ts";

const SESSION_MS = 14 * 86_400_000;

export const openRoutes = (context: Context, describe: () => { openapi: string }): Route[] =>
  serve(
    WIRES.open,
    {
      health: async () => {
        await context.store.db.select({ key: settings.key }).from(settings).limit(1);
        return { ok: true };
      },
      description: describe,
      signIn: async ({ body, request, response }) => {
        const token = await signIn(context, body.passphrase);
        response.cookie(COOKIE, token, {
          httpOnly: true,
          sameSite: "strict",
          // A proxy that ends TLS says so; it can only make the cookie stricter.
          secure: request.get("X-Forwarded-Proto") === "https",
          maxAge: SESSION_MS,
          path: "/",
        });
      },
    },
    { signIn: limitTries() },
  );

const csv =
  (name: string, write: (context: Context) => AsyncGenerator<string>, context: Context) =>
  async ({ response }: { response: Response }): Promise<typeof ANSWERED> => {
    const parts = write(context);
    const first = await parts.next();
    response.attachment(name).type("text/csv");
    await sendStream(Readable.from(after(first.value ?? "", parts)), response);
    return ANSWERED;
  };

export const workshopRoutes = (context: Context): Route[] =>
  serve(
    WIRES.workshop,
    {
      settings: () => readSettings(context.store),
      changeSettings: ({ body }) => changeSettings(context, body),
      changeWeek: ({ body }) => changeWeek(context, body),
      passphrase: async () => ({ set: await hasPassphrase(context) }),
      setPassphrase: async ({ body, request }) => {
        await changePassphrase(context, body.passphrase, body.current, sessionToken(request));
        return { set: true };
      },
      session: ({ request }) => ({ signedIn: sessionToken(request) !== undefined }),
      signOut: async ({ request, response }) => {
        const token = sessionToken(request);
        if (token) await signOut(context, token);
        response.clearCookie(COOKIE, { path: "/" });
      },
      cardsCsv: csv("cards.csv", exportCardsCsv, context),
      runsCsv: csv("runs.csv", exportRunsCsv, context),
      notesCsv: csv("notes.csv", exportNotesCsv, context),
    },
    { setPassphrase: limitTries({ skipSuccessfulRequests: true }) },
  );

async function* after(first: string, rest: AsyncGenerator<string>): AsyncGenerator<string> {
  yield first;
  yield* rest;
}
