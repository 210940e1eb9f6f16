import { execFileSync, spawn } from "node:child_process";
import { once } from "node:events";
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@playwright/test";
import { type Card, EMPTY_CARD } from "#contract";

/** What CONTRIBUTING's recipe asks for: folders of the station's own, and nothing else. */
const FOLDERS: Record<string, string> = {
  "core/stations/weigh/index.ts": `
import type { StationRule } from "../../service/index.ts";
export interface WeighFacts { grams: number | null }
export const weighRule: StationRule<WeighFacts> = {
  todo: "Put it on the scales",
  figure: (_facts, { grams }) => (grams === null ? "" : \`\${grams} g\`),
  done: (_facts, { grams }) => grams !== null,
};
`,
  "server/stations/weigh/index.ts": `
import type { WeighFacts } from "#core/stations/weigh/index.ts";
import * as v from "valibot";
import { get } from "#contract";
import { serve } from "../../http/route.ts";
import type { ServerStation } from "../station.ts";
export const station: ServerStation<WeighFacts> = {
  id: "weigh",
  tables: {},
  load: () => Promise.resolve({ grams: null }),
  routes: () => serve({ weight: get("/services/:serviceId/weight", "What the card weighs", { answers: v.object({ grams: v.nullable(v.number()) }) }) }, { weight: () => ({ grams: null }) }),
};
`,
  "web/stations/weigh/index.tsx": `
import { NextLink } from "../../parts/service/next-link.tsx";
import { Skip } from "../../parts/service/skip.tsx";
import type { StationProps, WebStation } from "../station.ts";
function WeighStation({ cardId, service }: StationProps) {
  return (
    <div>
      <p>Nothing on the scales yet</p>
      <Skip service={service} station="weigh" />
      <NextLink cardId={cardId} service={service} from="weigh" />
    </div>
  );
}
export const station: WebStation = { id: "weigh", View: WeighStation };
`,
};
const IMPORT = 'import { weighRule } from "#core/stations/weigh/index.ts";\n';
const LINE = `  { id: "weigh", path: "weigh", title: "Weigh", skipWhy: "Weight tells of a missing part.", rule: weighRule },\n`;
const COPIED = [
  "core",
  "contract",
  "server",
  "cli",
  "demo",
  "web",
  "scripts",
  "bin",
  "package.json",
  "tsconfig.json",
  "vite.config.ts",
];

test("a station is its own folders and one line of the table: tab, skip, next, Bench and API follow", async ({
  page,
}) => {
  const root = mkdtempSync(join(tmpdir(), "algidus-station-"));
  for (const name of COPIED) cpSync(name, join(root, name), { recursive: true });
  symlinkSync(join(process.cwd(), "node_modules"), join(root, "node_modules"));
  for (const [path, text] of Object.entries(FOLDERS)) {
    mkdirSync(join(root, path, ".."), { recursive: true });
    writeFileSync(join(root, path), text);
  }
  const table = join(root, "contract/stations.ts");
  const before = readFileSync(table, "utf8");
  writeFileSync(table, `${IMPORT}${before.replace(/^ {2}\{\n {4}id: "closeUp",/m, `${LINE}  {\n    id: "closeUp",`)}`);
  expect(readFileSync(table, "utf8").length).toBe(before.length + IMPORT.length + LINE.length);

  execFileSync(process.execPath, ["scripts/build.mjs"], { cwd: root });
  const child = spawn(process.execPath, ["bin/algidus", "serve"], {
    cwd: root,
    env: { ...process.env, ALGIDUS_DB: join(root, "recipe.db"), ALGIDUS_PORT: "0" },
    stdio: ["ignore", "pipe", "inherit"],
  });
  try {
    const address = await new Promise<string>((resolve) =>
      child.stdout.on("data", (data: Buffer) => {
        const found = /http:\S+/.exec(data.toString())?.[0];
        if (found) resolve(found);
      }),
    );
    const send = async <T>(method: string, path: string, body: unknown): Promise<T> =>
      (await (
        await fetch(new URL(path, address), {
          method,
          headers: { "Content-Type": "application/json" },
          body: JSON.stringify(body),
        })
      ).json()) as T;
    const card = await send<Card>("POST", "/api/cards", { ...EMPTY_CARD, maker: "Ostrel", model: "Fjell 70" });
    for (const station of ["baseline", "decide", "strip", "clean", "pads", "compound", "fans"])
      await send("PUT", `/api/services/${card.serviceId}/skip`, { station, reason: "as agreed" });
    const { paths } = (await (await fetch(new URL("/api/openapi.json", address))).json()) as { paths: object };
    expect(Object.keys(paths)).toContain("/api/services/{serviceId}/weight");

    await page.goto(address);
    await expect(page.getByText("Put it on the scales")).toBeVisible();
    await page.getByRole("link", { name: /Fjell 70/ }).click();
    await expect(page.getByText("Nothing on the scales yet")).toBeVisible();
    await expect(page.getByRole("link", { name: "Next: close up" })).toBeVisible();
    await page.getByRole("button", { name: "Skip this station" }).click();
    await expect(page.getByText("Weight tells of a missing part.")).toBeVisible();
    await page.getByLabel("Reason for skipping").fill("no scales here");
    await page.getByRole("button", { name: "Skip with this reason" }).click();
    await expect(page.getByText("Skipped: no scales here")).toBeVisible();
    await page.getByRole("heading", { level: 1 }).click();
    await page.keyboard.press("]");
    await expect(page).toHaveURL(/\/close-up$/);
  } finally {
    const gone = once(child, "exit");
    child.kill("SIGKILL");
    await gone;
    // What it had asked of another process may be just ending.
    rmSync(root, { recursive: true, force: true, maxRetries: 10 });
  }
});
