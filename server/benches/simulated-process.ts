/** The simulated bench in a process of its own: steps the card, sends batches, and waits for each to be taken over. */
import type { Setting } from "#core/protocol/index.ts";
import { hiddenCard } from "./simulated-card.ts";

export type ToProcess =
  | {
      kind: "begin";
      seed: number;
      speed: number;
      intervalS: number;
      work: string[];
      /** What happened before the server was restarted, and up to which second. */
      past: { uptoS: number; settings: Array<{ tS: number; setting: Setting }> };
    }
  | { kind: "set"; setting: Setting }
  | { kind: "taken" };
export interface FromProcess {
  rows: Array<[number, number[]]>;
}

const BEAT_MS = 25;
/** A process that was stopped for a while does not try to catch up more than this, s of bench time. */
const MOST_AT_ONCE_S = 20;

let card: ReturnType<typeof hiddenCard> | undefined;
let speed = 1;
let stepsPerS = 1;
let sent = 0;
let owedS = 0;
let last = performance.now();
let waiting = false;

function beat(): void {
  const now = performance.now();
  owedS = Math.min(MOST_AT_ONCE_S, owedS + ((now - last) / 1000) * speed);
  last = now;
  if (!card || waiting) return;
  const rows: FromProcess["rows"] = [];
  while (owedS >= 1 / stepsPerS) {
    owedS -= 1 / stepsPerS;
    // Counted in whole steps, so that an hour of tenths is an hour.
    rows.push([sent / stepsPerS, card.next(1 / stepsPerS)]);
    sent++;
  }
  if (rows.length === 0) return;
  waiting = true;
  process.send?.({ rows } satisfies FromProcess, undefined, undefined, () => undefined);
}

process.on("message", (message: ToProcess) => {
  if (message.kind === "begin") {
    card = hiddenCard(message.seed, message.work);
    speed = message.speed;
    stepsPerS = 1 / message.intervalS;
    for (let next = 0; sent / stepsPerS <= message.past.uptoS; sent++) {
      for (
        let set = message.past.settings[next];
        set && set.tS <= sent / stepsPerS;
        set = message.past.settings[next]
      ) {
        card.set(set.setting);
        next++;
      }
      card.next(1 / stepsPerS);
    }
    last = performance.now();
    setInterval(beat, BEAT_MS);
  } else if (message.kind === "set") card?.set(message.setting);
  else waiting = false;
});
process.on("disconnect", () => process.exit(0));
