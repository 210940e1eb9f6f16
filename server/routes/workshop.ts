import { Readable } from "node:stream";
import * as v from "valibot";
import { PassphraseInput, SettingsInput, WeekInput } from "#contract";
import { settings } from "../db/schema.ts";
import { COOKIE, limitTries, sessionToken } from "../http/guards.ts";
import { ANSWERED, bare, get, post, put, type Route } from "../http/route.ts";
import { sendStream } from "../http/streams.ts";
import type { Context } from "../services/context.ts";
import { exportCardsCsv, exportNotesCsv, exportRunsCsv } from "../services/csv.ts";
import { changePassphrase, hasPassphrase, signIn, signOut } from "../services/sessions.ts";
import { changeSettings, changeWeek, readSettings } from "../services/settings.ts";

const SignIn = v.object({ passphrase: v.optional(v.string(), "") });
const SESSION_MS = 14 * 86_400_000;

/** What may be asked without a session. */
export const openRoutes = (context: Context, describe: () => object): Route[] => [
  get("/health", "Is the server there, and does its database answer", async () => {
    await context.store.db.select({ key: settings.key }).from(settings).limit(1);
    return { ok: true };
  }),
  get("/openapi.json", "This description", describe),
  post(
    "/sign-in",
    "Start a session with the passphrase (only where the server listens to the network)",
    SignIn,
    async ({ body, request, response }) => {
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
    { first: limitTries() },
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
  put("/settings/week", "Change who works here and the opening hours", WeekInput, ({ body }) =>
    changeWeek(context, body),
  ),
  get("/passphrase", "Is a passphrase set", async () => ({ set: await hasPassphrase(context) })),
  put(
    "/passphrase",
    "Set the passphrase for listening to the network; `current` is the one until now",
    PassphraseInput,
    async ({ body, request }) => {
      await changePassphrase(context, body.passphrase, body.current, sessionToken(request));
      return { set: true };
    },
    { first: limitTries({ skipSuccessfulRequests: true }) },
  ),
  get("/session", "Whether this page has signed in", ({ request }) => ({
    signedIn: sessionToken(request) !== undefined,
  })),
  bare("post", "/sign-out", "End this session", async ({ request, response }) => {
    const token = sessionToken(request);
    if (token) await signOut(context, token);
    response.clearCookie(COOKIE, { path: "/" });
  }),
  ...CSV.map(({ name, summary, write }) =>
    get(`/export/${name}`, summary, async ({ response }) => {
      const parts = write(context);
      const first = await parts.next();
      response.attachment(name).type("text/csv");
      await sendStream(Readable.from(after(first.value ?? "", parts)), response);
      return ANSWERED;
    }),
  ),
];

async function* after(first: string, rest: AsyncGenerator<string>): AsyncGenerator<string> {
  yield first;
  yield* rest;
}
