import { parseArgs } from "node:util";
import { Problem } from "#core/problem/index.ts";
import type { fillDemo } from "#demo";
import { line } from "../print.ts";
import type { Command } from "../usage.ts";

const environment = (usual: string) => {
  const text = process.env.ALGIDUS_PORT ?? "4174";
  const port = Number(text);
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new Problem({
      code: "bad-port",
      what: `“${text}” is not a port.`,
      where: "ALGIDUS_PORT",
      remedy: "Give a number from 0 to 65535; 0 takes any free one.",
    });
  return {
    database: process.env.ALGIDUS_DB ?? usual,
    host: process.env.ALGIDUS_HOST ?? "127.0.0.1",
    port,
    // Set to nothing is not set.
    passphrase: process.env.ALGIDUS_PASSPHRASE || undefined,
  };
};

async function keepServing(
  options: ReturnType<typeof environment> & { fresh?: boolean | undefined },
  prepare?: typeof fillDemo,
): Promise<void> {
  const { startServer } = await import("#server/start.ts");
  const { lastWords } = await import("#server/last-words.ts");
  const words = lastWords();
  const say = (backup: string | undefined): void =>
    words.keep(
      `algidus: the server ended without closing ${options.database}. What it had answered as saved is in it. If it ends again, run \`algidus check\`; the last good backup is ${backup ?? "not taken yet"}.`,
    );
  const { newestBackup } = await import("#server/db/backup-names.ts");
  say(newestBackup(options.database));
  const running = await startServer({ ...options, prepare, onNewestBackup: say }).catch((error: unknown) => {
    words.allIsWell();
    throw error;
  });
  const stop = (): void => {
    void running.close().then(() => {
      words.allIsWell();
      process.exit(0);
    });
  };
  process.once("SIGINT", stop);
  process.once("SIGTERM", stop);
  // Last: who reads this may ask it to stop at once.
  line(`Algidus is ready at ${running.address}`);
}

export const serveCommand: Command = {
  name: "serve",
  usage: "serve",
  async run(words) {
    parseArgs({ args: words, options: {} });
    await keepServing(environment("data/algidus.db"));
  },
};

export const demoCommand: Command = {
  name: "demo",
  usage: "demo [--fresh]",
  async run(words) {
    const { values } = parseArgs({ args: words, options: { fresh: { type: "boolean" } } });
    const demo = await import("#demo");
    await keepServing({ ...environment("data/demo.db"), fresh: values.fresh }, demo.fillDemo);
  },
};
