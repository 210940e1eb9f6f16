import * as Comlink from "comlink";
import { type PointerEvent, useEffect, useEffectEvent, useRef, useState } from "react";
import { API, type BoardMapView, urlOf } from "#contract";
import { addScrew, type BoardMap, overlap, type Package, stampPart, thingsOf } from "#core/boardmap/index.ts";
import type { Proposal } from "#core/boardphoto/index.ts";
import { api } from "../../app/api.ts";
import { isTyping } from "../../app/keys.ts";
import { Button } from "../../ui/button.tsx";
import { Note } from "../../ui/note.tsx";
import { Sheet } from "../../ui/page.tsx";
import { usePadSession } from "../../workers/use-pad-session.ts";
import type { MapEditor } from "./use-map-editor.ts";

/** From this on they are taken in one go. */
const SURE = 0.8;
const NUDGE_MM = 0.25;
const SNAP_MM = 0.05;
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** What a photo under the map may show, one after the other: taken, moved or left by key or tap. */
export function useProposals(editor: MapEditor, view: BoardMapView) {
  const remote = usePadSession();
  const { data: packages } = api.usePackagesQuery();
  const [waiting, setWaiting] = useState<Proposal[] | null>(null);
  const [state, setState] = useState<"idle" | "looking" | "failed">("idle");
  const { map, change } = editor;
  const open = waiting?.filter((one) => !lies(map, one)) ?? [];
  const [first] = open;
  const look = async (): Promise<void> => {
    const { underlay, boardModelId } = view;
    if (!remote || !underlay || !packages) return;
    setState("looking");
    try {
      const { data, width, height } = await pixelsOf(
        `${urlOf(API.underlay, { boardId: boardModelId })}?${underlay.hash}`,
      );
      const place = {
        xMm: underlay.xMm,
        yMm: underlay.yMm,
        widthMm: underlay.widthMm,
        heightMm: underlay.heightMm,
      };
      setWaiting(await remote.proposeParts(Comlink.transfer(data, [data.buffer]), width, height, place, packages));
      setState("idle");
    } catch {
      setState("failed");
    }
  };
  const leave = (one: Proposal): void => setWaiting((all) => all?.filter((other) => other !== one) ?? null);
  const take = (some: readonly Proposal[]): void => {
    const next = some.reduce((all, one) => withProposal(all, one, packages ?? []), map);
    const words = some.length === 1 ? `Take ${wordsOf(some[0])}` : `Take ${some.length} parts of the photo`;
    change(next, words, { picked: [] });
    setWaiting((all) => all?.filter((one) => !some.includes(one)) ?? null);
  };
  const move = (one: Proposal, dx: number, dy: number): void =>
    setWaiting(
      (all) => all?.map((other) => (other === one ? { ...one, xMm: one.xMm + dx, yMm: one.yMm + dy } : other)) ?? null,
    );
  /** It becomes the one in question; its place is told back. */
  const choose = (one: Proposal, at: Pick<Proposal, "xMm" | "yMm"> = one): Proposal => {
    const next = { ...one, ...at };
    setWaiting((all) => all && [next, ...all.filter((other) => other !== one)]);
    return next;
  };
  const onKey = useEffectEvent((event: KeyboardEvent): void => {
    if (!first || isTyping(event.target) || event.ctrlKey || event.metaKey) return;
    if (event.key === "Enter" && event.target instanceof HTMLElement && event.target.closest("button, a, summary"))
      return;
    const arrow = ARROWS[event.key];
    if (event.key === "Enter") take([first]);
    else if (event.key === "x") leave(first);
    else if (event.key === "Escape") setWaiting(null);
    else if (arrow) move(first, arrow[0] * NUDGE_MM, arrow[1] * NUDGE_MM);
    else return;
    event.preventDefault();
    event.stopImmediatePropagation();
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => onKey(event);
    addEventListener("keydown", listen, { capture: true });
    return () => removeEventListener("keydown", listen, { capture: true });
  }, []);
  // Without the list of packages a photo would show a die and holes only.
  const ready = remote !== null && packages !== undefined;
  return {
    open,
    first,
    state,
    ready,
    looked: waiting !== null,
    look,
    leave,
    take,
    choose,
    end: () => setWaiting(null),
  };
}

export type Proposals = ReturnType<typeof useProposals>;

const lies = (map: BoardMap, one: Proposal): boolean =>
  thingsOf(map).some((thing) => thing.side !== "back" && overlap(thing, one));

function withProposal(map: BoardMap, one: Proposal, packages: readonly Package[]): BoardMap {
  if (lies(map, one)) return map;
  const { xMm, yMm, widthMm, heightMm } = one;
  if (one.what === "die") return map.die ? map : { ...map, die: { xMm, yMm, widthMm, heightMm } };
  if (one.what === "hole") return addScrew(map, one).map;
  const kind = one.kind ?? "other";
  const known = packages.find((pack) => pack.kind === kind && pack.widthMm === widthMm && pack.heightMm === heightMm);
  const pack = known ?? { name: kind, kind, widthMm, heightMm, tallMm: one.tallMm ?? 1 };
  return stampPart(map, pack, { xMm, yMm }, "front").map;
}

const wordsOf = (one: Proposal | undefined): string =>
  !one
    ? ""
    : one.what === "die"
      ? "the die"
      : one.what === "hole"
        ? "a hole"
        : one.kind === "mosfet"
          ? "a MOSFET"
          : `a ${one.kind ?? "part"}`;

async function pixelsOf(url: string): Promise<ImageData> {
  const answer = await fetch(url);
  if (!answer.ok) throw new Error(`The photo answered ${answer.status}.`);
  const bitmap = await createImageBitmap(await answer.blob());
  const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext("2d");
  if (!context) throw new Error("This browser can’t read pictures.");
  context.drawImage(bitmap, 0, 0);
  return context.getImageData(0, 0, bitmap.width, bitmap.height);
}

interface Held {
  one: Proposal;
  from: Proposal;
  x: number;
  y: number;
}

/** Drawn over the plan: dashed, the one in question bold. A tap asks about it, a drag moves it. */
export function ProposalsOverlay({ proposals, heightMm }: { proposals: Proposals; heightMm: number }) {
  const { open, first, choose } = proposals;
  const held = useRef<Held | null>(null);
  const onDown = (one: Proposal, event: PointerEvent<SVGGElement>): void => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    held.current = { one: choose(one), from: one, x: event.clientX, y: event.clientY };
  };
  const onMove = (event: PointerEvent<SVGGElement>): void => {
    const now = held.current;
    const pxPerMm = event.currentTarget.getScreenCTM()?.a;
    if (!now || !pxPerMm) return;
    const by = (px: number): number => Math.round(px / pxPerMm / SNAP_MM) * SNAP_MM;
    const at = { xMm: now.from.xMm + by(event.clientX - now.x), yMm: now.from.yMm - by(event.clientY - now.y) };
    if (at.xMm !== now.one.xMm || at.yMm !== now.one.yMm) held.current = { ...now, one: choose(now.one, at) };
  };
  return (
    <g
      onPointerDown={(event) => {
        const index = event.target instanceof SVGElement ? event.target.dataset["proposal"] : undefined;
        const one = index === undefined ? undefined : open[Number(index)];
        if (one) onDown(one, event);
      }}
      onPointerMove={onMove}
      onPointerUp={() => {
        held.current = null;
      }}
      style={{ touchAction: "none", cursor: "pointer" }}
    >
      {open.map((one, index) => (
        <rect
          key={`${one.what} ${one.xMm} ${one.yMm}`}
          data-proposal={index}
          pointerEvents="all"
          x={one.xMm - one.widthMm / 2}
          y={heightMm - one.yMm - one.heightMm / 2}
          width={one.widthMm}
          height={one.heightMm}
          rx={one.what === "hole" ? one.widthMm / 2 : 0}
          fill={one === first ? "var(--ice)" : "none"}
          fillOpacity={0.25}
          stroke="var(--ice)"
          strokeWidth={one === first ? 1.1 : 0.5}
          strokeDasharray={one === first ? undefined : "1.6 1"}
        />
      ))}
    </g>
  );
}

/** The question about one proposal, and the few for all. */
export function ProposalsSheet({ proposals }: { proposals: Proposals }) {
  const { open, first, state, ready, looked, look, leave, take, end } = proposals;
  const sure = open.filter(({ confidence }) => confidence >= SURE);
  return (
    <Sheet title="Parts from the photo">
      {state === "failed" && (
        <Note kind="fault" live title="The photo can’t be read">
          Take it away, put it under the map again, and look once more. The map is as it was.
        </Note>
      )}
      {!looked || open.length === 0 ? (
        <>
          <p className="mb-3" role="status">
            {state === "looking"
              ? "Looking for packages, die and holes…"
              : looked
                ? "Nothing more is proposed. What is missing is put on by hand."
                : "Memory, power parts, die and holes that the photo shows can be proposed; each is yours to take or leave."}
          </p>
          <Button look="main" disabled={!ready || state === "looking"} onClick={() => void look()}>
            {looked ? "Look again" : "Look for parts"}
          </Button>
        </>
      ) : (
        first && (
          <div className="space-y-3">
            <p aria-live="polite">
              {open.length} proposed. This one: <strong>{wordsOf(first)}</strong>
              {first.what === "hole" ? "" : `, ${first.widthMm} × ${first.heightMm} mm`},{" "}
              {Math.round(100 * first.confidence)} % sure.
            </p>
            <div className="flex flex-wrap gap-2">
              <Button look="main" onClick={() => take([first])}>
                Take it (Enter)
              </Button>
              <Button onClick={() => leave(first)}>Leave it (X)</Button>
            </div>
            <p className="text-sm text-soft">
              Tap another on the plan to be asked about it, drag it or use arrows to move it by {NUDGE_MM} mm, Escape
              ends.
            </p>
            <div className="flex flex-wrap gap-2 border-t border-line pt-3">
              {sure.length > 0 && (
                <Button onClick={() => take(sure)}>
                  Take all {sure.length} that are {Math.round(100 * SURE)} % sure or more
                </Button>
              )}
              <Button look="quiet" onClick={end}>
                End proposing
              </Button>
            </div>
          </div>
        )
      )}
    </Sheet>
  );
}
