import { parseArgs } from "node:util";
import { onJson } from "./json-file.ts";
import { printJson } from "./print.ts";
import { badUsage, type Command } from "./usage.ts";

/** A command that reads one JSON file, works on it, and prints what it found as a table for people or as JSON. */
export function jsonCommand<T>(
  name: string,
  file: string,
  work: (document: unknown) => T,
  print: (found: T) => void,
): Command {
  const usage = `${name} ${file} [--json]`;
  return {
    name,
    usage,
    run(words) {
      const { values, positionals } = parseArgs({
        args: words,
        allowPositionals: true,
        options: { json: { type: "boolean" } },
      });
      const [path, ...more] = positionals;
      if (!path || more.length > 0) throw badUsage(`${name} reads one file.`, usage);
      const found = onJson(path, work);
      if (values.json) printJson(found);
      else print(found);
      return Promise.resolve();
    },
  };
}
