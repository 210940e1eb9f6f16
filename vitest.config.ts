import { availableParallelism } from "node:os";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  test: {
    include: ["{core,contract,server,cli,web,benchmarks,scripts}/**/*.test.{ts,tsx}"],
    env: { ALGIDUS_CHECK_ANSWERS: "1" },
    testTimeout: 180_000,
    hookTimeout: 180_000,
    pool: "forks",
    // Test files share what they import; none leaves anything behind, and loading it anew took a third of the time.
    isolate: false,
    // One more than this machine has: servers, files and sign-ins are waited for, and two of two stood still for a third of the time.
    maxWorkers: availableParallelism() + 1,
    coverage: {
      provider: "v8",
      include: ["{core,contract,server,web/app}/**/*.ts"],
      exclude: ["**/*.test.ts", "**/tests/**", "**/migrations/**"],
      reporter: ["text-summary"],
    },
  },
});
