import { useCallback, useEffect, useRef, useState } from "react";
import { type BoardMap, thingsFrom } from "#core/boardmap/index.ts";
import { api } from "../../app/api.ts";
import { type Fault, faultOf, passes } from "../../app/fault.ts";

const RETRY_MS = 1000;

/**
 * Parts and screws changed from the pads: shown at once, saved one after the other, each into the newest map, of which only what was
 * touched here is replaced. What could not be saved is shown on, and tried again with the next change or once the server is back.
 */
export function useMapEdits(boardModelId: string, serviceId: string, kept: BoardMap) {
  const [newest] = api.useLazyBoardMapQuery();
  const [job] = api.useLazyPadsQuery();
  const [save] = api.useChangeBoardMapMutation();
  const [fault, setFault] = useState<Fault | null>(null);
  const [map, setMap] = useState<BoardMap | null>(null);
  const shown = map ?? kept;
  const latest = useRef(shown);
  useEffect(() => {
    latest.current = shown;
  }, [shown]);
  const touched = useRef<ReadonlySet<string>>(new Set());
  const busy = useRef(false);

  /** Saves what is touched now; true when the server has it. */
  const saveOnce = useCallback(async (): Promise<boolean> => {
    const read = await newest(boardModelId);
    const answer = read.data
      ? await save({
          id: boardModelId,
          body: { map: thingsFrom(read.data.map, latest.current, touched.current), version: read.data.version },
        })
      : read;
    setFault(answer.error ? faultOf(answer.error) : null);
    return !answer.error;
  }, [newest, save, boardModelId]);
  const send = useCallback(async (): Promise<void> => {
    if (busy.current) return;
    busy.current = true;
    for (let done = true; done && touched.current.size > 0; ) {
      const sent = touched.current;
      done = await saveOnce();
      if (done) await job(serviceId);
      if (done && touched.current === sent) touched.current = new Set();
    }
    busy.current = false;
    if (touched.current.size === 0) setMap(null);
  }, [saveOnce, job, serviceId]);
  useEffect(() => {
    if (!fault || !passes(fault)) return undefined;
    const timer = setInterval(() => void send(), RETRY_MS);
    return () => clearInterval(timer);
  }, [fault, send]);
  /** From now on these parts and screws are as they are in `from`. */
  const keep = useCallback(
    (from: BoardMap, ids: readonly string[]): void => {
      latest.current = thingsFrom(latest.current, from, new Set(ids));
      touched.current = new Set([...touched.current, ...ids]);
      setMap(latest.current);
      void send();
    },
    [send],
  );
  return { map: shown, fault, keep };
}
