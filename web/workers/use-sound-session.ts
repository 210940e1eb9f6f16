import * as Comlink from "comlink";
import { useEffect, useRef } from "react";
import type { SoundSession } from "./sound-session.ts";

/** A worker that listens, begun when it is first asked and ended with the component. */
export function useSoundSession(): () => Comlink.Remote<SoundSession> {
  const held = useRef<{ remote: Comlink.Remote<SoundSession>; stop: () => void } | null>(null);
  useEffect(() => () => held.current?.stop(), []);
  return () => {
    if (!held.current) {
      const worker = new Worker(new URL("./sound-worker.ts", import.meta.url), { type: "module" });
      held.current = { remote: Comlink.wrap<SoundSession>(worker), stop: () => worker.terminate() };
    }
    return held.current.remote;
  };
}
