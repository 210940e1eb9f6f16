import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  test: {
    include: ["{core,contract,server,cli,web,benchmarks,scripts}/**/*.test.{ts,tsx}"],
    testTimeout: 180_000,
    hookTimeout: 180_000,
    pool: "forks",
    // Test files share what they import; none leaves anything behind, and loading it anew took a third of the time.
    isolate: false,
    // As many as this machine has; one less, as is usual, would leave half of two idle.
    maxWorkers: "100%",
    coverage: {
      provider: "v8",
      include: ["{core,contract,server,web/app}/**/*.ts"],
      exclude: ["**/*.test.ts", "**/tests/**", "**/migrations/**"],
      reporter: ["text-summary"],
    },
  },
});
