import * as v from "valibot";
import { ImportReport } from "../export.ts";
import { BackupFolderInput, Keeping } from "../keeping.ts";
import { PassphraseInput, SettingsInput, WeekInput } from "../service.ts";
import { add, EVERYTHING, get, media, post, put } from "./route.ts";
import { LINES, SERVICE } from "./stale.ts";

const IsSet = v.object({ set: v.boolean() });

/** What may be asked without a session. */
export const open = {
  health: get("/health", "Is the server there, and does its database answer", {
    answers: v.object({ ok: v.boolean() }),
  }),
  description: get("/openapi.json", "This description", { answers: v.looseObject({ openapi: v.string() }) }),
  signIn: post("/sign-in", "Start a session with the passphrase (only where the server listens to the network)", {
    takes: v.object({ passphrase: v.optional(v.string(), "") }),
    answers: null,
    stale: EVERYTHING,
  }),
};

export const workshop = {
  settings: get("/settings", "The workshop's settings", { answers: SettingsInput }),
  changeSettings: put("/settings", "Change the settings", {
    takes: SettingsInput,
    answers: SettingsInput,
    fills: "settings",
    stale: [...SERVICE, ...LINES],
  }),
  changeWeek: put("/settings/week", "Change who works here and the opening hours", {
    takes: WeekInput,
    answers: SettingsInput,
    fills: "settings",
    stale: ["day"],
  }),
  passphrase: get("/passphrase", "Is a passphrase set", { answers: IsSet }),
  setPassphrase: put("/passphrase", "Set the passphrase for listening to the network; `current` is the one until now", {
    takes: PassphraseInput,
    answers: IsSet,
    fills: "passphrase",
    stale: ["session"],
  }),
  session: get("/session", "Whether this page has signed in", { answers: v.object({ signedIn: v.boolean() }) }),
  signOut: post("/sign-out", "End this session", { answers: null, stale: EVERYTHING }),
  cardsCsv: get("/export/cards.csv", "Cards as CSV", { answers: media("text/csv") }),
  runsCsv: get("/export/runs.csv", "Runs as CSV", { answers: media("text/csv") }),
  notesCsv: get("/export/notes.csv", "Work notes as CSV", { answers: media("text/csv") }),
};

/** Backups, those taken by themselves and those carried away. */
export const keeping = {
  keeping: get("/backups", "Automatic backups, and whether the database is sound", { answers: Keeping }),
  backUp: add("/backups", "Take a backup now", { answers: Keeping, fills: "keeping" }),
  changeBackupFolder: put("/backups/folder", "Where automatic backups go; empty for the usual folder", {
    takes: BackupFolderInput,
    answers: Keeping,
    fills: "keeping",
  }),
  backup: get("/backup", "A verified copy of the database", { answers: media("application/vnd.sqlite3") }),
  exportAll: get("/export.json", "Everything as one JSON document", { answers: media("application/json") }),
  importFile: post("/import", "Add an export of another machine: the document of /export.json", {
    file: "application/json",
    answers: ImportReport,
    stale: EVERYTHING,
  }),
};
