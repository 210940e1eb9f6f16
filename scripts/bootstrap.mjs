/** Installs what is missing: packages when the lock file or Node changed, and (for tests) Debian's Chromium where that can be done. */
import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { browserPath, PACKAGES } from "./browser.mjs";

const root = fileURLToPath(new URL("..", import.meta.url));
const run = (command, args) => spawnSync(command, args, { cwd: root, stdio: ["ignore", 2, 2] }).status === 0;

const [major, minor] = process.versions.node.split(".").map(Number);
if (major < 20 || (major === 20 && minor < 11)) {
  console.error(`Node 20.11 or newer is needed; this is ${process.versions.node}.`);
  process.exit(1);
}

const stamp = join(root, "node_modules", ".algidus-stamp");
const wanted = createHash("sha256")
  .update(readFileSync(join(root, "package-lock.json")))
  .update(process.version)
  .digest("hex");
if (!existsSync(stamp) || readFileSync(stamp, "utf8") !== wanted) {
  console.error("Installing packages…");
  if (!run("npm", ["ci", "--no-audit", "--no-fund"])) {
    console.error("The packages could not be installed. Check the connection to the package registry and try again.");
    process.exit(1);
  }
  writeFileSync(stamp, wanted);
}

if (process.argv.includes("--browser") && !existsSync(browserPath())) {
  const debian = existsSync("/usr/bin/apt-get") && process.getuid?.() === 0;
  const install = (name) => run("apt-get", ["install", "-y", "--no-install-recommends", name]);
  if (!debian || !run("apt-get", ["update"]) || !PACKAGES.some(install)) {
    console.error(
      `The browser tests need Chromium (Debian's package ${PACKAGES.join(" or ")}), or its path in CHROMIUM_PATH.`,
    );
    process.exit(1);
  }
}
