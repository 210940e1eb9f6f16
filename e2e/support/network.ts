/** The application as behind a bad network and on a busy machine: answers late, lost or in any order, pages drawn late. */
import { createServer, type IncomingMessage, request, type Server, type ServerResponse } from "node:http";
import type { AddressInfo } from "node:net";
import { buffer } from "node:stream/consumers";
import type { Page } from "@playwright/test";

/**
 * What becomes of a request; undefined where nothing does.
 * @param reach passes it to the server and gives the status of its answer
 * @returns whether the answer comes back
 */
export type Network = (method: string, path: string, reach: () => Promise<number>) => Promise<boolean> | undefined;

/**
 * A network of its own, and not the browser's interception: that misses every request of about one page in six hundred that are loaded
 * anew.
 * @param portOf where the application answers now
 * @param mostMs answers come up to this much later; pages' scripts always this much, live streams at once
 * @returns its address
 */
export async function networkBefore(
  portOf: () => string,
  mostMs: number,
  network: () => Network | undefined,
): Promise<{ address: string; server: Server }> {
  const onward = (ask: IncomingMessage, found: (answer: IncomingMessage) => void) => {
    const { method, headers, url: path } = ask;
    return request({ host: "127.0.0.1", port: portOf(), path, method, headers }, found);
  };
  const pass = (ask: IncomingMessage, answer: ServerResponse): void => {
    const sent = onward(ask, (found) => {
      answer.writeHead(found.statusCode ?? 502, found.headers);
      found.pipe(answer);
    });
    sent.on("error", () => answer.destroy());
    answer.on("close", () => sent.destroy());
    ask.pipe(sent);
  };
  /** Whole, so that it reaches the server also when nobody waits for its answer any more. */
  const reachWith = async (ask: IncomingMessage, body: Buffer) => {
    const found = await new Promise<IncomingMessage>((resolve, reject) => {
      onward(ask, resolve).on("error", reject).end(body);
    });
    return { status: found.statusCode ?? 502, headers: found.headers, body: await buffer(found) };
  };
  /** Whether the rule has a say in this one. */
  const ruled = (rule: Network, ask: IncomingMessage, answer: ServerResponse): boolean => {
    let body: Promise<Buffer> | undefined;
    let reached: ReturnType<typeof reachWith> | undefined;
    const reach = async () => {
      body ??= buffer(ask);
      reached ??= reachWith(ask, await body);
      return reached;
    };
    const comesBack = rule(ask.method ?? "GET", ask.url ?? "/", async () => (await reach()).status);
    if (!comesBack) return false;
    body ??= buffer(ask);
    void comesBack
      .then(async (comes) => {
        if (!comes) return answer.destroy();
        const found = await reach();
        return answer.writeHead(found.status, found.headers).end(found.body);
      })
      .catch(() => answer.destroy());
    return true;
  };
  const server = createServer((ask, answer) => {
    const path = ask.url ?? "/";
    const rule = network();
    // A browser sends again by itself what was lost on a connection that it used before.
    if (rule) answer.shouldKeepAlive = false;
    const on = (): void => {
      if (!rule || !ruled(rule, ask, answer)) pass(ask, answer);
    };
    if (/^\/api\/(?!live)/.test(path)) setTimeout(on, mostMs * Math.random());
    else if (/^\/assets\/(?!index-).*\.js/.test(path)) setTimeout(on, mostMs);
    else on();
  });
  server.keepAliveTimeout = 75_000;
  await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
  return { address: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`, server };
}

const MOST_PAINT_MS = 300;

/** Pages whose drawing waits, as on a busy machine: React's scheduler takes `setImmediate` before anything else. */
export async function paintLate(page: Page): Promise<void> {
  await page.addInitScript((most) => {
    const later = (work: () => void) => setTimeout(work, most * Math.random());
    Object.assign(globalThis, { setImmediate: later });
  }, MOST_PAINT_MS);
}
