/** Runs every suite and sums them up; the last line is `N passed, N failed`. */
import { spawn } from "node:child_process";
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { stripVTControlCharacters } from "node:util";
import { root } from "./bundle.mjs";

const results = join(root, "test-results");
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });
const bin = (name) => join(root, "node_modules", ".bin", name);
const begun = Date.now();
const minutes = () => `${((Date.now() - begun) / 60_000).toFixed(1)} min`;

let passed = 0;
let failed = 0;
/** What failed and why: told last, where whoever reads only the end of it finds it. */
const faults = [];

/** Runs a command; what it says is printed whole when it ends, or as it comes where `live`. @returns whether it went well */
function run(name, command, args, { live = false, env = {} } = {}) {
  if (live) console.log(`\n── ${name}`);
  const child = spawn(command, args, {
    cwd: root,
    stdio: ["ignore", live ? "inherit" : "pipe", live ? "inherit" : "pipe"],
    env: { ...process.env, ...env },
  });
  const said = [];
  for (const stream of [child.stdout, child.stderr]) stream?.on("data", (data) => said.push(data));
  return new Promise((resolve) => {
    const end = (code) => {
      if (!live) {
        console.log(`\n── ${name} (${minutes()})`);
        process.stdout.write(Buffer.concat(said));
      }
      if (code !== 0 && !live) faults.push({ name, why: Buffer.concat(said).toString() });
      resolve(code === 0);
    };
    child.once("close", end).once("error", () => end(1));
  });
}
/** Checks that need nothing of each other, one after the other in its own row. */
async function checks(row) {
  for (const [name, command, args] of row) {
    if (await run(name, command, args)) passed++;
    else failed++;
  }
}
/** A suite that writes a report. @returns its tests with what each took, s; those that failed are noted */
async function suite(name, command, args, report, read, options) {
  const ok = await run(name, command, args, options);
  try {
    const { good, bad, tests } = read(JSON.parse(readFileSync(report, "utf8")));
    passed += good;
    failed += bad + (ok || bad > 0 ? 0 : 1);
    if (!ok && bad === 0) faults.push({ name, why: "ended with a fault outside its tests" });
    faults.push(...tests.filter(({ why }) => why));
    return tests;
  } catch (error) {
    failed++;
    faults.push({ name, why: `left no report: ${error}` });
    return [];
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

const unitsFile = join(results, "units.json");
const browserFile = join(results, "browser.json");
const relative = (path) => path.replace(`${root}/`, "").replace(root, "");
/** The tests of a browser report, whatever they stand in. */
const browserTests = ({ suites = [], specs = [] }, file) => [
  ...specs.flatMap(({ title, tests }) =>
    tests.map(({ results: runs }) => ({
      name: `e2e/${file}: ${title}`,
      s: runs.reduce((s, { duration }) => s + duration, 0) / 1000,
      why: runs.map(({ error }) => error?.message ?? "").join("\n"),
    })),
  ),
  ...suites.flatMap((one) => browserTests(one, one.file ?? file)),
];
const units = await suite(
  "units",
  bin("vitest"),
  ["run", "--reporter=default", "--reporter=json", `--outputFile.json=${unitsFile}`],
  unitsFile,
  (report) => ({
    good: report.numPassedTests,
    bad: report.numFailedTests + report.numPendingTests,
    tests: report.testResults.flatMap(({ name, assertionResults }) =>
      assertionResults.map(({ fullName, duration, failureMessages }) => ({
        name: `${relative(name)}: ${fullName}`,
        s: (duration ?? 0) / 1000,
        why: failureMessages?.join("\n"),
      })),
    ),
  }),
  { live: true },
);
// Not beside each other: both keep two cores busy, and what waits for a process of its own starves.
const browser = await suite(
  "browser",
  bin("playwright"),
  ["test", "--reporter=list,json"],
  browserFile,
  (report) => ({
    good: report.stats.expected,
    bad: report.stats.unexpected + report.stats.flaky + report.stats.skipped,
    tests: browserTests(report, ""),
  }),
  { live: true, env: { PLAYWRIGHT_JSON_OUTPUT_NAME: browserFile } },
);

for (const [name, tests] of [
  ["unit", units],
  ["browser", browser],
]) {
  console.log(`\nThe twenty slowest ${name} tests:`);
  for (const one of tests.toSorted((a, b) => b.s - a.s).slice(0, 20))
    console.log(`${one.s.toFixed(1).padStart(7)} s  ${one.name.slice(0, 150)}`);
}
for (const { name, why } of faults) console.log(`\nFAILED  ${name}\n${stripVTControlCharacters(why).slice(0, 1500)}`);
console.log(`\nAll of it took ${minutes()}.`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
