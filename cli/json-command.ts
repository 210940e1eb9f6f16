import { parseArgs } from "node:util";
import { onJson } from "./json-file.ts";
import { printJson } from "./print.ts";
import { badUsage, type Command, numberOption } from "./usage.ts";

/** The time such a command may look for better answers. */
interface Until {
  now: () => number;
  until: number;
}
const LEAST_SECONDS = 0.05;
const now = (): number => performance.now();

/** A command that reads one JSON file, works on it, and prints what it found as a table for people or as JSON. */
export const jsonCommand = <T>(
  name: string,
  file: string,
  work: (document: unknown) => T,
  print: (found: T) => void,
): Command => command(name, file, null, work, print);

/** The same for a search that takes as long as `--seconds` says. */
export const timedCommand = <T>(
  name: string,
  file: string,
  usualSeconds: number,
  work: (document: unknown, until: Until) => T,
  print: (found: T) => void,
): Command => command(name, file, usualSeconds, work, print);

function command<T>(
  name: string,
  file: string,
  usualSeconds: number | null,
  work: (document: unknown, until: Until) => T,
  print: (found: T) => void,
): Command {
  const timed = usualSeconds !== null;
  const usage = `${name} ${file} ${timed ? "[--seconds S] " : ""}[--json]`;
  return {
    name,
    usage,
    run(words) {
      const { values, positionals } = parseArgs({
        args: words,
        allowPositionals: true,
        options: { json: { type: "boolean" }, ...(timed && { seconds: { type: "string" } as const }) },
      });
      const [path, ...more] = positionals;
      if (!path || more.length > 0) throw badUsage(`${name} reads one file.`, usage);
      const seconds =
        numberOption("seconds", typeof values.seconds === "string" ? values.seconds : undefined, LEAST_SECONDS) ??
        usualSeconds ??
        0;
      const found = onJson(path, (document) => work(document, { now, until: now() + 1000 * seconds }));
      if (values.json) printJson(found);
      else print(found);
      return Promise.resolve();
    },
  };
}
