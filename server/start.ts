import { mkdirSync, rmSync } from "node:fs";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { dirname } from "node:path";
import pino from "pino";
import { Problem } from "#core";
import { makeApp } from "./app.ts";
import { Benches } from "./benches/benches.ts";
import { holdDatabase } from "./db/lock.ts";
import { databaseFile, lookAt } from "./db/look.ts";
import { openStore } from "./db/open.ts";
import { isLoopback } from "./http/guards.ts";
import { IngestPool } from "./ingest/pool.ts";
import { Planner } from "./planning/planner.ts";
import { Backups } from "./services/backups.ts";
import type { Context } from "./services/context.ts";
import { FindingsThread } from "./services/findings-thread.ts";
import { hasPassphrase, takePassphrase } from "./services/sessions.ts";
import { refreshOutdated, refreshStale } from "./services/summaries.ts";
import { loadStations } from "./stations/registry.ts";
import type { ServerStation } from "./stations/station.ts";
import { sweepTemp } from "./temp.ts";

const KEEP_ALIVE_MS = 75_000;
/** What the system says of a name or address that it does not have. */
const NO_ADDRESS: ReadonlySet<string> = new Set(["ENOTFOUND", "EADDRNOTAVAIL", "EAI_AGAIN", "EINVAL"]);

export interface StartOptions {
  database: string;
  host: string;
  port: number;
  /** Sets the passphrase at start, for machines without a screen. */
  passphrase?: string | undefined;
  /** Removes the database first. */
  fresh?: boolean | undefined;
  /** When the first look at the whole database begins, ms after the start. */
  firstLookMs?: number | undefined;
  /** Told of the newest good backup whenever that is another. */
  onNewestBackup?: ((path: string | undefined) => void) | undefined;
  /** Fills an empty database before the first answer. */
  prepare?: ((context: Context) => Promise<void>) | undefined;
}

export interface Running {
  address: string;
  context: Context;
  close(): Promise<void>;
}

/** Opens a workshop's database with all that works on it; a server is not needed. @throws Problem those of `openStore` */
export async function openContext(database: string): Promise<Context & { stations: readonly ServerStation[] }> {
  const loaded = await loadStations();
  const told: { findings?: FindingsThread } = {};
  const store = await openStore(database, {
    derive: (tx) => refreshStale(tx, loaded),
    onDerived: (ids) => told.findings?.changed(ids),
  });
  const findings = new FindingsThread(store);
  told.findings = findings;
  return { store, pool: new IngestPool(), findings, stations: loaded };
}

/**
 * Opens the database and serves the application.
 * @throws Problem `bad-passphrase`, `passphrase-needed` when it should listen to the network without one, `port-taken`, `database-in-use`, and those of
 * `openStore`
 */
export async function startServer(options: StartOptions): Promise<Running> {
  const file = databaseFile(options.database);
  await lookAt(file);
  mkdirSync(dirname(file), { recursive: true });
  const letGo = holdDatabase(file);
  try {
    if (options.fresh) for (const end of ["", "-wal", "-shm"]) rmSync(file + end, { force: true });
    const running = await serve(options);
    return {
      ...running,
      async close() {
        await running.close();
        letGo();
      },
    };
  } catch (error) {
    letGo();
    throw error;
  }
}

async function serve(options: StartOptions): Promise<Running> {
  sweepTemp();
  const context = await openContext(options.database);
  const logger = pino({ level: process.env.ALGIDUS_LOG ?? "warn" }, pino.destination(2));
  const log = (error: unknown): void => logger.error(error);
  const benches = new Benches(context, log);
  const planner = new Planner(log);
  const backups = new Backups(context.store, context.stations, log, {
    firstLookMs: options.firstLookMs,
    onNewest: options.onNewestBackup,
  });
  try {
    await refreshOutdated(context);
    await options.prepare?.(context);
    if (options.passphrase !== undefined) await takePassphrase(context, options.passphrase);
    const loopback = isLoopback(options.host);
    if (!loopback && !(await hasPassphrase(context)))
      throw new Problem({
        code: "passphrase-needed",
        what: `Listening on ${options.host} needs a passphrase first.`,
        remedy: "Start it without ALGIDUS_HOST, set one under Workshop, or give ALGIDUS_PASSPHRASE.",
      });
    const cut = await benches.resume();
    const server = createServer(
      makeApp(context, benches, backups, planner, { stations: context.stations, loopback, log }),
    );
    // Longer than a page or a script stays silent between two requests: one that comes just as its connection is closed would be lost.
    server.keepAliveTimeout = KEEP_ALIVE_MS;
    server.headersTimeout = KEEP_ALIVE_MS + 5000;
    await new Promise<void>((resolve, reject) => {
      server.once("error", reject);
      server.listen(options.port, options.host, resolve);
    });
    benches.keepCut(cut).catch(log);
    backups.begin();
    const { port } = server.address() as AddressInfo;
    const shown = options.host.includes(":") ? `[${options.host}]` : options.host;
    return {
      address: `http://${shown}:${port}/`,
      context,
      async close() {
        server.closeAllConnections();
        await new Promise((resolve) => server.close(resolve));
        await benches.close();
        await backups.close();
        await planner.close();
        await context.pool.close();
        await context.findings.close();
        await context.store.close();
      },
    };
  } catch (error) {
    await benches.close();
    await context.pool.close();
    await context.findings.close();
    await context.store.close();
    if (error instanceof Error && "code" in error && error.code === "EADDRINUSE")
      throw new Problem({
        code: "port-taken",
        what: `Port ${options.port} is in use.`,
        remedy: "Set ALGIDUS_PORT to another one, or 0 for any free one.",
      });
    if (error instanceof Error && "code" in error && NO_ADDRESS.has(String(error.code)))
      throw new Problem({
        code: "no-such-address",
        what: `${options.host} is no address of this machine.`,
        remedy: "Set ALGIDUS_HOST to one of its own addresses, or leave it out for this machine alone.",
      });
    throw error;
  }
}
