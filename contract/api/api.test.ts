import { expect, it } from "vitest";
import { API, EVERYTHING, paramsIn, WIRES, type Wire } from "./index.ts";

const lines = Object.entries<Wire>(API);
const isRead = ({ method, reads }: Wire): boolean => method === "get" || reads === true;

it("has one line for each name and each place", () => {
  expect(lines.length).toBe(Object.values(WIRES).flatMap((table) => Object.keys(table)).length);
  const places = lines.map(([, { method, path }]) => `${method} ${path.replace(/:\w+/g, ":")}`);
  expect(new Set(places).size).toBe(lines.length);
});

it("a change fills a read that answers with the very same, for a thing that it can name", () => {
  const filling = lines.filter(([, { fills }]) => fills !== undefined);
  expect(filling.length).toBeGreaterThan(50);
  for (const [name, wire] of filling) {
    const filled = API[wire.fills as keyof typeof API] as Wire;
    expect(isRead(filled), name).toBe(true);
    expect(JSON.stringify(filled.answers), name).toBe(JSON.stringify(wire.answers));
    expect(paramsIn(filled.path).length, name).toBeLessThan(2);
  }
});

it("a change makes only reads stale, and every one but what never changes is made stale by something", () => {
  const touched = new Set<string>();
  for (const [name, { stale = [], fills }] of lines) {
    if (stale === EVERYTHING) continue;
    for (const one of [...stale, ...(fills ? [fills] : [])]) {
      expect(isRead(API[one as keyof typeof API] ?? { method: "none" }), `${name}: ${one}`).toBe(true);
      touched.add(one);
    }
  }
  const json = lines.filter(([, wire]) => isRead(wire) && wire.answers !== null && !("media" in wire.answers));
  expect(json.map(([name]) => name).filter((name) => !touched.has(name))).toEqual([
    // Asked for by who needs it, not shown.
    "liveRows",
    "health",
    "description",
    "recordFile",
  ]);
});
