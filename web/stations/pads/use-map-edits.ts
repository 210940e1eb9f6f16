import { useEffect, useState } from "react";
import { type BoardMap, sameThings, thingsFrom } from "#core/boardmap/index.ts";
import { api, MOST_CONFLICTS } from "../../app/api.ts";
import { outboxKind, sentAnswer } from "../../app/outbox.ts";
import { useOutbox } from "../../app/use-outbox.ts";

/** Edits that the server may not have. */
interface Edits {
  ids: string[];
  map: BoardMap;
  /** What the server may hold where nobody else changed it: things as they were before each edit. */
  known: BoardMap[];
}

const only = (map: BoardMap, ids: readonly string[]): BoardMap => ({
  ...map,
  parts: map.parts.filter(({ id }) => ids.includes(id)),
  screws: map.screws.filter(({ id }) => ids.includes(id)),
  plugs: [],
});

/** Those that were not changed on the server since by somebody else, who then knew better. */
const stillOpen = (edits: Edits, server: BoardMap): string[] => {
  const own = new Set(edits.known.flatMap((map) => sameThings(map, server, edits.ids)));
  return [...own].filter((id) => sameThings(edits.map, server, [id]).length === 0);
};

/** Saved into the newest map, of which only what was touched is replaced. */
const EDITS = outboxKind<Edits>({
  name: "map-edits",
  afterMs: 0,
  async send(id, { value }, dispatch) {
    for (let tries = 1; ; tries++) {
      const read = await dispatch(api.endpoints.boardMap.initiate(id, { forceRefetch: true, subscribe: false }));
      if (read.isError || !read.data) return sentAnswer(read);
      const body = {
        map: thingsFrom(read.data.map, value.map, new Set(value.ids)),
        version: read.data.version,
      };
      const kept = sentAnswer(
        await dispatch(api.endpoints.changeBoardMap.initiate({ boardId: id, body }, { track: false })),
        (view) => view.version,
      );
      // Somebody was faster between reading and saving: read again.
      if ("fault" in kept && kept.fault.code === "changed-elsewhere" && tries < MOST_CONFLICTS) continue;
      return kept;
    }
  },
});

/**
 * Parts and screws changed from the pads: shown at once, saved one after the other, tried again once the server is back.
 * @param keptVersion of what was read: edits that are saved stay laid over what was read before they were
 */
export function useMapEdits(boardModelId: string, kept: BoardMap, keptVersion: number) {
  const out = useOutbox(EDITS, boardModelId, keptVersion);
  const { value, change, drop } = out;
  const [laid, setLaid] = useState(value);
  if (value && value !== laid) setLaid(value);
  /** Left by a page before this one; what somebody else changed since is no longer this one's to save. */
  const [found] = useState(value);
  useEffect(() => {
    if (!found) return;
    const ids = stillOpen(found, kept);
    if (ids.length === found.ids.length) return;
    if (ids.length === 0) drop();
    else change({ ...found, ids });
    // Once, for what was there when the page came up.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const over = value ?? (keptVersion < out.version ? laid : undefined);
  const shown = over ? thingsFrom(kept, over.map, new Set(over.ids)) : kept;
  /** From now on these parts and screws are as they are in `from`. */
  const keepThings = (from: BoardMap, ids: readonly string[]): void => {
    const all = [...new Set([...(value?.ids ?? []), ...ids])];
    const map = thingsFrom(shown, from, new Set(ids));
    change({ ids: all, map: only(map, all), known: [...(value?.known ?? []), only(shown, ids)] });
  };
  return { map: shown, fault: out.fault, keepThings };
}
