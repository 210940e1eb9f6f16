import {
  FEEDS,
  HEADS,
  HIDDEN_BY,
  LAYERS,
  type MapPlug,
  type MapScrew,
  PLUG_KINDS,
  RELEASES,
  SPRINGS,
  THREADS,
} from "#core/boardmap/index.ts";
import { SelectField, TextField } from "../../ui/field.tsx";
import { NumberField } from "../../ui/number-field.tsx";

const SIDES = ["front", "back"] as const;

/** One of a list, or not known yet. */
function Pick<T extends string>({
  label,
  value,
  list,
  unknown,
  onValue,
}: {
  label: string;
  value: T | null;
  list: readonly T[];
  /** What stands for not known; without it one must be chosen. */
  unknown?: string;
  onValue: (value: T | null) => void;
}) {
  return (
    <SelectField
      label={label}
      value={value ?? ""}
      onChange={(event) => onValue(list.find((one) => one === event.target.value) ?? null)}
    >
      {unknown !== undefined && <option value="">{unknown}</option>}
      {list.map((one) => (
        <option key={one}>{one}</option>
      ))}
    </SelectField>
  );
}

/** What a screw is, besides where it sits and how it pulls. */
export function ScrewKind({ screw, onScrew }: { screw: MapScrew; onScrew: (more: Partial<MapScrew>) => void }) {
  return (
    <fieldset className="rounded-lg border border-line p-3">
      <legend className="px-1 font-medium">What it is</legend>
      <div className="grid grid-cols-2 gap-2">
        <Pick
          label="Holds"
          value={screw.layer}
          list={LAYERS}
          unknown="cooler, not said"
          onValue={(layer) => onScrew({ layer })}
        />
        <Pick label="Turned from" value={screw.side} list={SIDES} onValue={(side) => side && onScrew({ side })} />
        <Pick
          label="Thread"
          value={screw.thread}
          list={THREADS}
          unknown="not known"
          onValue={(thread) => onScrew({ thread })}
        />
        <NumberField
          label="Length"
          unit="mm"
          value={screw.lengthMm}
          optional
          least={0.5}
          most={60}
          onValue={(lengthMm) => onScrew({ lengthMm })}
        />
        <Pick label="Head" value={screw.head} list={HEADS} unknown="not known" onValue={(head) => onScrew({ head })} />
        <TextField
          key={screw.id}
          label="Driver"
          defaultValue={screw.driver}
          maxLength={20}
          autoComplete="off"
          onBlur={(event) => {
            const driver = event.target.value.trim();
            if (driver !== screw.driver) onScrew({ driver });
          }}
        />
        <Pick
          label="Its spring"
          value={screw.spring}
          list={SPRINGS}
          unknown="not known"
          onValue={(spring) => onScrew({ spring })}
        />
        <Pick
          label="Hidden under"
          value={screw.hiddenBy}
          list={HIDDEN_BY}
          onValue={(by) => by && onScrew({ hiddenBy: by })}
        />
      </div>
      <div className="mt-2 flex flex-wrap gap-x-4">
        {(
          [
            ["sleeve", "Has a sleeve"],
            ["leaveAlone", "Leave alone: never turned"],
          ] as const
        ).map(([name, words]) => (
          <label key={name} className="flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              className="size-4 accent-[var(--ice)]"
              checked={screw[name]}
              onChange={(event) => onScrew({ [name]: event.target.checked })}
            />
            {words}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** What a plug or ribbon feeds, how it is released, which layer it holds. */
export function PlugKind({ plug, onPlug }: { plug: MapPlug; onPlug: (more: Partial<MapPlug>) => void }) {
  return (
    <div className="grid grid-cols-2 gap-2">
      <Pick label="It is a" value={plug.kind} list={PLUG_KINDS} onValue={(kind) => kind && onPlug({ kind })} />
      <Pick label="Feeds" value={plug.feeds} list={FEEDS} onValue={(feeds) => feeds && onPlug({ feeds })} />
      <Pick
        label="Released by"
        value={plug.release}
        list={RELEASES}
        onValue={(release) => release && onPlug({ release })}
      />
      <Pick label="Holds" value={plug.layer} list={LAYERS} onValue={(layer) => layer && onPlug({ layer })} />
      <Pick label="On the" value={plug.side} list={SIDES} onValue={(side) => side && onPlug({ side })} />
    </div>
  );
}
