import { accessSync, constants, existsSync, mkdirSync, readdirSync, rmSync, statSync } from "node:fs";
import { isAbsolute, join, resolve } from "node:path";
import { eq } from "drizzle-orm";
import type { BackupReason, ImportReport, Keeping, KeptBackup, Soundness } from "#contract";
import { Problem } from "#core";
import { backupsAmong, isFolder, nameOf, newestBackup, outOfRule, shortName, usualFolder } from "../db/backup-names.ts";
import { changedAt, removePart } from "../db/copying.ts";
import { problemOfDatabase } from "../db/faults.ts";
import type { Inspection } from "../db/inspect.ts";
import { addStagedApart, copyApart, exportApart, inspectApart, stageApart } from "../db/keeper.ts";
import type { Store } from "../db/open.ts";
import { cards, settings } from "../db/schema.ts";
import type { StationStore } from "../db/station-store.ts";
import { Turns } from "../db/turns.ts";
import { record } from "./context.ts";
import { removeStaged, stage } from "./import.ts";

const FOLDER_KEY = "backups";
/** The start is left to the person who waits for the first page. */
const FIRST_LOOK_MS = 3000;
const BETWEEN_LOOKS_MS = 10 * 60_000;
const DAY_MS = 86_400_000;
/** Copies, exports and imports that may wait for each other. */
const MOST_IN_LINE = 4;
/** An export of a few cards without logs. */
const SMALL_BYTES = 64 * 1024;
/** Clocks are set by so much without anybody noticing. */
const CLOCK_SLACK_MS = 5 * 60_000;

export interface BackupsOptions {
  firstLookMs?: number | undefined;
  /** Told of the newest good backup whenever that is another. */
  onNewest?: ((path: string | undefined) => void) | undefined;
}

/** Automatic backups of a database and the look at whether it is sound; one per server. What takes long in other processes. */
export class Backups {
  readonly #stop = new AbortController();
  readonly #turns = new Turns(MOST_IN_LINE);
  readonly #under = new Set<Promise<unknown>>();
  readonly #options: BackupsOptions;
  #timer: NodeJS.Timeout | undefined;
  #last: Promise<unknown> = Promise.resolve();
  #making = 0;
  #trouble: Keeping["trouble"] = null;
  #held: Keeping["held"] = null;
  #soundness: Soundness = { state: "waiting", at: null, found: [] };

  constructor(
    private readonly store: Store,
    private readonly stations: readonly StationStore[],
    private readonly log: (error: unknown) => void,
    options: BackupsOptions = {},
  ) {
    this.#options = options;
  }

  /** Looks at the database, and from then on takes a backup a day where something has changed. */
  begin(): void {
    this.#keep(this.#tellNewest());
    this.#timer = setTimeout(() => {
      this.#keep(this.#inspect().then(() => this.#daily()));
      this.#timer = setInterval(() => this.#keep(this.#daily()), BETWEEN_LOOKS_MS);
    }, this.#options.firstLookMs ?? FIRST_LOOK_MS);
  }

  async close(): Promise<void> {
    clearTimeout(this.#timer);
    this.#stop.abort();
    await Promise.allSettled(this.#under);
  }

  async state(): Promise<Keeping> {
    const { file } = this.store;
    const folder = await this.folder();
    const backups = this.#listed(folder);
    return {
      file: resolve(file),
      bytes: [file, `${file}-wal`].filter(existsSync).reduce((sum, path) => sum + statSync(path).size, 0),
      folder,
      usualFolder: folder === this.#usualFolder,
      backups,
      changedSince: this.#changedSince(backups),
      clockWentBack: backups.some(({ ahead }) => ahead),
      making: this.#making > 0,
      trouble: this.#trouble,
      held: this.#held,
      soundness: this.#soundness,
    };
  }

  async folder(): Promise<string> {
    const [found] = await this.store.db.select().from(settings).where(eq(settings.key, FOLDER_KEY));
    return (found?.value as { folder: string } | undefined)?.folder ?? this.#usualFolder;
  }

  /** @throws Problem `bad-folder` where nothing can be written there */
  async setFolder(folder: string): Promise<void> {
    if (folder && !isAbsolute(folder)) throw badFolder(folder, "Give the whole path, from the root of the disk.");
    try {
      if (folder) {
        mkdirSync(folder, { recursive: true, mode: 0o700 });
        accessSync(folder, constants.W_OK);
      }
    } catch {
      throw badFolder(folder, FOLDER_REMEDY);
    }
    await this.store.write(async (tx) => {
      if (folder)
        await tx
          .insert(settings)
          .values({ key: FOLDER_KEY, value: { folder } })
          .onConflictDoUpdate({ target: settings.key, set: { value: { folder } } });
      else await tx.delete(settings).where(eq(settings.key, FOLDER_KEY));
      await record(this.store, tx, "backup folder changed", "workshop", { folder });
    });
    await this.#tellNewest();
  }

  /** Takes a verified backup and takes away those that the rule no longer keeps. @throws Problem where it can't be made */
  make(why: BackupReason): Promise<KeptBackup> {
    this.#making++;
    const made = this.#last.then(() => this.#make(why)).finally(() => this.#making--);
    this.#last = made.catch(() => undefined);
    this.#keep(this.#last);
    return made;
  }

  /** Writes a verified copy for somebody to carry away. */
  async copyTo(path: string, stop: AbortSignal): Promise<void> {
    await this.#turns.take(() => copyApart(this.store.file, path, this.#orClosed(stop)));
  }

  /** Writes the whole workshop as one document. */
  exportTo(path: string, stop: AbortSignal): Promise<void> {
    return this.#turns.take(() => exportApart(this.store.file, path, this.#orClosed(stop)));
  }

  /** Adds an export, after a backup of what is here. @throws Problem `bad-export`, and where no backup can be made */
  importFrom(path: string): Promise<ImportReport> {
    return this.#turns.take(() => this.#import(path));
  }

  async #import(path: string): Promise<ImportReport> {
    const { file, db, client } = this.store;
    const staged = `${path}.staged`;
    try {
      // Reading a small one takes less than to begin a process for it, and what is no export needs none at all.
      if (statSync(path).size <= SMALL_BYTES) await stage(client, this.stations, path, staged);
      else await stageApart(file, path, staged, this.#stop.signal);
      const [any] = await db.select({ id: cards.id }).from(cards).limit(1);
      if (any) await this.make("before-import");
      const added = this.store.alone(() => addStagedApart(file, staged));
      this.#keep(added.catch(() => undefined));
      return await added;
    } finally {
      await removeStaged(staged);
    }
  }

  #orClosed(stop: AbortSignal): AbortSignal {
    return AbortSignal.any([stop, this.#stop.signal]);
  }

  get #usualFolder(): string {
    return usualFolder(this.store.file);
  }

  get #database(): string {
    return shortName(this.store.file);
  }

  #listed(folder: string): KeptBackup[] {
    if (!isFolder(folder)) return [];
    return backupsAmong(readdirSync(folder), this.#database).map((one) => ({
      ...one,
      bytes: statSync(join(folder, one.name)).size,
      ahead: Date.parse(one.at) > Date.parse(this.store.now()) + CLOCK_SLACK_MS,
    }));
  }

  #ageMs({ at }: KeptBackup): number {
    return Date.parse(this.store.now()) - Date.parse(at);
  }

  /** One from a time when the clock was ahead says nothing of how fresh it is. */
  #newestOf(backups: readonly KeptBackup[]): KeptBackup | undefined {
    return backups.find(({ ahead }) => !ahead);
  }

  #changedSince(backups: readonly KeptBackup[]): boolean {
    const newest = this.#newestOf(backups);
    return !newest || changedAt(this.store.file) > Date.parse(newest.at);
  }

  async #make(why: BackupReason): Promise<KeptBackup> {
    const at = this.store.now();
    if (this.#soundness.state === "damaged")
      throw new Problem({
        code: "damaged-database",
        what: "The database is damaged: a copy of it would stand beside the good ones.",
        remedy: "Mend it with `algidus check --repair`, or restore the last good backup.",
      });
    try {
      const folder = await this.folder();
      mkdirSync(folder, { recursive: true, mode: 0o700 });
      for (const left of readdirSync(folder))
        if (left.startsWith(`${this.#database}-`) && left.endsWith(".db.part"))
          removePart(join(folder, left.slice(0, -5)));
      const name = nameOf(this.#database, at, why);
      this.#held = await copyApart(this.store.file, join(folder, name), this.#stop.signal);
      this.#trouble = null;
      // What is dated ahead is left alone: by the rule it would push out what is new.
      const all = this.#listed(folder).filter(({ ahead }) => !ahead);
      // What can't be read now may be whole in an older one: none goes.
      if (this.#held.unreadable === 0)
        for (const one of outOfRule(all, new Date(at))) rmSync(join(folder, one.name), { force: true });
      await this.#tellNewest();
      return { name, at, why, bytes: statSync(join(folder, name)).size, ahead: false };
    } catch (error) {
      const known = problemOfDatabase(error, "backups");
      const isOfDisk = error instanceof Error && "syscall" in error;
      const problem = known ?? (isOfDisk ? badFolder(await this.folder(), FOLDER_REMEDY) : undefined);
      if (!problem) throw error;
      const { what, remedy } = problem.detail();
      if (!this.#stop.signal.aborted) this.#trouble = { what, remedy, at };
      throw problem;
    }
  }

  async #daily(): Promise<void> {
    const backups = this.#listed(await this.folder());
    const newest = this.#newestOf(backups);
    const isFresh = newest && this.#ageMs(newest) < DAY_MS;
    if (isFresh || !this.#changedSince(backups) || this.#soundness.state === "damaged") return;
    await this.make("daily").catch((error: unknown) => {
      if (!this.#stop.signal.aborted) this.log(error);
    });
  }

  async #inspect(): Promise<void> {
    this.#soundness = { state: "running", at: null, found: [] };
    try {
      const found = whatWasFound(await inspectApart(this.store.file, "quick_check", this.#stop.signal));
      this.#soundness = { state: found.length > 0 ? "damaged" : "sound", at: this.store.now(), found };
    } catch (error) {
      const detail = error instanceof Problem ? error.detail() : undefined;
      if (!detail) this.log(error);
      this.#soundness = {
        state: detail?.code === "damaged-database" ? "damaged" : "not known",
        at: this.store.now(),
        found: [detail?.what ?? "The look at the database failed."],
      };
    }
  }

  async #tellNewest(): Promise<void> {
    const folder = await this.folder();
    this.#options.onNewest?.(newestBackup(this.store.file, folder));
  }

  #keep(work: Promise<unknown>): void {
    const done = work.catch((error: unknown) => this.log(error)).finally(() => this.#under.delete(done));
    this.#under.add(done);
  }
}

const FOLDER_REMEDY = "Check the path and its permissions, or leave it empty for the folder beside the database.";

const badFolder = (where: string, remedy: string): Problem =>
  new Problem({ code: "bad-folder", what: "Backups can't be written there.", where, remedy });

const MOST_TOLD = 8;

/** In words, the first few. */
function whatWasFound({ pages, texts }: Inspection): string[] {
  const all = [
    ...pages,
    ...texts.map(({ table, column, row, is }) => `${table}, row ${row}: what stands under ${column} is ${is}.`),
  ];
  return all.length <= MOST_TOLD ? all : [...all.slice(0, MOST_TOLD), `… and ${all.length - MOST_TOLD} more.`];
}
