/** Runs every suite and sums them up; the last line is `N passed, N failed`. */
import { spawn, spawnSync } from "node:child_process";
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { root } from "./bundle.mjs";

const results = join(root, "test-results");
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });
const bin = (name) => join(root, "node_modules", ".bin", name);

let passed = 0;
let failed = 0;
function step(name, command, args, env = {}) {
  console.log(`\n── ${name}`);
  const ok =
    spawnSync(command, args, { cwd: root, stdio: ["ignore", "inherit", "inherit"], env: { ...process.env, ...env } })
      .status === 0;
  return ok;
}
/** Checks that need nothing of each other, one after the other in its own row; what each says is printed whole, when it ends. */
async function checks(row) {
  for (const [name, command, args] of row) {
    const child = spawn(command, args, { cwd: root, stdio: ["ignore", "pipe", "pipe"] });
    const said = [];
    for (const stream of [child.stdout, child.stderr]) stream.on("data", (data) => said.push(data));
    const code = await new Promise((resolve) => child.once("close", resolve).once("error", () => resolve(1)));
    console.log(`\n── ${name}`);
    process.stdout.write(Buffer.concat(said));
    if (code === 0) passed++;
    else failed++;
  }
}
function suite(name, command, args, report, count, env) {
  const ok = step(name, command, args, env);
  try {
    const [good, bad] = count(JSON.parse(readFileSync(report, "utf8")));
    passed += good;
    failed += bad + (ok || bad > 0 ? 0 : 1);
  } catch {
    failed++;
  }
}

await Promise.all([
  checks([
    ["lock file", "npm", ["ci", "--dry-run", "--no-audit", "--no-fund", "--silent"]],
    ["lint", bin("oxlint"), ["--type-aware", "--deny-warnings"]],
    ["format", bin("biome"), ["check", "."]],
  ]),
  checks([
    ["types", bin("tsc"), ["--noEmit"]],
    ["layers", process.execPath, ["scripts/layers.mjs"]],
    ["dead exports", bin("knip"), ["--no-progress"]],
    ["build", process.execPath, ["scripts/build.mjs"]],
  ]),
]);
const units = join(results, "units.json");
suite(
  "units",
  bin("vitest"),
  ["run", "--reporter=default", "--reporter=json", `--outputFile.json=${units}`],
  units,
  (report) => [report.numPassedTests, report.numFailedTests + report.numPendingTests],
);
const browser = join(results, "browser.json");
suite(
  "browser",
  bin("playwright"),
  ["test", "--reporter=list,json"],
  browser,
  ({ stats }) => [stats.expected, stats.unexpected + stats.flaky + stats.skipped],
  { PLAYWRIGHT_JSON_OUTPUT_NAME: browser },
);

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
