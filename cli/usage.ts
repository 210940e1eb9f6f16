import { Problem } from "#core/problem/index.ts";

export interface Command {
  name: string;
  /** One line for `--help`. */
  usage: string;
  run(words: string[]): Promise<void>;
}

export const badUsage = (what: string, usage: string): Problem =>
  new Problem({ code: "bad-usage", what, remedy: `Use: algidus ${usage}` });

/** A number given with an option, or a Problem that names it. */
export function numberOption(name: string, text: string | undefined, least?: number): number | undefined {
  if (text === undefined) return undefined;
  const value = Number(text.replace(",", "."));
  if (text.trim() === "" || !Number.isFinite(value) || (least !== undefined && value < least))
    throw new Problem({
      code: "bad-option",
      what: `“${text}” is not a usable number for --${name}.`,
      remedy: least === undefined ? "Give a number such as 22.5." : `Give a number of at least ${least}.`,
    });
  return value;
}

/** A place in a list, from 1, given with an option. */
export function countOption(name: string, text: string | undefined): number | undefined {
  const value = numberOption(name, text, 1);
  if (value !== undefined && !Number.isInteger(value))
    throw new Problem({
      code: "bad-option",
      what: `“${text}” is not a usable number for --${name}.`,
      remedy: "Give a whole number from 1 on.",
    });
  return value;
}
