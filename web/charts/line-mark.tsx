import type { Series } from "./series.ts";

/** How a line of a chart looks, for its legend. */
export function LineMark({ line }: { line: Series }) {
  return (
    <svg width="26" height="8" aria-hidden>
      <line x1="0" x2="26" y1="4" y2="4" stroke={line.colour} strokeWidth="3" strokeDasharray={line.dash.join(" ")} />
    </svg>
  );
}
