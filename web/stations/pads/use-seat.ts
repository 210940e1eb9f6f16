import { useCallback, useMemo, useState } from "react";
import { toast } from "sonner";
import { type BoardMap, moveThings, snapped } from "#core/boardmap/index.ts";
import { type PadChoice, type PadPick, type PadWork, placesOf, USUAL_POWER_W } from "#core/padplan/index.ts";
import { api } from "../../app/api.ts";
import { padMaterials, padOffers } from "../../parts/pads/stock.ts";
import type { PlanDrag } from "../../ui/board-plan.tsx";
import { useJudgement, usePadSession } from "../../workers/use-pad-session.ts";
import { marksOf, type Shown } from "./seat-marks.ts";
import type { PadStepProps } from "./step-props.ts";
import { useMapEdits } from "./use-map-edits.ts";

/** Chosen pads against the die's seat: what is picked, shown and tried, and the answer that follows every change. */
export function useSeat({ job, map: kept, gaps, plan }: PadStepProps) {
  const { data: stores } = api.useStoresQuery();
  const [trial, setTrial] = useState<BoardMap | null>(null);
  const [picked, setPicked] = useState<string[]>([]);
  const [shown, setShown] = useState<Shown>("pressure");
  const [side, setSide] = useState<"front" | "back">("front");
  const [choice, setChoice] = useState<PadChoice | null>(null);
  const remote = usePadSession();
  const edits = useMapEdits(job.boardModelId ?? "", kept, job.mapVersion);
  const map = trial ?? edits.map;
  const places = useMemo(() => placesOf(map), [map]);
  const materials = useMemo(() => (stores ? padMaterials(stores) : []), [stores]);
  const offers = useMemo(() => (stores ? padOffers(stores) : []), [stores]);
  const faceC = plan.plan.faceC ?? job.face.valueC;
  const work = useMemo(
    (): PadWork | null =>
      stores
        ? {
            map,
            gapsMm: Object.fromEntries(gaps.gaps.map((gap) => [gap.id, gap.gapMm])),
            picks: plan.plan.picks,
            materials,
            heat: { faceC, powerW: USUAL_POWER_W },
          }
        : null,
    [map, gaps, plan.plan.picks, materials, stores, faceC],
  );
  const judged = useJudgement(remote, work);
  const keepMap = (next: BoardMap, ids: readonly string[]): void => {
    setTrial(null);
    edits.keepThings(next, ids);
  };
  const cancel = useCallback(() => setTrial(null), []);
  const drag: PlanDrag = {
    onCancel: cancel,
    snap: (ids, dx, dy) => snapped(edits.map, ids, dx, dy, 0.5, 0.7),
    onMove: (ids, dx, dy) => setTrial(moveThings(edits.map, ids, dx, dy)),
    onDrop: (ids, dx, dy) => {
      const before = edits.map;
      keepMap(moveThings(before, ids, dx, dy), ids);
      toast(`${ids.join(", ")} moved on the map`, {
        action: { label: "Undo", onClick: () => edits.keepThings(before, ids) },
      });
    },
  };
  const marks = useMemo(
    () =>
      marksOf(
        places.map((one) => one.id),
        plan.plan.picks,
        judged.judgement,
        shown,
      ),
    [places, plan.plan.picks, judged.judgement, shown],
  );
  // Places that left the map take their picks with them.
  const setPicks = (more: Record<string, PadPick | null>): void =>
    plan.change({
      picks: Object.fromEntries(
        places.map(({ id }) => [id, more[id] === undefined ? (plan.plan.picks[id] ?? null) : more[id]]),
      ),
    });
  const chosenPlaces = places.filter((one) => picked.includes(one.id));
  const screw = map.screws.find((one) => one.id === picked[0]);
  return {
    stores,
    edits,
    map,
    places,
    materials,
    offers,
    work,
    remote,
    judged,
    drag,
    marks,
    picked,
    setPicked,
    shown,
    setShown,
    side,
    setSide,
    choice,
    setChoice,
    setPicks,
    setTrial,
    keepMap,
    chosenPlaces,
    screw,
  };
}

export type Seat = ReturnType<typeof useSeat>;
