import { Plus, Trash2 } from "lucide-react";
import { type KitScrew, threadDiameterMm } from "#core/coolers/index.ts";
import { Button } from "../../ui/button.tsx";
import { TextField } from "../../ui/field.tsx";
import { NumberField } from "../../ui/number-field.tsx";

const NEW: Omit<KitScrew, "id"> = { thread: "M2.5", lengthMm: 7, washerMm: 0.5, quantity: null, shouldered: false };

/** Kinds of screws with their lengths, washers and numbers. */
export function KitScrews({
  screws,
  onScrews,
}: {
  screws: readonly KitScrew[];
  onScrews: (screws: KitScrew[]) => void;
}) {
  const set = (index: number, more: Partial<KitScrew>): void =>
    onScrews(screws.map((one, at) => (at === index ? { ...one, ...more } : one)));
  const taken = (id: string): boolean => screws.some((one) => one.id === id);
  return (
    <div className="space-y-3">
      {screws.length === 0 && <p className="text-soft">No screws yet.</p>}
      {screws.map((screw, index) => (
        <div key={screw.id} className="flex items-end gap-2 border-b border-line pb-2">
          <div className="grid min-w-0 flex-1 grid-cols-[repeat(auto-fit,minmax(6rem,1fr))] items-end gap-2">
            <TextField
              label="Name"
              key={`name ${screw.id}`}
              defaultValue={screw.id}
              maxLength={30}
              onBlur={(event) => {
                const id = event.target.value.trim();
                if (id !== "" && !taken(id)) set(index, { id });
              }}
            />
            <TextField
              label="Thread"
              key={`thread ${screw.thread}`}
              defaultValue={screw.thread}
              onBlur={(event) => {
                const thread = event.target.value.trim().toUpperCase();
                if (threadDiameterMm(thread) !== null) set(index, { thread });
                else event.target.value = screw.thread;
              }}
            />
            <NumberField
              label="Length"
              unit="mm"
              value={screw.lengthMm}
              least={0.5}
              most={100}
              onValue={(lengthMm) => lengthMm !== null && set(index, { lengthMm })}
            />
            <NumberField
              label="Washer"
              unit="mm"
              value={screw.washerMm}
              least={0}
              most={10}
              onValue={(washerMm) => washerMm !== null && set(index, { washerMm })}
            />
            <NumberField
              label="How many"
              unit=""
              value={screw.quantity}
              optional
              least={0}
              most={1000}
              onValue={(quantity) => set(index, { quantity })}
            />
            <label className="flex min-h-11 items-center gap-2 text-sm">
              <input
                type="checkbox"
                className="size-5 shrink-0"
                checked={screw.shouldered}
                onChange={(event) => set(index, { shouldered: event.target.checked })}
              />
              Shoulder
            </label>
          </div>
          <Button
            look="quiet"
            aria-label={`Remove ${screw.id}`}
            onClick={() => onScrews(screws.filter((_, at) => at !== index))}
          >
            <Trash2 aria-hidden className="size-5" />
          </Button>
        </div>
      ))}
      <Button
        disabled={screws.length >= 40}
        onClick={() => {
          let number = screws.length + 1;
          while (taken(`screw ${number}`)) number++;
          onScrews([...screws, { ...NEW, ...screws.at(-1), id: `screw ${number}` }]);
        }}
      >
        <Plus aria-hidden className="mr-1 inline size-5" />
        Add a kind of screw
      </Button>
    </div>
  );
}
