import { defineConfig } from "@playwright/test";
import { browserPath } from "./scripts/browser.mjs";

export default defineConfig({
  testDir: "e2e",
  globalSetup: "./e2e/support/fill-demo.ts",
  outputDir: "test-results/browser",
  timeout: 300_000,
  expect: { timeout: 60_000 },
  // One more than the usual two cores: a browser test waits as much as it works.
  workers: 3,
  fullyParallel: false,
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: browserPath() },
  },
});
