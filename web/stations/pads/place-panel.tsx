import { useEffect, useRef, useState } from "react";
import type { KeptGapReading } from "#contract";
import type { Problem } from "#core";
import type { MapPart } from "#core/boardmap/index.ts";
import {
  GAP_SOURCES,
  type GapSource,
  OLD_PAD_SOFTNESS,
  OLD_PAD_STATES,
  type OldPadSoftness,
  type OldPadState,
} from "#core/gaps/index.ts";
import { api } from "../../app/api.ts";
import { isTyping } from "../../app/keys.ts";
import { withUndo } from "../../app/with-undo.ts";
import { COOLED_WORDS } from "../../parts/board/words.ts";
import { Button } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { numberOrNull, SelectField, TextField } from "../../ui/field.tsx";
import { figure } from "../../ui/format.ts";
import { FaultNote, Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { Working } from "../../ui/working.tsx";
import type { PadStepProps } from "./step-props.ts";
import type { TypedReadings } from "./use-typed-readings.ts";

const SOURCE_WORDS: Record<GapSource, string> = {
  squeezed: "Old pad, squeezed place",
  unsqueezed: "Old pad, unsqueezed edge",
  gap: "The gap itself",
  guide: "Guide value",
};

/** How the last reading was taken, so that the next place starts the same way. */
const last = {
  source: "squeezed" as GapSource,
  padState: "unknown" as OldPadState,
  softness: "unknown" as OldPadSoftness,
  unit: "mm" as "mm" | "in",
};

/** One place: its gap, its readings, and the field a caliper types into. */
export function PlacePanel({
  place,
  places,
  job,
  gaps,
  readings,
  onStep,
}: Pick<PadStepProps, "job" | "gaps"> & {
  place: MapPart;
  places: MapPart[];
  readings: TypedReadings;
  onStep: (by: number) => void;
}) {
  const text = readings.textOf(place.id);
  const [how, setHow] = useState({ ...last });
  const [cover, setCover] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
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
  /** Keeps what is typed; whether there is nothing wrong with it. */
  const keepReading = (): boolean => {
    const coverPct = numberOrNull(cover);
    const wrong = readings.keepTyped(place.id, { ...how, coverPct });
    setProblem(wrong);
    return !wrong;
  };
  const leave = (by: number): void => {
    if (text.trim() === "" || keepReading()) onStep(by);
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
        {gap ? (
          <>
            {figure(gap.gapMm, 2)} <span className="text-lg font-semibold text-soft">± {figure(gap.u95Mm, 2)} mm</span>
          </>
        ) : (
          <span className="text-lg font-semibold text-soft">not measured yet</span>
        )}
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
          if (text.trim() === "") onStep(1);
          else keepReading();
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
            onChange={(event) => readings.type(place.id, event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "PageDown" || event.key === "PageUp") {
                event.preventDefault();
                leave(event.key === "PageDown" ? 1 : -1);
              }
            }}
            className="min-h-14 w-full rounded-lg border-2 border-edge bg-sheet px-3 text-2xl font-semibold aria-invalid:border-danger"
          />
          <p id="reading-hint" className="mt-1 text-sm text-soft">
            Several with blanks between them. Enter keeps; Enter on nothing goes on to the next place, Page up and Page
            down keep and step.
          </p>
        </div>
        {problem && (
          <Note kind="fault" live title={problem.what}>
            {problem.remedy}
          </Note>
        )}
        {text !== "" && <FaultNote fault={readings.fault} />}
        <div className="flex flex-wrap gap-2">
          <Button look="main" type="submit">
            {text.trim() === "" ? "Next place" : "Keep"}
          </Button>
          <Button onClick={() => leave(-1)}>Previous place</Button>
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
          <OldPad how={how} cover={cover} onHow={set} onCover={setCover} />
        )}
      </form>
      <KeptReadings placeId={place.id} own={own} />
      <GapWorking />
    </Sheet>
  );
}

interface OldPadProps {
  how: typeof last;
  cover: string;
  onHow: (more: Partial<typeof last>) => void;
  onCover: (text: string) => void;
}

/** What is seen and felt of the pad that is measured. */
function OldPad({ how, cover, onHow: set, onCover: setCover }: OldPadProps) {
  return (
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
  );
}

/** Readings taken here on this card. */
function KeptReadings({ placeId, own }: { placeId: string; own: readonly KeptGapReading[] }) {
  const [remove] = api.useRemoveGapMutation();
  if (own.length === 0) return null;
  return (
    <ul className="mt-3 divide-y divide-line" aria-label={`Readings of ${placeId}`}>
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
            onClick={() => void withUndo("Reading removed", (removed) => remove({ gapId: one.id, body: { removed } }))}
          >
            Remove
          </Button>
        </li>
      ))}
    </ul>
  );
}

function GapWorking() {
  return (
    <Working>
      <p>
        Gap = reading ÷ ((1 + spring-back) × (1 − jaw squeeze)) for a squeezed place; an unsqueezed edge and a guide
        value tell the new pad’s thickness, which is meant to be squeezed by 20 ± 10 %.
      </p>
      <p>
        Places of a kind differ by 0.10 mm, cards of a model by 0.08 mm (one standard deviation each). All readings are
        weighed together, with the error that like readings share. Spring-back, jaw squeeze and spreads are common
        practice of the trade; the arithmetic follows JCGM 100:2008.
      </p>
    </Working>
  );
}
