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
export function numberOption(
  name: string,
  text: string | undefined,
  least?: number,
  most?: number,
): number | undefined {
  if (text === undefined) return undefined;
  const value = Number(text.replace(",", "."));
  const outside = (least !== undefined && value < least) || (most !== undefined && value > most);
  if (text.trim() === "" || !Number.isFinite(value) || outside)
    throw new Problem({
      code: "bad-option",
      what: `“${text}” is not a usable number for --${name}.`,
      remedy:
        least === undefined
          ? "Give a number such as 22.5."
          : most === undefined
            ? `Give a number of at least ${least}.`
            : `Give a number from ${least} to ${most}.`,
    });
  return value;
}

/** One of a few words given with an option, or a Problem that lists them. */
export function choiceOption<C extends string>(
  name: string,
  text: string | undefined,
  choices: readonly C[],
): C | undefined {
  const found = choices.find((choice) => choice === text);
  if (text !== undefined && found === undefined)
    throw new Problem({
      code: "bad-option",
      what: `“${text}” is none of the words for --${name}.`,
      remedy: `Give ${choices.join(", ")}.`,
    });
  return found;
}

const MOST_TEXT = 300;

/** A name given with an option. */
export function textOption(name: string, text: string | undefined): string | undefined {
  if (text !== undefined && text.length > MOST_TEXT)
    throw new Problem({
      code: "bad-option",
      what: `What --${name} says has ${text.length} characters.`,
      remedy: `Give at most ${MOST_TEXT}.`,
    });
  return text;
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
