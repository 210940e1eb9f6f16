import { Chart, LinearScale, LineController, LineElement, PointElement } from "chart.js";
import { type RefObject, useCallback, useEffect, useRef, useState } from "react";
import type { PhaseStretch, Stretch } from "#core";
import type { RunView } from "../workers/run-session.ts";
import type { RemoteRun } from "../workers/use-run-session.ts";
import { css, TIME_CHART, timeScales } from "./axes.ts";
import { endLabels } from "./end-labels.ts";
import { phaseBands } from "./phase-bands.ts";
import { PANELS, type Series, seriesOf } from "./series.ts";

Chart.register(LineController, LineElement, LinearScale, PointElement);
Chart.defaults.font.family = TIME_CHART.font.family;

type LineChart = Chart<"line", Array<{ x: number; y: number }>>;

/** Where lines are drawn, px from the canvas's corner. */
export interface ChartArea {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

const NARROWEST_S = 10;
/** After a move the lines are fetched anew once it stands still for so long, ms. */
const FETCH_AFTER_MS = 60;

/** The run's lines on a canvas: which stretch of time is shown, and the points for it, least and greatest per pixel. */
export function useRunChart(
  canvas: RefObject<HTMLCanvasElement | null>,
  session: RemoteRun,
  view: RunView,
  phases: PhaseStretch[],
) {
  const chart = useRef<LineChart | null>(null);
  const [range, setRange] = useState<Stretch>({ fromS: 0, toS: view.durationS });
  const [area, setArea] = useState<ChartArea | null>(null);
  const shown = useRef({ phases });
  shown.current = { phases };
  const pending = useRef<ReturnType<typeof setTimeout>>(undefined);

  const fetchLines = useCallback(
    async ({ fromS, toS }: Stretch): Promise<void> => {
      const margin = (toS - fromS) / 2;
      const { points } = await session.envelope(
        seriesOf(view.columns).map((one) => one.column),
        Math.max(0, fromS - margin),
        Math.min(view.durationS, toS + margin),
        Math.ceil(chart.current?.width ?? 800),
      );
      if (chart.current) putLines(chart.current, points);
    },
    [session, view],
  );

  useEffect(() => {
    if (!canvas.current) return undefined;
    const made = makeChart(canvas.current, view, () => shown.current.phases, setArea);
    chart.current = made;
    void fetchLines({ fromS: 0, toS: view.durationS });
    // A canvas does not wait for its font.
    void document.fonts.load(`12px "${TIME_CHART.font.family}"`).then(() => chart.current?.update("none"));
    const scheme = matchMedia("(prefers-color-scheme: dark)");
    const recolour = (): void => {
      for (const scale of Object.values(made.options.scales ?? {}))
        if (scale?.ticks) Object.assign(scale.ticks, { color: css("--soft") });
      made.update("none");
    };
    scheme.addEventListener("change", recolour);
    return () => {
      clearTimeout(pending.current);
      scheme.removeEventListener("change", recolour);
      chart.current = null;
      made.destroy();
    };
  }, [canvas, view, fetchLines]);

  useEffect(() => chart.current?.update("none"), [phases]);

  /** Shows a stretch of time, as wide as is sensible and within the run. */
  const show = (fromS: number, toS: number): void => {
    const width = Math.min(view.durationS, Math.max(NARROWEST_S, view.intervalS * 8, toS - fromS));
    const from = Math.max(0, Math.min(fromS, view.durationS - width));
    const next = { fromS: from, toS: from + width };
    const scale = chart.current?.options.scales?.x;
    if (scale) Object.assign(scale, { min: next.fromS, max: next.toS });
    chart.current?.update("none");
    setRange(next);
    clearTimeout(pending.current);
    pending.current = setTimeout(() => void fetchLines(next), FETCH_AFTER_MS);
  };
  return {
    range,
    area,
    show,
    setHidden: (index: number, hidden: boolean): void => {
      chart.current?.setDatasetVisibility(index, !hidden);
      chart.current?.update("none");
    },
    valueAt: (index: number, timeS: number): number | null =>
      valueAt(chart.current?.data.datasets[index]?.data ?? [], timeS),
  };
}

function makeChart(
  canvas: HTMLCanvasElement,
  view: RunView,
  phases: () => PhaseStretch[],
  setArea: (next: (old: ChartArea | null) => ChartArea) => void,
): LineChart {
  const panels = PANELS.filter((panel) => seriesOf(view.columns).some((one) => one.panel === panel.id));
  return new Chart(canvas, {
    type: "line",
    data: { datasets: seriesOf(view.columns).map(dataset) },
    options: { ...TIME_CHART, scales: timeScales(panels, view.durationS) },
    plugins: [
      phaseBands(phases),
      endLabels,
      {
        id: "area",
        afterLayout: ({ chartArea: { left, right, top, bottom } }) =>
          setArea((old) =>
            old && old.left === left && old.right === right && old.bottom === bottom
              ? old
              : { left, right, top, bottom },
          ),
      },
    ],
  });
}

const dataset = (one: Series) => ({
  label: one.label,
  data: [] as Array<{ x: number; y: number }>,
  yAxisID: one.panel,
  borderColor: one.colour,
  borderDash: one.dash,
  spanGaps: false,
});

/** @param points per line, time and value in turn */
function putLines(chart: LineChart, points: ReadonlyArray<ArrayLike<number>>): void {
  points.forEach((flat, index) => {
    const data = chart.data.datasets[index];
    if (data)
      data.data = Array.from({ length: flat.length / 2 }, (_, k) => ({
        x: flat[2 * k] ?? 0,
        y: flat[2 * k + 1] ?? Number.NaN,
      }));
  });
  chart.update("none");
}

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
