import { Problem } from "#core/problem/index.ts";
import { ageCommand } from "./commands/age.ts";
import { analyseCommand } from "./commands/analyse.ts";
import { checkCommand } from "./commands/check.ts";
import { compareCommand } from "./commands/compare.ts";
import { contactCommand } from "./commands/contact.ts";
import { cutCommand } from "./commands/cut.ts";
import { diagnoseCommand } from "./commands/diagnose.ts";
import { dryCommand } from "./commands/dry.ts";
import { fastenCommand } from "./commands/fasten.ts";
import { findingsCommand } from "./commands/findings.ts";
import { fitCommand } from "./commands/fit.ts";
import { backupCommand, restoreCommand } from "./commands/keep.ts";
import { scheduleCommand } from "./commands/schedule.ts";
import { demoCommand, serveCommand } from "./commands/serve.ts";
import { spreadCommand } from "./commands/spread.ts";
import { verifyCommand } from "./commands/verify.ts";
import type { Command } from "./usage.ts";

/** The list is the map: a new command is one file and one line. */
const COMMANDS: readonly Command[] = [
  analyseCommand,
  compareCommand,
  diagnoseCommand,
  contactCommand,
  cutCommand,
  fastenCommand,
  spreadCommand,
  dryCommand,
  fitCommand,
  scheduleCommand,
  ageCommand,
  findingsCommand,
  verifyCommand,
  serveCommand,
  demoCommand,
  backupCommand,
  restoreCommand,
  checkCommand,
];

function help(): string {
  return `algidus, a bench companion for people who refurbish graphics cards\n\n${COMMANDS.map((command) => `  algidus ${command.usage}`).join("\n")}\n`;
}

/** Runs one command. Exit 0 on success, 2 on bad usage or bad input with one line on standard error, 1 on a fault of ours. */
export async function main(words: string[]): Promise<void> {
  const [name, ...rest] = words;
  if (name === undefined || name === "--help" || name === "help" || name === "-h") {
    process.stdout.write(help());
    if (name === undefined) process.exitCode = 2;
    return;
  }
  // `algidus … | head` closes the pipe early; that is no fault.
  process.stdout.on("error", (error: NodeJS.ErrnoException) => {
    if (error.code === "EPIPE") process.exit(0);
    throw error;
  });
  const command = COMMANDS.find((one) => one.name === name);
  try {
    if (!command)
      throw new Problem({
        code: "bad-usage",
        what: `There is no command “${name}”.`,
        remedy: `Use one of: ${COMMANDS.map((one) => one.name).join(", ")}.`,
      });
    if (rest.includes("--help")) process.stdout.write(`algidus ${command.usage}\n`);
    else await command.run(rest);
  } catch (error) {
    process.exitCode = 2;
    if (error instanceof Problem) process.stderr.write(`algidus: ${error.message.replace(/\s*\n\s*/g, " ")}\n`);
    else if (error instanceof TypeError && "code" in error && String(error.code).startsWith("ERR_PARSE_ARGS"))
      process.stderr.write(`algidus: ${error.message.split("\n")[0] ?? ""} Use: algidus ${command?.usage ?? ""}\n`);
    else {
      process.exitCode = 1;
      process.stderr.write(`algidus: unexpected fault: ${error instanceof Error ? error.message : String(error)}\n`);
    }
  }
}
