import { useEffect, useMemo, useRef, useState } from "react";
import { type BoardMap, turnedOver } from "#core/boardmap/index.ts";
import { type Folded, type HandStep, isDone, outId } from "#core/handwork/index.ts";
import { BoardPlan, type PlanMarks } from "../../ui/board-plan.tsx";

interface Props {
  map: BoardMap;
  step: Pick<HandStep, "side" | "things" | "text">;
  /** Which fasteners are dealt with, by id. */
  isPast: (id: string) => boolean;
  marks?: PlanMarks;
  onTap?: (at: { xMm: number; yMm: number }, id: string | null) => void;
  underlay?: React.ReactNode;
}

/** A fastener big enough to be found from a metre away, pixels; on a small screen not so big that it hides the next, mm. */
const R_PX = 14;
const MOST_R_MM = 8.5;
const USUAL_WIDTH_PX = 700;

const AIM: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

export const pastOut =
  (folded: Folded) =>
  (id: string): boolean =>
    isDone(folded, outId(id)) || isDone(folded, `plug:${id}`);

/** The plan at a step: what is done is faint, what is next stands out, what is left waits. The back is shown as it lies on the bench. */
export function StepPlan({ map, step, isPast, marks, onTap, underlay }: Props) {
  const back = step.side === "back";
  const shown = useMemo(() => (back ? turnedOver(map) : map), [map, back]);
  const { heightMm, widthMm } = map.board;
  const fasteners = [
    ...shown.screws.filter((screw) => !screw.leaveAlone),
    ...shown.plugs.filter((plug) => plug.side === step.side || step.things.includes(plug.id)),
  ];
  const [aim, setAim] = useState<{ x: number; y: number } | null>(null);
  const aimed = aim ?? { x: widthMm / 2, y: heightMm / 2 };
  // Their names stand in their circles.
  const unnamed = Object.fromEntries(shown.plugs.map(({ id }) => [id, { text: "" }]));
  const alone = shown.screws.filter((screw) => screw.leaveAlone);
  const [widthPx, setWidthPx] = useState(USUAL_WIDTH_PX);
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = frame.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(() => setWidthPx(element.clientWidth || USUAL_WIDTH_PX));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const rMm = Math.min(MOST_R_MM, (R_PX * widthMm) / widthPx);
  const tapAt = (x: number, y: number, id: string | null): void => onTap?.({ xMm: back ? widthMm - x : x, yMm: y }, id);
  const tapping = onTap
    ? {
        role: "group",
        tabIndex: 0,
        "data-step-field": true,
        "aria-label": "Plan: tap where it sits, or move the cross with arrows and press Enter",
        onKeyDown: (event: React.KeyboardEvent) => {
          const way = AIM[event.key];
          if (way) {
            const by = event.shiftKey ? 10 : 1;
            setAim({
              x: Math.min(widthMm, Math.max(0, aimed.x + by * way[0])),
              y: Math.min(heightMm, Math.max(0, aimed.y + by * way[1])),
            });
          } else if (event.key === "Enter") tapAt(aimed.x, aimed.y, null);
          else return;
          event.preventDefault();
          event.stopPropagation();
        },
      }
    : {};
  return (
    <div ref={frame} {...tapping}>
      <BoardPlan
        map={shown}
        side={step.side}
        label={`Plan, ${back ? "back up" : "front up"}: ${step.things.join(", ") || step.text}`}
        marks={{ ...marks, ...unnamed }}
        {...(onTap
          ? {
              onPick: (id: string | null, _add: boolean, at: { xMm: number; yMm: number }) => tapAt(at.xMm, at.yMm, id),
            }
          : {})}
        underlay={underlay}
        overlay={
          <g pointerEvents="none">
            {alone.map(({ id, xMm, yMm }) => (
              <g key={id} stroke="var(--danger)" strokeWidth={0.8} fill="none">
                <circle cx={xMm} cy={heightMm - yMm} r={rMm} />
                <path
                  d={`M${xMm - rMm / 2} ${heightMm - yMm - rMm / 2}l${rMm} ${rMm}M${xMm + rMm / 2} ${heightMm - yMm - rMm / 2}l${-rMm} ${rMm}`}
                />
              </g>
            ))}
            {fasteners
              .toSorted((a, b) => Number(step.things.includes(a.id)) - Number(step.things.includes(b.id)))
              .map(({ id, xMm, yMm }) => (
                <Fastener
                  key={id}
                  id={id}
                  x={xMm}
                  y={heightMm - yMm}
                  rMm={rMm}
                  state={step.things.includes(id) ? "next" : isPast(id) && !onTap ? "past" : "left"}
                />
              ))}
            {onTap && aim && (
              <path
                d={`M${aim.x - 6} ${heightMm - aim.y}h12M${aim.x} ${heightMm - aim.y - 6}v12`}
                stroke="var(--ice)"
                strokeWidth={0.8}
              />
            )}
          </g>
        }
      />
      <p className="mt-1 text-sm text-soft">
        {back ? "Back up, as it lies on the bench." : "Front up."} Blue: now. Tick: done.
        {alone.length > 0 && " Crossed out: leave alone."}
      </p>
    </div>
  );
}

function Fastener({
  id,
  x,
  y,
  rMm,
  state,
}: {
  id: string;
  x: number;
  y: number;
  rMm: number;
  state: "next" | "past" | "left";
}) {
  const r = state === "next" ? rMm * 1.25 : rMm;
  const size = r * (id.length > 2 && state !== "past" ? 0.8 : 0.92);
  return (
    <g data-fastener={id} data-state={state}>
      {state === "next" && <circle cx={x} cy={y} r={r * 1.27} fill="none" stroke="var(--ice)" strokeWidth={r / 6} />}
      <circle
        cx={x}
        cy={y}
        r={r}
        fill={state === "next" ? "var(--ice)" : "var(--sheet)"}
        stroke={state === "past" ? "var(--line)" : state === "next" ? "var(--ice)" : "var(--ink)"}
        strokeWidth={r / 10}
      />
      <text
        x={x}
        y={y + size * 0.36}
        fontSize={size}
        fontWeight={700}
        textAnchor="middle"
        fill={state === "next" ? "var(--on-ice)" : state === "past" ? "var(--soft)" : "var(--ink)"}
      >
        {state === "past" ? "✓" : id}
      </text>
    </g>
  );
}
