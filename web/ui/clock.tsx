import { Hourglass } from "lucide-react";
import type { Clock } from "#core/service/index.ts";
import { useNow } from "../app/use-now.ts";
import { clockLeft } from "./clock-words.ts";

const EVERY_MS = 15_000;

/** What runs by itself, how long still, and until when. */
export function ClockLine({ clock }: { clock: Clock }) {
  const now = useNow(EVERY_MS);
  const { words, over } = clockLeft(clock, now);
  return (
    <span className={`flex items-center gap-2 ${over ? "font-semibold" : "text-soft"}`} role="timer">
      <Hourglass aria-hidden className="size-4 shrink-0" />
      <span>
        {clock.what}: {words}
      </span>
    </span>
  );
}
