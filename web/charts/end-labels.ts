import type { Chart, Plugin } from "chart.js";
import { css } from "./axes.ts";

/** Room right of the lines for their names, px; none where a chart is too narrow for both. */
const NAMES_PX = 104;
const NARROW_PX = 560;
const LINE_PX = 13;
const MARK_PX = 12;

const roomForNames = (widthPx: number): number => (widthPx < NARROW_PX ? 8 : NAMES_PX);

interface Name {
  text: string;
  colour: string;
  dash: number[];
  y: number;
}

/** Names that would lie over each other are moved apart, in their order, as little as that takes and within the panel. */
export function movedApart<T extends { y: number }>(names: readonly T[], top: number, bottom: number): T[] {
  const placed = names.toSorted((a, b) => a.y - b.y).map((one) => ({ ...one }));
  for (const [k, one] of placed.entries()) one.y = Math.max(one.y, k === 0 ? top : (placed[k - 1]?.y ?? 0) + LINE_PX);
  for (let k = placed.length - 1; k >= 0; k--) {
    const one = placed[k];
    const below = placed[k + 1]?.y;
    if (one) one.y = Math.min(one.y, below === undefined ? bottom : below - LINE_PX);
  }
  return placed;
}

/** Names each line where it ends, beside a piece of it. */
export const endLabels: Plugin<"line"> = {
  id: "names",
  beforeLayout(chart) {
    const right = roomForNames(chart.width);
    if (chart.options.layout) chart.options.layout.padding = { right };
  },
  afterDatasetsDraw(chart) {
    if (roomForNames(chart.width) < NAMES_PX) return;
    const { ctx, chartArea, scales } = chart;
    ctx.save();
    ctx.font = "12px 'Public Sans Variable', sans-serif";
    ctx.textBaseline = "middle";
    ctx.fillStyle = css("--soft");
    ctx.lineWidth = 2;
    for (const [id, scale] of Object.entries(scales)) {
      if (id === "x") continue;
      for (const { text, colour, dash, y } of movedApart(namesOf(chart, id), scale.top + 6, scale.bottom - 6)) {
        ctx.strokeStyle = colour;
        ctx.setLineDash(dash);
        ctx.beginPath();
        ctx.moveTo(chartArea.right + 5, y);
        ctx.lineTo(chartArea.right + 5 + MARK_PX, y);
        ctx.stroke();
        ctx.fillText(text, chartArea.right + 9 + MARK_PX, y, NAMES_PX - 12 - MARK_PX);
      }
    }
    ctx.restore();
  },
};

/** The lines of a panel with the height at which each leaves the shown stretch. */
function namesOf(chart: Chart<"line">, panel: string): Name[] {
  const { x, [panel]: scale } = chart.scales;
  if (!x || !scale) return [];
  return chart.data.datasets.flatMap((line, index): Name[] => {
    if (line.yAxisID !== panel || !chart.isDatasetVisible(index)) return [];
    const last = (line.data as Array<{ x: number; y: number }>).findLast((at) => at.x <= x.max && !Number.isNaN(at.y));
    return last && last.x >= x.min
      ? [
          {
            text: line.label ?? "",
            colour: String(line.borderColor),
            dash: line.borderDash as number[],
            y: scale.getPixelForValue(last.y),
          },
        ]
      : [];
  });
}
