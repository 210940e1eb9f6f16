import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { firstScript } from "./scripts/first-script.mjs";
import { leanPage } from "./scripts/lean-page.mjs";

export default defineConfig({
  root: "web",
  plugins: [leanPage(), react(), tailwindcss(), firstScript()],
  worker: { format: "es" },
  build: {
    outDir: "../dist/web",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
  },
  server: { proxy: { "/api": "http://127.0.0.1:4174" } },
});
