/** `npm run faults`, or with names a part of it: attacks the server, prints what came of it, and fails where that is not what was asked for. */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { shortfalls } from "./asked.ts";
import { damage } from "./damage.ts";
import { fuzz } from "./fuzz.ts";
import { kills } from "./kills.ts";
import { load } from "./load.ts";
import { sent } from "./sent.ts";

const PARTS: Record<string, (folder: string) => Promise<void>> = { kills, damage, load, fuzz, sent };

const only = process.argv.slice(2);
const begun = performance.now();
for (const [name, run] of Object.entries(PARTS)) {
  if (only.length > 0 && !only.includes(name)) continue;
  const folder = mkdtempSync(join(tmpdir(), "algidus-faults-"));
  console.log(`\n── ${name}`);
  try {
    await run(folder);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
console.log(`\nIn all ${((performance.now() - begun) / 60_000).toFixed(1)} minutes (asked for: under 10).`);
for (const words of shortfalls) console.log(`NOT as asked for: ${words}`);
if (shortfalls.length > 0) process.exitCode = 1;
