import { BowOverlay } from "../../parts/board/bow-overlay.tsx";
import { BoardPlan, nextPicked } from "../../ui/board-plan.tsx";
import { LinkButton } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { bowWords, SCALE_WORDS, SHOWN } from "./seat-marks.ts";
import type { Seat } from "./use-seat.ts";
import { Verdict, Warnings } from "./verdict.tsx";

/** The verdict over the plan, on which parts and screws are dragged. */
export function SeatPlan({ seat, anyPad }: { seat: Seat; anyPad: boolean }) {
  const { judged, map, places, edits, shown, side, marks, picked } = seat;
  return (
    <div className="min-w-0 space-y-3">
      <Verdict judged={judged} map={map} places={places} any={anyPad} />
      <FaultNote fault={edits.fault} />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <Choice label="Shown on the plan" hideLabel value={shown} options={SHOWN} onChange={seat.setShown} />
        {places.some((one) => one.side === "back") && (
          <Choice
            label="Side"
            hideLabel
            value={side}
            options={[
              { value: "front", label: "Front" },
              { value: "back", label: "Back" },
            ]}
            onChange={seat.setSide}
          />
        )}
      </div>
      <BoardPlan
        map={edits.map}
        side={side}
        label={`Pads of ${places.length} places, ${SHOWN.find((one) => one.value === shown)?.label.toLowerCase()}`}
        marks={marks}
        picked={picked}
        drag={seat.drag}
        canDrag={(thing) => thing.type !== "die"}
        onPick={(id, add) => seat.setPicked(nextPicked(picked, id, add))}
        underlay={
          shown === "bow" && judged.judgement ? (
            <BowOverlay bow={judged.judgement.bow} heightMm={map.board.heightMm} />
          ) : undefined
        }
      />
      <p className="text-sm text-soft">
        {shown === "bow" ? bowWords(judged.judgement) : SCALE_WORDS[shown]} Hatch and first figure are the pad’s
        thickness in mm. Drag a part or a screw and the answer follows; what you drop is kept in the map.
      </p>
      <div className="flex justify-end">
        <LinkButton to="?do=cut" look={judged.judgement?.seated ? "main" : "plain"}>
          Next: cut the pads
        </LinkButton>
      </div>
      <Warnings judged={judged} onShow={(id) => seat.setPicked([id])} />
    </div>
  );
}
