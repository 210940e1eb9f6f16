import { Chart, LinearScale, LineController, LineElement, PointElement } from "chart.js";
import zoomPlugin from "chartjs-plugin-zoom";
import { useCallback, useEffect, useRef, useState } from "react";
import type { PhaseStretch, Stretch } from "#core";
import { figure, span } from "../ui/format.ts";
import type { RunView } from "../workers/run-session.ts";
import type { RemoteRun } from "../workers/use-run-session.ts";
import { css, TIME_CHART, timeScales } from "./axes.ts";
import { LineMark } from "./line-mark.tsx";
import { phaseBands } from "./phase-bands.ts";
import { PANELS, type Series, seriesOf } from "./series.ts";
import { WindowHandles } from "./window-handles.tsx";

Chart.register(LineController, LineElement, LinearScale, PointElement, zoomPlugin);

interface RunChartProps {
  session: RemoteRun;
  view: RunView;
  phases: PhaseStretch[];
  window: Stretch | null;
  /** Called while an edge of the steady window is dragged. */
  onWindow?: ((window: Stretch) => void) | undefined;
}

/** Temperatures, fan, power and clock over time; zoomed and moved by mouse, touch and keys; drawn from least and greatest per pixel. */
export function RunChart({ session, view, phases, window: steady, onWindow }: RunChartProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const chart = useRef<Chart<"line", Array<{ x: number; y: number }>> | null>(null);
  const [range, setRange] = useState<Stretch>({ fromS: 0, toS: view.durationS });
  const [area, setArea] = useState<{ left: number; right: number; top: number; bottom: number } | null>(null);
  const [cursor, setCursor] = useState<number | null>(null);
  const [hidden, setHidden] = useState<ReadonlySet<number>>(new Set());
  const series = seriesOf(view.columns);
  const shown = useRef({ phases });
  shown.current = { phases };

  const refresh = useCallback(
    async (from: number, to: number): Promise<void> => {
      const margin = (to - from) / 2;
      const pixels = canvas.current?.clientWidth ?? 800;
      const { points } = await session.envelope(
        seriesOf(view.columns).map((one) => one.column),
        Math.max(0, from - margin),
        Math.min(view.durationS, to + margin),
        Math.ceil(pixels),
      );
      const held = chart.current;
      if (!held) return;
      points.forEach((flat, index) => {
        const data = held.data.datasets[index];
        if (data)
          data.data = Array.from({ length: flat.length / 2 }, (_, k) => ({
            x: flat[2 * k] ?? 0,
            y: flat[2 * k + 1] ?? Number.NaN,
          }));
      });
      held.update("none");
    },
    [session, view],
  );

  useEffect(() => {
    if (!canvas.current) return undefined;
    const panels = PANELS.filter((panel) => seriesOf(view.columns).some((one) => one.panel === panel.id));
    let pending: ReturnType<typeof setTimeout> | undefined;
    const moved = ({ chart: held }: { chart: Chart }): void => {
      const { min = 0, max = view.durationS } = held.scales.x ?? {};
      setRange({ fromS: min, toS: max });
      clearTimeout(pending);
      pending = setTimeout(() => void refresh(min, max), 60);
    };
    const made = new Chart<"line", Array<{ x: number; y: number }>>(canvas.current, {
      type: "line",
      data: { datasets: seriesOf(view.columns).map(dataset) },
      options: {
        ...TIME_CHART,
        scales: timeScales(panels, view.durationS),
        plugins: {
          zoom: {
            limits: { x: { min: 0, max: view.durationS, minRange: Math.max(5, view.intervalS * 8) } },
            pan: { enabled: true, mode: "x", onPan: moved },
            zoom: { wheel: { enabled: true }, pinch: { enabled: true }, mode: "x", onZoom: moved },
          },
        },
      },
      plugins: [
        phaseBands(() => shown.current.phases),
        {
          id: "area",
          afterLayout: ({ chartArea }) =>
            setArea((old) =>
              old && old.left === chartArea.left && old.right === chartArea.right && old.bottom === chartArea.bottom
                ? old
                : { left: chartArea.left, right: chartArea.right, top: chartArea.top, bottom: chartArea.bottom },
            ),
        },
      ],
    });
    chart.current = made;
    void refresh(0, view.durationS);
    const scheme = matchMedia("(prefers-color-scheme: dark)");
    const recolour = (): void => {
      for (const scale of Object.values(made.options.scales ?? {}))
        if (scale?.ticks) Object.assign(scale.ticks, { color: css("--soft") });
      made.update("none");
    };
    scheme.addEventListener("change", recolour);
    return () => {
      clearTimeout(pending);
      scheme.removeEventListener("change", recolour);
      chart.current = null;
      made.destroy();
    };
  }, [view, refresh]);

  useEffect(() => chart.current?.update("none"), [phases]);

  const show = (fromS: number, toS: number): void => {
    const width = Math.min(view.durationS, Math.max(10, toS - fromS));
    const from = Math.max(0, Math.min(fromS, view.durationS - width));
    chart.current?.zoomScale("x", { min: from, max: from + width }, "none");
    setRange({ fromS: from, toS: from + width });
    void refresh(from, from + width);
  };
  const onKey = (event: React.KeyboardEvent): void => {
    const width = range.toS - range.fromS;
    const middle = (range.fromS + range.toS) / 2;
    const moves: Record<string, () => void> = {
      ArrowLeft: () => show(range.fromS - width / 8, range.toS - width / 8),
      ArrowRight: () => show(range.fromS + width / 8, range.toS + width / 8),
      "+": () => show(middle - width / 3, middle + width / 3),
      "-": () => show(middle - width * 0.75, middle + width * 0.75),
      "0": () => show(0, view.durationS),
    };
    const move = event.target === event.currentTarget ? moves[event.key] : undefined;
    if (!move) return;
    event.preventDefault();
    move();
  };
  const toX = (timeS: number): number =>
    area ? area.left + ((timeS - range.fromS) / (range.toS - range.fromS)) * (area.right - area.left) : 0;
  const toTime = (x: number): number =>
    area ? range.fromS + ((x - area.left) / (area.right - area.left)) * (range.toS - range.fromS) : 0;

  return (
    <div>
      <Legend
        series={series}
        hidden={hidden}
        onToggle={(index) => {
          const next = new Set(hidden);
          if (!next.delete(index)) next.add(index);
          setHidden(next);
          chart.current?.setDatasetVisibility(index, !next.has(index));
          chart.current?.update("none");
        }}
      />
      {cursor === null ? (
        <p className="min-h-12 px-2 text-sm text-soft">
          Point at the chart to read values. Drag the edges of the steady window to set it by hand.
        </p>
      ) : (
        <Readout
          series={series}
          timeS={cursor}
          values={series.map((_, index) => valueAt(chart.current?.data.datasets[index]?.data ?? [], cursor))}
        />
      )}
      <section
        className="relative h-[26rem] touch-pan-y rounded-lg"
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
        <button
          type="button"
          className="min-h-9 rounded-md border border-edge px-3"
          onClick={() => show(range.fromS + (range.toS - range.fromS) / 6, range.toS - (range.toS - range.fromS) / 6)}
        >
          Zoom in
        </button>
        <button
          type="button"
          className="min-h-9 rounded-md border border-edge px-3"
          onClick={() => show(0, view.durationS)}
        >
          Show all
        </button>
        <span className="text-soft">
          {span(range.fromS)} to {span(range.toS)} min
        </span>
      </div>
    </div>
  );
}

const dataset = (one: Series) => ({
  label: one.label,
  data: [] as Array<{ x: number; y: number }>,
  yAxisID: one.panel,
  borderColor: one.colour,
  borderDash: one.dash,
  spanGaps: false,
});

function valueAt(points: Array<{ x: number; y: number }>, timeS: number): number | null {
  let low = 0;
  let high = points.length - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((points[middle]?.x ?? 0) < timeS) low = middle + 1;
    else high = middle;
  }
  return points[low]?.y ?? null;
}

function Legend({
  series,
  hidden,
  onToggle,
}: {
  series: Series[];
  hidden: ReadonlySet<number>;
  onToggle: (index: number) => void;
}) {
  return (
    <ul className="flex flex-wrap gap-x-1" aria-label="Lines">
      {series.map((one, index) => (
        <li key={one.column}>
          <button
            type="button"
            aria-pressed={!hidden.has(index)}
            onClick={() => onToggle(index)}
            className={`flex min-h-9 items-center gap-2 rounded-md px-2 text-sm hover:bg-frost ${hidden.has(index) ? "text-soft line-through" : ""}`}
          >
            <LineMark line={one} />
            {one.label}
          </button>
        </li>
      ))}
    </ul>
  );
}

/** Values under the cursor, in a line of its own so that nothing jumps. */
function Readout({ series, values, timeS }: { series: Series[]; values: Array<number | null>; timeS: number }) {
  return (
    <p className="figure min-h-12 px-2 text-sm" aria-hidden>
      <span className="font-semibold">{span(timeS)}</span>
      {series.map((one, index) => (
        <span key={one.column} className="ml-3 inline-block">
          {one.label.replace(/\s*[[(].*$/, "")}{" "}
          <span className="font-semibold">
            {figure(values[index] ?? null, one.panel === "temperature" || one.panel === "power" ? 1 : 0)} {one.unit}
          </span>
        </span>
      ))}
    </p>
  );
}
