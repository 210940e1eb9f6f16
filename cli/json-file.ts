import { readFileSync } from "node:fs";
import { basename } from "node:path";
import { Problem } from "#core/problem/index.ts";

/**
 * Reads a JSON document and works on it; what is wrong with it is told with the file's name.
 * @throws Problem `no-file`, `not-json`, and what `work` refuses
 */
export function onJson<T>(path: string, work: (document: unknown) => T): T {
  try {
    return work(readJson(path));
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    const detail = error.detail();
    throw new Problem({ ...detail, where: [basename(path), detail.where].filter(Boolean).join(", ") });
  }
}

function readJson(path: string): unknown {
  let text: string;
  try {
    text = readFileSync(path, "utf8");
  } catch {
    throw new Problem({ code: "no-file", what: "This file can’t be read.", remedy: "Check the path." });
  }
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new Problem({
      code: "not-json",
      what: `This is not JSON (${error instanceof Error ? error.message : ""}).`,
      remedy: "See the file format.",
    });
  }
}
