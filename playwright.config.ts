import { defineConfig } from "@playwright/test";
import { browserPath } from "./scripts/browser.mjs";

// Every answer of a server that a test starts is held against its line of the API.
process.env.ALGIDUS_CHECK_ANSWERS = "1";

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
