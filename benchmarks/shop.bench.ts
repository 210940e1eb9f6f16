/** A workshop of 2,000 cards and some 6,000 runs: lists by the API and on the page, and memory over many requests. */
import { spawn } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import { quantile } from "simple-statistics";
import { browserPath } from "../scripts/browser.mjs";
import { makeShop } from "./make-shop.ts";

const REQUESTS = Number(process.env.REQUESTS ?? 10_000);
const folder = mkdtempSync(join(tmpdir(), "algidus-shop-"));
const database = join(folder, "shop.db");
const from = performance.now();
const made = await makeShop(database);
console.log(`${made.cards} cards and ${made.runs} runs made in ${((performance.now() - from) / 1000).toFixed(0)} s`);

const child = spawn(process.execPath, ["bin/algidus", "serve"], {
  env: { ...process.env, ALGIDUS_DB: database, ALGIDUS_PORT: "0" },
  stdio: ["ignore", "pipe", "inherit"],
});
const address = await new Promise<string>((resolve) =>
  child.stdout.on("data", (data: Buffer) => {
    const found = /http:\S+/.exec(data.toString())?.[0];
    if (found) resolve(found);
  }),
);

try {
  for (const [name, path, asked] of [
    ["health, to compare with", "api/health", ""],
    ["Bench: open cards, a page", "api/bench?closed=false&limit=100", "; asked for: under 100"],
    ["Cards: a page of all", "api/bench?limit=100", "; asked for: under 100"],
    ["Cards: found by two words", "api/bench?limit=100&find=brevane%20cooler", "; asked for: under 100"],
    ["all of it, 500 at once", "api/bench?limit=500", ""],
  ] as const) {
    const times: number[] = [];
    for (let k = 0; k < 120; k++) {
      const begun = performance.now();
      await (await fetch(address + path)).arrayBuffer();
      if (k >= 20) times.push(performance.now() - begun);
    }
    console.log(
      `${name}: ${quantile(times, 0.5).toFixed(1)} ms in the median, 95 % under ${quantile(times, 0.95).toFixed(1)} ms${asked}`,
    );
  }

  const memoryMb = (): number =>
    Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, "utf8"))?.[1]) / 1024;
  const marks = [];
  for (let k = 0; k < REQUESTS; k++) {
    if (k % (REQUESTS / 5) === 0) marks.push(memoryMb());
    await (await fetch(`${address}api/bench?limit=20&find=${k % 40}`)).arrayBuffer();
  }
  marks.push(memoryMb());
  console.log(`memory over ${REQUESTS} requests, MB: ${marks.map((mb) => mb.toFixed(0)).join(", ")}; asked for: flat`);

  const browser = await chromium.launch({ executablePath: browserPath() });
  for (const [name, path, shown] of [
    ["Bench", "", "ul li a"],
    ["Cards", "cards", "tbody tr a"],
  ] as const) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const begun = performance.now();
    await page.goto(address + path);
    await page.locator(shown).first().waitFor();
    const drawn = performance.now() - begun;
    // As text: what is compiled for Node names its functions by a helper that the page lacks.
    const frames = await page.evaluate<number[]>(`new Promise((resolve) => {
      const gaps = [];
      let last = performance.now();
      const until = last + 3000;
      requestAnimationFrame(function step(now) {
        gaps.push(now - last);
        last = now;
        scrollBy(0, 40);
        if (now < until) requestAnimationFrame(step);
        else resolve(gaps.slice(2));
      });
    })`);
    const rows = await page.locator(shown).count();
    const mean = frames.reduce((sum, gap) => sum + gap, 0) / frames.length;
    console.log(
      `${name}: first drawn after ${(drawn / 1000).toFixed(2)} s (asked for: under 1); scrolled at ${(1000 / mean).toFixed(0)} frames a second (asked for: 50), ${rows} rows in the page`,
    );
    await page.close();
  }
  await browser.close();
} finally {
  child.kill();
  rmSync(folder, { recursive: true, force: true });
}
