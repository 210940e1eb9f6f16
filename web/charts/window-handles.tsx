import type { Stretch } from "#core";
import { span } from "../ui/format.ts";

interface WindowHandlesProps {
  window: Stretch;
  area: { left: number; right: number; top: number; bottom: number };
  toX: (timeS: number) => number;
  toTime: (x: number) => number;
  durationS: number;
  onWindow?: ((window: Stretch) => void) | undefined;
}

const NARROWEST_S = 30;

/** The steady window over the chart, with an edge to drag (or to move with the arrow keys) on either side. */
export function WindowHandles({ window: steady, area, toX, toTime, durationS, onWindow }: WindowHandlesProps) {
  const left = Math.max(area.left, Math.min(area.right, toX(steady.fromS)));
  const right = Math.max(area.left, Math.min(area.right, toX(steady.toS)));
  const height = area.bottom - area.top;
  const set = (edge: "fromS" | "toS", timeS: number): void => {
    const low = edge === "fromS" ? 0 : steady.fromS + NARROWEST_S;
    const high = edge === "fromS" ? steady.toS - NARROWEST_S : durationS;
    onWindow?.({ ...steady, [edge]: Math.max(low, Math.min(high, timeS)) });
  };
  return (
    <>
      <div
        className="pointer-events-none absolute border-t-4 border-ice bg-ice/10"
        style={{ left, width: Math.max(0, right - left), top: area.top, height }}
      />
      {onWindow &&
        (["fromS", "toS"] as const).map((edge) => (
          <div
            key={edge}
            role="slider"
            tabIndex={0}
            aria-label={edge === "fromS" ? "Steady window starts" : "Steady window ends"}
            aria-valuemin={0}
            aria-valuemax={Math.round(durationS)}
            aria-valuenow={Math.round(steady[edge])}
            aria-valuetext={`${span(steady[edge])} minutes`}
            className="absolute flex w-11 -translate-x-1/2 cursor-ew-resize touch-none justify-center"
            style={{ left: edge === "fromS" ? left : right, top: area.top, height }}
            onPointerDown={(event) => {
              event.stopPropagation();
              event.currentTarget.setPointerCapture(event.pointerId);
            }}
            onPointerMove={(event) => {
              if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
              const box = event.currentTarget.parentElement?.getBoundingClientRect();
              if (box) set(edge, toTime(event.clientX - box.left));
            }}
            onKeyDown={(event) => {
              const pace = event.shiftKey ? 50 : 5;
              const by = event.key === "ArrowLeft" ? -pace : event.key === "ArrowRight" ? pace : 0;
              if (by === 0) return;
              event.preventDefault();
              event.stopPropagation();
              set(edge, steady[edge] + by);
            }}
          >
            <span className="h-full w-0.5 bg-ice" />
            <span className="absolute top-1/3 h-14 w-3 rounded-full bg-ice" />
          </div>
        ))}
    </>
  );
}
