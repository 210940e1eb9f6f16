import { existsSync, lstatSync, realpathSync, statSync } from "node:fs";
import { basename, dirname, join } from "node:path";
import { Problem } from "#core";

/**
 * Where a database really lies: its folder with all links followed, so that two names of one folder are one place.
 * @throws Problem `linked-database` where the file itself is a link or has a second name: under another name another server could hold it
 */
export function realPlace(file: string): string {
  const folder = dirname(file);
  const place = existsSync(folder) ? join(realpathSync(folder), basename(file)) : file;
  const found = lstatSync(place, { throwIfNoEntry: false });
  if (found?.isSymbolicLink() || (found?.isFile() && found.nlink > 1))
    throw new Problem({
      code: "linked-database",
      what: found.isSymbolicLink()
        ? "This is a link to a database, not the file itself."
        : "This file has a second name.",
      where: file,
      remedy: found.isSymbolicLink()
        ? "Name the file that the link leads to with ALGIDUS_DB."
        : "Remove the other hard link, or copy the file and name the copy with ALGIDUS_DB.",
    });
  return place;
}

/** The file that is open here, told from another one that was put under its name by its inode. */
export function placeHeld(file: string): { isThere: () => boolean } {
  const at = statSync(file);
  return {
    isThere() {
      const now = statSync(file, { throwIfNoEntry: false });
      return now !== undefined && now.ino === at.ino && now.dev === at.dev;
    },
  };
}

export const databaseGone = (file: string): Problem =>
  new Problem({
    code: "database-gone",
    what: "The database file was moved, deleted or replaced while the server was running.",
    where: basename(file),
    remedy: "Stop the server, put the file or a backup back, and start it again. Nothing is saved until then.",
  });
