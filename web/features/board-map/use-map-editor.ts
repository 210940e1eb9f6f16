import type { BoardMapView } from "#contract";
import { type BoardMap, withGroups } from "#core/boardmap/index.ts";
import { api } from "../../app/api.ts";
import { documentKind } from "../../app/document.ts";
import { type PlanEditor, usePlanEditor } from "../../parts/board/use-plan-editor.ts";

const MAP = documentKind<BoardMap, BoardMapView>({
  name: "map",
  afterMs: 400,
  read: "boardMap",
  of: ({ version, map }) => ({ version, value: map }),
  send: (boardId, { value, version, changes }, dispatch) =>
    dispatch(
      api.endpoints.changeBoardMap.initiate({ boardId, body: { map: value, version, changes } }, { track: false }),
    ),
});

/** The map being edited: what is picked takes its group along. */
export const useMapEditor = ({ boardModelId, version, map }: BoardMapView): MapEditor =>
  usePlanEditor(MAP, { id: boardModelId, version, stored: map }, withGroups);

export type MapEditor = PlanEditor<BoardMap>;
