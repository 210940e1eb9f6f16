import { restWords } from "#core/handwork/index.ts";
import type { Clock } from "#core/service/index.ts";
import { timeOfDay, weekdayTime } from "./format.ts";

const MS_A_MIN = 60_000;
/** Two devices may differ by so much. */
const SET_BACK_MS = 10 * MS_A_MIN;
const SOON_MS = 12 * 60 * MS_A_MIN;

/** How a clock stands. */
export function clockLeft({ fromMs, untilMs }: Clock, nowMs: number): { words: string; over: boolean } {
  if (untilMs === null) return { words: "not in this air: use warm air or a drier room", over: false };
  if (nowMs < fromMs - SET_BACK_MS)
    return { words: "this machine’s clock was set back since; look at the part itself", over: false };
  if (untilMs <= nowMs) return { words: "its time is over, look at it", over: true };
  const at = (untilMs - nowMs > SOON_MS ? weekdayTime : timeOfDay)(untilMs);
  return { words: `${restWords((untilMs - nowMs) / MS_A_MIN)}, until ${at}`, over: false };
}

/** For a narrow title: the clock that ends first. */
export function clockTitle(clocks: readonly Clock[], nowMs: number): string {
  const first = clocks.filter(({ untilMs }) => untilMs !== null).sort((a, b) => (a.untilMs ?? 0) - (b.untilMs ?? 0))[0];
  if (!first?.untilMs) return "";
  return first.untilMs <= nowMs
    ? `Ready: ${first.what}`
    : `${restWords((first.untilMs - nowMs) / MS_A_MIN)}: ${first.what}`;
}
