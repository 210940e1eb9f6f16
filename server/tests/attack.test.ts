import { linkSync, mkdirSync, readFileSync, renameSync, rmSync, symlinkSync } from "node:fs";
import type { AddressInfo } from "node:net";
import { join } from "node:path";
import express from "express";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Card } from "#contract";
import { Problem, type ProblemDetail } from "#core";
import { holdDatabase } from "../db/lock.ts";
import { Turns } from "../db/turns.ts";
import { faultHandler } from "../http/problems.ts";
import { CARD, openTestServer, type TestServer, takeIn } from "./server.ts";

let server: TestServer;
let card: Card;
beforeAll(async () => {
  server = await openTestServer();
  card = await takeIn(server);
});
afterAll(() => server.close());

const raw = async (path: string, body: string | undefined, headers: Record<string, string>, method = "POST") => {
  const init = body === undefined ? {} : { body };
  const answer = await fetch(new URL(path, server.running.address), { method, headers, ...init });
  return { status: answer.status, body: (await answer.json()) as ProblemDetail };
};
const form = (...lines: string[]): string => lines.join("\r\n");
const FORM = { "Content-Type": "multipart/form-data; boundary=b" };
const PART = 'Content-Disposition: form-data; name="log"; filename="a.csv"';

describe("what is wrong with a request is told by what it is, not by the words of whoever noticed", () => {
  it.each<[string, string | undefined, Record<string, string>]>([
    ["a part header without a colon", form("--b", "Content-Disposition form-data", "", "x", "--b--", ""), FORM],
    ["a file name of 20 kB", form("--b", PART.replace("a.csv", "a".repeat(20_000)), "", "x", "--b--", ""), FORM],
    ["a form that ends in the middle", form("--b", PART, "", "0,1"), FORM],
    ["a form without parts", "--b--\r\n", FORM],
    ["no boundary", "x", { "Content-Type": "multipart/form-data" }],
    ["nothing at all", "", FORM],
  ])("%s is a bad upload and no damaged database", async (_, body, headers) => {
    for (const path of [`/api/services/${card.serviceId}/runs`, `/api/cards/${card.id}/photos`]) {
      const answer = await raw(path, body, headers);
      expect(answer.status).toBeGreaterThanOrEqual(400);
      expect(answer.status).toBeLessThan(500);
      expect(answer.body.what).not.toMatch(/database/i);
      expect(answer.body.remedy.length).toBeGreaterThan(5);
    }
  });

  it.each<[string, string, Record<string, string>, number, string]>([
    ["an unknown packing", "{}", { "Content-Encoding": "zebra" }, 415, "bad-encoding"],
    ["an unknown character set", "{}", { "Content-Type": "application/json; charset=utf-99" }, 415, "bad-encoding"],
    ["half a document", '{"maker":', {}, 400, "bad-body"],
    ["what is not packed as gzip", "{}", { "Content-Encoding": "gzip" }, 400, "bad-body"],
    ["what is not packed as brotli", "{}", { "Content-Encoding": "br" }, 400, "bad-body"],
    ["a list for an object", "[]", {}, 422, "bad-input"],
  ])("%s", async (_, body, headers, status, code) => {
    const answer = await raw("/api/cards", body, { "Content-Type": "application/json", ...headers });
    expect([answer.status, answer.body.code]).toEqual([status, code]);
  });

  it("a file of an older page is not there, whatever its name", async () => {
    const answer = await fetch(new URL("/assets/page-OLD.js", server.running.address));
    expect(answer.status).toBe(404);
    expect(answer.headers.get("content-type")).toMatch(/text\/plain/);
  });

  it("an import at its address with a slash behind is one", async () => {
    const answer = await raw("/api/import/", '{"format":"other"}', { "Content-Type": "application/json" });
    expect([answer.status, answer.body.code]).toEqual([422, "bad-export"]);
  });
});

it("a fault of the server’s own is told as one and logged, also once the whole request was read", async () => {
  const logged: unknown[] = [];
  const app = express().use(express.json());
  app.post("/", (_request, _response, next) => {
    // By now the body was read to its end.
    setTimeout(() => next(new TypeError("broken")), 20);
  });
  app.use(faultHandler((error) => logged.push(error)));
  const listening = app.listen(0, "127.0.0.1");
  await new Promise((resolve) => listening.once("listening", resolve));
  const { port } = listening.address() as AddressInfo;
  const answer = await fetch(`http://127.0.0.1:${port}/`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: "{}",
  });
  expect([answer.status, ((await answer.json()) as ProblemDetail).code]).toEqual([500, "fault"]);
  expect(logged).toHaveLength(1);
  listening.close();
});

describe("what costs a process of its own", () => {
  it.each(["/api/export.json", "/api/backup", "/API/backup/"])(
    "%s is not set going by a foreign page",
    async (path) => {
      const answer = await raw(path, undefined, { "Sec-Fetch-Site": "cross-site", "Sec-Fetch-Mode": "no-cors" }, "GET");
      expect([answer.status, answer.body.code]).toEqual([403, "foreign-origin"]);
    },
  );

  it("is not set going by an import that is small and none", async () => {
    const children = (): string =>
      readFileSync(`/proc/${process.pid}/task/${process.pid}/children`, "utf8")
        .trim()
        .split(" ")
        .filter((pid) => {
          try {
            return /keeper/.test(readFileSync(`/proc/${pid}/cmdline`, "utf8"));
          } catch {
            // Gone meanwhile.
            return false;
          }
        })
        .join();
    const before = children();
    const sent = Promise.all(
      Array.from({ length: 4 }, () => raw("/api/import", '{"format":"other"}', { "Content-Type": "application/json" })),
    );
    const seen = new Set<string>();
    const watch = setInterval(() => seen.add(children()), 2);
    expect((await sent).map(({ body }) => body.code)).toEqual(Array(4).fill("bad-export"));
    clearInterval(watch);
    seen.add(children());
    expect([...seen].flatMap((pids) => pids.split(",")).filter((pid) => pid && !before.includes(pid))).toEqual([]);
  });

  it("goes one at a time; a few wait, the next is told so at once, and a fault lets the line go on", async () => {
    const turns = new Turns(3);
    let running = 0;
    let most = 0;
    const ends: Array<() => void> = [];
    const work = async (): Promise<void> => {
      most = Math.max(most, ++running);
      await new Promise<void>((resolve) => ends.push(resolve));
      running--;
    };
    const all = [turns.take(work), turns.take(() => Promise.reject(new Error("broken"))), turns.take(work)];
    expect(() => turns.take(work)).toThrow(Problem);
    for (let round = 0; round < 10; round++) {
      await new Promise((resolve) => setImmediate(resolve));
      ends.shift()?.();
    }
    const found = await Promise.allSettled(all);
    expect(found.map(({ status }) => status)).toEqual(["fulfilled", "rejected", "fulfilled"]);
    expect(most).toBe(1);
    const again = turns.take(() => Promise.resolve("served"));
    expect(await again).toBe("served");
  });
});

describe("one server, one file", () => {
  it("is held by the place it lies at; a link or a second name is refused with what to do", () => {
    const folder = join(server.folder, "held");
    mkdirSync(folder);
    const other = join(server.folder, "by-link");
    symlinkSync(folder, other);
    const letGo = holdDatabase(join(folder, "shop.db"));
    expect(() => holdDatabase(join(other, "shop.db"))).toThrow(/has held this database/);
    letGo();
    const linked = join(server.folder, "linked.db");
    symlinkSync(server.database, linked);
    expect(() => holdDatabase(linked)).toThrow(/is a link/);
    const second = join(server.folder, "second.db");
    linkSync(server.database, second);
    expect(() => holdDatabase(second)).toThrow(/second name/);
    rmSync(second);
  });

  it("that is moved away under the server is noticed before the next answer, and nothing is called saved", async () => {
    const own = await openTestServer();
    const aside = `${own.database}.aside`;
    renameSync(own.database, aside);
    for (const [method, body] of [
      ["POST", CARD],
      ["GET", undefined],
    ] as const) {
      const answer = await own.ask<ProblemDetail>(method, "/api/cards", body);
      expect([answer.status, answer.body.code]).toEqual([503, "database-gone"]);
    }
    renameSync(aside, own.database);
    expect((await own.ask("POST", "/api/cards", CARD)).status).toBe(201);
    await own.close();
  });
});
