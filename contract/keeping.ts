import * as v from "valibot";

/** Why a backup was taken. */
export type BackupReason = "daily" | "by-hand" | "before-import";

export interface KeptBackup {
  name: string;
  /** ISO 8601, UTC. */
  at: string;
  bytes: number;
  why: BackupReason;
  /** Dated ahead of now: made while the clock was wrong. */
  ahead: boolean;
}

/** What the look at the whole database at the start found. */
export interface Soundness {
  state: "waiting" | "running" | "sound" | "damaged" | "not known";
  at: string | null;
  found: string[];
}

/** What a copy was found to hold when it was read back. */
export interface CopyHeld {
  rows: number;
  /** Logs, samples and photos. */
  stored: number;
  /** Of these, such as are not what they were: in the database that was copied too. */
  unreadable: number;
}

export interface Keeping {
  file: string;
  bytes: number;
  /** Where automatic backups go. */
  folder: string;
  /** Whether that is the folder beside the database. */
  usualFolder: boolean;
  /** Newest first. */
  backups: KeptBackup[];
  /** Whether anything was written since the newest. */
  changedSince: boolean;
  /** A backup is dated ahead of now: this machine's clock was set back since. */
  clockWentBack: boolean;
  making: boolean;
  /** Why the last one could not be made. */
  trouble: { what: string; remedy: string; at: string } | null;
  /** What the last backup since the start was found to hold. */
  held: CopyHeld | null;
  soundness: Soundness;
}

export const BackupFolderInput = v.object({
  /** An absolute path; empty for the one beside the database. */
  folder: v.pipe(v.string("Type a folder."), v.trim(), v.maxLength(1000, "At most 1000 characters.")),
});
