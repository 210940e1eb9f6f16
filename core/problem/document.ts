import * as v from "valibot";
import { Problem } from "./problem.ts";

/** What is wrong and what to do about it, as one message of a schema. */
export const said = (what: string, remedy: string): string => `${what}\n${remedy}`;

/** A number of a document between two ends. */
export const numberFrom = (least: number, most: number, remedy = "Give a number in the unit its name says.") =>
  v.pipe(
    v.number(said("This is no number.", remedy)),
    v.minValue(least, said(`This is below ${least}.`, `Give a number from ${least} to ${most}.`)),
    v.maxValue(most, said(`This is above ${most}.`, `Give a number from ${least} to ${most}.`)),
  );

/** A list of a document with at most so many entries. */
export const listOf = <S extends v.GenericSchema>(entry: S, most: number) =>
  v.pipe(
    v.array(entry, said("This is no list.", "Give a list, empty where there are none.")),
    v.maxLength(most, said(`These are more than ${most}.`, `Give at most ${most}; part the task.`)),
  );

export const idText = v.pipe(
  v.string(said("It has no id.", "Give every entry an id.")),
  v.minLength(1, said("It has no id.", "Give every entry an id.")),
  v.maxLength(200, said("This id is too long.", "Give at most 200 characters.")),
);

const pathOf = (issue: v.BaseIssue<unknown>): string =>
  (issue.path ?? []).reduce((path, { key }) => {
    if (typeof key === "number") return `${path}[${key}]`;
    return path === "" ? String(key) : `${path}.${String(key)}`;
  }, "") || "the document";

const MOST_TOLD = 40;
/** What a schema expected and got, where it has no words of its own. */
export const typeWords = ({ received, expected }: Pick<v.BaseIssue<unknown>, "received" | "expected">): string =>
  received === "undefined"
    ? "This is missing."
    : `This is ${shortened(received)}, not ${expected ?? "what is asked for"}.`;
const shortened = (text: string): string => (text.length > MOST_TOLD ? `${text.slice(0, MOST_TOLD - 1)}…` : text);

/**
 * A document as it was read from a file, checked.
 * @throws Problem of that code for the first thing that is wrong, with the place and the remedy
 */
export function readDocument<S extends v.GenericSchema>(schema: S, input: unknown, code: string): v.InferOutput<S> {
  const found = v.safeParse(schema, input, { abortEarly: true });
  if (found.success) return found.output;
  const [issue] = found.issues;
  const [what = "", remedy] = issue.message.split("\n");
  throw new Problem(
    remedy
      ? { code, what, where: pathOf(issue), remedy }
      : {
          code,
          what: typeWords(issue),
          where: pathOf(issue),
          remedy: "See the file format.",
        },
  );
}
