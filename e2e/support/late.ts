/** The application as on a slow network and a busy machine: answers late and in any order, pages drawn late. */
import { createServer, request, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import type { Page } from "@playwright/test";

/**
 * @param portOf where the application answers now
 * @param mostMs answers come up to this much later; pages' scripts always this much, live streams at once
 * @returns its address
 */
export async function lateServer(portOf: () => string, mostMs: number): Promise<{ address: string; server: Server }> {
  const server = createServer((ask, answer) => {
    const path = ask.url ?? "/";
    const pass = (): void => {
      const { method, headers } = ask;
      const onward = request({ host: "127.0.0.1", port: portOf(), path, method, headers }, (found) => {
        answer.writeHead(found.statusCode ?? 502, found.headers);
        found.pipe(answer);
      });
      onward.on("error", () => answer.destroy());
      answer.on("close", () => onward.destroy());
      ask.pipe(onward);
    };
    if (/^\/api\/(?!live)/.test(path)) setTimeout(pass, mostMs * Math.random());
    else if (/^\/assets\/(?!index-).*\.js/.test(path)) setTimeout(pass, mostMs);
    else pass();
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
