/** A served application per test file, and the verbs a user would use on it. */
import { type ChildProcess, spawn } from "node:child_process";
import { existsSync, mkdtempSync, rmSync } from "node:fs";
import type { Server } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { AxeBuilder } from "@axe-core/playwright";
import { expect, type Page } from "@playwright/test";
import { type CardInput, EMPTY_CARD } from "#contract/index.ts";
import { logText, MIDSIZE, type RunSpec, simulate } from "#core/virtualcard/index.ts";
import { copyDemo } from "./fill-demo.ts";
import { type Network, networkBefore, paintLate } from "./network.ts";

/** `LATE=2000 npm run e2e`: every answer up to two seconds late, and what the page shows of it too. */
const LATE_MS = Number(process.env.LATE ?? 0);

export class App {
  #child: ChildProcess | undefined;
  #before: Server | undefined;
  #own = "";
  readonly #folder = mkdtempSync(join(tmpdir(), "algidus-e2e-"));
  address = "";
  readonly #between: boolean;
  /** What becomes of requests now, where the application was made `between`. */
  network: Network | undefined;

  constructor({ between = false } = {}) {
    this.#between = between;
  }

  /** Starts the server; again on the same port after `stop`. The demo is the one that was filled for all of them. */
  async start(command: "serve" | "demo" = "serve", more: Record<string, string> = {}): Promise<this> {
    const database = join(this.#folder, "e2e.db");
    if (command === "demo" && !existsSync(database)) copyDemo(database);
    const port = this.#own ? new URL(this.#own).port : "0";
    const child = spawn(process.execPath, ["bin/algidus", command], {
      env: { ...process.env, ALGIDUS_DB: database, ALGIDUS_PORT: port, ...more },
      stdio: ["ignore", "pipe", "inherit"],
    });
    this.#child = child;
    this.#own = await new Promise<string>((resolve, reject) => {
      child.stdout.on("data", (data: Buffer) => {
        const found = /http:\S+/.exec(data.toString())?.[0];
        if (found) resolve(found.replace("0.0.0.0", "127.0.0.1"));
      });
      child.once("exit", () => reject(new Error("The server ended before it answered.")));
    });
    if (LATE_MS === 0 && !this.#between) this.address = this.#own;
    else if (!this.#before) {
      const portOf = () => new URL(this.#own).port;
      const { server, address } = await networkBefore(portOf, LATE_MS, () => this.network);
      this.#before = server;
      this.address = address;
    }
    return this;
  }

  async stop(signal: NodeJS.Signals = "SIGTERM"): Promise<void> {
    const child = this.#child;
    if (!child || child.exitCode !== null) return;
    const gone = new Promise((resolve) => child.once("exit", resolve));
    child.kill(signal);
    await gone;
  }

  async close(): Promise<void> {
    await this.stop("SIGKILL");
    this.#before?.closeAllConnections();
    this.#before?.close();
    // What the server had asked of another process may be just ending.
    rmSync(this.#folder, { recursive: true, force: true, maxRetries: 10 });
  }

  url(path: string): string {
    return new URL(path, this.address).href;
  }

  /** Past the network: what the server has, whatever becomes of the page's requests. */
  ownUrl(path: string): string {
    return new URL(path, this.#own).href;
  }
}

const STEPS = [
  { durationS: 40, load: 0 },
  { durationS: 1000, load: 1 },
];

export const logFile = (name: string, more: Partial<RunSpec> = {}) => ({
  name,
  mimeType: "text/csv",
  buffer: Buffer.from(logText(simulate({ seed: 1, build: MIDSIZE, steps: STEPS, ...more }))),
});

export const textFile = (name: string, text: string | Buffer) => ({
  name,
  mimeType: "text/plain",
  buffer: Buffer.from(text),
});

/** What a refurbisher does, in words. */
export class Bench {
  constructor(
    readonly page: Page,
    readonly app: App,
  ) {}

  async open(path = "/"): Promise<void> {
    if (LATE_MS > 0) await paintLate(this.page);
    await this.page.goto(this.app.url(path));
  }

  async takeInCard(maker: string, model: string, more: { serial?: string; owner?: string } = {}): Promise<void> {
    await this.open("/take-in");
    await this.page.getByLabel("Maker").fill(maker);
    await this.page.getByLabel("Model", { exact: true }).fill(model);
    if (more.serial) await this.page.getByLabel("Serial number").fill(more.serial);
    if (more.owner) await this.page.getByLabel("Owner", { exact: true }).fill(more.owner);
    await this.page.getByRole("button", { name: "Take in" }).click();
    await expect(this.page.getByRole("heading", { name: `${maker} ${model}` })).toBeVisible();
  }

  /** A card that was taken in before: `slice.spec.ts` and `keys.spec.ts` take cards in on the page. */
  async openNewCard(maker: string, model: string, more: Partial<CardInput> = {}): Promise<void> {
    const made = await this.page.request.post(this.app.url("/api/cards"), {
      data: { ...EMPTY_CARD, maker, model, ...more },
    });
    const { id } = (await made.json()) as { id: string };
    await this.open(`/cards/${id}`);
    await expect(this.page.getByRole("heading", { name: `${maker} ${model}` })).toBeVisible();
  }

  /** From the Bench to a card: what moves there while its plan comes may take a click away. */
  async openCard(name: RegExp): Promise<void> {
    const stations = this.page.getByRole("navigation", { name: "Stations" });
    await expect(async () => {
      if (!(await stations.isVisible())) await this.page.getByRole("link", { name }).click({ timeout: 5000 });
      await expect(stations).toBeVisible({ timeout: 10_000 });
    }).toPass({ timeout: 60_000 });
  }

  /** A card that goes on to the work without a run, with its reason on record. */
  async skipBaseline(reason: string): Promise<void> {
    await this.station("Baseline");
    await this.page.getByRole("button", { name: "Skip this station" }).click();
    await this.page.getByLabel("Reason for skipping").fill(reason);
    await this.page.getByRole("button", { name: "Skip with this reason" }).click();
    await expect(this.page.getByText(`Skipped: ${reason}`)).toBeVisible();
  }

  /** The form for what was done without steps. */
  async noteByHand(): Promise<void> {
    await this.station("Fans");
    await this.page.getByRole("button", { name: "Note it by hand" }).click();
  }

  async station(name: string): Promise<void> {
    // What a station shows may name another.
    const begins = new RegExp(`^${name}`);
    const link = this.page.getByRole("navigation", { name: "Stations" }).getByRole("link", { name: begins });
    await link.click();
    await expect(link).toHaveAttribute("aria-current", "step");
  }

  /** Drops a log at the open station and keeps it under its conditions. */
  async dropRun(file: ReturnType<typeof textFile>, name: string, fan = "62"): Promise<void> {
    await this.page.locator("input[type=file]").first().setInputFiles(file);
    await this.page.getByLabel("Name of this run").fill(name);
    await this.page.getByRole("radio", { name: "Fixed" }).click();
    await this.page.getByLabel("Fan setting (%)").fill(fan);
    await this.page.getByRole("button", { name: "Keep this run" }).click();
    await expect(this.page).toHaveURL(/\/runs\//);
    await expect(this.page.getByText("over room air").filter({ visible: true }).first()).toBeVisible();
  }

  async expectVerdict(words: RegExp): Promise<void> {
    await expect(this.page.getByText(words).first()).toBeVisible();
  }
}

/** What is waited for has come: no part of the page says that it loads. */
export async function expectStill(page: Page): Promise<void> {
  await expect(page.getByRole("status").filter({ hasText: /^Reading .*…$/ })).toHaveCount(0);
}

/** Nothing lies beside the screen once all has found its place: charts take the width of their sheet a moment after it has it. */
export async function expectFits(page: Page): Promise<void> {
  await expect
    .poll(() => page.evaluate(() => document.documentElement.scrollWidth - innerWidth), { message: page.url() })
    .toBeLessThanOrEqual(0);
}

/**
 * No finding of the accessibility checker. In dark only colours can differ: `accessible.spec.ts` looks at every view in both, others at what
 * comes up on the way.
 */
export async function expectAccessible(page: Page, themes: ReadonlyArray<"light" | "dark"> = ["light"]): Promise<void> {
  // No colour is still on its way from one theme to the other when it is looked at.
  await page.evaluate(() => {
    const still = new CSSStyleSheet();
    still.replaceSync("*, ::before, ::after { transition: none !important; animation: none !important; }");
    document.adoptedStyleSheets = [still];
  });
  for (const colorScheme of themes) {
    await page.emulateMedia({ colorScheme, reducedMotion: "reduce" });
    // The pages have no frames, so axe needs no page of its own to put frames together; only colours change with the theme.
    const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ["violations"] });
    const { violations } = await (colorScheme === "light"
      ? axe.withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"])
      : axe.withRules(["color-contrast"])
    ).analyze();
    expect(
      violations.map(
        (one) =>
          `${colorScheme} ${one.id}: ${one.nodes
            .map((node) => node.target.join(" "))
            .slice(0, 3)
            .join(" | ")}`,
      ),
    ).toEqual([]);
  }
  await page.emulateMedia({ colorScheme: "light" });
}
