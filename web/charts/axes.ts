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
  layout: { padding: 0 },
  elements: { point: { radius: 0 }, line: { borderWidth: 1.5 } },
} as const satisfies ChartOptions<"line">;

/** Share of a panel that stays free above its lines. */
const TOP_FREE = 0.1;
/** Share of a panel without numbers at its bottom. */
const BOTTOM_FREE = 0.07;
/** Seconds between two marks on the time axis. */
const TIME_STEPS = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 900, 1800, 3600, 7200, 14_400, 43_200, 86_400];
const MOST_TICKS = 8;

/** Whole steps of a clock within a stretch, at most eight. */
export function timeTicks(fromS: number, toS: number): number[] {
  const step = TIME_STEPS.find((one) => (toS - fromS) / one <= MOST_TICKS) ?? (toS - fromS) / MOST_TICKS;
  const first = Math.ceil(fromS / step - 1e-9);
  return Array.from({ length: Math.floor(toS / step + 1e-9) - first + 1 }, (_, k) => (first + k) * step);
}

/** Round numbers within a range, one, two or five times a power of ten apart, at most so many. */
export function roundTicks(low: number, high: number, most: number): number[] {
  const rough = (high - low) / Math.max(1, most);
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = ([1, 2, 5, 10].find((one) => one * power >= rough) ?? 10) * power;
  const first = Math.ceil(low / step - 1e-9);
  // So many digits that no tick shows what only rounding left of it.
  const digits = Math.max(0, -Math.floor(Math.log10(step)));
  return Array.from({ length: Math.floor(high / step + 1e-9) - first + 1 }, (_, k) =>
    Number(((first + k) * step).toFixed(digits)),
  );
}

/** What a panel shows: all that is drawn and a little more, never so little that noise fills it; nothing below zero that is not. */
export function fitted(low: number, high: number, leastSpan: number): [min: number, max: number] {
  if (!Number.isFinite(low) || !Number.isFinite(high)) return [0, leastSpan];
  const span = Math.max(high - low, leastSpan, 0.08 * Math.abs(high));
  const middle = (low + high) / 2;
  const min = Math.min(low, middle - span / 2) - 0.04 * span;
  return [low >= 0 ? Math.max(0, min) : min, Math.max(high, middle + span / 2) + TOP_FREE * span];
}

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
      afterBuildTicks: (axis: { min: number; max: number; ticks: Array<{ value: number }> }) => {
        axis.ticks = timeTicks(axis.min, axis.max).map((value) => ({ value }));
      },
      grid: { color: css("--line") },
    },
    ...Object.fromEntries(
      [...panels].reverse().map((panel) => [
        panel.id,
        {
          type: "linear",
          position: "left",
          // Not on to the next round number.
          bounds: "data",
          stack: "all",
          stackWeight: panel.weight,
          title: { display: true, text: panel.title, color: css("--soft") },
          ticks: {
            color: css("--soft"),
            callback: String,
          },
          afterBuildTicks: (axis: { min: number; max: number; ticks: Array<{ value: number }> }) => {
            // A number at the very top would touch the lowest of the panel above.
            const span = axis.max - axis.min;
            const bottom = axis.min === 0 ? 0 : axis.min + BOTTOM_FREE * span;
            const ticks = roundTicks(bottom, axis.max - TOP_FREE * span, panel.weight + 1);
            axis.ticks = ticks.map((value) => ({ value }));
          },
          grid: { color: css("--line") },
          afterDataLimits: (axis: { min: number; max: number }) => {
            const [min, max] = fitted(axis.min, axis.max, panel.leastSpan);
            Object.assign(axis, { min, max });
          },
          afterFit: (axis: { width: number }) => {
            axis.width = AXIS_WIDTH;
          },
        },
      ]),
    ),
  };
}
