import { useEffect, useMemo, useRef, useState } from "react";
import { Problem } from "#core";
import type { MapPart } from "#core/boardmap/index.ts";
import {
  GAP_SOURCES,
  type GapSource,
  OLD_PAD_SOFTNESS,
  OLD_PAD_STATES,
  type OldPadSoftness,
  type OldPadState,
  parseReadings,
} from "#core/gaps/index.ts";
import { placesOf } from "#core/padplan/index.ts";
import { api } from "../../app/api.ts";
import { isTyping } from "../../app/keys.ts";
import { withUndo } from "../../app/with-undo.ts";
import { BoardPlan, type PlanMarks } from "../../ui/board-plan.tsx";
import { Button, LinkButton } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { SelectField, TextField } from "../../ui/field.tsx";
import { figure } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { Working } from "../../ui/working.tsx";
import { COOLED_WORDS } from "../board-map/selection.tsx";
import type { PadStepProps } from "./station.tsx";

export const SOURCE_WORDS: Record<GapSource, string> = {
  squeezed: "Old pad, squeezed place",
  unsqueezed: "Old pad, unsqueezed edge",
  gap: "The gap itself",
  guide: "Guide value",
};

/** Wider than this (± mm) a gap is not known well enough to choose by: a quarter of a millimetre parts two sheets. */
const WELL_KNOWN_MM = 0.25;

/** From place to place with the keyboard; the gap is inferred as readings come in. */
export function MeasurePads({ job, map, gaps }: PadStepProps) {
  const places = useMemo(() => placesOf(map), [map]);
  const [at, setAt] = useState(places[0]?.id ?? "");
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
      <PlacePanel key={place.id} place={place} places={places} job={job} gaps={gaps} onStep={step} />
    </div>
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

/** How the last reading was taken, so that the next place starts the same way. */
const last = {
  source: "squeezed" as GapSource,
  padState: "unknown" as OldPadState,
  softness: "unknown" as OldPadSoftness,
  unit: "mm" as "mm" | "in",
};

function PlacePanel({
  place,
  places,
  job,
  gaps,
  onStep,
}: Pick<PadStepProps, "job" | "gaps"> & { place: MapPart; places: MapPart[]; onStep: (by: number) => void }) {
  const [text, setText] = useState("");
  const [how, setHow] = useState({ ...last });
  const [cover, setCover] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
  const [add, { error, isLoading }] = api.useAddGapsMutation();
  const [remove] = api.useRemoveGapMutation();
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => input.current?.focus({ preventScroll: true }), []);
  useEffect(() => {
    // A caliper types wherever the focus is; its digits belong here.
    const listen = (event: KeyboardEvent): void => {
      if (/^\d$/.test(event.key) && !isTyping(event.target) && !event.ctrlKey) input.current?.focus();
    };
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  }, []);
  const gap = gaps.gaps.find((one) => one.id === place.id);
  const own = job.readings.filter((one) => one.partId === place.id && one.card === job.serviceId);
  const set = (more: Partial<typeof last>): void => {
    Object.assign(last, more);
    setHow({ ...how, ...more });
  };
  const keep = async (): Promise<void> => {
    if (text.trim() === "") return onStep(1);
    try {
      const values = parseReadings(text, how.unit);
      const share = cover.trim() === "" ? null : Number(cover.replace(",", "."));
      setProblem(null);
      const { source, padState, softness } = how;
      const answer = await add({
        serviceId: job.serviceId,
        body: {
          readings: values.map((valueMm) => ({
            partId: place.id,
            source,
            valueMm,
            padState,
            softness,
            coverPct: share,
          })),
        },
      });
      if ("data" in answer) setText("");
    } catch (found) {
      if (!(found instanceof Problem)) throw found;
      setProblem(found);
    }
  };
  const index = places.indexOf(place);
  return (
    <Sheet
      title={place.id}
      className="max-lg:order-first"
      action={
        <span className="text-sm text-soft">
          {place.kind}, {COOLED_WORDS[place.cooledBy]} · {index + 1} of {places.length}
        </span>
      }
    >
      <p className="figure text-3xl font-bold" aria-live="polite">
        {figure(gap?.gapMm, 2)} <span className="text-lg font-semibold text-soft">± {figure(gap?.u95Mm, 2)} mm</span>
      </p>
      <p className="mb-3 text-sm text-soft">
        gap between part and cooler face, 95 %;{" "}
        {own.length === 0
          ? "from like places and earlier cards"
          : own.length === 1
            ? "one reading here"
            : `${own.length} readings here`}
      </p>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <SelectField
          label="What is measured"
          value={how.source}
          onChange={(event) => set({ source: event.target.value as GapSource })}
        >
          {GAP_SOURCES.map((source) => (
            <option key={source} value={source}>
              {SOURCE_WORDS[source]}
            </option>
          ))}
        </SelectField>
        <div>
          <label htmlFor="reading" className="mb-1 block font-medium">
            Reading of {place.id} ({how.unit === "mm" ? "mm" : "inch"})
          </label>
          <input
            id="reading"
            ref={input}
            value={text}
            inputMode="decimal"
            autoComplete="off"
            aria-invalid={problem ? true : undefined}
            aria-describedby="reading-hint"
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "PageDown" || event.key === "PageUp") {
                event.preventDefault();
                onStep(event.key === "PageDown" ? 1 : -1);
              }
            }}
            className="min-h-14 w-full rounded-lg border-2 border-edge bg-sheet px-3 text-2xl font-semibold aria-invalid:border-danger"
          />
          <p id="reading-hint" className="mt-1 text-sm text-soft">
            Several with blanks between them. Enter keeps; Enter on nothing goes on to the next place, Page up and Page
            down step.
          </p>
        </div>
        {problem && (
          <Note kind="fault" live title={problem.what}>
            {problem.remedy}
          </Note>
        )}
        <FaultNote error={error} />
        <div className="flex flex-wrap gap-2">
          <Button look="main" type="submit" disabled={isLoading}>
            {text.trim() === "" ? "Next place" : "Keep"}
          </Button>
          <Button onClick={() => onStep(-1)}>Previous place</Button>
        </div>
        <Choice
          label="Unit"
          value={how.unit}
          options={[
            { value: "mm", label: "mm" },
            { value: "in", label: "inch" },
          ]}
          onChange={(unit) => set({ unit })}
        />
        {(how.source === "squeezed" || how.source === "unsqueezed") && (
          <div className="grid grid-cols-2 gap-2">
            <SelectField
              label="Old pad is"
              value={how.padState}
              onChange={(event) => set({ padState: event.target.value as OldPadState })}
            >
              {OLD_PAD_STATES.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </SelectField>
            <SelectField
              label="It feels"
              value={how.softness}
              onChange={(event) => set({ softness: event.target.value as OldPadSoftness })}
            >
              {OLD_PAD_SOFTNESS.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </SelectField>
            <TextField
              label="It covered (%)"
              inputMode="decimal"
              value={cover}
              onChange={(event) => setCover(event.target.value)}
            />
          </div>
        )}
      </form>
      {own.length > 0 && (
        <ul className="mt-3 divide-y divide-line" aria-label={`Readings of ${place.id}`}>
          {own.map((one) => (
            <li key={one.id} className="flex items-center justify-between gap-2">
              <span>
                <strong>{one.valueMm.toFixed(2)} mm</strong> <span className="text-sm text-soft">{one.source}</span>
                {one.coverPct !== null && one.coverPct < 70 && (
                  <span className="block text-sm text-amber">covered {one.coverPct} %: cut the new one full size</span>
                )}
              </span>
              <Button
                look="quiet"
                aria-label={`Remove ${one.valueMm.toFixed(2)} mm`}
                onClick={() => void withUndo("Reading removed", (removed) => remove({ id: one.id, removed }))}
              >
                Remove
              </Button>
            </li>
          ))}
        </ul>
      )}
      <Working>
        <p>
          Gap = reading ÷ ((1 + spring-back) × (1 − jaw squeeze)) for a squeezed place; an unsqueezed edge and a guide
          value tell the new pad’s thickness, which is meant to be squeezed by 20 ± 10 %.
        </p>
        <p>
          Places of a kind differ by 0.10 mm, cards of a model by 0.08 mm (one standard deviation each). All readings
          are weighed together, with the error that like readings share. Spring-back, jaw squeeze and spreads are common
          practice of the trade; the arithmetic follows JCGM 100:2008.
        </p>
      </Working>
    </Sheet>
  );
}
