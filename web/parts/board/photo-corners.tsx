import { useEffect, useRef, useState } from "react";
import type { Point } from "#core/boardmap/index.ts";

/** In the order in which they are marked. */
export const CORNERS = ["lower left", "lower right", "upper right", "upper left"] as const;

export interface OpenPhoto {
  url: string;
  bitmap: ImageBitmap;
}

/** A photo on which four corners are marked, by pointer or with arrow keys and Enter. */
export function PhotoCorners({
  photo,
  marks,
  onMark,
}: {
  photo: OpenPhoto;
  marks: readonly Point[];
  onMark: (mark: Point) => void;
}) {
  const { aim, onKeyDown } = useAim(photo.bitmap);
  return (
    <div className="relative max-h-[26rem] overflow-auto rounded-lg border border-line">
      <button
        type="button"
        className="relative block cursor-crosshair"
        aria-label="Photo: click its corners"
        onKeyDown={onKeyDown}
        onClick={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          const scale = photo.bitmap.width / box.width;
          // A click by key has no place of its own.
          const mark: Point =
            event.detail > 0
              ? [(event.clientX - box.left) * scale, (event.clientY - box.top) * scale]
              : (aim ?? [photo.bitmap.width / 2, photo.bitmap.height / 2]);
          if (marks.length < CORNERS.length) onMark(mark);
        }}
      >
        <img src={photo.url} alt="" className="block w-full" />
        <svg
          className="pointer-events-none absolute inset-0 size-full"
          viewBox={`0 0 ${photo.bitmap.width} ${photo.bitmap.height}`}
          aria-hidden
        >
          {(
            [
              ["#0b6a94", 140],
              ["#ffffff", 400],
            ] as const
          ).map(([colour, thin]) => (
            <polygon
              key={colour}
              points={marks.map((mark) => mark.join(",")).join(" ")}
              fill="none"
              stroke={colour}
              strokeWidth={photo.bitmap.width / thin}
            />
          ))}
          {marks.map(([x, y]) => (
            <circle
              key={`${x} ${y}`}
              cx={x}
              cy={y}
              r={photo.bitmap.width / 120}
              fill="#0b6a94"
              stroke="#ffffff"
              strokeWidth={photo.bitmap.width / 400}
            />
          ))}
          {aim && <Cross at={aim} sizePx={photo.bitmap.width / 40} />}
        </svg>
      </button>
    </div>
  );
}

/** Where the arrow keys have led the cross, in the photo's pixels; null until one was pressed. */
function useAim(photo: ImageBitmap) {
  const [aim, setAim] = useState<Point | null>(null);
  const onKeyDown = (event: React.KeyboardEvent): void => {
    const way = AIM_KEYS[event.key];
    if (!way) return;
    event.preventDefault();
    // The cross moves, not what is picked on the map.
    event.stopPropagation();
    const step = (photo.width / 200) * (event.shiftKey ? 10 : event.altKey ? 0.2 : 1);
    const [x, y] = aim ?? [photo.width / 2, photo.height / 2];
    setAim([
      Math.min(photo.width, Math.max(0, x + step * way[0])),
      Math.min(photo.height, Math.max(0, y + step * way[1])),
    ]);
  };
  return { aim, onKeyDown };
}

const AIM_KEYS: Readonly<Record<string, Point>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

function Cross({ at: [x, y], sizePx }: { at: Point; sizePx: number }) {
  const path = useRef<SVGPathElement>(null);
  useEffect(() => {
    path.current?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [x, y]);
  const d = `M${x - sizePx} ${y}h${2 * sizePx}M${x} ${y - sizePx}v${2 * sizePx}`;
  return (
    <>
      <path d={d} stroke="#ffffff" strokeWidth={sizePx / 4} />
      <path ref={path} d={d} stroke="#0b6a94" strokeWidth={sizePx / 10} />
    </>
  );
}
