import type { MapScrew } from "#core/boardmap/index.ts";
import { ScrewFlags } from "../../parts/board/screw-flags.tsx";
import { figure } from "../../ui/format.ts";
import { NumberField } from "../../ui/number-field.tsx";
import { Sheet } from "../../ui/page.tsx";

/** One screw: pull, spring, washer. A slider answers while it moves and is kept when it is let go. */
export function ScrewPanel({
  screw,
  pullN,
  onTry,
  onKeep,
}: {
  screw: MapScrew;
  pullN: number | null;
  onTry: (screw: MapScrew) => void;
  onKeep: (screw: MapScrew) => void;
}) {
  return (
    <Sheet title={`Screw ${screw.id}`}>
      <label className="block font-medium" htmlFor="pull">
        Pull when seated: {screw.forceN} N
      </label>
      <input
        id="pull"
        type="range"
        min={0}
        max={120}
        step={1}
        value={screw.forceN}
        className="min-h-11 w-full accent-[var(--ice)]"
        onChange={(event) => onTry({ ...screw, forceN: Number(event.target.value) })}
        onPointerUp={() => onKeep(screw)}
        onKeyUp={() => onKeep(screw)}
      />
      <p className="mb-3 text-sm text-soft">It pulls with {figure(pullN, 0)} N with these pads.</p>
      <div className="grid grid-cols-2 gap-2">
        <NumberField
          label="Spring"
          unit="N/mm"
          value={screw.springNPerMm}
          least={0}
          most={2000}
          onValue={(value) => value !== null && onKeep({ ...screw, springNPerMm: value })}
        />
        <NumberField
          label="Washer"
          unit="mm"
          value={screw.washerMm}
          least={0}
          most={5}
          hint="a last resort"
          onValue={(value) => value !== null && onKeep({ ...screw, washerMm: value })}
        />
      </div>
      <ScrewFlags screw={screw} onFlag={(more) => onKeep({ ...screw, ...more })} />
      <p className="text-sm text-soft">
        Over-tight cracks a die or strips threads; tighten crosswise, a little each, until they bottom, no further.
      </p>
    </Sheet>
  );
}
