/** First load, server start, and how smoothly the page takes in and draws a million samples. */
import { spawn } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { chromium, type Page } from "@playwright/test";
import type { BoardMap } from "#core/boardmap/index.ts";
import { browserPath } from "../scripts/browser.mjs";

const folder = mkdtempSync(join(tmpdir(), "algidus-page-"));
const database = join(folder, "demo.db");

function serve(): Promise<{ address: string; seconds: number; stop: () => Promise<void> }> {
  const from = performance.now();
  const child = spawn(process.execPath, ["bin/algidus", "demo"], {
    env: { ...process.env, ALGIDUS_DB: database, ALGIDUS_PORT: "0" },
    stdio: ["ignore", "pipe", "inherit"],
  });
  return new Promise((resolve) => {
    child.stdout.on("data", (data: Buffer) => {
      const address = /http:\S+/.exec(data.toString())?.[0];
      if (!address) return;
      void fetch(`${address}api/bench`).then(() =>
        resolve({
          address,
          seconds: (performance.now() - from) / 1000,
          stop: () =>
            new Promise((done) => {
              child.once("exit", () => done());
              child.kill();
            }),
        }),
      );
    });
  });
}

const first = await serve();
await first.stop();
const { address, seconds, stop } = await serve();
console.log(`server start to first answer with the demo data: ${seconds.toFixed(2)} s; asked for: under 1`);

const index = readFileSync("dist/web/index.html", "utf8");
const scripts = [...index.matchAll(/(?:src|href)="\/(assets\/[^"]+\.js)"/g)].map((found) => found[1] ?? "");
const loaded = new Set<string>();
const follow = (name: string): void => {
  if (loaded.has(name)) return;
  loaded.add(name);
  for (const found of readFileSync(join("dist/web", name), "utf8").matchAll(/from"\.\/([\w.-]+\.js)"/g))
    follow(`assets/${found[1]}`);
};
for (const name of scripts) follow(name);
const kb = [...loaded].reduce((sum, name) => sum + gzipSync(readFileSync(join("dist/web", name))).length / 1000, 0);
console.log(
  `first load of the Bench: ${kb.toFixed(0)} kB of compressed script in ${loaded.size} of ${readdirSync("dist/web/assets").filter((name) => name.endsWith(".js")).length} files; asked for: at most 180`,
);

const bench = (await (await fetch(`${address}api/bench`)).json()) as Array<{ cardId: string; serial: string }>;
const card = bench.find((entry) => entry.serial === "OF70-10342");
const { serviceId } = (await (await fetch(`${address}api/cards/${card?.cardId}`)).json()) as { serviceId: string };
const { runs } = (await (await fetch(`${address}api/services/${serviceId}`)).json()) as { runs: Array<{ id: string }> };
const reads = [];
for (let k = 0; k < 9; k++) {
  const from = performance.now();
  await (await fetch(`${address}api/runs/${runs[0]?.id}/samples`)).arrayBuffer();
  reads.push(performance.now() - from);
}
console.log(
  `reading one run for display: ${reads.sort((a, b) => a - b)[4]?.toFixed(1)} ms in the median; asked for: under 50`,
);

try {
  await stepOn();
  await dragParts();
  await drag();
} finally {
  await stop();
  rmSync(folder, { recursive: true, force: true });
}

/** Two hundred parts of a board map under the hand, against the same page standing still. */
async function dragParts(): Promise<void> {
  const browser = await chromium.launch({ executablePath: browserPath() });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const boards = (await (await fetch(`${address}api/boards`)).json()) as Array<{ id: string; name: string }>;
  const id = boards.find((board) => board.name === "OF-70 rev B")?.id;
  const { map } = (await (await fetch(`${address}api/boards/${id}/map`)).json()) as { map: BoardMap };
  const [part] = map.parts;
  const parts = Array.from({ length: 200 }, (_, k) => ({
    ...part,
    id: `P${k}`,
    xMm: 8 + (k % 20) * 11,
    yMm: 5 + Math.floor(k / 20) * 9,
    widthMm: 5,
    heightMm: 5,
  }));
  await page.goto(`${address}boards/${id}/map`);
  await page.getByLabel("Map file").setInputFiles({
    name: "many.json",
    mimeType: "application/json",
    buffer: Buffer.from(JSON.stringify({ ...map, parts })),
  });
  await page.getByText("200 parts").first().waitFor();
  const framesWhile = async (work: (k: number) => Promise<void>): Promise<number> => {
    await page.evaluate(
      "window.frames = []; window.watch = (at) => { window.frames.push(at); requestAnimationFrame(window.watch); }; window.watch(performance.now());",
    );
    for (let k = 0; k < 120; k++) await work(k);
    const frames = await page.evaluate(() => (window as unknown as { frames: number[] }).frames);
    return (1000 * (frames.length - 1)) / ((frames.at(-1) ?? 0) - (frames[0] ?? 0));
  };
  const still = await framesWhile(() => page.waitForTimeout(8));
  await page.reload();
  await page.getByText("200 parts").first().waitFor();
  await page.keyboard.press("ControlOrMeta+a");
  const box = await page.locator("[data-thing=P0]").boundingBox();
  if (!box) throw new Error("no part");
  await page.mouse.move(box.x + 4, box.y + 4);
  await page.mouse.down();
  const dragged = await framesWhile(async (k) => {
    await page.mouse.move(box.x + 4 + (k % 40), box.y + 4 - (k % 25));
    await page.waitForTimeout(8);
  });
  await page.mouse.up();
  console.log(
    `dragging 200 parts of a board map: ${dragged.toFixed(0)} frames a second (asked for: 50), ${(dragged / still).toFixed(2)} of the page standing still`,
  );
  await browser.close();
}

async function drag(): Promise<void> {
  const browser = await chromium.launch({ executablePath: browserPath() });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${address}cards/${card?.cardId}/baseline`);
  // The page's own coming up is not part of the ingest.
  await page.getByText("Drop the log of a baseline run").waitFor();
  await page.waitForTimeout(1500);
  await watchTasks(page);
  const rows = Array.from({ length: 1_000_000 }, (_, k) => {
    const t = k / 100;
    return `${t.toFixed(2)},${(70 - 40 * Math.exp(-t / 200) + (k % 7) / 10).toFixed(1)},${(90 - 55 * Math.exp(-t / 180)).toFixed(1)},60,55,22.0,1700,200,1980,99`;
  });
  const buffer = Buffer.from(
    `Time [s],GPU temp [°C],Hot spot [°C],Memory [°C],VRM [°C],Room [°C],Fan [rpm],Board power [W],Core clock [MHz],Load [%]\n${rows.join("\n")}\n`,
  );
  const path = join(folder, "million.csv");
  writeFileSync(path, buffer);
  await page.locator("input[type=file]").first().setInputFiles(path);
  await page.getByRole("button", { name: "Keep this run" }).waitFor({ timeout: 120_000 });
  console.log(
    `ingesting a million rows: longest block of the page ${await longestTask(page)} ms; asked for: at most 50`,
  );
  await page.getByRole("button", { name: "Keep this run" }).click();
  await page.getByRole("slider").first().waitFor({ timeout: 120_000 });
  await page.waitForTimeout(1500);
  const handle = await page.getByRole("slider").first().boundingBox();
  if (handle) {
    await page.evaluate(
      "window.frames = []; (function tick(at) { window.frames.push(at); requestAnimationFrame(tick); })(performance.now());",
    );
    await page.mouse.move(handle.x + handle.width / 2, handle.y + 150);
    await page.mouse.down();
    for (let k = 0; k < 120; k++) {
      await page.mouse.move(handle.x - k, handle.y + 150);
      await page.waitForTimeout(8);
    }
    await page.mouse.up();
    const frames = await page.evaluate(() => (window as unknown as { frames: number[] }).frames);
    const span = ((frames.at(-1) ?? 0) - (frames[0] ?? 0)) / 1000;
    console.log(
      `dragging the steady window over a million samples: ${(frames.length / span).toFixed(0)} frames a second; asked for: 50`,
    );
  }
  await browser.close();
}

async function watchTasks(on: Page): Promise<void> {
  await on.evaluate(() => {
    const store = window as unknown as { longest: number };
    store.longest = 0;
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) store.longest = Math.max(store.longest, entry.duration);
    }).observe({ type: "longtask" });
  });
}

/** Tasks under 50 ms are not reported by the browser: 0 then. */
async function longestTask(on: Page): Promise<string> {
  const longest = await on.evaluate(() => (window as unknown as { longest: number }).longest);
  return longest === 0 ? "under 50" : longest.toFixed(0);
}

/** From the press of space to the next step on the screen, on a card in the middle of being taken apart. */
async function stepOn(): Promise<void> {
  const opening = bench.find((entry) => entry.serial === "BT12/83/0207");
  const browser = await chromium.launch({ executablePath: browserPath() });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${address}cards/${opening?.cardId}/strip?do=steps`);
  const heading = page.getByRole("dialog").getByRole("heading", { level: 2 });
  await heading.filter({ hasText: "Now the cooler" }).waitFor();
  await page.keyboard.press(" ");
  await heading.filter({ hasText: /^Loosen/ }).waitFor();
  const times = [];
  for (let k = 0; k < 10; k++)
    times.push(
      await page.evaluate(async () => {
        const words = document.querySelector("[role=dialog] h2");
        const before = words?.textContent;
        const from = performance.now();
        (document.activeElement ?? document.body).dispatchEvent(
          new KeyboardEvent("keydown", { key: " ", bubbles: true }),
        );
        while (document.querySelector("[role=dialog] h2")?.textContent === before)
          await new Promise((resolve) => requestAnimationFrame(resolve));
        return performance.now() - from;
      }),
    );
  await browser.close();
  console.log(
    `from space to the next step: ${times.sort((a, b) => a - b)[5]?.toFixed(0)} ms in the median; asked for: 100`,
  );
}
