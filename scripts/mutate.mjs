/**
 * How many small faults put into a folder its tests notice: `npm run mutate core/gaps`, run by hand. With MUTANTS=1 those that no
 * test noticed are shown.
 */
import { spawnSync } from "node:child_process";
import { rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { root } from "./bundle.mjs";

const folders = process.argv.slice(2);
if (folders.length === 0) {
  console.error("Name a folder or more, such as core/gaps.");
  process.exit(2);
}
const config = join(root, "stryker.config.json");
const tests = join(root, "stryker.vitest.config.mjs");
let failed = 0;
for (const folder of folders) {
  writeFileSync(
    tests,
    `export default { test: { include: [${JSON.stringify(`${folder}/**/*.test.ts`)}], testTimeout: 60_000 } };\n`,
  );
  writeFileSync(
    config,
    JSON.stringify({
      testRunner: "vitest",
      plugins: ["@stryker-mutator/vitest-runner"],
      // This version of the language has no API that the tool could rewrite the configuration with; the tests need none.
      tsconfigFile: "none.json",
      mutate: [`${folder}/*.ts`, `!${folder}/*.test.ts`],
      ignorePatterns: ["dist", "data", "test-results", "docs"],
      reporters: ["clear-text"],
      clearTextReporter: { allowColor: false, reportTests: false, reportMutants: process.env.MUTANTS === "1" },
      coverageAnalysis: "perTest",
      concurrency: 2,
      timeoutMS: 60_000,
      tempDirName: ".stryker-tmp",
      vitest: { related: false, configFile: "stryker.vitest.config.mjs" },
      ignoreStatic: true,
    }),
  );
  const { status } = spawnSync(join(root, "node_modules", ".bin", "stryker"), ["run", config], {
    cwd: root,
    stdio: "inherit",
  });
  failed ||= status ?? 1;
}
for (const path of [config, tests, join(root, ".stryker-tmp")]) rmSync(path, { recursive: true, force: true });
process.exit(failed);
