import { useMemo, useState } from "react";
import { EMPTY_COOLER_PLAN } from "#contract";
import type { Cooler } from "#core/coolers/index.ts";
import { api } from "../../app/api.ts";
import { fittedOf } from "../../parts/cooler/fitted.ts";
import { fitMarks } from "../../parts/cooler/marks.ts";
import { CoolerOverlay } from "../../parts/cooler/overlay.tsx";
import { fitHeadline } from "../../parts/cooler/words.ts";
import { BoardPlan } from "../../ui/board-plan.tsx";
import { SelectField } from "../../ui/field.tsx";
import { Sheet } from "../../ui/page.tsx";

/** The cooler laid onto a board while it is drawn: what is dragged is answered at once. */
export function TryOnBoard({ cooler }: { cooler: Cooler }) {
  const { data: boards = [] } = api.useBoardsQuery();
  const [boardId, setBoardId] = useState("");
  const { data: view } = api.useBoardMapQuery(boardId, { skip: boardId === "" });
  const map = view && view.boardModelId === boardId ? view.map : null;
  const answer = useMemo(() => fittedOf({ cooler, map, plan: EMPTY_COOLER_PLAN }), [cooler, map]);
  return (
    <Sheet title="Try it on a board">
      <SelectField label="Board model" value={boardId} onChange={(event) => setBoardId(event.target.value)}>
        <option value="">Choose one</option>
        {boards.map((board) => (
          <option key={board.id} value={board.id}>
            {board.name}
          </option>
        ))}
      </SelectField>
      {map && (
        <div className="mt-3 space-y-2">
          <p role="status" className="text-lg font-semibold">
            {view?.boardName}: {fitHeadline(answer)}
          </p>
          {answer && "ok" in answer ? (
            <BoardPlan
              map={{ ...map, cooler: answer.ok.mounted.map.cooler }}
              side="front"
              label={`${cooler.name} on ${view?.boardName ?? ""}`}
              marks={fitMarks(answer.ok.fit)}
              overlay={<CoolerOverlay map={map} cooler={cooler} fit={answer.ok.fit} />}
            />
          ) : (
            answer && <p>{answer.problem.remedy}</p>
          )}
        </div>
      )}
    </Sheet>
  );
}
