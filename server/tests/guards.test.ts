import { mkdtempSync, rmSync } from "node:fs";
import { request } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { ProblemDetail } from "#core";
import { startServer } from "../start.ts";
import { CARD, openTestServer, type TestServer } from "./server.ts";

let server: TestServer;
beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());

/** A request with headers that fetch would not let through, such as Host. */
function raw(headers: Record<string, string>, method = "GET"): Promise<number> {
  const { port } = new URL(server.running.address);
  return new Promise((resolve, reject) => {
    request({ host: "127.0.0.1", port, path: "/api/health", method, headers }, (answer) => {
      answer.resume();
      resolve(answer.statusCode ?? 0);
    })
      .on("error", reject)
      .end();
  });
}

describe("who may ask", () => {
  it("listens on loopback by default", () => {
    expect(server.running.address).toMatch(/^http:\/\/127\.0\.0\.1:\d+\/$/);
  });

  it("answers under its own name only, so that no foreign name can point here", async () => {
    expect(await raw({ Host: "evil.example" })).toBe(403);
    expect(await raw({ Host: "localhost" })).toBe(200);
    expect(await raw({ Host: "LOCALHOST:8080" })).toBe(200);
  });

  it("names what is wrong with an address that is none", async () => {
    const refused = await server.ask<ProblemDetail>("GET", "/api/cards/%E0%A4%A");
    expect([refused.status, refused.body.code]).toEqual([400, "bad-address"]);
  });

  it.each([
    [{ Origin: "http://evil.example" }, 403],
    [{ "Sec-Fetch-Site": "cross-site" }, 403],
    [{}, 201],
  ])("checks every write for its origin: %o", async (headers, status) => {
    expect((await server.ask("POST", "/api/cards", CARD, headers as Record<string, string>)).status).toBe(status);
  });

  it("allows no inline script and nothing from elsewhere", async () => {
    const policy = (await server.ask("GET", "/")).headers.get("content-security-policy") ?? "";
    expect(policy).toContain("default-src 'none'");
    expect(policy).toMatch(/script-src 'self'(;|$)/);
    expect(policy).toContain("frame-ancestors 'none'");
  });

  it("limits what may be sent at once", async () => {
    const refused = await server.ask<ProblemDetail>("POST", "/api/cards", {
      ...CARD,
      complaint: "x".repeat(1_500_000),
    });
    expect(refused.status).toBe(413);
  });
});

describe("listening to the network", () => {
  it("is refused without a passphrase", async () => {
    await expect(startServer({ database: `${server.folder}/open.db`, host: "0.0.0.0", port: 0 })).rejects.toThrow(
      /passphrase/,
    );
  });

  it("needs a sign-in, keeps it in an http-only same-site cookie, and limits tries", async () => {
    const open = await openTestServer({ host: "0.0.0.0", passphrase: "correct horse" });
    try {
      const { port } = new URL(open.running.address);
      const ask = (path: string, init: RequestInit = {}) => fetch(`http://127.0.0.1:${port}${path}`, init);
      const signIn = (passphrase: string) =>
        ask("/api/sign-in", {
          method: "POST",
          headers: { "Content-Type": "application/json" },
          body: JSON.stringify({ passphrase }),
        });
      expect((await ask("/api/bench")).status).toBe(401);
      expect((await ask("/api/export.json")).status).toBe(401);
      const good = await signIn("correct horse");
      const cookie = good.headers.get("set-cookie") ?? "";
      expect(cookie).toMatch(/HttpOnly/i);
      expect(cookie).toMatch(/SameSite=Strict/i);
      expect((await ask("/api/bench", { headers: { Cookie: cookie.split(";")[0] ?? "" } })).status).toBe(200);
      expect((await ask("/api/bench", { headers: { Cookie: "algidus_session=forged" } })).status).toBe(401);
      const tries = [];
      for (let k = 0; k < 8; k++) tries.push((await signIn("wrong wrong")).status);
      expect(tries[0]).toBe(401);
      expect(tries.at(-1)).toBe(429);
    } finally {
      await open.close();
    }
  });

  it("keeps sessions over a restart with the same passphrase, ends them with another, and lets a page sign out", async () => {
    const folder = mkdtempSync(join(tmpdir(), "algidus-guards-"));
    const database = join(folder, "shop.db");
    const withServer = async <T>(
      passphrase: string,
      use: (ask: (method: string, path: string, cookie?: string, body?: object) => Promise<Response>) => Promise<T>,
    ): Promise<T> => {
      const open = await openTestServer({ database, host: "0.0.0.0", passphrase });
      const { port } = new URL(open.running.address);
      try {
        return await use((method, path, cookie = "", body) =>
          fetch(`http://127.0.0.1:${port}/api/${path}`, {
            method,
            headers: { Cookie: cookie, "Content-Type": "application/json" },
            ...(body ? { body: JSON.stringify(body) } : {}),
          }),
        );
      } finally {
        await open.running.close();
      }
    };
    const cookieOf = (answer: Response): string => (answer.headers.get("set-cookie") ?? "").split(";")[0] ?? "";
    const first = await withServer("correct horse", async (ask) => {
      const cookie = cookieOf(await ask("POST", "sign-in", "", { passphrase: "correct horse" }));
      expect(await (await ask("GET", "session", cookie)).json()).toEqual({ signedIn: true });
      return cookie;
    });
    await withServer("correct horse", async (ask) => {
      expect((await ask("GET", "bench", first)).status).toBe(200);
      const other = cookieOf(await ask("POST", "sign-in", "", { passphrase: "correct horse" }));
      const change = (current?: string) => ask("PUT", "passphrase", first, { passphrase: "battery staple", current });
      expect([(await change()).status, (await change("wrong horse")).status]).toEqual([401, 401]);
      expect((await change("correct horse")).status).toBe(200);
      // Whoever changed it stays; every other device signs in anew.
      expect((await ask("GET", "bench", first)).status).toBe(200);
      expect((await ask("GET", "bench", other)).status).toBe(401);
      expect((await ask("POST", "sign-out", first)).status).toBe(204);
      expect((await ask("GET", "bench", first)).status).toBe(401);
    });
    rmSync(folder, { recursive: true, force: true });
  });

  it.each(["short", "x".repeat(201)])("holds the machine's own variable to the rule: %s", async (passphrase) => {
    await expect(
      startServer({ database: `${server.folder}/rule.db`, host: "127.0.0.1", port: 0, passphrase }),
    ).rejects.toMatchObject({ code: "bad-passphrase" });
  });

  it("makes no one wait while passphrases are tried", async () => {
    const open = await openTestServer({ passphrase: "correct horse" });
    try {
      const tries = Array.from({ length: 3 }, () => open.ask("POST", "/api/sign-in", { passphrase: "wrong horse" }));
      const state = { tried: false };
      const all = Promise.all(tries).finally(() => {
        state.tried = true;
      });
      let answers = 0;
      while (!state.tried) {
        expect((await open.ask("GET", "/api/health")).status).toBe(200);
        answers++;
      }
      await all;
      expect(answers).toBeGreaterThan(10);
    } finally {
      await open.close();
    }
  });
});
