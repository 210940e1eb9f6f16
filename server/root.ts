import { existsSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

/** The project's folder, from the bundle as from the sources. */
export const root = ((): string => {
  let folder = dirname(fileURLToPath(import.meta.url));
  while (!existsSync(join(folder, "package.json"))) {
    const above = dirname(folder);
    if (above === folder) return process.cwd();
    folder = above;
  }
  return folder;
})();
