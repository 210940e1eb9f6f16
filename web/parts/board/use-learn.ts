import { useMemo } from "react";
import { type BoardMap, type MapEdit, withEdits } from "#core/boardmap/index.ts";
import { api, MOST_CONFLICTS } from "../../app/api.ts";
import type { Fault } from "../../app/fault.ts";
import { keyOf, outboxKind, sentAnswer } from "../../app/outbox.ts";
import { useAppStore } from "../../app/store.ts";
import { useOutbox } from "../../app/use-outbox.ts";

/** Laid over the newest map and saved; what somebody else changed meanwhile stays. */
const LEARNT = outboxKind<MapEdit[]>({
  name: "learnt",
  afterMs: 0,
  async send(boardModelId, { value }, dispatch) {
    for (let tries = 1; ; tries++) {
      const read = await dispatch(
        api.endpoints.boardMap.initiate(boardModelId, { forceRefetch: true, subscribe: false }),
      );
      if (!read.data) return sentAnswer(read);
      const body = { map: withEdits(read.data.map, value), version: read.data.version };
      const made = await dispatch(
        api.endpoints.changeBoardMap.initiate({ boardId: boardModelId, body }, { track: false }),
      );
      const kept = sentAnswer(made, (view) => view.version);
      if ("fault" in kept && kept.fault.code === "changed-elsewhere" && tries < MOST_CONFLICTS) continue;
      return kept;
    }
  },
  rest(newest, sent) {
    const left = newest.filter((edit) => !sent.includes(edit));
    return left.length > 0 ? left : undefined;
  },
});

/** What is learnt of a board while a card is in the hand: on the plan at once, saved by itself. */
export function useLearn(
  boardModelId: string,
  kept: BoardMap,
): { map: BoardMap; learn: (...edits: MapEdit[]) => void; fault: Fault | null } {
  const store = useAppStore();
  const { value: waiting, fault, change } = useOutbox(LEARNT, boardModelId, 0);
  const map = useMemo(() => withEdits(kept, waiting ?? []), [kept, waiting]);
  const learn = (...edits: MapEdit[]): void =>
    change([
      ...((store.getState().outbox[keyOf(LEARNT, boardModelId)]?.value as MapEdit[] | undefined) ?? []),
      ...edits,
    ]);
  return { map, learn, fault };
}
