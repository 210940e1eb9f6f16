import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import type { DayCardView, DayView } from "#contract";
import type { PlannedBlock } from "#core/day/index.ts";
import { blockTitle, momentWords } from "./words.ts";

const HOUR_MS = 3_600_000;
const STEP_MS = 15 * 60_000;
/** Room before now. */
const LEAD_MS = HOUR_MS / 2;

export const SPANS = [
  { id: "hours", label: "9 hours", ms: 9 * HOUR_MS, gridMs: HOUR_MS },
  { id: "days", label: "2 days", ms: 48 * HOUR_MS, gridMs: 6 * HOUR_MS },
  { id: "week", label: "Week", ms: 168 * HOUR_MS, gridMs: 24 * HOUR_MS },
] as const;
export type SpanId = (typeof SPANS)[number]["id"];

interface Row {
  id: string;
  name: string;
  blocks: PlannedBlock[];
}

/** Lanes of benches, people and the rack, with what falls into a span. */
function lanesOf({ plan, benches, people }: DayView, fromMs: number, untilMs: number): Row[] {
  const blocks = (plan?.blocks ?? [])
    .filter(({ startMs, endMs }) => endMs > fromMs && startMs < untilMs)
    .toSorted((a, b) => a.startMs - b.startMs);
  const rack: PlannedBlock[][] = [];
  for (const block of blocks.filter(({ kind }) => kind === "rack").toSorted((a, b) => a.startMs - b.startMs)) {
    const free = rack.find((row) => (row.at(-1)?.endMs ?? 0) <= block.startMs);
    if (free) free.push(block);
    else rack.push([block]);
  }
  const benchRows = benches.length > 0 ? benches : [{ id: "none", name: "Test bench" }];
  return [
    ...benchRows.map(({ id, name }, lane) => ({
      id: `bench ${id}`,
      name,
      blocks: blocks.filter((block) => block.kind === "bench" && block.lane === lane),
    })),
    ...people.map((name, lane) => ({
      id: `person ${lane}`,
      name,
      blocks: blocks.filter((block) => block.kind === "hands" && block.lane === lane),
    })),
    ...(rack.length > 0 ? rack : [[]]).map((row, index) => ({
      id: `rack ${index}`,
      name: index === 0 ? "Rack" : "",
      blocks: row,
    })),
  ];
}

export interface Picked {
  serviceId: string;
  id: string;
}

/** The moments that are shown: from a little before now, or before somebody comes. */
function windowOf({ atMs, closed, plan }: DayView, ms: number): { fromMs: number; untilMs: number } {
  // Whoever is in the middle of something is there, whatever the opening hours say.
  const isBusy = plan?.blocks.some(({ begun, kind }) => begun && kind !== "rack");
  const shut = isBusy ? undefined : closed.find((one) => one.fromMs <= atMs && one.untilMs > atMs);
  const fromMs = Math.floor(((shut && ms < 20 * HOUR_MS ? shut.untilMs : atMs) - LEAD_MS) / STEP_MS) * STEP_MS;
  return { fromMs, untilMs: fromMs + ms };
}

interface Props {
  day: DayView;
  span: SpanId;
  picked: Picked | null;
  onPick?: ((picked: Picked) => void) | undefined;
  /** Holds a step at a moment. */
  onHold?: ((card: DayCardView, id: string, ms: number) => void) | undefined;
  onLetGo?: ((card: DayCardView, id: string) => void) | undefined;
}

/** What stands on which bench, in whose hands and on the rack, with the line of now and what is promised. */
export function TimeLine({ day, span, picked, onPick, onHold, onLetGo }: Props) {
  const { ms, gridMs } = SPANS.find(({ id }) => id === span) ?? SPANS[0];
  const { fromMs, untilMs } = windowOf(day, ms);
  const share = (at: number): number => (100 * (Math.min(untilMs, Math.max(fromMs, at)) - fromMs)) / ms;
  const grid = gridOf(fromMs, untilMs, gridMs);
  const lanes = lanesOf(day, fromMs, untilMs);
  // One stop for the Tab key: the step that is picked, else the first; from there . and , go on.
  const shown = lanes.flatMap(({ blocks }) => blocks);
  const stop = shown.find(({ serviceId, id }) => serviceId === picked?.serviceId && id === picked.id) ?? shown[0];
  const byId = new Map(day.cards.map((card) => [card.serviceId, card]));
  const promises = (day.plan?.kept ?? []).filter(
    ({ promisedMs }) => promisedMs !== null && promisedMs > fromMs && promisedMs < untilMs,
  );
  return (
    <div
      role="region"
      aria-label="Plan over time"
      tabIndex={0}
      className="overflow-x-auto rounded-xl border border-line bg-sheet"
    >
      <div className="relative min-w-[46rem] pl-28">
        <div className="relative h-8 border-b border-line text-sm text-soft">
          {grid.map((at) => (
            <span
              key={at}
              className="absolute top-1 -translate-x-1/2 whitespace-nowrap"
              style={{ left: `${share(at)}%` }}
            >
              {momentWords(at, gridMs > HOUR_MS ? 0 : day.atMs)}
            </span>
          ))}
        </div>
        <div className="relative">
          {day.closed
            .filter((one) => one.untilMs > fromMs && one.fromMs < untilMs)
            .map((one) => (
              <div
                key={one.fromMs}
                aria-hidden
                className="absolute inset-y-0 bg-[repeating-linear-gradient(135deg,var(--color-line)_0_1px,transparent_1px_7px)]"
                style={{ left: `${share(one.fromMs)}%`, width: `${share(one.untilMs) - share(one.fromMs)}%` }}
              />
            ))}
          {grid.map((at) => (
            <div key={at} aria-hidden className="absolute inset-y-0 w-px bg-line" style={{ left: `${share(at)}%` }} />
          ))}
          <ul aria-label="Plan by bench, person and rack">
            {lanes.map((row) => (
              <li key={row.id} className="relative h-14 border-b border-line last:border-b-0">
                <span className="absolute -left-28 flex h-full w-28 items-center truncate border-r border-line bg-sheet px-3 text-sm font-semibold">
                  {row.name}
                </span>
                {row.blocks.map((block) => {
                  const card = byId.get(block.serviceId);
                  return (
                    card && (
                      <Block
                        key={`${block.serviceId} ${block.id}`}
                        block={block}
                        card={card}
                        left={share(block.startMs)}
                        width={share(block.endMs) - share(block.startMs)}
                        msPerShare={ms / 100}
                        nowMs={day.atMs}
                        isStop={block === stop}
                        isPicked={picked?.serviceId === block.serviceId && picked.id === block.id}
                        isOfPicked={picked?.serviceId === block.serviceId}
                        onPick={onPick}
                        onHold={onHold}
                        onLetGo={onLetGo}
                      />
                    )
                  );
                })}
              </li>
            ))}
          </ul>
          {day.atMs > fromMs && day.atMs < untilMs && (
            <div
              aria-hidden
              className="pointer-events-none absolute inset-y-0 w-0.5 bg-danger"
              style={{ left: `${share(day.atMs)}%` }}
            />
          )}
          {promises.map(({ serviceId, promisedMs, chance }) => (
            <div
              key={serviceId}
              className="pointer-events-none absolute inset-y-0 border-l-2 border-dashed border-amber"
              style={{ left: `${share(promisedMs ?? 0)}%` }}
              title={`${byId.get(serviceId)?.name ?? ""} is promised, kept with ${Math.round(100 * (chance ?? 0))} %`}
            />
          ))}
        </div>
      </div>
    </div>
  );
}

/** Round moments of the clock where the person is. */
function gridOf(fromMs: number, untilMs: number, gridMs: number): number[] {
  const offsetMs = new Date(fromMs).getTimezoneOffset() * 60_000;
  const first = Math.ceil((fromMs - offsetMs) / gridMs) * gridMs + offsetMs;
  return Array.from({ length: Math.floor((untilMs - first) / gridMs) + 1 }, (_, k) => first + k * gridMs);
}

const LOOK = {
  hands: "border-ice bg-frost text-ink",
  bench: "border-ink bg-ink text-sheet",
  rack: "border-dashed border-edge bg-paper text-ink",
} as const;

interface BlockProps extends Pick<Props, "onPick" | "onHold" | "onLetGo"> {
  block: PlannedBlock;
  card: DayCardView;
  left: number;
  width: number;
  msPerShare: number;
  nowMs: number;
  isStop: boolean;
  isPicked: boolean;
  isOfPicked: boolean;
}

/** To the next step of the plan, or the one before: along a lane, then on to the next. */
function focusNext(from: HTMLElement, by: 1 | -1): void {
  const all = [...(from.closest("ul")?.querySelectorAll<HTMLElement>("[data-step]") ?? [])];
  const next = all[all.indexOf(from) + by];
  next?.focus();
  next?.scrollIntoView({ block: "nearest", inline: "nearest" });
}

/** Less than this is a click. */
const DRAG_PX = 5;

function Block({
  block,
  card,
  left,
  width,
  msPerShare,
  nowMs,
  isStop,
  isPicked,
  isOfPicked,
  onPick,
  onHold,
  onLetGo,
}: BlockProps) {
  const [shift, setShift] = useState<number | null>(null);
  const begun = useRef<{ x: number; laneWidth: number } | null>(null);
  const canMove = !block.begun && onHold !== undefined;
  const name = `${blockTitle(block.id, card)}, ${card.name} ${card.serial}`;
  const hold = (ms: number): void => onHold?.(card, block.id, Math.round(Math.max(nowMs, ms) / STEP_MS) * STEP_MS);
  const down = (event: PointerEvent<HTMLButtonElement>): void => {
    const lane = event.currentTarget.parentElement?.clientWidth ?? 0;
    if (!canMove || lane === 0) return;
    begun.current = { x: event.clientX, laneWidth: lane };
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const move = (event: PointerEvent): void => {
    if (!begun.current) return;
    const px = event.clientX - begun.current.x;
    if (shift !== null || Math.abs(px) > DRAG_PX) setShift((100 * px) / begun.current.laneWidth);
  };
  const up = (): void => {
    if (begun.current && shift !== null) hold(block.startMs + shift * msPerShare);
    begun.current = null;
    setShift(null);
  };
  const keys = (event: KeyboardEvent<HTMLButtonElement>): void => {
    if (event.key === "." || event.key === ",") return focusNext(event.currentTarget, event.key === "." ? 1 : -1);
    if (!canMove) return;
    if (event.key === "ArrowLeft" || event.key === "ArrowRight")
      hold(block.startMs + (event.key === "ArrowLeft" ? -1 : 1) * (event.shiftKey ? 4 : 1) * STEP_MS);
    else if (event.key === "Delete") onLetGo?.(card, block.id);
    else return;
    event.preventDefault();
  };
  return (
    <button
      type="button"
      data-step
      tabIndex={isStop ? 0 : -1}
      aria-label={`${name}, ${momentWords(block.startMs, nowMs)} to ${momentWords(block.endMs, nowMs)}${block.held ? ", held" : ""}${block.begun ? ", begun" : ""}`}
      aria-pressed={isPicked}
      title={name}
      onClick={() => onPick?.({ serviceId: block.serviceId, id: block.id })}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={() => {
        begun.current = null;
        setShift(null);
      }}
      onKeyDown={keys}
      className={`absolute top-1 bottom-1 touch-pan-y focus:z-10 focus:min-w-6 ${isStop ? "z-10 min-w-6" : "min-w-1.5"} overflow-hidden rounded-md border px-1.5 text-left text-xs leading-tight ${LOOK[block.kind]} ${isPicked ? "outline-3 outline-offset-1 outline-amber" : isOfPicked ? "outline-2 outline-amber" : ""} ${shift !== null ? "z-10 opacity-80" : ""}`}
      style={{ left: `${left + (shift ?? 0)}%`, width: `${width}%` }}
    >
      <span className="block truncate font-semibold">
        {block.held && "▪ "}
        {blockTitle(block.id, card)}
      </span>
      <span className="block truncate">{card.name}</span>
    </button>
  );
}
