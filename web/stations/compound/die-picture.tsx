import { useRef, useState } from "react";
import { type Bead, beadWidthMm, type Polygon } from "#core/compound/index.ts";

interface Props {
  die: { widthMm: number; heightMm: number };
  beads: readonly Bead[];
  /** Film all over the die, before it is pressed. */
  film: boolean;
  outline: readonly Polygon[];
  /** Words for those who do not see it. */
  label: string;
  /** A bead while it is dragged, and once it is let go. */
  onBead?: (index: number, bead: Bead, done: boolean) => void;
  onRemove?: (index: number) => void;
}

/** Around the die, mm. */
const RIM = 1.6;
const STEP_MM = 0.5;
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
type End = 1 | 2;

/** The die as it looks at you: beads as they are put on, and the outline that they come to when pressed. */
export function DiePicture({ die, beads, film, outline, label, onBead, onRemove }: Props) {
  const { widthMm: w, heightMm: h } = die;
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<{
    index: number;
    end: End | "all";
    fromX: number;
    fromY: number;
    bead: Bead;
  } | null>(null);
  const at = (event: React.PointerEvent): { x: number; y: number } => {
    const matrix = svg.current?.getScreenCTM()?.inverse();
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return { x: point.x, y: h - point.y };
  };
  const moved = (bead: Bead, end: End | "all", dx: number, dy: number): Bead => {
    const [first, second] = [end !== 2, end !== 1];
    return {
      ...bead,
      x1Mm: first ? within(bead.x1Mm + dx, w) : bead.x1Mm,
      y1Mm: first ? within(bead.y1Mm + dy, h) : bead.y1Mm,
      x2Mm: second ? within(bead.x2Mm + dx, w) : bead.x2Mm,
      y2Mm: second ? within(bead.y2Mm + dy, h) : bead.y2Mm,
    };
  };
  const hold = (index: number, end: End | "all") => (event: React.PointerEvent) => {
    const bead = beads[index];
    if (!onBead || !bead) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    const { x, y } = at(event);
    setHeld({ index, end, fromX: x, fromY: y, bead });
  };
  const drag = (event: React.PointerEvent, done: boolean): void => {
    if (!held) return;
    const { x, y } = at(event);
    onBead?.(held.index, moved(held.bead, held.end, x - held.fromX, y - held.fromY), done);
    if (done) setHeld(null);
  };
  const key = (index: number, end: End | "all") => (event: React.KeyboardEvent) => {
    const bead = beads[index];
    if (!bead || !onBead) return;
    const by = ARROWS[event.key];
    const grow = event.key === "+" ? 1.1 : event.key === "-" ? 1 / 1.1 : 0;
    if (by) onBead(index, moved(bead, end, by[0] * STEP_MM, by[1] * STEP_MM), true);
    else if (grow) onBead(index, { ...bead, volumeUl: bead.volumeUl * grow }, true);
    else if (event.key === "Delete" && onRemove) onRemove(index);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <svg
      ref={svg}
      role="group"
      aria-label={label}
      viewBox={`${-RIM} ${-RIM} ${w + 2 * RIM} ${h + 2 * RIM}`}
      className="mx-auto block max-h-[26rem] w-full max-w-md touch-none"
      onPointerMove={(event) => drag(event, false)}
      onPointerUp={(event) => drag(event, true)}
      onPointerCancel={() => setHeld(null)}
    >
      <rect
        width={w}
        height={h}
        rx={0.3}
        fill={film ? "var(--frost)" : "var(--sheet)"}
        stroke="var(--edge)"
        strokeWidth={0.15}
      />
      <path
        d={outline.map((ring) => `M${ring.map(([x, y]) => `${round(x)} ${round(h - y)}`).join("L")}Z`).join("")}
        fill="var(--ice)"
        fillOpacity={0.28}
        fillRule="evenodd"
        stroke="var(--ice)"
        strokeWidth={0.18}
      />
      {beads.map((bead, index) => {
        const long = Math.hypot(bead.x2Mm - bead.x1Mm, bead.y2Mm - bead.y1Mm);
        const isDot = long < 0.3;
        const wide = beadWidthMm(long, bead.volumeUl);
        const name = `${isDot ? "Dot" : "Bead"} ${index + 1}: ${bead.volumeUl.toFixed(1)} µL`;
        const ends: ReadonlyArray<End | "all"> = isDot ? ["all"] : ["all", 1, 2];
        return (
          // Beads have no name of their own: their place in the list is what they are.
          // oxlint-disable-next-line react/no-array-index-key
          <g key={index}>
            <line
              x1={bead.x1Mm}
              y1={h - bead.y1Mm}
              x2={bead.x2Mm}
              y2={h - bead.y2Mm}
              stroke="var(--soft)"
              strokeWidth={wide}
              strokeLinecap="round"
              opacity={0.55}
            />
            {onBead &&
              ends.map((end) => {
                const [x, y] =
                  end === 1
                    ? [bead.x1Mm, bead.y1Mm]
                    : end === 2
                      ? [bead.x2Mm, bead.y2Mm]
                      : [(bead.x1Mm + bead.x2Mm) / 2, (bead.y1Mm + bead.y2Mm) / 2];
                return (
                  <g
                    key={end}
                    role="button"
                    tabIndex={0}
                    aria-label={`${name}${end === "all" ? "" : `, end ${end}`}, at ${x.toFixed(1)}, ${y.toFixed(1)} mm; arrows move it, plus and minus change it`}
                    className="cursor-grab"
                    onPointerDown={hold(index, end)}
                    onKeyDown={key(index, end)}
                  >
                    <circle cx={x} cy={h - y} r={1.5} fill="transparent" />
                    <circle
                      cx={x}
                      cy={h - y}
                      r={end === "all" ? 0.45 : 0.6}
                      fill={end === "all" ? "var(--ink)" : "var(--sheet)"}
                      stroke="var(--ink)"
                      strokeWidth={0.18}
                    />
                  </g>
                );
              })}
          </g>
        );
      })}
    </svg>
  );
}

const within = (value: number, most: number): number => Math.min(most, Math.max(0, value));
const round = (value: number): number => Math.round(value * 1000) / 1000;
