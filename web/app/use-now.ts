import { useEffect, useState } from "react";

/** The time, ms, looked at anew every so often: clocks follow it, also over a change of the machine's own clock. */
export function useNow(everyMs: number): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return now;
}
