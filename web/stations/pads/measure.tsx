import { useMemo, useState } from "react";
import type { MapPart } from "#core/boardmap/index.ts";
import { placesOf } from "#core/padplan/index.ts";
import { BoardPlan, type PlanMarks } from "../../ui/board-plan.tsx";
import { LinkButton } from "../../ui/button.tsx";
import { Note } from "../../ui/note.tsx";
import { PlacePanel } from "./place-panel.tsx";
import type { PadStepProps } from "./step-props.ts";
import { useTypedReadings } from "./use-typed-readings.ts";

/** Wider than this (± mm) a gap is not known well enough to choose by: a quarter of a millimetre parts two sheets. */
const WELL_KNOWN_MM = 0.25;

/** From place to place with the keyboard; the gap is inferred as readings come in. */
export function MeasurePads({ job, map, gaps }: PadStepProps) {
  const places = useMemo(() => placesOf(map), [map]);
  const [at, setAt] = useState(places[0]?.id ?? "");
  const readings = useTypedReadings(job.serviceId);
  const place = places.find((one) => one.id === at) ?? places[0];
  const marks = useMemo<PlanMarks>(
    () =>
      Object.fromEntries(
        gaps.gaps.map(({ id, gapMm, u95Mm }) => [
          id,
          {
            text: gapMm.toFixed(2),
            wash: Math.min(1, u95Mm / 0.5),
            ...(u95Mm > WELL_KNOWN_MM ? { tone: "amber" } : {}),
          },
        ]),
      ),
    [gaps],
  );
  if (!place) return null;
  const step = (by: number): void => {
    const index = places.indexOf(place);
    setAt(places[(index + by + places.length) % places.length]?.id ?? at);
  };
  const unknown = gaps.gaps.filter((gap) => gap.u95Mm > WELL_KNOWN_MM).length;
  return (
    <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_23rem]">
      <div className="min-w-0 space-y-3">
        <BoardPlan
          map={map}
          side={place.side}
          label={`Gaps of ${places.length} places; picked is ${place.id}`}
          marks={marks}
          picked={[place.id]}
          onPick={(id) => {
            if (places.some((one) => one.id === id)) setAt(id ?? at);
          }}
        />
        <p className="text-sm text-soft">
          Figures are gaps in mm, the stronger the blue the less sure; amber is wider than ± {WELL_KNOWN_MM} mm.
          {job.earlierCards > 0 &&
            ` Readings of ${job.earlierCards} earlier ${job.earlierCards === 1 ? "card" : "cards"} of this model count too.`}
        </p>
        <Unkept
          ids={places.flatMap(({ id }) => (readings.textOf(id) !== "" && id !== place.id ? [id] : []))}
          why={readings.fault?.what}
          onGo={setAt}
        />
        {gaps.next ? (
          <Note title={`Measure ${gaps.next.id} next`}>
            <p>
              One squeezed reading there would bring the gaps from ± {gaps.next.nowMeanU95Mm.toFixed(2)} to ±{" "}
              {gaps.next.meanU95Mm.toFixed(2)} mm on average.
            </p>
            <button
              type="button"
              className="min-h-9 font-semibold text-ice underline"
              onClick={() => setAt(gaps.next?.id ?? at)}
            >
              Go to {gaps.next.id}
            </button>
          </Note>
        ) : (
          <Note title="More readings would hardly narrow the gaps further" />
        )}
        <Astray job={job} places={places} />
        {gaps.odd.map((one) => (
          <Note key={one.readingId} kind="caution" title={one.text} live />
        ))}
        <div className="flex flex-wrap items-center justify-between gap-2">
          <p className={unknown > 0 ? "text-amber" : "text-soft"}>
            {unknown === 0
              ? "Every gap is known well enough to choose by."
              : `${unknown} of ${places.length} gaps are not known well enough yet.`}
          </p>
          <LinkButton to="?do=choose" look={unknown === 0 ? "main" : "plain"}>
            Next: will the die seat?
          </LinkButton>
        </div>
      </div>
      <PlacePanel
        key={place.id}
        place={place}
        places={places}
        job={job}
        gaps={gaps}
        readings={readings}
        onStep={step}
      />
    </div>
  );
}

/** Places with something typed that is not kept yet. */
function Unkept({
  ids: [first, ...others],
  why,
  onGo,
}: {
  ids: string[];
  why: string | undefined;
  onGo: (id: string) => void;
}) {
  if (first === undefined) return null;
  return (
    <Note kind="caution" title={`Typed and not kept yet: ${[first, ...others].join(", ")}`} live>
      {why}{" "}
      <button type="button" className="min-h-9 font-semibold text-ice underline" onClick={() => onGo(first)}>
        Go to {first}
      </button>
    </Note>
  );
}

/** Readings of places that are not on the map any more: they count for nothing, but are not lost. */
function Astray({ job, places }: Pick<PadStepProps, "job"> & { places: MapPart[] }) {
  const known = new Set(places.map((place) => place.id));
  const astray = job.readings.filter((one) => one.card === job.serviceId && !known.has(one.partId));
  if (astray.length === 0) return null;
  const names = [...new Set(astray.map((one) => one.partId))].join(", ");
  return (
    <Note kind="caution" title={`Not on the map: ${names}`}>
      {astray.length === 1 ? "One reading belongs" : `${astray.length} readings belong`} to a place of this name. Give a
      part this name again on the board map, and what cools it; until then {astray.length === 1 ? "it does" : "they do"}{" "}
      not count.
    </Note>
  );
}
