import { Link } from "react-router";
import { type MapPart, type MapScrew, pullingScrews } from "#core/boardmap/index.ts";
import { fullPick, type PadMaterial, PUTTY_MORE_MM } from "#core/padplan/index.ts";
import { SelectField } from "../../ui/field.tsx";
import { Note } from "../../ui/note.tsx";
import { ChoosePanel } from "./choose-panel.tsx";
import { PickPanel } from "./pick-panel.tsx";
import { ScrewPanel } from "./screw-panel.tsx";
import { SeatPlan } from "./seat-plan.tsx";
import type { PadStepProps } from "./step-props.ts";
import { Temperatures } from "./temperatures.tsx";
import { type Seat, useSeat } from "./use-seat.ts";

/** Chosen pads against the die's seat: the answer follows every change, also while something is dragged. */
export function SeatPads(props: PadStepProps) {
  const seat = useSeat(props);
  if (seat.stores && seat.offers.length === 0)
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
      <SeatPlan seat={seat} anyPad={Object.values(props.plan.plan.picks).some(Boolean)} />
      <SeatTools seat={seat} {...props} />
    </div>
  );
}

/** What is chosen for the places, one place or one screw at a time. */
function SeatTools({ seat, job, gaps, plan }: PadStepProps & { seat: Seat }) {
  const { map, places, materials, offers, work, judged, picked, setPicked, choice, setChoice, setPicks, screw } = seat;
  const withScrew = (next: MapScrew) => ({
    ...map,
    screws: map.screws.map((one) => (one.id === next.id ? next : one)),
  });
  const usual = (part: MapPart, material: PadMaterial, thicknessMm: number | null) =>
    fullPick(
      part,
      material,
      thicknessMm ?? Math.ceil(10 * ((gaps.gaps.find((gap) => gap.id === part.id)?.gapMm ?? 1) + PUTTY_MORE_MM)) / 10,
    );
  return (
    <div className="space-y-4">
      <ChoosePanel
        plan={plan}
        choice={choice}
        remote={seat.remote}
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
          pullN={judged.judgement?.pullsN[pullingScrews(map).indexOf(screw)] ?? null}
          onTry={(next) => seat.setTrial(withScrew(next))}
          onKeep={(next) => seat.keepMap(withScrew(next), [next.id])}
        />
      ) : (
        <PickPanel
          places={seat.chosenPlaces}
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
          usual={usual}
        />
      )}
      <Temperatures job={job} plan={plan} />
    </div>
  );
}
