import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  test: {
    include: ["{core,contract,server,cli,web,bench,scripts}/**/*.test.{ts,tsx}"],
    testTimeout: 180_000,
    hookTimeout: 180_000,
    pool: "forks",
  },
});
