import { useEffect, useRef, useState } from "react";
import { type BoardMap, type Layer, layerOf, type MapEdit, screwWords, THREADS } from "#core/boardmap/index.ts";
import { outId } from "#core/handwork/index.ts";
import type { MadeMark } from "../../parts/steps/use-marks.ts";
import { Button } from "../../ui/button.tsx";
import { Choice } from "../../ui/choice.tsx";
import { NumberField } from "../../ui/number-field.tsx";

/** Where a keyboard would come up over the plan, it is asked for by a tap. */
const HAS_KEYS = matchMedia("(pointer: fine)").matches;

/** What was tapped at this layer so far, the last one first: its length and thread, typed or by caliper. */
export function LearnPanel({
  map,
  layer,
  tapped,
  onTapped,
  learn,
  mark,
}: {
  map: BoardMap;
  layer: Layer;
  tapped: "screw" | "plug";
  /** Null where a tap can only be one of them. */
  onTapped: ((kind: "screw" | "plug") => void) | null;
  learn: (...edits: MapEdit[]) => void;
  mark: (...made: readonly MadeMark[]) => void;
}) {
  const screws = map.screws.filter((screw) => layerOf(screw) === layer && !screw.leaveAlone);
  const plugs = map.plugs.filter((plug) => plug.layer === layer);
  const [chosen, setChosen] = useState<string | null>(null);
  const screw = screws.find(({ id }) => id === chosen) ?? screws.at(-1);
  const fields = useRef<HTMLDivElement>(null);
  const newest = screws.at(-1)?.id;
  const seen = useRef(newest);
  useEffect(() => {
    if (newest === seen.current) return;
    seen.current = newest;
    // Tapped, then measured: a caliper types right away.
    if (HAS_KEYS) fields.current?.querySelector("input")?.focus();
  }, [newest]);
  const remove = (id: string): void => {
    learn({ edit: "remove", id });
    mark({ stepId: outId(id), what: "undone" }, { stepId: `plug:${id}`, what: "undone" });
  };
  return (
    <div className="space-y-3 rounded-xl border border-line bg-sheet p-4">
      {onTapped && (
        <Choice
          label="A tap is"
          value={tapped}
          options={[
            { value: "screw", label: "A screw" },
            { value: "plug", label: "A plug or cable" },
          ]}
          onChange={onTapped}
        />
      )}
      {screw && tapped === "screw" && (
        <div
          ref={fields}
          role="group"
          aria-label={`Size of ${screw.id}`}
          className="space-y-2"
          key={screw.id}
          onKeyDown={(event) => {
            // On to the next hole.
            if (event.key === "Enter") document.querySelector<HTMLElement>("[data-step-field]")?.focus();
          }}
        >
          <NumberField
            label={`Length of ${screw.id}`}
            unit="mm"
            value={screw.lengthMm}
            optional
            least={0.5}
            most={60}
            onValue={(lengthMm) => learn({ edit: "change", id: screw.id, more: { lengthMm } })}
          />
          <Choice
            label={`Thread of ${screw.id}`}
            value={screw.thread ?? "unknown"}
            options={[...THREADS, "unknown" as const].map((value) => ({ value, label: value }))}
            onChange={(value) =>
              learn({ edit: "change", id: screw.id, more: { thread: value === "unknown" ? null : value } })
            }
          />
        </div>
      )}
      <ul className="space-y-1">
        {screws.toReversed().map((one) => (
          <li key={one.id} className="flex items-center justify-between gap-2">
            <button
              type="button"
              aria-pressed={one.id === screw?.id}
              className="min-h-11 text-left hover:underline aria-pressed:font-semibold"
              onClick={() => setChosen(one.id)}
            >
              {one.id}: {screwWords(one)}
            </button>
            <Button look="quiet" onClick={() => remove(one.id)} aria-label={`Remove ${one.id}`}>
              Remove
            </Button>
          </li>
        ))}
        {plugs.map((one) => (
          <li key={one.id} className="flex items-center justify-between gap-2">
            <span>
              {one.id}: {one.kind}
            </span>
            <Button look="quiet" onClick={() => remove(one.id)} aria-label={`Remove ${one.id}`}>
              Remove
            </Button>
          </li>
        ))}
      </ul>
      {screws.length + plugs.length === 0 && (
        <p className="text-soft">
          Nothing tapped yet. With the keyboard: arrows move the cross on the plan, Enter taps.
        </p>
      )}
    </div>
  );
}
