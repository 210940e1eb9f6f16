import { readFileSync, statSync } from "node:fs";
import { basename } from "node:path";
import { Problem } from "#core/problem/index.ts";
import { decodeText } from "#core/tables/index.ts";

const MOST_BYTES = 200e6;

/**
 * Reads a text file whatever its encoding and works on it; what is wrong with it is told with the file's name.
 * @throws Problem `no-file`, `too-large`, and what `work` refuses
 */
export function onText<T>(path: string, work: (text: string) => T): T {
  try {
    return work(readText(path));
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    const detail = error.detail();
    throw new Problem({ ...detail, where: [basename(path), detail.where].filter(Boolean).join(", ") });
  }
}

function readText(path: string): string {
  let bytes: Uint8Array;
  try {
    if (statSync(path).size > MOST_BYTES)
      throw new Problem({ code: "too-large", what: "This file is larger than 200 MB.", remedy: "Split it." });
    bytes = readFileSync(path);
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw new Problem({ code: "no-file", what: "This file can’t be read.", remedy: "Check the path." });
  }
  return decodeText(bytes);
}
