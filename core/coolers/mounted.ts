import { type BoardMap, layerOf, THREADS } from "../boardmap/index.ts";
import { SCREW_SCATTER } from "../trade/index.ts";
import type { Cooler, KitScrew } from "./drawing.ts";
import type { Fit } from "./fit.ts";
import { screwsAtHand } from "./on-board.ts";

/** A board as it is once another cooler lies on it. */
export interface Mounted {
  /** Screws in the new posts in place of those of the cooler that came off; pads and paste where the new one has faces. */
  map: BoardMap;
  /** Gap of each part under a face, where its height is known, mm. */
  gapsMm: Readonly<Record<string, number>>;
  /** Screws of the original cooler, which stay off and are kept with it. */
  keptOff: string[];
}

/** Usual of a screw without anything known, N (common practice, no source). */
const USUAL_PULL_N = 35;

/** What the fit says, laid over the board’s own map, which stays as it is: the original can come back. */
export function mountedOn(map: BoardMap, cooler: Cooler, fit: Fit, drawer: readonly KitScrew[]): Mounted {
  const screws = screwsAtHand(cooler, drawer);
  const usedBy = new Map(fit.posts.flatMap((post) => (post.holeId ? [[post.holeId, post] as const] : [])));
  const ofCooler = map.screws.filter((screw) => layerOf(screw) === "cooler" && !screw.leaveAlone);
  const gaps = fit.gaps.filter(({ gapMm }) => gapMm !== null && gapMm > 0);
  const best = new Map<string, (typeof gaps)[number]>();
  for (const gap of gaps) if (!best.has(gap.partId)) best.set(gap.partId, gap);
  const faceUse = new Map(cooler.faces.map((face) => [face.id, face.for]));
  const springNPerMm = cooler.springNPerMm ?? 0;
  return {
    map: {
      ...map,
      cooler:
        cooler.outline && map.die
          ? {
              ...cooler.outline,
              xMm: map.die.xMm + fit.shiftMm.x + (fit.turned ? -1 : 1) * cooler.outline.xMm,
              yMm: map.die.yMm + fit.shiftMm.y + (fit.turned ? -1 : 1) * cooler.outline.yMm,
            }
          : null,
      screws: map.screws.flatMap((screw) => {
        const post = usedBy.get(screw.id);
        if (!post) return layerOf(screw) === "cooler" && !screw.leaveAlone ? [] : [screw];
        const kit = screws.find(({ id }) => id === post.screwId);
        const washerMm = kit?.washerMm ?? 0;
        return [
          {
            ...screw,
            thread: THREADS.find((thread) => thread === kit?.thread) ?? null,
            lengthMm: kit?.lengthMm ?? null,
            head: null,
            driver: "",
            // The pull is that with its washer.
            washerMm,
            forceN: Math.max(0, (cooler.screwPullN ?? USUAL_PULL_N) - springNPerMm * washerMm),
            springNPerMm,
            spring: springNPerMm > 0 ? ("coil" as const) : ("none" as const),
            shouldered: kit?.shouldered ?? false,
            standoff: false,
            sleeve: false,
            side: "back" as const,
            layer: "cooler" as const,
            hiddenBy: "nothing" as const,
            leaveAlone: false,
          },
        ];
      }),
      parts: map.parts.map((part) => {
        if (part.side !== "front") return part;
        const use = faceUse.get(best.get(part.id)?.faceId ?? "");
        return { ...part, guideMm: null, cooledBy: use === "pad" || use === "paste" ? use : "none" };
      }),
    },
    gapsMm: Object.fromEntries([...best].map(([id, { gapMm }]) => [id, gapMm ?? 0])),
    keptOff: ofCooler.filter(({ id }) => !usedBy.has(id)).map(({ id }) => id),
  };
}

/** Least and most pressure on the die, kPa, where every screw pulls with its scatter; screws pull one independently of another. */
export function dieRangeKPa(map: BoardMap, dieKPa: number): { lowKPa: number; highKPa: number } {
  const pulls = map.screws.filter((screw) => layerOf(screw) === "cooler" && screw.forceN > 0);
  const sum = pulls.reduce((total, { forceN }) => total + forceN, 0);
  const off = Math.hypot(
    ...pulls.map(({ forceN, shouldered }) => forceN * (shouldered ? SCREW_SCATTER.shouldered : SCREW_SCATTER.plain)),
  );
  const share = sum > 0 ? off / sum : 0;
  return { lowKPa: dieKPa * (1 - share), highKPa: dieKPa * (1 + share) };
}

const STANDARD_MM = [0.5, 0.75, 1, 1.25, 1.5, 1.75, 2, 2.5, 3] as const;
/** New pads are meant to be squeezed by about this much, least and most (common practice, no source). */
const SQUEEZE = { least: 0.08, most: 0.35 };

/** The thinnest usual pad that is squeezed as it should be in a gap; null where none is. */
export const padForGap = (gapMm: number): number | null =>
  STANDARD_MM.find((mm) => 1 - gapMm / mm >= SQUEEZE.least && 1 - gapMm / mm <= SQUEEZE.most) ?? null;

/** What speaks against the board being of the layout the cooler was drawn for, in words; empty where nothing does. */
export function differences(map: BoardMap, cooler: Cooler, fit: Fit): string[] {
  const missing = fit.posts.filter(({ holeId }) => holeId === null).map(({ postId }) => postId);
  const shift = Math.hypot(fit.shiftMm.x, fit.shiftMm.y);
  const parts = new Map(map.parts.map((part) => [part.id, part]));
  const bare = fit.uncovered.filter((id) => ["memory", "mosfet"].includes(parts.get(id)?.kind ?? ""));
  const served = new Set(fit.gaps.map(({ faceId }) => faceId));
  const idle = cooler.faces.filter((face) => face.for !== "none" && !served.has(face.id)).map(({ id }) => id);
  const poor = fit.gaps.filter(({ coveredPct }) => coveredPct < 70).map(({ partId }) => partId);
  return [
    ...(missing.length > 0 ? [`No hole for ${missing.join(", ")}.`] : []),
    ...(shift > 0.3 ? [`Its posts ask for a shift of ${shift.toFixed(2)} mm from the die’s middle.`] : []),
    ...fit.collisions.map(({ partId, byMm }) => `${partId} stands ${byMm.toFixed(2)} mm too tall.`),
    ...(bare.length > 0 ? [`Nothing reaches ${bare.join(", ")}.`] : []),
    ...(idle.length > 0 ? [`Under ${idle.join(", ")} lies no part.`] : []),
    ...(poor.length > 0 ? [`Less than 70 % of ${poor.join(", ")} lies under its face.`] : []),
  ];
}
