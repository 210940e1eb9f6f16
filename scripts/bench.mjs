/** Runs what stands in benchmarks/ (`npm run bench`, or with words of a name a part of it); each prints ratios or shares, never a pass or fail by time; shares that fall short fail it. */
import { spawnSync } from "node:child_process";
import { readdirSync } from "node:fs";
import { join } from "node:path";
import { root } from "./bundle.mjs";

spawnSync(process.execPath, ["scripts/build.mjs"], { cwd: root, stdio: "inherit" });
const only = process.argv.slice(2);
for (const file of readdirSync(join(root, "benchmarks")).filter((name) => name.endsWith(".bench.ts"))) {
  if (only.length > 0 && !only.some((word) => file.includes(word))) continue;
  console.log(`\n── ${file.replace(".bench.ts", "")}`);
  const { status } = spawnSync(process.execPath, ["--import", "tsx", "--expose-gc", join("benchmarks", file)], {
    cwd: root,
    stdio: ["ignore", "inherit", "inherit"],
  });
  if (status !== 0) process.exitCode = 1;
}
