import { LIVE_CHANNELS } from "#core/virtualcard/index.ts";
import { forkOwn } from "../child.ts";
import type { OpenDriver } from "./driver.ts";
import type { FromProcess, ToProcess } from "./simulated-process.ts";

/** The bench that ships with the application: a virtual card with hidden faults, in a process of its own. */
export const openSimulated: OpenDriver = ({ seed, speed, intervalS, work, resumed }) => {
  const child = forkOwn("simulated-bench", "server/benches/simulated-process.ts");
  const say = (message: ToProcess): void => {
    // A message that crosses the end of the process is of no use to anyone.
    if (child.connected) child.send(message, () => undefined);
  };
  let closing = false;
  return Promise.resolve({
    channels: LIVE_CHANNELS.map((channel) => ({ ...channel })),
    set: (setting) => say({ kind: "set", setting }),
    start(listener) {
      child.on("message", ({ rows }: FromProcess) => {
        void Promise.resolve(listener.samples(rows.map(([tS, values]) => ({ tS, values })))).then(() =>
          say({ kind: "taken" }),
        );
      });
      child.once("exit", () => {
        if (!closing) listener.gone("The simulated bench’s process ended.");
      });
      const past = { uptoS: resumed?.times.at(-1) ?? -1, settings: [...(resumed?.settings ?? [])] };
      say({ kind: "begin", seed, speed, intervalS, work: [...work], past });
    },
    close() {
      closing = true;
      if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
      const gone = new Promise<void>((resolve) => child.once("exit", () => resolve()));
      child.kill();
      return gone;
    },
  });
};
