import { useGesture } from "@use-gesture/react";
import { useRef, useState } from "react";
import type { PhaseStretch, Stretch } from "#core";
import { span } from "../ui/format.ts";
import type { RunView } from "../workers/run-session.ts";
import type { RemoteRun } from "../workers/use-run-session.ts";
import { Legend, Readout } from "./readout.tsx";
import { seriesOf } from "./series.ts";
import { useRunChart } from "./use-run-chart.ts";
import { WindowHandles } from "./window-handles.tsx";

interface RunChartProps {
  session: RemoteRun;
  view: RunView;
  phases: PhaseStretch[];
  window: Stretch | null;
  /** Called while an edge of the steady window is dragged. */
  onWindow?: ((window: Stretch) => void) | undefined;
}

const SMALL_BUTTON = "min-h-9 rounded-md border border-edge px-3";
/** One step of a usual wheel is 100; it takes a seventh off what is shown. */
const PER_WHEEL = 0.0015;

/** Temperatures, fan, power and clock over time; zoomed and moved by mouse, touch and keys. */
export function RunChart({ session, view, phases, window: steady, onWindow }: RunChartProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const place = useRef<HTMLElement>(null);
  const [cursor, setCursor] = useState<number | null>(null);
  const [hidden, setHidden] = useState<ReadonlySet<number>>(new Set());
  const series = seriesOf(view.columns);
  const { range, area, show, setHidden: hideLine, valueAt } = useRunChart(canvas, session, view, phases);
  const width = range.toS - range.fromS;
  const perPx = area ? width / (area.right - area.left) : 0;
  const toX = (timeS: number): number => (area ? area.left + (timeS - range.fromS) / perPx : 0);
  const toTime = (x: number): number => (area ? range.fromS + (x - area.left) * perPx : 0);
  const timeUnder = (clientX: number): number => toTime(clientX - (canvas.current?.getBoundingClientRect().left ?? 0));
  /** Makes the shown stretch so many times as wide about a time that stays where it is. */
  const zoom = (factor: number, aboutS: number): void =>
    show(aboutS - (aboutS - range.fromS) * factor, aboutS + (range.toS - aboutS) * factor);
  useGesture(
    {
      onDrag: ({ delta: [dx], pinching, event: { target }, cancel }) => {
        // An edge of the window has a drag of its own.
        if (target instanceof Element && target.closest("[role=slider]")) return cancel();
        if (!pinching) show(range.fromS - dx * perPx, range.toS - dx * perPx);
      },
      onWheel: ({ event, delta: [, dy] }) => {
        event.preventDefault();
        zoom(Math.exp(dy * PER_WHEEL), timeUnder(event.clientX));
      },
      onPinch: ({ delta: [scale], origin: [x], movement }) => {
        if (movement[0] > 0) zoom(1 / (1 + scale / movement[0]), timeUnder(x));
      },
    },
    { target: place, eventOptions: { passive: false }, drag: { filterTaps: true, pointer: { keys: false } } },
  );
  const onKey = (event: React.KeyboardEvent): void => {
    const middle = (range.fromS + range.toS) / 2;
    const moves: Record<string, () => void> = {
      ArrowLeft: () => show(range.fromS - width / 8, range.toS - width / 8),
      ArrowRight: () => show(range.fromS + width / 8, range.toS + width / 8),
      "+": () => zoom(2 / 3, middle),
      "-": () => zoom(1.5, middle),
      "0": () => show(0, view.durationS),
    };
    const move = event.target === event.currentTarget ? moves[event.key] : undefined;
    if (!move) return;
    event.preventDefault();
    move();
  };
  return (
    <div>
      <Legend
        series={series}
        hidden={hidden}
        onToggle={(index) => {
          const next = new Set(hidden);
          if (!next.delete(index)) next.add(index);
          setHidden(next);
          hideLine(index, next.has(index));
        }}
      />
      {cursor === null ? (
        <p className="min-h-12 px-2 text-sm text-soft">
          Point at the chart to read values. Drag the edges of the steady window to set it by hand.
        </p>
      ) : (
        <Readout series={series} timeS={cursor} values={series.map((_, index) => valueAt(index, cursor))} />
      )}
      <section
        ref={place}
        className="relative h-[max(26rem,calc(100vh-25rem))] touch-pan-y rounded-lg"
        tabIndex={0}
        aria-label={`Chart of ${series.map((one) => one.label).join(", ")} over ${span(view.durationS)} minutes. Arrows move, plus and minus zoom, 0 shows all.`}
        onKeyDown={onKey}
        onPointerMove={(event) => {
          const x = event.clientX - event.currentTarget.getBoundingClientRect().left;
          setCursor(area && x >= area.left && x <= area.right ? toTime(x) : null);
        }}
        onPointerLeave={() => setCursor(null)}
      >
        <canvas ref={canvas} />
        {area && cursor !== null && (
          <div
            className="pointer-events-none absolute w-px bg-ink"
            style={{ left: toX(cursor), top: area.top, height: area.bottom - area.top }}
          />
        )}
        {area && steady && (
          <WindowHandles
            window={steady}
            area={area}
            toX={toX}
            toTime={toTime}
            durationS={view.durationS}
            onWindow={onWindow}
          />
        )}
      </section>
      <div className="mt-1 flex flex-wrap items-center gap-2 text-sm">
        <button type="button" className={SMALL_BUTTON} onClick={() => zoom(2 / 3, (range.fromS + range.toS) / 2)}>
          Zoom in
        </button>
        <button type="button" className={SMALL_BUTTON} onClick={() => show(0, view.durationS)}>
          Show all
        </button>
        <span className="text-soft">
          {span(range.fromS)} to {span(range.toS)} min
        </span>
      </div>
    </div>
  );
}
