import type { Request, RequestHandler } from "express";
import { rateLimit } from "express-rate-limit";
import helmet from "helmet";
import type { Context } from "../services/context.ts";
import { isSignedIn } from "../services/sessions.ts";
import { sendProblem } from "./problems.ts";

export const isLoopback = (host: string): boolean => /^(127(\.\d+){3}|localhost|::1|\[::1\])$/.test(host);

/** No inline script, nothing from elsewhere; blob: for pictures and workers of the page itself. */
export const securityHeaders = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'none'"],
      scriptSrc: ["'self'"],
      styleSrc: ["'self'", "'unsafe-inline'"],
      imgSrc: ["'self'", "blob:", "data:"],
      fontSrc: ["'self'"],
      connectSrc: ["'self'"],
      workerSrc: ["'self'", "blob:"],
      baseUri: ["'none'"],
      formAction: ["'self'"],
      frameAncestors: ["'none'"],
    },
  },
  strictTransportSecurity: false,
});

const hostName = (request: Request): string => (request.headers.host ?? "").toLowerCase().replace(/:\d+$/, "");

/** On loopback only names of this machine are answered, so that no foreign name can be made to point here. */
export function ownHost(loopback: boolean): RequestHandler {
  return (request, response, next) => {
    if (loopback && !isLoopback(hostName(request)))
      sendProblem(response, {
        code: "foreign-host",
        what: "This server answers under its own address only.",
        remedy: "Open the address it printed.",
      });
    else next();
  };
}

/** What is read at a cost: a foreign page's picture tag must not set it going. */
const COSTLY = /^\/api\/(export\.json|backup)\/?$/i;

/** Every write must come from this page (or from no page at all, as a script's does), and so must a read that costs. */
export const ownOrigin: RequestHandler = (request, response, next) => {
  if ((request.method === "GET" || request.method === "HEAD") && !COSTLY.test(request.path)) return next();
  const { origin } = request.headers;
  const site = request.headers["sec-fetch-site"];
  const foreign =
    (origin !== undefined &&
      origin.toLowerCase().replace(/^https?:\/\//, "") !== request.headers.host?.toLowerCase()) ||
    (site !== undefined && site !== "same-origin" && site !== "none");
  if (foreign)
    sendProblem(response, {
      code: "foreign-origin",
      what: "This was asked for by another page and was refused.",
      remedy: "Use this application's own page.",
    });
  else next();
};

export const COOKIE = "algidus_session";

export function sessionToken(request: Request): string | undefined {
  return (request.headers.cookie ?? "")
    .split(";")
    .map((part) => part.trim().split("="))
    .find(([name]) => name === COOKIE)?.[1];
}

/** Where the server listens to the network, everything but sign-in needs a session. */
export function signedIn(context: Context, needed: boolean): RequestHandler {
  return (request, response, next) => {
    if (!needed) return next();
    isSignedIn(context, sessionToken(request)).then((known) => {
      if (known) next();
      else
        sendProblem(response, {
          code: "signed-out",
          what: "You are not signed in.",
          remedy: "Type the workshop's passphrase.",
        });
    }, next);
  };
}

/** Eight tries of a passphrase in a quarter of an hour from one address. One per server. */
export const limitTries = (more: { skipSuccessfulRequests?: boolean } = {}): RequestHandler =>
  rateLimit({
    windowMs: 15 * 60_000,
    limit: 8,
    ...more,
    handler: (_request, response) =>
      sendProblem(response, { code: "too-many-tries", what: "Too many tries.", remedy: "Wait a quarter of an hour." }),
  });
