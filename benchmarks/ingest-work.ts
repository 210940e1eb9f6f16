/** One measured piece of work of the ingest bench, in a process of its own. */
import { closeSync, openSync, readSync } from "node:fs";
import { readLogFile } from "#cli/log-file.ts";
import { analyse } from "#core/soak/index.ts";

const [, , name, path = ""] = process.argv;

/** Merely reads the file and turns every field into a number, the plain way: line by line, split, Number. */
function plain(): number {
  const file = openSync(path, "r");
  const buffer = Buffer.alloc(1 << 20);
  let rest = "";
  let sum = 0;
  for (;;) {
    const count = readSync(file, buffer);
    if (count === 0) break;
    const lines = (rest + buffer.toString("utf8", 0, count)).split("\n");
    rest = lines.pop() ?? "";
    for (const line of lines) for (const field of line.split(",")) sum += Number(field);
  }
  closeSync(file);
  return sum;
}

const atStart = process.memoryUsage().rss;
const from = performance.now();
if (name === "plain") plain();
else analyse(readLogFile(path, {}));
const seconds = (performance.now() - from) / 1000;
const peakMb = (process.resourceUsage().maxRSS * 1024 - atStart) / 1e6;
console.log(JSON.stringify({ seconds, peakMb }));
