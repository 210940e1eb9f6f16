import * as v from "valibot";

/** Why a backup was taken. */
export type BackupReason = "daily" | "by-hand" | "before-import";

export const KeptBackup = v.object({
  name: v.string(),
  /** ISO 8601, UTC. */
  at: v.string(),
  bytes: v.number(),
  why: v.picklist(["daily", "by-hand", "before-import"]),
  /** Dated ahead of now: made while the clock was wrong. */
  ahead: v.boolean(),
});
export type KeptBackup = v.InferOutput<typeof KeptBackup>;

/** What the look at the whole database at the start found. */
export const Soundness = v.object({
  state: v.picklist(["sound", "damaged", "running", "waiting", "not known"]),
  at: v.nullable(v.string()),
  found: v.array(v.string()),
});
export type Soundness = v.InferOutput<typeof Soundness>;

/** What a copy was found to hold when it was read back. */
export const CopyHeld = v.object({
  rows: v.number(),
  /** Logs, samples and photos. */
  stored: v.number(),
  /** Of these, such as are not what they were: in the database that was copied too. */
  unreadable: v.number(),
});
export type CopyHeld = v.InferOutput<typeof CopyHeld>;

export const Keeping = v.object({
  file: v.string(),
  bytes: v.number(),
  /** Where automatic backups go. */
  folder: v.string(),
  /** Whether that is the folder beside the database. */
  usualFolder: v.boolean(),
  /** Newest first. */
  backups: v.array(KeptBackup),
  /** Whether anything was written since the newest. */
  changedSince: v.boolean(),
  /** A backup is dated ahead of now: this machine's clock was set back since. */
  clockWentBack: v.boolean(),
  making: v.boolean(),
  /** Why the last one could not be made. */
  trouble: v.nullable(
    v.object({
      what: v.string(),
      remedy: v.string(),
      at: v.string(),
    }),
  ),
  /** What the last backup since the start was found to hold. */
  held: v.nullable(CopyHeld),
  soundness: Soundness,
});
export type Keeping = v.InferOutput<typeof Keeping>;

export const BackupFolderInput = v.object({
  /** An absolute path; empty for the one beside the database. */
  folder: v.pipe(v.string("Type a folder."), v.trim(), v.maxLength(1000, "At most 1000 characters.")),
});
