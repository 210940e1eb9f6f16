import type { BoardMapView } from "#contract";
import { type BoardMap, withGroups } from "#core/boardmap/index.ts";
import { api } from "../../app/api.ts";
import { outboxKind, sentAnswer } from "../../app/outbox.ts";
import { type PlanEditor, usePlanEditor } from "../../parts/board/use-plan-editor.ts";

const MAP = outboxKind<BoardMap>({
  name: "map",
  afterMs: 400,
  async send(id, { value, version, changes }, dispatch) {
    const body = { map: value, version, changes };
    const sending = dispatch(api.endpoints.changeBoardMap.initiate({ boardId: id, body }, { track: false }));
    return sentAnswer(await sending, (view) => view.version);
  },
});

/** The map being edited: what is picked takes its group along. */
export const useMapEditor = ({ boardModelId, version, map }: BoardMapView): MapEditor =>
  usePlanEditor(MAP, { id: boardModelId, version, stored: map }, withGroups);

export type MapEditor = PlanEditor<BoardMap>;
