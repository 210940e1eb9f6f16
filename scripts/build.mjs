/** Builds what is older than its sources: the Node bundle and the page. */
import { existsSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { ensureBundle, newest, root } from "./bundle.mjs";

await ensureBundle();
const stamp = join(root, "dist", "web", "stamp");
const latest = Math.max(
  ...["web", "core", "contract"].map((folder) => newest(join(root, folder))),
  ...["vite.config.ts", "scripts/lean-page.mjs", "scripts/first-script.mjs", "package.json"].map(
    (file) => statSync(join(root, file)).mtimeMs,
  ),
);
if (!existsSync(stamp) || statSync(stamp).mtimeMs < latest) {
  const { build } = await import("vite");
  await build({ configFile: join(root, "vite.config.ts"), logLevel: "warn" });
  writeFileSync(stamp, "");
}
