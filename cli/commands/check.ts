import { parseArgs } from "node:util";
import { Problem } from "#core/problem/index.ts";
import type { CheckReport } from "#server/services/check.ts";
import { line, printJson, printTable } from "../print.ts";
import type { Command } from "../usage.ts";

export const checkCommand: Command = {
  name: "check",
  usage: "check [--repair] [--json]",
  async run(words) {
    const { values } = parseArgs({ args: words, options: { repair: { type: "boolean" }, json: { type: "boolean" } } });
    const database = process.env.ALGIDUS_DB ?? "data/algidus.db";
    const { needDatabase } = await import("#server/db/backup.ts");
    needDatabase(database);
    const { databaseFile, lookAt } = await import("#server/db/look.ts");
    const { openContext } = await import("#server/start.ts");
    const { checkDatabase } = await import("#server/services/check.ts");
    const file = databaseFile(database);
    await lookAt(file);
    const report = await checkDatabase(file, values.repair === true, () => openContext(database));
    if (values.json) printJson(report);
    else print(report);
    if (!report.sound)
      throw new Problem({
        code: "not-sound",
        what: "The database is not sound.",
        where: database,
        remedy: values.repair
          ? "Restore a backup with `algidus restore`; what could be mended is mended."
          : "Try `algidus check --repair`; what that can’t mend is in your last backup.",
      });
  },
};

const countOf = (faults: readonly unknown[]): string => (faults.length === 0 ? "sound" : `${faults.length} wrong`);

function print({ integrity, texts, references, stored, summaries, stock }: CheckReport): void {
  printTable([
    ["pages", countOf(integrity)],
    ["texts", `${countOf(texts.broken)}${texts.repaired ? ", mended" : ""}`],
    ["references", countOf(references)],
    [`stored logs, samples and photos (${stored.read})`, countOf(stored.unreadable)],
    ["summaries", `${countOf(summaries.wrong)}${summaries.repaired ? ", mended" : ""}`],
    ["stock", `${countOf(stock.wrong)}${stock.repaired ? ", mended" : ""}`],
  ]);
  for (const text of integrity) line(`  ${text}`);
  for (const { table, column, row, is } of texts.broken)
    line(`  ${table}, row ${row}: what stands under ${column} is ${is}`);
  for (const { table, refersTo, rows } of references)
    line(`  ${table}: ${rows} refer to ${refersTo} that is not there`);
  for (const { hash, what } of stored.unreadable) line(`  ${hash.slice(0, 12)}: ${what}`);
  for (const { serviceId, what } of summaries.wrong) line(`  service ${serviceId}: ${what}`);
  for (const { id, label, amount, shouldBe } of stock.wrong)
    line(`  lot ${label || id}: holds ${amount}; what was put in without what was taken is ${shouldBe}`);
}
