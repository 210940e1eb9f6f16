import { statSync } from "node:fs";
import { basename } from "node:path";
import { Problem } from "#core/problem/index.ts";
import { isRole, type ReadOptions, type Role, type RunTable, readRun } from "#core/runfile/index.ts";
import { type AnalyseOptions, type Analysis, analyse } from "#core/soak/index.ts";
import { filePieces } from "#server/ingest/file-pieces.ts";

/** Reads a log from disk; every Problem names the file. */
export function readLogFile(path: string, options: ReadOptions): RunTable {
  try {
    return readRun(filePieces(path, true), { ...options, bytes: statSync(path).size });
  } catch (error) {
    if (error instanceof Problem) {
      const detail = error.detail();
      throw new Problem({ ...detail, where: detail.where ? `${basename(path)}, ${detail.where}` : basename(path) });
    }
    const code = error instanceof Error && "code" in error ? String(error.code) : "";
    if (code === "ENOENT")
      throw new Problem({ code: "no-file", what: "There is no such file.", where: path, remedy: "Check the path." });
    if (code === "EISDIR")
      throw new Problem({ code: "no-file", what: "This is a folder.", where: path, remedy: "Name a log file in it." });
    if (code === "EACCES")
      throw new Problem({
        code: "no-file",
        what: "This file may not be read.",
        where: path,
        remedy: "Change its permissions.",
      });
    throw error;
  }
}

/** Judges a log; what is wrong with an option names the file. */
export function analyseFile(path: string, table: RunTable, options: AnalyseOptions): Analysis {
  try {
    return analyse(table, options);
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    const detail = error.detail();
    throw new Problem({ ...detail, where: [basename(path), detail.where].filter(Boolean).join(", ") });
  }
}

/** `ROLE=HEADER` pairs of `--map`. */
export function readMap(pairs: readonly string[] | undefined): Array<readonly [Role, string]> {
  return (pairs ?? []).map((pair) => {
    const at = pair.indexOf("=");
    const role = pair.slice(0, Math.max(0, at)).trim();
    if (at < 1 || !isRole(role))
      throw new Problem({
        code: "bad-map",
        what: `“${pair}” does not name a role and a header.`,
        remedy:
          "Write --map ROLE=HEADER with a role such as edge, hotspot, memory, vrm, ambient, probe, fanRpm, fanPct, power or time.",
      });
    return [role, pair.slice(at + 1)] as const;
  });
}
