import { useMemo, useState } from "react";
import { begunMs, type ServiceView } from "#contract";
import { type BoardMap, EMPTY_MAP } from "#core/boardmap/index.ts";
import { type HandStep, layerId, learnId, stripFault, stripFound, stripSteps, warmthOf } from "#core/handwork/index.ts";
import { api } from "../../app/api.ts";
import { useLearn } from "../../parts/board/use-learn.ts";
import type { MadeMark } from "../../parts/steps/use-marks.ts";
import { useMarks } from "../../parts/steps/use-marks.ts";
import { planMark, useTurns } from "../../parts/steps/use-turns.ts";
import { usePadSession } from "../../workers/use-pad-session.ts";

/** Everything of taking a card apart: its map as it is learnt, the marks, the steps that follow from both. */
export function useStrip(service: ServiceView, boardModelId: string | null, isLooking: boolean) {
  const { data: view, error } = api.useBoardMapQuery(boardModelId ?? "", { skip: boardModelId === null });
  const attempt = service.attempts.length;
  const marks = useMarks(service.id, "strip", attempt, isLooking);
  const kept = view?.map ?? EMPTY_MAP;
  const { map, learn, fault } = useLearn(boardModelId ?? "", kept);
  const remote = usePadSession();
  const turning = useTurns(remote, "loosen", view ? map : null, null, marks.folded);
  const [now] = useState(() => Date.now());
  const run = service.runs.findLast(({ side, leftOut }) => side === "before" && leftOut === "");
  const warmth = useMemo(
    () => (run ? warmthOf(run.analysis, begunMs(run.analysis, run.createdAt), now) : null),
    [run, now],
  );
  const { turns } = turning;
  const { folded } = marks;
  const steps = useMemo(() => stripSteps({ map, folded, turns, warmth }), [map, folded, turns, warmth]);
  const found = useMemo(() => stripFound(map, folded), [map, folded]);
  const edit = learnFrom(learn, map);
  return {
    ready: marks.ready && (boardModelId === null || view !== undefined),
    error: error ?? marks.error,
    map,
    learn,
    fault,
    marks,
    turning,
    steps,
    found,
    remote,
    faultAt: (stepId: string, then: typeof folded): string => stripFault(stepId, stripFound(map, then)),
    /** What a step that is done leaves behind besides its mark. */
    onDone: (step: HandStep, value: string | null): MadeMark[] => {
      edit(step, value);
      // What is not known when it is reached stays to be learnt, whatever the map knows after the first tap.
      const learning = step.layer && step.id === layerId(step.layer) ? learnId(step.layer) : undefined;
      if (learning && value !== "none" && value !== "on" && steps.some(({ id }) => id === learning))
        return [{ stepId: learning, what: "begun" }];
      if (step.kind !== "turn" || turning.kept) return [];
      return [planMark(step.turn ? turns : null)];
    },
  };
}

export type Strip = ReturnType<typeof useStrip>;

/** Figures and answers that belong to the board, not to the card. */
function learnFrom(learn: ReturnType<typeof useLearn>["learn"], map: BoardMap) {
  return ({ id, layer, kind, things }: HandStep, value: string | null): void => {
    const mm = value === null ? Number.NaN : Number(value);
    const known = map.layers.find((one) => one.id === layer)?.there;
    if (kind === "figure" && Number.isFinite(mm)) {
      if (id === "board:width") learn({ edit: "board", more: { widthMm: mm } });
      if (id === "board:height") learn({ edit: "board", more: { heightMm: mm } });
      if (id === "die:width") learn({ edit: "die", more: { widthMm: mm } });
      if (id === "die:height") learn({ edit: "die", more: { heightMm: mm } });
    }
    if (kind === "screw" && Number.isFinite(mm) && things[0])
      learn({ edit: "change", id: things[0], more: { lengthMm: mm } });
    if (layer && value === "none" && known === null) learn({ edit: "layer", id: layer, there: false });
    if (layer && kind === "learn" && known === null) learn({ edit: "layer", id: layer, there: true });
  };
}
