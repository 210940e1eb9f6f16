import { useState } from "react";
import type { Settings } from "#contract";
import { airLoad, changesNeeded, SEA_LEVEL_KPA } from "#core/cleaning/index.ts";
import { valueOf } from "#core/handwork/index.ts";
import type { Marks } from "../../parts/steps/use-marks.ts";
import { numberOrNull, TextField } from "../../ui/field.tsx";
import { figure } from "../../ui/format.ts";
import { Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { Working } from "../../ui/working.tsx";

const FIELDS = [
  { id: "used-ml", label: "Alcohol used (mL)", least: 0, most: 5000 },
  { id: "used-min", label: "Over (minutes)", least: 0.1, most: 600 },
  { id: "room-m3", label: "Room (m³)", least: 1, most: 100_000 },
  { id: "air-changes", label: "Air changes an hour", least: 0, most: 1000 },
] as const;
const ROOM_FIRST = "Type the room’s size first: length × width × height.";
type FieldId = (typeof FIELDS)[number]["id"];

/** What alcohol does to the room's air, against what one may breathe and what can burn. */
export function RoomAirSheet({ marks, settings }: { marks: Marks; settings: Settings }) {
  const [typed, setTyped] = useState<Partial<Record<FieldId, string>>>({});
  const usual: Record<FieldId, number | null> = {
    "used-ml": 20,
    "used-min": 30,
    "room-m3": settings.roomM3,
    "air-changes": settings.airChangesPerHour,
  };
  const textOf = (id: FieldId): string => typed[id] ?? valueOf(marks.folded, id) ?? String(usual[id] ?? "");
  const wrongOf = ({ id, least, most }: (typeof FIELDS)[number]): string | undefined => {
    const value = numberOrNull(textOf(id));
    if (value === null) return id === "room-m3" && typed[id] === undefined ? ROOM_FIRST : "Type a number.";
    if (Number.isNaN(value)) return "Type a number.";
    return value < least || value > most ? `Between ${least} and ${most}.` : undefined;
  };
  const isWhole = FIELDS.every((field) => wrongOf(field) === undefined);
  const use = {
    kind: "isopropanol" as const,
    usedMl: numberOrNull(textOf("used-ml")) ?? 0,
    minutes: numberOrNull(textOf("used-min")) ?? 1,
    roomM3: numberOrNull(textOf("room-m3")) ?? 1,
    airChangesPerHour: numberOrNull(textOf("air-changes")) ?? 0,
  };
  return (
    <Sheet title="Alcohol in the air">
      <div className="grid grid-cols-2 gap-3">
        {FIELDS.map((field) => (
          <TextField
            key={field.id}
            label={field.label}
            inputMode="decimal"
            value={textOf(field.id)}
            error={wrongOf(field) === ROOM_FIRST ? undefined : wrongOf(field)}
            hint={wrongOf(field) === ROOM_FIRST ? ROOM_FIRST : undefined}
            onChange={(event) => setTyped({ ...typed, [field.id]: event.target.value })}
            onBlur={() => {
              const text = typed[field.id];
              const value = text === undefined || wrongOf(field) ? null : numberOrNull(text);
              if (value !== null) marks.mark({ stepId: field.id, what: "value", value: String(value) });
            }}
          />
        ))}
      </div>
      {isWhole && <Load use={use} airC={settings.roomC} />}
    </Sheet>
  );
}

function Load({ use, airC }: { use: Parameters<typeof airLoad>[0]; airC: number }) {
  const { peakPpm, meanPpm, limitPpm, lowerFlammablePpm } = airLoad(use, airC, SEA_LEVEL_KPA);
  const needed = changesNeeded(use, airC, SEA_LEVEL_KPA);
  const isOver = meanPpm > limitPpm || peakPpm > lowerFlammablePpm / 10;
  return (
    <div className="mt-3">
      <p className="text-xl font-semibold">
        {figure(meanPpm, 0)} ppm on average, {figure(peakPpm, 0)} at the end
      </p>
      <p className="text-soft">
        One may breathe {limitPpm} ppm over a working day; it can burn from {figure(lowerFlammablePpm, 0)} ppm, near the
        wipe at once.
      </p>
      {isOver ? (
        <Note kind="caution" live title="Too much for this room">
          {needed === null
            ? "No window is enough: use less, or work outdoors."
            : `Open a window: ${figure(needed, 1)} air changes an hour bring it under.`}
        </Note>
      ) : (
        <p className="mt-1">It stays under both, while the air is mixed.</p>
      )}
      <Working>
        <p>
          V·dc/dt = q − n·V·c from clean air on: all that is used evaporates evenly over the time, the air is well
          mixed. 0.785 g/mL and 60.1 g/mol of 2-propanol; limit of exposure (NIOSH) and lower flammable limit from
          memory of its data sheets. Local rules come first.
        </p>
      </Working>
    </div>
  );
}
