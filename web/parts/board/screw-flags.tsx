import type { MapScrew } from "#core/boardmap/index.ts";

const FLAGS = [
  ["shouldered", "Stops at its shoulder"],
  ["standoff", "Sits on a standoff of the cooler"],
] as const;

/** What a screw ends at. */
export function ScrewFlags({ screw, onFlag }: { screw: MapScrew; onFlag: (more: Partial<MapScrew>) => void }) {
  return FLAGS.map(([name, words]) => (
    <label key={name} className="flex min-h-11 items-center gap-2">
      <input
        type="checkbox"
        className="size-4 accent-[var(--ice)]"
        checked={screw[name]}
        onChange={(event) => onFlag({ [name]: event.target.checked })}
      />
      {words}
    </label>
  ));
}
