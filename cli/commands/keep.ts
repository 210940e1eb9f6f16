import { parseArgs } from "node:util";
import type { CopyHeld } from "#contract";
import { line } from "../print.ts";
import { badUsage, type Command } from "../usage.ts";

const database = (): string => process.env.ALGIDUS_DB ?? "data/algidus.db";

/** What was read back of what was copied. */
const storedWords = ({ stored, unreadable }: Pick<CopyHeld, "stored" | "unreadable">): string =>
  `${stored} stored logs, samples and photos, ${unreadable === 0 ? "all as they were kept" : `${unreadable} of them not readable any more (\`algidus check\` names them; an older backup may hold them whole)`}`;

export const backupCommand: Command = {
  name: "backup",
  usage: "backup FILE",
  async run(words) {
    const [target, ...more] = parseArgs({ args: words, allowPositionals: true, options: {} }).positionals;
    if (!target || more.length > 0) throw badUsage("backup writes one file.", backupCommand.usage);
    const { backupDatabase } = await import("#server/db/backup.ts");
    const { rows, ...held } = await backupDatabase(database(), target);
    line(`Copied ${database()} to ${target}: ${rows} rows, ${storedWords(held)}`);
  },
};

export const restoreCommand: Command = {
  name: "restore",
  usage: "restore FILE",
  async run(words) {
    const [backup, ...more] = parseArgs({ args: words, allowPositionals: true, options: {} }).positionals;
    if (!backup || more.length > 0) throw badUsage("restore reads one backup.", restoreCommand.usage);
    const { restoreDatabase } = await import("#server/db/backup.ts");
    const { kept, ...held } = await restoreDatabase(backup, database());
    line(
      `Restored ${database()} from ${backup}: ${storedWords(held)}${kept ? `; the old one is kept as ${kept}` : ""}`,
    );
  },
};
