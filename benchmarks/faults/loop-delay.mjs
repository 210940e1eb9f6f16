/** Loaded into a server before it starts: writes how long its event loop stood still to the file it was told of, whenever it is asked by SIGUSR2. */
import { writeFileSync } from "node:fs";
import { monitorEventLoopDelay } from "node:perf_hooks";

const file = process.env.LOOP_DELAY_FILE;
if (file && process.argv[2] === "serve") {
  const delay = monitorEventLoopDelay({ resolution: 5 });
  delay.enable();
  process.on("SIGUSR2", () => {
    const ms = (ns) => ns / 1e6;
    writeFileSync(file, JSON.stringify({ maxMs: ms(delay.max), p99Ms: ms(delay.percentile(99)) }));
    delay.reset();
  });
}
