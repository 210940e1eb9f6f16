/** Takes the pictures in docs/screenshots/ anew from a fresh demo: one per main view, 1280 × 800 unless it is a phone's. */
import { spawn } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import { browserPath } from "./browser.mjs";
import { root } from "./bundle.mjs";

const out = join(root, "docs", "screenshots");
mkdirSync(out, { recursive: true });
const folder = mkdtempSync(join(tmpdir(), "algidus-pictures-"));
const child = spawn(process.execPath, ["bin/algidus", "demo"], {
  cwd: root,
  env: { ...process.env, ALGIDUS_DB: join(folder, "demo.db"), ALGIDUS_PORT: "0" },
  stdio: ["ignore", "pipe", "inherit"],
});
const address = await new Promise((resolve) => {
  child.stdout.on("data", (data) => {
    const found = /http:\S+/.exec(data.toString())?.[0];
    if (found) resolve(found);
  });
});

const ask = async (path) => (await fetch(new URL(path, address))).json();
const bench = await ask("/api/bench");
const cardOf = (serial) => bench.find((entry) => entry.serial === serial).cardId;
const gain = cardOf("OF70-10342");
const { serviceId } = await ask(`/api/cards/${gain}`);
const { runs } = await ask(`/api/services/${serviceId}`);
const decided = await ask(`/api/cards/${cardOf("BT12/81/1022")}`);
const measured = cardOf("OF70-11907");
const board = (await ask("/api/boards")).find((one) => one.name === "OF-70 rev B");
const [testBench] = await ask("/api/benches");
const protocol = (await ask("/api/protocols")).find((one) => one.name === "Fixed fan");
const started = await fetch(new URL("/api/live", address), {
  method: "POST",
  headers: { "Content-Type": "application/json" },
  body: JSON.stringify({
    benchId: testBench.id,
    serviceId: decided.serviceId,
    side: "before",
    protocol: { name: protocol.name, about: protocol.about, steps: protocol.steps },
    loadName: "Rendering loop, 1440 lines",
    sidePanel: "open bench",
    roomC: null,
  }),
});
const live = await started.json();
// At sixty times real speed this is some four minutes into the run.
await new Promise((resolve) => setTimeout(resolve, 4500));
async function planCutting(page) {
  const first = page.getByRole("button", { name: "Plan the cutting" });
  const done = page.getByRole("button", { name: "Plan again" });
  await first.or(done).first().waitFor();
  if (await first.isVisible()) await first.click();
  await done.waitFor();
}
/** To where the die's screws are being loosened. */
async function loosenSome(page) {
  const words = page.getByRole("dialog").getByRole("heading", { level: 2 });
  await words.filter({ hasText: "Now the cooler" }).waitFor();
  await page.keyboard.press(" ");
  for (let k = 0; k < 9; k++) {
    await words.filter({ hasText: /^Loosen/ }).waitFor();
    const before = await words.textContent();
    await page.keyboard.press(" ");
    await words.filter({ hasNotText: before }).waitFor();
  }
  await page.getByText("saved").waitFor();
}
const turnsKnown = (page) => page.getByText("Cross, three rounds").waitFor();
const pressed = (page) => page.getByText(/least dose of this pattern/).waitFor();
const dayPlanned = (page) => page.getByRole("link", { name: "Go to it" }).waitFor();
const VIEWS = [
  ["live", `/live/${live.id}`],
  ["decide", `/cards/${decided.id}/decide`],
  ["bench", "/", undefined, "light", dayPlanned],
  ["take-in", "/take-in"],
  ["run", `/runs/${runs[0].id}`],
  ["prove", `/cards/${gain}/prove`],
  ["record", `/cards/${gain}/record`],
  ["pads-seat", `/cards/${measured}/pads?do=choose`, { width: 1280, height: 1000 }],
  ["pads-cut", `/cards/${measured}/pads?do=cut`, { width: 1280, height: 1200 }, "light", planCutting],
  ["strip", `/cards/${cardOf("BT12/83/0207")}/strip?do=steps`, undefined, "light", loosenSome],
  ["close-up", `/cards/${cardOf("OS40-5613")}/close-up`, undefined, "light", turnsKnown],
  ["compound", `/cards/${cardOf("OF70-12055")}/compound`, { width: 1280, height: 1240 }, "light", pressed],
  ["fans", `/cards/${cardOf("BT12/84/0031")}/fans`, { width: 1280, height: 1000 }],
  ["other-cooler", `/cards/${decided.id}/cooler`, { width: 1280, height: 900 }],
  ["quote", `/cards/${decided.id}/quote`, { width: 1280, height: 900 }],
  ["board-map", `/boards/${board.id}/map`],
  ["findings", "/findings", { width: 1280, height: 1000 }],
  ["model", `/boards/${board.id}`, { width: 1280, height: 1000 }],
  ["stores-dark", "/stores", undefined, "dark"],
];

const browser = await chromium.launch({ executablePath: browserPath() });
try {
  for (const [name, path, viewport = { width: 1280, height: 800 }, colorScheme = "light", act] of VIEWS) {
    const page = await browser.newPage({ viewport, colorScheme });
    await page.goto(new URL(path, address).href);
    await page.waitForLoadState("networkidle");
    await page.waitForTimeout(600);
    await page
      .getByText(/^Reading .*…$/)
      .first()
      .waitFor({ state: "detached" });
    await page.waitForTimeout(300);
    await act?.(page);
    await page.screenshot({ path: join(out, `${name}.png`) });
    await page.close();
  }
} finally {
  await browser.close();
  child.kill();
  rmSync(folder, { recursive: true, force: true });
}
