import { existsSync } from "node:fs";
import { join } from "node:path";
import compression from "compression";
import express, { type Express } from "express";
import { Problem } from "#core";
import type { Benches } from "./benches/benches.ts";
import { databaseGone } from "./db/place.ts";
import { ownHost, ownOrigin, securityHeaders, signedIn } from "./http/guards.ts";
import { once } from "./http/once.ts";
import { openApi } from "./http/openapi.ts";
import { faultHandler, sendProblem } from "./http/problems.ts";
import { type Route, routerOf } from "./http/route.ts";
import type { Planner } from "./planning/planner.ts";
import { root } from "./root.ts";
import { boardRoutes } from "./routes/boards.ts";
import { cardRoutes } from "./routes/cards.ts";
import { coolerRoutes } from "./routes/coolers.ts";
import { dayRoutes } from "./routes/day.ts";
import { findingsRoutes } from "./routes/findings.ts";
import { keepingRoutes } from "./routes/keeping.ts";
import { liveRoutes, pushRoutes } from "./routes/live.ts";
import { serviceRoutes } from "./routes/services.ts";
import { storeRoutes } from "./routes/stores.ts";
import { openRoutes, workshopRoutes } from "./routes/workshop.ts";
import type { Backups } from "./services/backups.ts";
import type { Context } from "./services/context.ts";
import type { ServerStation } from "./stations/station.ts";

/** The one table of routes: it serves the API and describes it. `open` ones need no session. */
function apiRoutes(
  context: Context,
  benches: Benches,
  backups: Backups,
  planner: Planner,
  stations: readonly ServerStation[],
): { open: Route[]; signedInRoutes: Route[] } {
  const signedInRoutes = [
    ...serviceRoutes(context),
    ...cardRoutes(context),
    ...boardRoutes(context),
    ...coolerRoutes(context),
    ...stations.flatMap((station) => station.routes(context)),
    ...liveRoutes(context, benches),
    ...dayRoutes(context, benches, planner),
    ...storeRoutes(context),
    ...findingsRoutes(context),
    ...workshopRoutes(context),
    ...keepingRoutes(backups),
  ];
  let described: ReturnType<typeof openApi> | undefined;
  const describe = () => {
    described ??= openApi([...open, ...signedInRoutes]);
    return described;
  };
  const open: Route[] = [...openRoutes(context, describe), ...pushRoutes(benches)];
  return { open, signedInRoutes };
}

export interface AppOptions {
  stations: readonly ServerStation[];
  /** False where the server listens to the network: then every request needs a session. */
  loopback: boolean;
  log: (error: unknown) => void;
}

const PAGE = join(root, "dist", "web");

export function makeApp(
  context: Context,
  benches: Benches,
  backups: Backups,
  planner: Planner,
  { stations, loopback, log }: AppOptions,
): Express {
  const app = express();
  app.disable("x-powered-by");
  app.use(securityHeaders, ownHost(loopback), ownOrigin);
  app.use(
    compression({
      // The next level takes twice as long to save a tenth.
      level: 1,
      filter: (request, response) => !/\/(samples|stream)$/.test(request.path) && compression.filter(request, response),
    }),
  );
  app.use("/api", (_request, _response, next) => {
    next(context.store.isThere() ? undefined : databaseGone(context.store.file));
  });
  const json = express.json({ limit: "1mb" });
  // A spreadsheet of thousands of cards.
  const long = express.json({ limit: "6mb" });
  app.use("/api", (request, response, next) => {
    if (/^\/import\/?$/.test(request.path)) next();
    else (request.path === "/paper-imports" ? long : json)(request, response, next);
  });
  const { open, signedInRoutes } = apiRoutes(context, benches, backups, planner, stations);
  app.use("/api", routerOf(open));
  app.use("/api", signedIn(context, !loopback), once);
  app.use("/api", routerOf(signedInRoutes));
  app.use("/api", (request, response) => {
    sendProblem(
      response,
      new Problem({
        code: "not-found",
        what: `There is nothing at ${request.originalUrl}.`,
        remedy: "See /api/openapi.json.",
      }).detail(),
    );
  });
  app.use("/assets", express.static(join(PAGE, "assets"), { immutable: true, maxAge: "1y" }));
  // A page that was left open over an update asks for files that are gone: no other one stands in for them.
  app.use("/assets", (_request, response) => {
    response.status(404).type("text/plain").send("This file is of another version of the page. Load the page again.");
  });
  app.use(express.static(PAGE, { index: false }));
  app.get("/{*path}", (_request, response) => {
    const index = join(PAGE, "index.html");
    if (existsSync(index)) response.set("Cache-Control", "no-cache").sendFile(index);
    else response.status(503).type("text/plain").send("The page is not built yet. Run `npm run build`.");
  });
  app.use(faultHandler(log));
  return app;
}
