import { readdirSync, statSync } from "node:fs";
import { basename, dirname, join, resolve } from "node:path";
import type { BackupReason, KeptBackup } from "#contract";

type Kept = Pick<KeptBackup, "name" | "at" | "why">;

const REASONS: readonly string[] = ["daily", "by-hand", "before-import"] satisfies BackupReason[];
const isReason = (text: string): text is BackupReason => REASONS.includes(text);

/** `<database>-2026-05-04T08-00-00-000Z-daily.db`: told from those of another database in the same folder, and from anything else. */
export const nameOf = (database: string, at: string, why: BackupReason): string =>
  `${database}-${at.replace(/[:.]/g, "-")}-${why}.db`;

/** Which of the files in a folder are backups of a database; newest first. */
export function backupsAmong(names: readonly string[], database: string): Kept[] {
  return names
    .flatMap((name): Kept[] => {
      if (!name.startsWith(`${database}-`) || !name.endsWith(".db")) return [];
      const found = /^(\d{4}-\d\d-\d\dT\d\d)-(\d\d)-(\d\d)-(\d{3}Z)-([a-z-]+)$/.exec(
        name.slice(database.length + 1, -".db".length),
      );
      const [, hour, minute, second, rest, why = ""] = found ?? [];
      return isReason(why) ? [{ name, at: `${hour}:${minute}:${second}.${rest}`, why }] : [];
    })
    .sort((one, other) => other.at.localeCompare(one.at));
}

export const shortName = (file: string): string => basename(file).replace(/\.db$/, "");
export const usualFolder = (file: string): string => join(dirname(resolve(file)), "backups");

export const isFolder = (path: string): boolean => statSync(path, { throwIfNoEntry: false })?.isDirectory() ?? false;

/** Path of the newest backup of a database, where there is one. */
export function newestBackup(file: string, folder = usualFolder(file)): string | undefined {
  const [newest] = isFolder(folder) ? backupsAmong(readdirSync(folder), shortName(file)) : [];
  return newest && join(folder, newest.name);
}

const DAY_MS = 86_400_000;
/** The newest of each so long stretch, and how many stretches back. */
const RULE = [
  { lengthMs: DAY_MS, count: 7 },
  { lengthMs: 7 * DAY_MS, count: 5 },
  { lengthMs: 30 * DAY_MS, count: 12 },
] as const;
/** What was taken before a risky act, or by hand, stays so long. */
const APART_MS = 30 * DAY_MS;

/**
 * Which backups to take away: kept are the newest of each of the last seven days, five weeks and twelve months, what is younger than a
 * day, what was taken by hand or before a risky act for thirty days, and the newest always.
 * @param kept newest first
 */
export function outOfRule<K extends Kept>(kept: readonly K[], now: Date): K[] {
  const ageMs = (one: K): number => now.getTime() - Date.parse(one.at);
  const staying = new Set(kept.slice(0, 1));
  for (const one of kept) if (ageMs(one) < DAY_MS || (one.why !== "daily" && ageMs(one) < APART_MS)) staying.add(one);
  for (const { lengthMs, count } of RULE) {
    // Stretches of the calendar, not of age: what is the newest of its week stays that.
    const stretchOf = (ms: number): number => Math.floor(ms / lengthMs);
    const newest = new Map<number, K>();
    for (const one of kept) {
      const stretch = stretchOf(Date.parse(one.at));
      if (stretchOf(now.getTime()) - stretch < count && !newest.has(stretch)) newest.set(stretch, one);
    }
    for (const one of newest.values()) staying.add(one);
  }
  return kept.filter((one) => !staying.has(one));
}
