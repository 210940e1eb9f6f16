import { useCallback, useEffect, useRef, useState } from "react";
import { type BoardMap, sameThings, thingsFrom } from "#core/boardmap/index.ts";
import { api } from "../../app/api.ts";
import { dropDraft, keepDraft } from "../../app/drafts.ts";
import { type Fault, faultOf } from "../../app/fault.ts";
import { useAppDispatch, useAppSelector } from "../../app/store.ts";
import { useRetry } from "../../app/use-retry.ts";

/** Edits that the server may not have, as they outlive the page. */
interface KeptEdits {
  ids: string[];
  map: BoardMap;
  /** What the server may hold where nobody else changed it: things as they were before each edit. */
  known: BoardMap[];
}

const only = (map: BoardMap, ids: readonly string[]): BoardMap => ({
  ...map,
  parts: map.parts.filter(({ id }) => ids.includes(id)),
  screws: map.screws.filter(({ id }) => ids.includes(id)),
});

/** Those that were not changed on the server since by somebody else, who then knew better. */
const stillOpen = (edits: KeptEdits | undefined, server: BoardMap): string[] => {
  const own = new Set(edits?.known.flatMap((map) => sameThings(map, server, edits.ids)));
  return [...own].filter((id) => edits && sameThings(edits.map, server, [id]).length === 0);
};

/**
 * Parts and screws changed from the pads: shown at once, saved one after the other, each into the newest map, of which only what was
 * touched here is replaced. What could not be saved is shown on, outlives the page, and is tried again with the next change or once
 * the server is back.
 */
export function useMapEdits(boardModelId: string, serviceId: string, kept: BoardMap) {
  const [newest] = api.useLazyBoardMapQuery();
  const [job] = api.useLazyPadsQuery();
  const [save] = api.useChangeBoardMapMutation();
  const key = `pads map ${boardModelId}`;
  const dispatch = useAppDispatch();
  const draft = useAppSelector((state) => state.drafts[key]) as KeptEdits | undefined;
  const [open] = useState(() => stillOpen(draft, kept));
  const [fault, setFault] = useState<Fault | null>(null);
  const [map, setMap] = useState(() => (draft && open.length > 0 ? thingsFrom(kept, draft.map, new Set(open)) : null));
  const shown = map ?? kept;
  const latest = useRef(shown);
  useEffect(() => {
    latest.current = shown;
  }, [shown]);
  const touched = useRef<ReadonlySet<string>>(new Set(open));
  const known = useRef<BoardMap[]>(draft?.known ?? []);
  const busy = useRef(false);
  const note = useCallback((): void => {
    const ids = [...touched.current];
    const value: KeptEdits = { ids, map: only(latest.current, ids), known: known.current };
    dispatch(keepDraft({ form: key, value }));
  }, [dispatch, key]);

  /** Saves what is touched now; what stood in the way, if anything. */
  const saveOnce = useCallback(async (): Promise<Fault | null> => {
    const read = await newest(boardModelId);
    const answer = read.data
      ? await save({
          id: boardModelId,
          body: { map: thingsFrom(read.data.map, latest.current, touched.current), version: read.data.version },
        })
      : read;
    return answer.error ? faultOf(answer.error) : null;
  }, [newest, save, boardModelId]);
  const send = useCallback(async (): Promise<void> => {
    if (busy.current) return;
    busy.current = true;
    for (let found: Fault | null = null; !found && touched.current.size > 0; ) {
      const sent = touched.current;
      found = await saveOnce();
      // Somebody was faster between reading and saving: read again.
      if (found?.code === "changed-elsewhere") found = null;
      else if (!found) {
        await job(serviceId);
        if (touched.current === sent) touched.current = new Set();
      }
      setFault(found);
    }
    busy.current = false;
    if (touched.current.size > 0) return;
    setMap(null);
    known.current = [];
    dispatch(dropDraft(key));
  }, [saveOnce, job, serviceId, dispatch, key]);
  useEffect(() => {
    void send();
  }, [send]);
  useRetry(fault, send);
  /** From now on these parts and screws are as they are in `from`. */
  const keep = useCallback(
    (from: BoardMap, ids: readonly string[]): void => {
      known.current = [...known.current, only(latest.current, ids)];
      latest.current = thingsFrom(latest.current, from, new Set(ids));
      touched.current = new Set([...touched.current, ...ids]);
      note();
      setMap(latest.current);
      void send();
    },
    [send, note],
  );
  return { map: shown, fault, keep };
}
