import { useState } from "react";
import { API, type Card, type HandOverInput, type HandOverView, type ServiceView, urlOf } from "#contract";
import { useDocument } from "../../app/document.ts";
import { Button } from "../../ui/button.tsx";
import { AreaField, TextField } from "../../ui/field.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { HAND_OVER, ofHandOver } from "./use-hand-over.ts";

/** What usually leaves with a card after a kind of work (common practice of the trade, no source). */
const USUALLY: ReadonlyArray<readonly [work: ServiceView["notes"][number]["work"][number], what: string]> = [
  ["pads replaced", "Original pads"],
  ["putty", "Original pads"],
  ["fan replaced", "Original fan"],
  ["cooler changed", "Original cooler with its screws"],
];
const ALWAYS = ["Screws left over", "Cables and bracket it came with"];

/** Photos on the record, what to watch, and what goes into the box. */
export function Choices({ service, card, handOver }: { service: ServiceView; card: Card; handOver: HandOverView }) {
  const { value: shown, change: keep, fault } = useDocument(HAND_OVER, service.id, ofHandOver(handOver));
  const chosen = shown.photos ?? card.photos.slice(0, 4).map(({ id }) => id);
  return (
    <Sheet title="On the record, and in the box">
      <FaultNote fault={fault} />
      {card.photos.length > 0 && (
        <fieldset className="mb-4">
          <legend className="mb-1 font-medium">Photos on it (four at most)</legend>
          <div className="flex flex-wrap gap-2">
            {card.photos.map(({ id, caption }) => {
              const on = chosen.includes(id);
              return (
                <label key={id} className="cursor-pointer text-sm">
                  <img
                    src={urlOf(API.photo, { photoId: id })}
                    alt=""
                    className={`h-16 w-24 rounded-md border-2 object-cover ${on ? "border-ice" : "border-line opacity-60"}`}
                  />
                  <span className="flex min-h-6 items-center gap-1">
                    <input
                      type="checkbox"
                      checked={on}
                      disabled={!on && chosen.length >= 4}
                      onChange={() =>
                        keep(({ photos }) => {
                          const held = photos ?? chosen;
                          return {
                            photos: held.includes(id) ? held.filter((one) => one !== id) : [...held, id].slice(0, 4),
                          };
                        })
                      }
                    />
                    {caption || "photo"}
                  </span>
                </label>
              );
            })}
          </div>
        </fieldset>
      )}
      <Watch key={service.id} watch={shown.watch} onKeep={(watch) => keep(() => ({ watch }))} />
      <Leaves
        service={service}
        leaves={shown.leaves}
        onChange={(change) => keep(({ leaves }) => ({ leaves: change(leaves) }))}
      />
    </Sheet>
  );
}

function Watch({ watch, onKeep }: { watch: string; onKeep: (watch: string) => void }) {
  const [text, setText] = useState(watch);
  return (
    <AreaField
      label="What to watch"
      hint="Such as: listen for the left fan; stands in the record"
      rows={2}
      maxLength={600}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => {
        if (text.trim() !== watch) onKeep(text.trim());
      }}
    />
  );
}

type LeavesList = HandOverInput["leaves"];

/** A list to tick while packing; what the work suggests is added with a tap. */
function Leaves({
  service,
  leaves,
  onChange,
}: {
  service: ServiceView;
  leaves: LeavesList;
  onChange: (change: (now: LeavesList) => LeavesList) => void;
}) {
  const [text, setText] = useState("");
  const work = service.notes.flatMap((note) => note.work);
  const usual = [
    ...new Set([...USUALLY.filter(([kind]) => work.includes(kind)).map(([, what]) => what), ...ALWAYS]),
  ].filter((what) => leaves.every((one) => one.what !== what));
  const add = (what: string): void =>
    onChange((now) => (now.some((one) => one.what === what) ? now : [...now, { what, packed: false }]));
  return (
    <section className="mt-4" aria-label="Goes with the card">
      <h3 className="font-medium">Goes with the card</h3>
      <ul>
        {leaves.map(({ what, packed }) => (
          <li key={what} className="flex items-center justify-between gap-2">
            <label className="flex min-h-11 flex-1 items-center gap-2">
              <input
                type="checkbox"
                className="size-5"
                checked={packed}
                onChange={() =>
                  onChange((now) => now.map((one) => (one.what === what ? { ...one, packed: !packed } : one)))
                }
              />
              {what}
            </label>
            <Button
              look="quiet"
              aria-label={`Take ${what} off the list`}
              onClick={() => onChange((now) => now.filter((one) => one.what !== what))}
            >
              ✕
            </Button>
          </li>
        ))}
      </ul>
      <div className="mt-1 flex flex-wrap gap-2">
        {usual.map((what) => (
          <button
            key={what}
            type="button"
            className="min-h-9 rounded-md border border-edge bg-sheet px-3 text-ice hover:border-ice"
            onClick={() => add(what)}
          >
            + {what}
          </button>
        ))}
      </div>
      <form
        className="mt-2 flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim() === "") return;
          add(text.trim());
          setText("");
        }}
      >
        <div className="flex-1">
          <TextField
            label="Something else"
            value={text}
            maxLength={120}
            onChange={(event) => setText(event.target.value)}
          />
        </div>
        <Button type="submit">Add</Button>
      </form>
    </section>
  );
}
