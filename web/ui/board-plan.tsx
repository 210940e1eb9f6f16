import { Minus, Plus } from "lucide-react";
import { memo, type ReactNode, type RefObject, useEffect, useEffectEvent, useMemo, useRef, useState } from "react";
import { type BoardMap, type Thing, thingsOf } from "#core/boardmap/index.ts";
import { type PlanLabel, planLabels } from "./plan-labels.ts";

/** What is written on a part and how it is filled. */
export interface PlanMark {
  text?: string;
  /** Pad thickness, mm: sets the hatch. */
  hatchMm?: number;
  /** 0…1 on the single-hue scale. */
  wash?: number;
  tone?: "amber" | "danger";
}

export type PlanMarks = Readonly<Record<string, PlanMark | undefined>>;

export interface PlanDrag {
  /** Where a drag by so much comes to rest, and the lines of other things that it lies on then. */
  snap: (
    ids: readonly string[],
    dxMm: number,
    dyMm: number,
  ) => { dxMm: number; dyMm: number; lineXMm: number | null; lineYMm: number | null };
  onMove?: (ids: readonly string[], dxMm: number, dyMm: number) => void;
  onDrop: (ids: readonly string[], dxMm: number, dyMm: number) => void;
  /** Escape gave the drag up. */
  onCancel?: () => void;
}

interface Props {
  map: BoardMap;
  side: "front" | "back";
  label: string;
  marks?: PlanMarks;
  picked?: readonly string[];
  /** `add` with Shift or Ctrl held. */
  onPick?: (id: string | null, add: boolean, at: { xMm: number; yMm: number }) => void;
  /** Things that move with a hand; all that are picked move together. */
  drag?: PlanDrag | undefined;
  canDrag?: (thing: Thing) => boolean;
  underlay?: ReactNode;
  overlay?: ReactNode;
}

/** What is picked after something was pressed: alone, or beside the others with Shift or Ctrl; pressed again, no more. */
export function nextPicked(picked: readonly string[], id: string | null, add: boolean): string[] {
  if (id === null) return [];
  if (add) return picked.includes(id) ? picked.filter((one) => one !== id) : [...picked, id];
  return picked.includes(id) ? [...picked] : [id];
}

const MARGIN_MM = 4;
const USUAL_WIDTH_PX = 670;
const MOST_ZOOM = 4;
const ZOOMS = [
  { by: 0.5, label: "Smaller plan", icon: Minus },
  { by: 2, label: "Larger plan", icon: Plus },
] as const;

/**
 * Plan view of a board to scale, y up. A drag moves the picked things' layer only and is told in millimetres; nothing is drawn anew
 * until it is dropped, so that hundreds of parts follow the hand.
 */
export function BoardPlan(props: Props) {
  const { map, side, label, marks = NO_MARKS, picked = NOBODY, onPick, drag, canDrag, underlay, overlay } = props;
  const svg = useRef<SVGSVGElement>(null);
  const layer = useRef<SVGGElement>(null);
  const guides = useRef<SVGPathElement>(null);
  const [zoom, setZoom] = useState(1);
  const [widthPx, setWidthPx] = useState(USUAL_WIDTH_PX);
  useEffect(() => {
    const frame = svg.current?.parentElement;
    if (!frame) return;
    const observer = new ResizeObserver(() => setWidthPx(frame.clientWidth || USUAL_WIDTH_PX));
    observer.observe(frame);
    return () => observer.disconnect();
  }, []);
  const { widthMm, heightMm } = map.board;
  const things = useMemo(() => thingsOf(map).filter((one) => one.side === side || one.side === "both"), [map, side]);
  const chosen = useMemo(() => new Set(picked), [picked]);
  const gesture = usePlanGesture({ svg, layer, guides }, { map, things, chosen, onPick, drag, canDrag });
  const resting = useMemo(() => things.filter((thing) => !chosen.has(thing.id)), [things, chosen]);
  const moving = useMemo(() => things.filter((thing) => chosen.has(thing.id)), [things, chosen]);
  const labels = useMemo(
    () =>
      planLabels(things, (id) => marks[id]?.text, map.board, (zoom * widthPx) / (map.board.widthMm + 2 * MARGIN_MM)),
    [things, marks, map.board, zoom, widthPx],
  );
  const thicknesses = useMemo(() => [...new Set(Object.values(marks).flatMap((mark) => mark?.hatchMm ?? []))], [marks]);
  const only = moving.length === 1 ? moving[0] : undefined;
  useEffect(() => {
    const frame = svg.current?.parentElement;
    if (!frame || !only || zoom === 1) return;
    frame.scrollTo({
      left: (only.xMm / widthMm) * frame.scrollWidth - frame.clientWidth / 2,
      top: (1 - only.yMm / heightMm) * frame.scrollHeight - frame.clientHeight / 2,
    });
  }, [only, zoom, widthMm, heightMm]);
  return (
    <div>
      <div
        className="relative max-h-[32rem] overflow-auto rounded-lg border border-line bg-paper"
        tabIndex={zoom > 1 ? 0 : undefined}
      >
        <svg
          ref={svg}
          viewBox={`${-MARGIN_MM} ${-MARGIN_MM} ${widthMm + 2 * MARGIN_MM} ${heightMm + 2 * MARGIN_MM}`}
          className={`block select-none ${drag ? "touch-none" : ""}`}
          style={{ width: `${100 * zoom}%` }}
          role="img"
          aria-label={label}
          {...gesture}
        >
          <defs>
            {thicknesses.map((mm) => (
              <Hatch key={mm} mm={mm} />
            ))}
          </defs>
          <rect
            x={0}
            y={0}
            width={widthMm}
            height={heightMm}
            rx={1.5}
            fill="var(--sheet)"
            stroke="var(--edge)"
            strokeWidth={0.5}
          />
          {underlay}
          {map.cooler && (
            <rect
              x={map.cooler.xMm - map.cooler.widthMm / 2}
              y={heightMm - map.cooler.yMm - map.cooler.heightMm / 2}
              width={map.cooler.widthMm}
              height={map.cooler.heightMm}
              fill="none"
              stroke="var(--edge)"
              strokeWidth={0.3}
              strokeDasharray="2 1.2"
            />
          )}
          <PlanThings map={map} things={resting} marks={marks} labels={labels} picked={false} />
          <g ref={layer}>
            <PlanThings map={map} things={moving} marks={marks} labels={labels} picked />
          </g>
          {overlay}
          <path
            ref={guides}
            data-guides
            stroke="var(--ice)"
            strokeWidth={0.35}
            strokeDasharray="1.6 1"
            pointerEvents="none"
          />
        </svg>
      </div>
      <div className="no-print mt-1 flex justify-end gap-1">
        {ZOOMS.map(({ by, label, icon: Icon }) => {
          const next = Math.min(MOST_ZOOM, Math.max(1, zoom * by));
          return (
            <button
              key={label}
              type="button"
              aria-label={label}
              disabled={next === zoom}
              onClick={() => setZoom(next)}
              className="flex size-11 items-center justify-center rounded-lg border border-edge bg-sheet hover:border-ice disabled:opacity-55"
            >
              <Icon aria-hidden className="size-5" />
            </button>
          );
        })}
      </div>
    </div>
  );
}

const NO_MARKS: PlanMarks = {};
const NOBODY: readonly string[] = [];
const SPACING_MM = [2.6, 2, 1.6, 1.3, 1.05, 0.85];

/** Denser for thicker pads; every second step leans the other way. */
function Hatch({ mm }: { mm: number }) {
  const step = Math.min(SPACING_MM.length - 1, Math.round(mm / 0.5) - 1);
  const gap = SPACING_MM[Math.max(0, step)] ?? 1.5;
  return (
    <pattern
      id={hatchId(mm)}
      width={gap}
      height={gap}
      patternUnits="userSpaceOnUse"
      patternTransform={`rotate(${Math.round(mm * 4) % 2 === 0 ? 45 : -45})`}
    >
      <line x1={0} y1={0} x2={0} y2={gap} stroke="var(--ice)" strokeWidth={0.22} />
    </pattern>
  );
}

const hatchId = (mm: number): string => `hatch-${String(mm).replace(".", "-")}`;

const PlanThings = memo(function PlanThings({
  map,
  things,
  marks,
  labels,
  picked,
}: {
  map: BoardMap;
  things: readonly Thing[];
  marks: PlanMarks;
  labels: ReadonlyMap<string, PlanLabel>;
  picked: boolean;
}) {
  return things.map((thing) => (
    <PlanThing
      key={thing.id}
      thing={thing}
      heightMm={map.board.heightMm}
      mark={marks[thing.id]}
      label={labels.get(thing.id)}
      picked={picked}
    />
  ));
});

const TONES = { amber: "var(--amber)", danger: "var(--danger)" } as const;

const PlanThing = memo(function PlanThing({
  thing,
  heightMm,
  mark,
  label,
  picked,
}: {
  thing: Thing;
  heightMm: number;
  mark: PlanMark | undefined;
  label: PlanLabel | undefined;
  picked: boolean;
}) {
  const x = thing.xMm - thing.widthMm / 2;
  const y = heightMm - thing.yMm - thing.heightMm / 2;
  const stroke = mark?.tone ? TONES[mark.tone] : picked ? "var(--ice)" : "var(--ink)";
  const width = mark?.tone ? 0.7 : 0.35;
  if (thing.type === "screw")
    return (
      <g data-thing={thing.id}>
        <circle cx={thing.xMm} cy={y + thing.heightMm / 2} r={Math.max(3, thing.widthMm / 2)} fill="transparent" />
        {picked && (
          <circle
            cx={thing.xMm}
            cy={y + thing.heightMm / 2}
            r={thing.widthMm / 2 + 1.1}
            fill="none"
            stroke="var(--ice)"
            strokeWidth={0.9}
          />
        )}
        <circle
          cx={thing.xMm}
          cy={y + thing.heightMm / 2}
          r={thing.widthMm / 2}
          fill={picked ? "var(--frost)" : "var(--paper)"}
          stroke={stroke}
          strokeWidth={width}
        />
        <path
          d={`M${thing.xMm - 0.8} ${y + thing.heightMm / 2}h1.6M${thing.xMm} ${y + thing.heightMm / 2 - 0.8}v1.6`}
          stroke={stroke}
          strokeWidth={0.3}
        />
      </g>
    );
  const wash =
    mark?.wash === undefined
      ? "var(--sheet)"
      : `color-mix(in oklab, var(--ice) ${Math.round(12 + 63 * Math.min(1, Math.max(0, mark.wash)))}%, var(--sheet))`;
  return (
    <g data-thing={thing.id}>
      {picked && (
        <rect
          x={x - 1.1}
          y={y - 1.1}
          width={thing.widthMm + 2.2}
          height={thing.heightMm + 2.2}
          rx={0.8}
          fill="none"
          stroke="var(--ice)"
          strokeWidth={0.9}
        />
      )}
      <rect
        x={x}
        y={y}
        width={thing.widthMm}
        height={thing.heightMm}
        fill={picked && mark?.wash === undefined ? "var(--frost)" : wash}
        stroke={stroke}
        strokeWidth={width}
      />
      {mark?.hatchMm !== undefined && (
        <rect x={x} y={y} width={thing.widthMm} height={thing.heightMm} fill={`url(#${hatchId(mark.hatchMm)})`} />
      )}
      {label?.outside && <rect {...reach(thing, label, heightMm)} fill="transparent" />}
      {label && (
        <text
          y={heightMm - label.yMm + label.sizeMm * (0.36 - 0.55 * (label.lines.length - 1))}
          fontSize={label.sizeMm}
          fontWeight={600}
          textAnchor="middle"
          fill="var(--ink)"
          stroke="var(--sheet)"
          strokeWidth={mark?.hatchMm === undefined || label.outside ? 0 : 0.9}
          paintOrder="stroke"
          pointerEvents="none"
        >
          {label.lines.map((line, index) => (
            <tspan key={line} x={label.xMm} dy={index === 0 ? 0 : label.sizeMm * 1.1}>
              {line}
            </tspan>
          ))}
        </text>
      )}
    </g>
  );
});

/** A part and the words beside it are one thing to a finger. */
function reach({ xMm, yMm, widthMm, heightMm: partMm }: Thing, label: PlanLabel, heightMm: number) {
  const half = { x: (0.3 * label.sizeMm * label.lines.join().length) / label.lines.length, y: label.sizeMm * 0.6 };
  const x0 = Math.min(xMm - widthMm / 2, label.xMm - half.x);
  const x1 = Math.max(xMm + widthMm / 2, label.xMm + half.x);
  const y0 = Math.min(yMm - partMm / 2, label.yMm - half.y);
  const y1 = Math.max(yMm + partMm / 2, label.yMm + half.y);
  return { x: x0, y: heightMm - y1, width: x1 - x0, height: y1 - y0 };
}

/** From edge to edge, where what is dragged lies in line with something. */
function guidePath(
  { lineXMm, lineYMm }: { lineXMm: number | null; lineYMm: number | null },
  { widthMm, heightMm }: BoardMap["board"],
): string {
  return [
    lineXMm === null ? "" : `M${lineXMm} 0V${heightMm}`,
    lineYMm === null ? "" : `M0 ${heightMm - lineYMm}H${widthMm}`,
  ].join("");
}

/** The hand on the plan: nothing, or pressed on something, or dragging it, or moving an enlarged plan. Escape gives a drag up. */
type Hand =
  | { state: "free" }
  | { state: "panning"; clientX: number; clientY: number }
  | { state: "pressed" | "dragging"; ids: readonly string[]; from: { xMm: number; yMm: number } };

const DRAG_FROM_MM = 0.4;

function usePlanGesture(
  {
    svg,
    layer,
    guides,
  }: {
    svg: RefObject<SVGSVGElement | null>;
    layer: RefObject<SVGGElement | null>;
    guides: RefObject<SVGPathElement | null>;
  },
  {
    map,
    things,
    chosen,
    onPick,
    drag,
    canDrag,
  }: {
    map: BoardMap;
    things: readonly Thing[];
    chosen: ReadonlySet<string>;
    onPick: Props["onPick"];
    drag: PlanDrag | undefined;
    canDrag: Props["canDrag"];
  },
) {
  const hand = useRef<Hand>({ state: "free" });
  /** Screen pixels become millimetres here and nowhere else. */
  const toMm = (event: { clientX: number; clientY: number }): { xMm: number; yMm: number } => {
    const matrix = svg.current?.getScreenCTM()?.inverse();
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return { xMm: point.x, yMm: map.board.heightMm - point.y };
  };
  const rest = (event: { clientX: number; clientY: number }): ReturnType<PlanDrag["snap"]> | null => {
    const now = hand.current;
    if (now.state !== "dragging" || !drag) return null;
    const at = toMm(event);
    return drag.snap(now.ids, at.xMm - now.from.xMm, at.yMm - now.from.yMm);
  };
  const letGo = (): void => {
    hand.current = { state: "free" };
    layer.current?.removeAttribute("transform");
    guides.current?.removeAttribute("d");
  };
  const giveUp = useEffectEvent((event: KeyboardEvent): void => {
    if (event.key !== "Escape" || hand.current.state !== "dragging") return;
    // Escape means the drag here, not what else it may give up.
    event.stopImmediatePropagation();
    letGo();
    drag?.onCancel?.();
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => giveUp(event);
    addEventListener("keydown", listen, { capture: true });
    return () => removeEventListener("keydown", listen, { capture: true });
  }, []);
  return {
    onPointerDown: (event: React.PointerEvent<SVGSVGElement>) => {
      if (event.button !== 0) return;
      const id = (event.target as Element).closest("[data-thing]")?.getAttribute("data-thing") ?? null;
      const at = toMm(event);
      onPick?.(id, event.shiftKey || event.ctrlKey, at);
      const thing = things.find((one) => one.id === id);
      if (!thing) {
        svg.current?.setPointerCapture(event.pointerId);
        hand.current = { state: "panning", clientX: event.clientX, clientY: event.clientY };
        return;
      }
      if (!drag || canDrag?.(thing) === false) return;
      svg.current?.setPointerCapture(event.pointerId);
      hand.current = {
        state: "pressed",
        ids: chosen.has(thing.id) && chosen.size > 1 ? [...chosen] : [thing.id],
        from: at,
      };
    },
    onPointerMove: (event: React.PointerEvent<SVGSVGElement>) => {
      const now = hand.current;
      if (now.state === "free") return;
      if (now.state === "panning") {
        svg.current?.parentElement?.scrollBy(now.clientX - event.clientX, now.clientY - event.clientY);
        hand.current = { state: "panning", clientX: event.clientX, clientY: event.clientY };
        return;
      }
      const at = toMm(event);
      if (now.state === "pressed" && Math.hypot(at.xMm - now.from.xMm, at.yMm - now.from.yMm) < DRAG_FROM_MM) return;
      hand.current = { ...now, state: "dragging" };
      const by = rest(event);
      if (!by) return;
      layer.current?.setAttribute("transform", `translate(${by.dxMm} ${-by.dyMm})`);
      guides.current?.setAttribute("d", guidePath(by, map.board));
      drag?.onMove?.(now.ids, by.dxMm, by.dyMm);
    },
    onPointerUp: (event: React.PointerEvent<SVGSVGElement>) => {
      const now = hand.current;
      const by = rest(event);
      letGo();
      if (now.state === "dragging" && by) drag?.onDrop(now.ids, by.dxMm, by.dyMm);
    },
    onPointerCancel: letGo,
  };
}
