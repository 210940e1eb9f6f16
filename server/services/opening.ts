import type { Settings } from "#contract";
import { wallClock } from "../db/days.ts";

const MS_A_DAY = 86_400_000;
const MS_A_MIN = 60_000;
/** So far ahead a plan looks; later everything counts as open. */
const DAYS = 60;

/** Wall-clock time of an instant in a zone, as if it were UTC, ms. */
const wallMs = (instant: number, zone: string | undefined): number => Date.parse(`${wallClock(instant, zone)}Z`);

/** The instant at which clocks in a zone show this; in the hour that is left out in spring, the one after it. */
export function instantOf(wall: number, zone: string | undefined): number {
  let guess = wall;
  for (let round = 0; round < 3; round++) guess += wall - wallMs(guess, zone);
  return guess;
}

/** When nobody is there, from now on, by the week's opening hours where the workshop is. */
export function closedTimes(
  { opening }: Pick<Settings, "opening">,
  nowMs: number,
  zone: string | undefined,
): Array<{ fromMs: number; untilMs: number }> {
  const closed: Array<{ fromMs: number; untilMs: number }> = [];
  const midnight = Math.floor(wallMs(nowMs, zone) / MS_A_DAY) * MS_A_DAY;
  let shutSince = instantOf(midnight, zone);
  for (let day = 0; day < DAYS; day++) {
    const at = midnight + day * MS_A_DAY;
    // 1970 began on a Thursday; the week here begins on Monday.
    const open = opening[(Math.round(at / MS_A_DAY) + 3) % 7];
    if (!open) continue;
    const fromMs = instantOf(at + open.fromMin * MS_A_MIN, zone);
    if (fromMs > shutSince) closed.push({ fromMs: shutSince, untilMs: fromMs });
    shutSince = instantOf(at + open.untilMin * MS_A_MIN, zone);
  }
  return closed.filter(({ untilMs }) => untilMs > nowMs);
}
