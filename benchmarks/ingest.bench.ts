/** A log of 1 000 000 rows × 10 columns: `analyse` against plain reading and against two CSV packages, in one run. */
import { spawnSync } from "node:child_process";
import { closeSync, mkdtempSync, openSync, readFileSync, rmSync, writeSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { buildSync } from "esbuild";
import Papa from "papaparse";

const ROWS = 1_000_000;
const COLUMNS = 10;
const folder = mkdtempSync(join(tmpdir(), "algidus-bench-"));
const path = join(folder, "million.csv");

function writeLog(): void {
  const file = openSync(path, "w");
  writeSync(
    file,
    "Time [s],GPU temp [°C],Hot spot [°C],Memory [°C],VRM [°C],Room [°C],Fan [rpm],Board power [W],Core clock [MHz],Load [%]\n",
  );
  let text = "";
  for (let row = 0; row < ROWS; row++) {
    const t = row / 100;
    const rise = t < 500 ? 0 : 50 * (1 - Math.exp(-(t - 500) / 200));
    const noise = ((row * 7919) % 101) / 100;
    text += `${t.toFixed(2)},${(25 + rise + noise).toFixed(1)},${(26 + rise * 1.3 + noise).toFixed(1)},${(27 + rise * 0.8).toFixed(1)},${(28 + rise * 0.7 + noise).toFixed(1)},${(22 + noise / 10).toFixed(1)},${1700 + (row % 9)},${(t < 500 ? 14 : 200 + noise).toFixed(1)},1980,99\n`;
    if (row % 20_000 === 0) {
      writeSync(file, text);
      text = "";
    }
  }
  writeSync(file, text);
  closeSync(file);
}

/** Runs a piece of work in a process of its own; seconds and peak memory above the empty process, MB. */
function inProcess(name: string): { seconds: number; peakMb: number } {
  // As users run it: bundled.
  const found = spawnSync(process.execPath, [work, name, path], { encoding: "utf8" });
  if (found.status !== 0) throw new Error(found.stderr);
  return JSON.parse(found.stdout) as { seconds: number; peakMb: number };
}

const work = join(folder, "work.mjs");
buildSync({
  entryPoints: ["benchmarks/ingest-work.ts"],
  outfile: work,
  bundle: true,
  platform: "node",
  format: "esm",
  logLevel: "error",
});
writeLog();
const best = (name: string) => [0, 1, 2].map(() => inProcess(name)).reduce((a, b) => (b.seconds < a.seconds ? b : a));
const plain = best("plain");
const ours = best("analyse");
const columnsMb = (ROWS * COLUMNS * 8) / 1e6;
console.log(
  `analyse takes ${(ours.seconds / plain.seconds).toFixed(2)} times what reading the file and turning every field into a number takes; asked for: at most 0.7`,
);
console.log(
  `its memory peaks ${(ours.peakMb - columnsMb).toFixed(0)} MB above the columns' own ${columnsMb.toFixed(0)} MB; asked for: at most 400`,
);
const text = readFileSync(path, "utf8").split("\n").slice(0, 100_001).join("\n");
const timed = (work: () => unknown): number => {
  const from = performance.now();
  work();
  return (performance.now() - from) / 1000;
};
const tenth = plain.seconds / 10;
console.log(
  `papaparse takes ${(timed(() => Papa.parse(text, { dynamicTyping: true })) / tenth).toFixed(1)} and csv-parse ${(timed(() => parse(text, { cast: true })) / tenth).toFixed(1)} times the plain reading (parsing alone, a tenth of the file)`,
);
rmSync(folder, { recursive: true, force: true });
