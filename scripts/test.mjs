/** Runs every suite and sums them up; the last line is `N passed, N failed`. */
import { spawnSync } from "node:child_process";
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
function check(name, command, args) {
  if (step(name, command, args)) passed++;
  else failed++;
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

check("lock file", "npm", ["ci", "--dry-run", "--no-audit", "--no-fund", "--silent"]);
check("lint", bin("oxlint"), ["--type-aware", "--deny-warnings"]);
check("layers", process.execPath, ["scripts/layers.mjs"]);
check("dead exports", bin("knip"), ["--no-progress"]);
check("format", bin("biome"), ["check", "."]);
check("types", bin("tsc"), ["--noEmit"]);
check("build", process.execPath, ["scripts/build.mjs"]);
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
