import { Chart, LinearScale, LineController, LineElement, PointElement } from "chart.js";
import { useEffect, useRef } from "react";
import type { LiveRows } from "#contract";
import type { BenchChannel } from "#core";
import { TIME_CHART, timeScales } from "../../charts/axes.ts";
import { LineMark } from "../../charts/line-mark.tsx";
import { PANELS, type Series, seriesOf } from "../../charts/series.ts";
import { span } from "../../ui/format.ts";

Chart.register(LineController, LineElement, LinearScale, PointElement);

const SHOWN = new Set(["temperature", "fan", "power"]);

/** The run as it grows. Redrawn when rows come, at most a few times a second. */
export function LiveChart({ channels, rows }: { channels: BenchChannel[]; rows: LiveRows["rows"] }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const chart = useRef<Chart<"line", Array<{ x: number; y: number }>> | null>(null);
  const series = seriesOf(channels).filter((one) => SHOWN.has(one.panel));

  useEffect(() => {
    if (!canvas.current) return undefined;
    const lines = seriesOf(channels).filter((one) => SHOWN.has(one.panel));
    const panels = PANELS.filter((panel) => lines.some((one) => one.panel === panel.id));
    const made = new Chart<"line", Array<{ x: number; y: number }>>(canvas.current, {
      type: "line",
      data: {
        datasets: lines.map((one) => ({
          label: one.label,
          data: [],
          yAxisID: one.panel,
          borderColor: one.colour,
          borderDash: one.dash,
        })),
      },
      options: {
        ...TIME_CHART,
        plugins: { legend: { display: false } },
        scales: timeScales(panels),
      },
    });
    chart.current = made;
    return () => {
      chart.current = null;
      made.destroy();
    };
  }, [channels]);

  useEffect(() => {
    if (chart.current) draw(chart.current, channels, rows);
  }, [rows, channels]);

  return (
    <div>
      <Lines series={series} />
      <div
        className="relative h-[30rem]"
        role="img"
        aria-label={`${series.map((one) => one.label).join(", ")} from ${span(rows[0]?.[0] ?? 0)} to ${span(rows.at(-1)?.[0] ?? 0)} min`}
      >
        <canvas ref={canvas} />
      </div>
    </div>
  );
}

function draw(
  held: Chart<"line", Array<{ x: number; y: number }>>,
  channels: BenchChannel[],
  rows: LiveRows["rows"],
): void {
  const lines = seriesOf(channels).filter((one) => SHOWN.has(one.panel));
  lines.forEach((one, index) => {
    const data = held.data.datasets[index];
    if (data) data.data = rows.map((row) => ({ x: row[0] ?? 0, y: row[one.column + 2] ?? Number.NaN }));
  });
  const x = held.options.scales?.x;
  if (x) x.max = Math.max(60, rows.at(-1)?.[0] ?? 60);
  held.update("none");
}

function Lines({ series }: { series: Series[] }) {
  return (
    <ul className="mb-1 flex flex-wrap gap-x-4 gap-y-1 px-2 text-sm" aria-label="Lines">
      {series.map((one) => (
        <li key={one.column} className="flex items-center gap-2">
          <LineMark line={one} />
          {one.label}
        </li>
      ))}
    </ul>
  );
}
