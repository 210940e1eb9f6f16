import { defineConfig } from "drizzle-kit";

export default defineConfig({
  dialect: "sqlite",
  schema: ["./server/db/schema.ts", "./server/stations/*/tables.ts"],
  out: "./server/db/migrations",
  casing: "snake_case",
});
