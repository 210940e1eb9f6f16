/**
 * How many small faults put into a folder its tests notice: `npm run mutate core/gaps`, run by hand. Writes no report but what it prints.
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
writeFileSync(
  config,
  JSON.stringify({
    testRunner: "vitest",
    // This version of the language has no API that the tool could rewrite the configuration with; the tests need none.
    tsconfigFile: "none.json",
    plugins: ["@stryker-mutator/vitest-runner"],
    mutate: folders.flatMap((folder) => [`${folder}/**/*.ts`, `!${folder}/**/*.test.ts`, `!${folder}/tests/**`]),
    ignorePatterns: ["dist", "data", "test-results", "docs"],
    reporters: ["clear-text"],
    clearTextReporter: { allowColor: false, reportTests: false },
    coverageAnalysis: "perTest",
    concurrency: 2,
    timeoutMS: 60_000,
    tempDirName: "node_modules/.stryker",
    vitest: { related: true },
    ignoreStatic: true,
  }),
);
const { status } = spawnSync(join(root, "node_modules", ".bin", "stryker"), ["run", config], {
  cwd: root,
  stdio: "inherit",
});
rmSync(config, { force: true });
process.exit(status ?? 1);
