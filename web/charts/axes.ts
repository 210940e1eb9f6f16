import type { ChartOptions } from "chart.js";
import { span } from "../ui/format.ts";
import type { PANELS } from "./series.ts";

/** A colour of the theme, for the canvas that knows no variables. */
export const css = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

/** All panels start at the same place, however wide their figures are. */
const AXIS_WIDTH = 62;

/** What every chart over time shares: no animation, thin lines, the bundled font. */
export const TIME_CHART = {
  animation: false,
  parsing: false,
  normalized: true,
  responsive: true,
  maintainAspectRatio: false,
  events: [],
  font: { family: "Public Sans Variable" },
  elements: { point: { radius: 0 }, line: { borderWidth: 1.5 } },
} as const satisfies ChartOptions<"line">;

/** Time below, one stacked panel per quantity above it. */
export function timeScales(
  panels: ReadonlyArray<(typeof PANELS)[number]>,
  maxS?: number,
): NonNullable<ChartOptions<"line">["scales"]> {
  return {
    x: {
      type: "linear",
      min: 0,
      ...(maxS === undefined ? {} : { max: maxS }),
      ticks: { color: css("--soft"), callback: (value) => span(Number(value)), maxRotation: 0 },
      grid: { color: css("--line") },
    },
    ...Object.fromEntries(
      [...panels].reverse().map((panel) => [
        panel.id,
        {
          type: "linear",
          position: "left",
          stack: "all",
          stackWeight: panel.weight,
          title: { display: true, text: panel.title, color: css("--soft") },
          beginAtZero: panel.id !== "temperature",
          ticks: {
            color: css("--soft"),
            maxTicksLimit: panel.weight + 1,
            // The topmost number would touch the lowest of the panel above.
            callback: (value: number | string, index: number, all: unknown[]) =>
              index === all.length - 1 ? "" : String(value),
          },
          grid: { color: css("--line") },
          grace: "6%",
          afterFit: (axis: { width: number }) => {
            axis.width = AXIS_WIDTH;
          },
        },
      ]),
    ),
  };
}
