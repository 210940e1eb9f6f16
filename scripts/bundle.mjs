/** Bundles the Node side (command line, server, worker threads) into dist/node when a source is newer. No dependency but esbuild. */
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";

export const root = fileURLToPath(new URL("..", import.meta.url));
const SOURCES = ["core", "contract", "server", "cli", "demo"];
const ENTRIES = {
  main: "cli/main.ts",
  "ingest-worker": "server/ingest/worker.ts",
  "findings-worker": "server/services/findings-worker.ts",
  "planning-worker": "server/planning/worker.ts",
  keeper: "server/keeper-process.ts",
  "simulated-bench": "server/benches/simulated-process.ts",
};

/** What brings machine code or files of its own; all else is taken into the bundle: a server starts with a third less work. */
const PACKAGES = ["esbuild", "libsql", "pino", "sharp", "vite"];
/** CommonJS packages in the bundle ask for Node's own modules by `require`. */
const BANNER = `import { createRequire as requireFor } from "node:module"; const require = requireFor(import.meta.url);`;

export function newest(folder) {
  let latest = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) latest = Math.max(latest, newest(path));
    else if (!/\.test\.tsx?$/.test(entry.name)) latest = Math.max(latest, statSync(path).mtimeMs);
  }
  return latest;
}

/** @returns the folder of the bundle, built when missing or older than its sources */
export async function ensureBundle() {
  const out = join(root, "dist", "node");
  const stamp = join(out, "stamp");
  const latest = Math.max(
    ...SOURCES.map((folder) => newest(join(root, folder))),
    statSync(join(root, "package.json")).mtimeMs,
  );
  if (existsSync(stamp) && statSync(stamp).mtimeMs > latest) return out;
  const { build } = await import("esbuild");
  const fresh = join(root, "dist", `node-${process.pid}`);
  mkdirSync(fresh, { recursive: true });
  await build({
    entryPoints: Object.fromEntries(Object.entries(ENTRIES).filter(([, path]) => existsSync(join(root, path)))),
    absWorkingDir: root,
    outdir: fresh,
    bundle: true,
    splitting: true,
    platform: "node",
    target: "node20",
    format: "esm",
    external: PACKAGES,
    outExtension: { ".js": ".mjs" },
    banner: { js: BANNER },
    logLevel: "error",
  });
  writeFileSync(join(fresh, "stamp"), "");
  rmSync(out, { recursive: true, force: true });
  try {
    renameSync(fresh, out);
  } catch {
    rmSync(fresh, { recursive: true, force: true });
  }
  return out;
}
