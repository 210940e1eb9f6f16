import { describe, expect, it } from "vitest";
import { readRun } from "../runfile/index.ts";
import { logText, MIDSIZE, settledRises, simulate } from "../virtualcard/index.ts";
import { lookAhead, type Outlook, PROMISED_K } from "./index.ts";

const IDLE_S = 60;
/** The first `loadS` seconds under load of one and the same run. */
const upTo = (loadS: number, more: object = {}) =>
  readRun([
    new TextEncoder().encode(
      logText(
        simulate({
          seed: 6,
          build: MIDSIZE,
          bench: { fan: 62 },
          steps: [
            { durationS: IDLE_S, load: 0 },
            { durationS: loadS, load: 1 },
          ],
          ...more,
        }),
      ),
    ),
  ]);

describe("a run that is still going on", () => {
  it("narrows what it will come to, and holds the truth from early on", () => {
    const truth = settledRises({ seed: 6, build: MIDSIZE, bench: { fan: 62 }, steps: [{ durationS: 1, load: 1 }] });
    const widths: number[] = [];
    let before: Outlook | undefined;
    for (const loadS of [150, 240, 360, 600, 1200]) {
      const now = lookAhead(upTo(loadS), loadS, before);
      before = now;
      const edge = now.settles.edge;
      const rise = (edge?.finalC ?? 0) - (now.ambientC ?? 0);
      expect(Math.abs(rise - truth.edgeK)).toBeLessThan((edge?.u95K ?? 0) + 0.6);
      widths.push(now.dieU95K ?? Number.NaN);
    }
    expect(widths.at(-1)).toBeLessThan((widths[0] ?? 0) / 3);
    expect(widths.at(-1)).toBeLessThan(PROMISED_K);
  });

  it("is let go only when two looks in succession agree", () => {
    const first = lookAhead(upTo(1200), 1200, undefined);
    expect(first.dieU95K).toBeLessThan(PROMISED_K);
    expect(first.known).toBe(false);
    expect(lookAhead(upTo(1230), 1230, first).known).toBe(true);
    const other: Outlook = { ...first, settles: { ...first.settles, edge: { finalC: 40, u95K: 0.3 } } };
    expect(lookAhead(upTo(1230), 1230, other).known).toBe(false);
  });

  it("is never let go in the first minutes, nor while nothing is known", () => {
    const early = lookAhead(upTo(200), 200, lookAhead(upTo(170), 170, undefined));
    expect(early.known).toBe(false);
    const idle = readRun([
      new TextEncoder().encode(logText(simulate({ seed: 1, build: MIDSIZE, steps: [{ durationS: 300, load: 0 }] }))),
    ]);
    expect(lookAhead(idle, 300, undefined)).toMatchObject({ known: false, dieU95K: null });
  });

  it("takes room air that was typed where no column has it", () => {
    const airless = upTo(900, { sensors: { room: null } });
    expect(lookAhead(airless, 900, undefined).ambientC).toBeNull();
    expect(lookAhead(airless, 900, undefined, { ambientC: 21 }).ambientC).toBe(21);
  });
});
