import { useEffect } from "react";
import type { Clock } from "#core/service/index.ts";
import { useNow } from "../app/use-now.ts";
import { clockTitle } from "./clock-words.ts";

const EVERY_MS = 15_000;

/** A running clock stands before the page's name in the window's title, where a phone in a pocket shows it. */
export function useClockTitle(clocks: readonly Clock[]): void {
  const now = useNow(EVERY_MS);
  const words = clockTitle(clocks, now);
  useEffect(() => {
    if (words === "") return undefined;
    const before = document.title;
    document.title = `${words} · ${before}`;
    return () => {
      document.title = before;
    };
  }, [words]);
}
