import { useEffect } from "react";
import { type Fault, passes } from "./fault.ts";

const RETRY_MS = 1000;

/** Sends again, and again, while what stands in the way is one that passes: a server that is away for a moment. */
export function useRetry(fault: Fault | null, send: () => Promise<void>): void {
  useEffect(() => {
    if (!fault || !passes(fault)) return undefined;
    const timer = setInterval(() => void send(), RETRY_MS);
    return () => clearInterval(timer);
  }, [fault, send]);
}
