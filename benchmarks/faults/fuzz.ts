/** Logs that something went wrong with, through all that is done with a log: each is taken or refused in words, and none takes long. */
import { spawn } from "node:child_process";
import { fileURLToPath } from "node:url";
import { type Analysis, analyse, compare, diagnose, Problem, readRun } from "#core";
import { seeded } from "#core/random/index.ts";
import { asked } from "./asked.ts";
import { mutated, plainLog } from "./mutated.ts";

interface Told {
  taken: number;
  refused: number;
  longestMs: number;
  faults: string[];
}

/** Reads so many mutated logs; what is no refusal in words is a fault. */
export function readMutated(seed: number, count: number): Told {
  const random = seeded(seed);
  const told: Told = { taken: 0, refused: 0, longestMs: 0, faults: [] };
  const kept: Analysis[] = [];
  let text = "";
  for (let k = 0; k < count; k++) {
    if (k % 8 === 0) text = plainLog(random);
    const log = random.between(0, 1) < 0.3 ? mutated(mutated(text, random), random) : mutated(text, random);
    const begun = performance.now();
    try {
      const table = readRun([new TextEncoder().encode(log)], random.pick([{}, { intervalS: 1 }]));
      const analysis = analyse(table, random.pick([{}, { ambientC: 22 }]));
      diagnose(table, analysis, {});
      kept.push(analysis);
      compare(random.pick(kept as [Analysis, ...Analysis[]]), analysis, {});
      told.taken++;
    } catch (error) {
      if (error instanceof Problem) told.refused++;
      else
        told.faults.push(
          `log ${k} of seed ${seed}: ${error instanceof Error ? (error.stack ?? "").slice(0, 300) : String(error)}`,
        );
    }
    told.longestMs = Math.max(told.longestMs, performance.now() - begun);
  }
  return told;
}

const LOGS = Number(process.env.LOGS ?? 10_000);
const PARTS = 2;

export async function fuzz(): Promise<void> {
  const parts = await Promise.all(
    Array.from({ length: PARTS }, async (_, part) => {
      const child = spawn(
        process.execPath,
        [
          "--import",
          "tsx",
          fileURLToPath(new URL("fuzz-part.ts", import.meta.url)),
          String(part + 1),
          String(LOGS / PARTS),
        ],
        { stdio: ["ignore", "pipe", "inherit"] },
      );
      let out = "";
      child.stdout.on("data", (data: Buffer) => {
        out += data.toString();
      });
      await new Promise((resolve) => child.once("close", resolve));
      return JSON.parse(out) as Told;
    }),
  );
  const sum = (of: (told: Told) => number): number => parts.reduce((all, told) => all + of(told), 0);
  const faults = parts.flatMap((told) => told.faults);
  const longestS = Math.max(...parts.map((told) => told.longestMs)) / 1000;
  asked(
    faults.length === 0,
    `${LOGS} mutated logs: ${sum((told) => told.taken)} taken, ${sum((told) => told.refused)} refused in words, ${faults.length} faults (asked for: none)`,
  );
  asked(longestS < 5, `the longest took ${longestS.toFixed(2)} s (asked for: under 5)`);
  for (const fault of faults.slice(0, 5)) console.log(`  ${fault}`);
}
