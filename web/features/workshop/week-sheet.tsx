import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { toast } from "sonner";
import { type Settings, STATIONS, type Week } from "#contract";
import { api } from "../../app/api.ts";
import { Button } from "../../ui/button.tsx";
import { TextField } from "../../ui/field.tsx";
import { FaultNote } from "../../ui/note.tsx";
import { Sheet, Waiting } from "../../ui/page.tsx";

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"] as const;
const USUAL = { fromMin: 9 * 60, untilMin: 18 * 60 };
const MOST_PEOPLE = 20;

/** Who works here, what each does, and when somebody is there: the day is planned by it. */
export function WeekSheet() {
  const { data, error } = api.useSettingsQuery();
  return (
    <Sheet title="People and opening hours">
      {data ? (
        <WeekForm key={JSON.stringify([data.people, data.opening])} settings={data} />
      ) : error ? (
        <FaultNote error={error} />
      ) : (
        <Waiting what="the week" />
      )}
    </Sheet>
  );
}

function WeekForm({ settings }: { settings: Settings }) {
  const [week, setWeek] = useState<Week>({ people: settings.people, opening: settings.opening });
  const [change, { error, isLoading }] = api.useChangeWeekMutation();
  const isChanged = JSON.stringify(week) !== JSON.stringify({ people: settings.people, opening: settings.opening });
  const save = async (): Promise<void> => {
    const made = await change({ ...week, people: week.people.filter(({ name }) => name.trim() !== "") });
    if (made.data) toast("Saved");
  };
  return (
    <div className="space-y-4">
      <p className="text-sm text-soft">
        The Bench plans hands and runs within these hours. Nobody named: one person who does all.
      </p>
      {week.people.map((person, index) => (
        // oxlint-disable-next-line react/no-array-index-key -- a name is typed into the row it belongs to
        <fieldset key={index} className="border-b border-line pb-3">
          <div className="flex items-end gap-2">
            <div className="flex-1">
              <TextField
                label={`Person ${index + 1}`}
                value={person.name}
                maxLength={60}
                onChange={(event) => setWeek(withPerson(week, index, { name: event.target.value }))}
              />
            </div>
            <Button
              look="quiet"
              aria-label={`Remove person ${index + 1}`}
              onClick={() => setWeek({ ...week, people: week.people.filter((_, at) => at !== index) })}
            >
              <Trash2 aria-hidden className="size-5" />
            </Button>
          </div>
          <div className="mt-2 flex flex-wrap gap-x-4">
            {STATIONS.map(({ id, title }) => (
              <label key={id} className="flex min-h-11 items-center gap-2">
                <input
                  type="checkbox"
                  className="size-5"
                  checked={person.can === null || person.can.includes(id)}
                  onChange={(event) => {
                    const now = person.can ?? STATIONS.map((one) => one.id);
                    const can = event.target.checked ? [...now, id] : now.filter((one) => one !== id);
                    setWeek(withPerson(week, index, { can: can.length === STATIONS.length ? null : can }));
                  }}
                />
                {title}
              </label>
            ))}
          </div>
        </fieldset>
      ))}
      <Button
        disabled={week.people.length >= MOST_PEOPLE}
        onClick={() => setWeek({ ...week, people: [...week.people, { name: "", can: null }] })}
      >
        <Plus aria-hidden className="mr-1 inline size-5" />
        Add a person
      </Button>
      <div className="space-y-1">
        {DAYS.map((name, day) => (
          <OpenDay
            key={name}
            name={name}
            open={week.opening[day] ?? null}
            onOpen={(open) => setWeek({ ...week, opening: week.opening.map((one, at) => (at === day ? open : one)) })}
          />
        ))}
      </div>
      <FaultNote error={error} />
      <div className="text-right">
        <Button look="main" disabled={!isChanged || isLoading} onClick={() => void save()}>
          Save the week
        </Button>
      </div>
    </div>
  );
}

const withPerson = (week: Week, index: number, more: Partial<Week["people"][number]>): Week => ({
  ...week,
  people: week.people.map((one, at) => (at === index ? { ...one, ...more } : one)),
});

function OpenDay({
  name,
  open,
  onOpen,
}: {
  name: string;
  open: Week["opening"][number];
  onOpen: (open: Week["opening"][number]) => void;
}) {
  const set = (key: "fromMin" | "untilMin") => (text: string) => {
    const [hours = Number.NaN, minutes = 0] = text.split(":").map(Number);
    const value = hours * 60 + minutes;
    if (open && Number.isFinite(value)) onOpen({ ...open, [key]: key === "untilMin" && value === 0 ? 1440 : value });
  };
  return (
    <div className="grid grid-cols-[8rem_1fr] items-center gap-2 sm:grid-cols-[8rem_9rem_9rem]">
      <label className="flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          className="size-5"
          checked={open !== null}
          onChange={(event) => onOpen(event.target.checked ? USUAL : null)}
        />
        {name}
      </label>
      {open ? (
        (["fromMin", "untilMin"] as const).map((key) => (
          <input
            key={key}
            type="time"
            aria-label={`${name} ${key === "fromMin" ? "from" : "until"}`}
            className="min-h-11 rounded-lg border border-edge bg-sheet px-3"
            value={clockText(open[key] % 1440)}
            onChange={(event) => set(key)(event.target.value)}
          />
        ))
      ) : (
        <span className="text-soft">nobody</span>
      )}
    </div>
  );
}

const clockText = (minutes: number): string =>
  `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
