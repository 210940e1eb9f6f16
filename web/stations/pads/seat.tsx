import { useCallback, useMemo, useState } from "react";
import { Link } from "react-router";
import { toast } from "sonner";
import { type BoardMap, moveThings, snapped } from "#core/boardmap/index.ts";
import {
  fullPick,
  type Judgement,
  type PadChoice,
  type PadPick,
  type PadWork,
  PUTTY_MORE_MM,
  placesOf,
  USUAL_POWER_W,
} from "#core/padplan/index.ts";
import { api } from "../../app/api.ts";
import { BoardPlan, nextPicked, type PlanDrag, type PlanMarks } from "../../ui/board-plan.tsx";
import { LinkButton } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { SelectField } from "../../ui/field.tsx";
import { MmField } from "../../ui/mm-field.tsx";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { Working } from "../../ui/working.tsx";
import { useJudgement, usePadSession } from "../../workers/use-pad-session.ts";
import { BowOverlay } from "./bow-overlay.tsx";
import { ChoosePanel } from "./choose-panel.tsx";
import { PickPanel } from "./pick-panel.tsx";
import { ScrewPanel } from "./screw-panel.tsx";
import type { PadStepProps } from "./step-props.ts";
import { padMaterials, padOffers } from "./stock.ts";
import { useMapEdits } from "./use-map-edits.ts";
import { Verdict, Warnings } from "./verdict.tsx";

const SHOWN = [
  { value: "pressure", label: "Pressure" },
  { value: "squeeze", label: "Squeeze" },
  { value: "heat", label: "Temperature" },
  { value: "bow", label: "Board bow" },
] as const;
type Shown = (typeof SHOWN)[number]["value"];

/** Chosen pads against the die's seat: the answer follows every change, also while something is dragged. */
export function SeatPads({ job, map: kept, gaps, plan }: PadStepProps) {
  const { data: stores } = api.useStoresQuery();
  const [trial, setTrial] = useState<BoardMap | null>(null);
  const [picked, setPicked] = useState<string[]>([]);
  const [shown, setShown] = useState<Shown>("pressure");
  const [side, setSide] = useState<"front" | "back">("front");
  const [choice, setChoice] = useState<PadChoice | null>(null);
  const remote = usePadSession();
  const edits = useMapEdits(job.boardModelId ?? "", kept);
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
    edits.keep(next, ids);
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
        action: { label: "Undo", onClick: () => edits.keep(before, ids) },
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
  if (stores && offers.length === 0)
    return (
      <Note kind="caution" title="The stores are empty">
        There is no pad sheet and no putty in stock, and none on the price list, so nothing can be chosen from.{" "}
        <Link className="font-semibold text-ice underline" to="/stores">
          Add what you have, or can buy
        </Link>
        ; the readings are kept.
      </Note>
    );
  return (
    <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_23rem]">
      <div className="min-w-0 space-y-3">
        <Verdict judged={judged} map={map} places={places} any={Object.values(plan.plan.picks).some(Boolean)} />
        <FaultNote fault={edits.fault} />
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <Choice label="Shown on the plan" hideLabel value={shown} options={SHOWN} onChange={setShown} />
          {places.some((one) => one.side === "back") && (
            <Choice
              label="Side"
              hideLabel
              value={side}
              options={[
                { value: "front", label: "Front" },
                { value: "back", label: "Back" },
              ]}
              onChange={setSide}
            />
          )}
        </div>
        <BoardPlan
          map={edits.map}
          side={side}
          label={`Pads of ${places.length} places, ${SHOWN.find((one) => one.value === shown)?.label.toLowerCase()}`}
          marks={marks}
          picked={picked}
          drag={drag}
          canDrag={(thing) => thing.type !== "die"}
          onPick={(id, add) => setPicked(nextPicked(picked, id, add))}
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
        <Warnings judged={judged} onShow={(id) => setPicked([id])} />
      </div>
      <div className="space-y-4">
        <ChoosePanel
          plan={plan}
          choice={choice}
          remote={remote}
          input={
            work && {
              map: work.map,
              gapsMm: work.gapsMm,
              materials,
              offers,
              covariance: gaps.covariance,
              prefer: plan.plan.prefer,
            }
          }
          onChoice={(found) => {
            setChoice(found);
            setPicks(Object.fromEntries(found.pads.map(({ id, pick }) => [id, pick])));
          }}
        />
        <SelectField
          label="Look at"
          value={picked.length === 1 ? picked[0] : ""}
          onChange={(event) => setPicked(event.target.value === "" ? [] : [event.target.value])}
        >
          <option value="">{picked.length > 1 ? `${picked.length} places` : "a place or a screw"}</option>
          {[...places, ...map.screws].map(({ id }) => (
            <option key={id}>{id}</option>
          ))}
        </SelectField>
        {screw ? (
          <ScrewPanel
            screw={screw}
            pullN={judged.judgement?.pullsN[map.screws.indexOf(screw)] ?? null}
            onTry={(next) => setTrial({ ...map, screws: map.screws.map((one) => (one.id === next.id ? next : one)) })}
            onKeep={(next) =>
              keepMap({ ...map, screws: map.screws.map((one) => (one.id === next.id ? next : one)) }, [next.id])
            }
          />
        ) : (
          <PickPanel
            places={chosenPlaces}
            all={places}
            picks={plan.plan.picks}
            materials={materials}
            offers={offers}
            gaps={gaps}
            judgement={judged.judgement}
            choice={choice}
            onPick={(ids, pick) => {
              setChoice(null);
              setPicks(
                Object.fromEntries(
                  ids.map((id) => {
                    const part = places.find((one) => one.id === id);
                    return [id, part && pick ? pick(part) : null];
                  }),
                ),
              );
            }}
            onSelect={setPicked}
            usual={(part, material, thicknessMm) =>
              fullPick(
                part,
                material,
                thicknessMm ??
                  Math.ceil(10 * ((gaps.gaps.find((gap) => gap.id === part.id)?.gapMm ?? 1) + PUTTY_MORE_MM)) / 10,
              )
            }
          />
        )}
        <Sheet title="Temperatures assume">
          <MmField
            label="Cooler face (°C)"
            value={plan.plan.faceC}
            optional
            least={0}
            most={120}
            hint={
              plan.plan.faceC === null ? `${job.face.valueC} °C: ${job.face.source}` : "typed; empty it for the run’s"
            }
            onValue={(value) => plan.change({ faceC: value })}
          />
          <Working title="Show the assumptions">
            <p>
              Heat per part: memory {USUAL_POWER_W.memory} W, MOSFET {USUAL_POWER_W.mosfet} W, choke{" "}
              {USUAL_POWER_W.choke} W, controller {USUAL_POWER_W.controller} W (common practice, not measured).
            </p>
            <p>
              θ = bond line ÷ (k × area) + joints of 12 to 40 mm²K/W by pressure, spread from the silicon in the middle
              of the package; beside it 30 K/W into the board. Good for comparing choices, not for promises.
            </p>
          </Working>
        </Sheet>
      </div>
    </div>
  );
}

/** From where to where the board is bent, so that the shades can be read. */
function bowWords(judgement: Judgement | null): string {
  const off = judgement?.bow.offMm ?? [];
  const [low, high] = [Math.min(0, ...off), Math.max(0, ...off)];
  return `Against the plane of the die: strongest blue ${high.toFixed(2)} mm toward the cooler, faintest ${Math.abs(low).toFixed(2)} mm away from it.`;
}

const SCALE_WORDS: Record<Exclude<Shown, "bow">, string> = {
  pressure: "The second figure is the pressure in kPa: the stronger the blue, the more, up to 500.",
  squeeze: "The second figure is how far the pad is squeezed: the stronger the blue, the more, up to 50 %.",
  heat: "The second figure is the estimated °C: the stronger the blue, the hotter, up to 40 K above the cooler face.",
};

function marksOf(
  ids: readonly string[],
  picks: PadWork["picks"],
  judgement: Judgement | null,
  shown: Shown,
): PlanMarks {
  const marks: Record<string, PlanMarks[string]> = {};
  for (const id of ids) {
    const pick = picks[id];
    const found = judgement?.places.find((one) => one.id === id);
    const warning = judgement?.contact.warnings.find((one) => one.id === id);
    const figures = found && {
      pressure: [found.pressureKPa / 500, found.pressureKPa.toFixed(0)],
      squeeze: [found.compressionPct / 50, `${found.compressionPct.toFixed(0)}%`],
      heat: [found.heat.riseK / 40, `${found.temperatureC.toFixed(0)}°`],
      bow: [undefined, ""],
    };
    const [wash, words] = figures?.[shown] ?? [undefined, ""];
    marks[id] = {
      text: pick
        ? [`${pick.thicknessMm}${pick.layers > 1 ? `×${pick.layers}` : ""}`, words].filter(Boolean).join(" ")
        : "–",
      ...(pick ? { hatchMm: pick.thicknessMm } : {}),
      ...(pick && typeof wash === "number" ? { wash } : {}),
      ...(warning
        ? { tone: warning.code === "pad-no-contact" || warning.code === "pad-too-thick" ? "danger" : "amber" }
        : {}),
    };
  }
  if (judgement && !judgement.seated) marks.die = { tone: "danger" };
  return marks;
}
