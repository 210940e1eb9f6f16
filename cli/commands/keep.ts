import { parseArgs } from "node:util";
import { line } from "../print.ts";
import { badUsage, type Command } from "../usage.ts";

const database = (): string => process.env.ALGIDUS_DB ?? "data/algidus.db";

export const backupCommand: Command = {
  name: "backup",
  usage: "backup FILE",
  async run(words) {
    const [target, ...more] = parseArgs({ args: words, allowPositionals: true, options: {} }).positionals;
    if (!target || more.length > 0) throw badUsage("backup writes one file.", backupCommand.usage);
    const { backupDatabase } = await import("#server/db/backup.ts");
    await backupDatabase(database(), target);
    line(`Copied ${database()} to ${target}`);
  },
};

export const restoreCommand: Command = {
  name: "restore",
  usage: "restore FILE",
  async run(words) {
    const [backup, ...more] = parseArgs({ args: words, allowPositionals: true, options: {} }).positionals;
    if (!backup || more.length > 0) throw badUsage("restore reads one backup.", restoreCommand.usage);
    const { restoreDatabase } = await import("#server/db/backup.ts");
    const kept = await restoreDatabase(backup, database());
    line(`Restored ${database()} from ${backup}${kept ? `; the old one is kept as ${kept}` : ""}`);
  },
};
