/** Eight benches at ten samples a second for an hour of simulated time, with nobody watching. */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { EMPTY_BENCH, type LiveRows, type LiveRun, type TestBench } from "#contract";
import { openTestServer, takeIn } from "#server/tests/server.ts";

const BENCHES = 8;
const HOUR = {
  name: "Hour",
  about: "",
  steps: [
    { kind: "soak" as const, label: "Hour", fan: "automatic" as const, powerPct: 100, minutes: 58.25, early: false },
  ],
};

const folder = mkdtempSync(join(tmpdir(), "algidus-bench-"));
const server = await openTestServer({ database: join(folder, "bench.db") });
const ids: string[] = [];
for (let k = 0; k < BENCHES; k++) {
  const card = await takeIn(server);
  const { body: bench } = await server.ask<TestBench>("POST", "/api/benches", {
    ...EMPTY_BENCH,
    name: `Bench ${k + 1}`,
    seed: 100 + k,
    speed: 200,
    intervalS: 0.1,
  });
  const { body: live } = await server.ask<LiveRun>("POST", "/api/live", {
    benchId: bench.id,
    serviceId: card.serviceId,
    side: "before",
    protocol: HOUR,
    loadName: "loop",
    sidePanel: "open bench",
    roomC: null,
  });
  ids.push(live.id);
}

/** Memory that is really held, MB. */
const held = (): number => {
  globalThis.gc?.();
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return (heapUsed + arrayBuffers) / 1e6;
};
const read = async (id: string): Promise<LiveRun> => (await server.ask<LiveRun>("GET", `/api/live/${id}`)).body;
let early = 0;
let late = 0;
let opened = Number.NaN;
for (;;) {
  await new Promise((resolve) => setTimeout(resolve, 250));
  const all = await Promise.all(ids.map(read));
  const least = Math.min(...all.map((one) => one.elapsedS));
  if (early === 0 && least > 900) early = held();
  if (least > 3300 && all.some((one) => one.status === "running")) {
    late = held();
    if (Number.isNaN(opened)) {
      const begun = performance.now();
      const { body } = await server.ask<LiveRows>("GET", `/api/live/${ids[0]}/rows`);
      opened = performance.now() - begun;
      if (body.rows.length < 1000) throw new Error("the page did not get the whole run");
    }
  }
  if (all.every((one) => one.status !== "running")) break;
}
let kept = 0;
let inRuns = 0;
for (const id of ids) {
  const live = await read(id);
  kept += live.counts.kept;
  const { body } = await server.ask<{ analysis: { samples: number } }>("GET", `/api/runs/${live.runIds[0]}`);
  inRuns += body.analysis.samples;
}
console.log(
  `${BENCHES} benches at 10 Hz for an hour of bench time: ${kept} samples taken, ${inRuns} in the kept runs, ${kept - inRuns} lost (asked for: 0); ${(kept / BENCHES / 36_000).toFixed(3)} of 36 000 each`,
);
console.log(
  `memory held after a quarter of an hour and near its end: ${early.toFixed(0)} and ${late.toFixed(0)} MB, ratio ${(late / early).toFixed(2)} (asked for: at most 1.20)`,
);
console.log(`a page that opens near the end has the whole run after ${(opened / 1000).toFixed(2)} s (asked for: 1)`);
await server.close();
rmSync(folder, { recursive: true, force: true });
