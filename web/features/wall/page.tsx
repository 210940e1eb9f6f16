import { useEffect } from "react";
import { NowPanel } from "../../parts/day/now-panel.tsx";
import { TimeLine } from "../../parts/day/time-line.tsx";
import { useDay } from "../../parts/day/use-day.ts";
import { momentFormat } from "../../ui/format.ts";
import { FaultNote } from "../../ui/note.tsx";
import { Waiting } from "../../ui/page.tsx";

const clock = momentFormat({ weekday: "long", hour: "2-digit", minute: "2-digit" });

/** The day for a second screen: large, and only to be looked at. */
export function WallPage() {
  const { day, error } = useDay();
  useEffect(() => {
    document.title = "The day · Algidus";
  }, []);
  return (
    <main className="min-h-screen p-6">
      <h1 className="mb-4 text-3xl font-bold">{day ? clock(day.atMs) : "The day"}</h1>
      <FaultNote error={error} />
      {day ? (
        <>
          <NowPanel day={day} large />
          <TimeLine day={day} span="hours" picked={null} />
        </>
      ) : (
        <Waiting what="the day" />
      )}
    </main>
  );
}
