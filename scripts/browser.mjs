/** Debian's Chromium: without a window (package chromium-headless-shell, a third less work) where that is there, else the whole one. */
import { existsSync } from "node:fs";

export const PACKAGES = ["chromium-headless-shell", "chromium"];

/** @returns {string} where it is or would be; `CHROMIUM_PATH` where that is set */
export function browserPath() {
  const paths = PACKAGES.map((name) => `/usr/bin/${name}`);
  return process.env.CHROMIUM_PATH ?? paths.find((path) => existsSync(path)) ?? paths[0];
}
