import { existsSync } from "node:fs";
import { join } from "node:path";
import compression from "compression";
import express, { type Express } from "express";
import { Problem } from "#core";
import type { Benches } from "../benches/benches.ts";
import { root } from "../root.ts";
import { cardRoutes } from "../routes/cards.ts";
import { liveRoutes, pushRoutes } from "../routes/live.ts";
import { padRoutes } from "../routes/pads.ts";
import { runRoutes } from "../routes/runs.ts";
import { openRoutes, workshopRoutes } from "../routes/workshop.ts";
import type { Context } from "../services/context.ts";
import { ownHost, ownOrigin, securityHeaders, signedIn } from "./guards.ts";
import { once } from "./once.ts";
import { faultHandler, sendProblem } from "./problems.ts";

export interface AppOptions {
  /** False where the server listens to the network: then every request needs a session. */
  loopback: boolean;
  log: (error: unknown) => void;
}

const PAGE = join(root, "dist", "web");

export function makeApp(context: Context, benches: Benches, { loopback, log }: AppOptions): Express {
  const app = express();
  app.disable("x-powered-by");
  app.use(securityHeaders, ownHost(loopback), ownOrigin);
  app.use(
    compression({
      filter: (request, response) => !/\/(samples|stream)$/.test(request.path) && compression.filter(request, response),
    }),
  );
  const json = express.json({ limit: "1mb" });
  app.use("/api", (request, response, next) => (request.path === "/import" ? next() : json(request, response, next)));
  app.use("/api", openRoutes(context), pushRoutes(benches));
  app.use(
    "/api",
    signedIn(context, !loopback),
    once(context, log),
    cardRoutes(context),
    runRoutes(context),
    liveRoutes(context, benches),
    padRoutes(context),
    workshopRoutes(context),
  );
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
  app.use(express.static(PAGE, { index: false }));
  app.get("/{*path}", (_request, response) => {
    const index = join(PAGE, "index.html");
    if (existsSync(index)) response.set("Cache-Control", "no-cache").sendFile(index);
    else response.status(503).type("text/plain").send("The page is not built yet. Run `npm run build`.");
  });
  app.use(faultHandler(log));
  return app;
}
