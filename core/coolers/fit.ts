import type { Box } from "../boardmap/index.ts";
import { assign } from "./assign.ts";
import type { FitFace, FitInput, FitPart } from "./input.ts";
import { matchPosts } from "./match.ts";
import { underOf } from "./overhead.ts";
import { threadDiameterMm } from "./threads.ts";

/** Compound between die and plate when it is closed. */
export const ON_DIE_MM = 0.02;
/** A screw has to hold in its post by at least so many of its diameters, and must not reach the bottom (limits of the file format). */
const LEAST_DIAMETERS = 0.8;
const BOTTOM_MM = 0.3;
const EPS = 1e-9;

export const FIT_CODES = [
  "hole-missing",
  "screw-missing",
  "collision",
  "die-not-covered",
  "plate-metal",
  "part-uncovered",
] as const;
export type FitCode = (typeof FIT_CODES)[number];
const HINDERS: ReadonlySet<FitCode> = new Set(["hole-missing", "screw-missing", "collision", "die-not-covered"]);

export interface FitPostFound {
  postId: string;
  holeId: string | null;
  /** Centre of the post from that of its hole, after the shift. */
  offMm: number | null;
  screwId: string | null;
  engagementMm: number | null;
  /** Board to post once the plate lies on the die, its compound counted: a spacer may be no taller. */
  standsOffMm: number;
}

export interface FitGap {
  partId: string;
  faceId: string;
  /** Face to the part's top, the compound on the die not counted; null where nobody measured the part. */
  gapMm: number | null;
  coveredPct: number;
}

export interface Fit {
  fits: boolean;
  turned: boolean;
  shiftMm: { x: number; y: number };
  posts: FitPostFound[];
  collisions: Array<{ partId: string; byMm: number }>;
  /** Room between a part and whatever of the cooler lies lowest over it; parts in free air or of unknown height are not there. */
  headroom: Array<{ partId: string; roomMm: number }>;
  dieCoveredPct: number;
  gaps: FitGap[];
  uncovered: string[];
  /** Parts of which nobody knows how tall they stand: whether they collide is not judged. */
  heightUnknown: string[];
  /** Every post would find its hole if the drawing were turned over. */
  looksMirrored: boolean;
  reasons: Array<{ code: FitCode; id: string; text: string }>;
}

/**
 * Does this cooler go onto this board, with which screws, and what does it touch? Millimetres throughout. The model is that of the file
 * format: the whole cooler is shifted, never rotated, so that its posts come over holes; half a turn is tried where it may turn and does not
 * fit as drawn. Where neither fits, what is said is of the cooler as drawn.
 * @throws Problem `holes-too-close`
 */
export function fit(input: FitInput): Fit {
  const asDrawn = fitOneWay(input, false);
  if (asDrawn.fits || !input.cooler.mayTurn) return asDrawn;
  const turned = fitOneWay(input, true);
  return turned.fits ? turned : asDrawn;
}

/** The cooler in one of its two ways. */
function fitOneWay(input: FitInput, turned: boolean): Fit {
  const { board, screws } = input;
  const { die } = board;
  const cooler = turned ? halfTurned(input.cooler) : input.cooler;
  const posts = cooler.posts.map((post) => ({
    ...post,
    threadMm: threadDiameterMm(post.thread) ?? 0,
    xMm: die.xMm + post.xMm,
    yMm: die.yMm + post.yMm,
  }));
  const match = matchPosts(posts, board.holes);
  const { dxMm, dyMm } = match.shift;
  const placed = <T extends Box>(box: T): T => ({
    ...box,
    xMm: die.xMm + box.xMm + dxMm,
    yMm: die.yMm + box.yMm + dyMm,
  });
  const plate = placed(cooler.plate);
  const faces = cooler.faces.map(placed);
  const reasons: Fit["reasons"] = [];

  const pairingOf = new Map(match.pairings.map((one) => [one.post, one]));
  const served = posts.flatMap((post, index) => (pairingOf.has(index) ? [post] : []));
  const holds = served.map((post) =>
    screws.map((screw) => {
      if (threadDiameterMm(screw.thread) !== post.threadMm) return null;
      const engagementMm =
        screw.lengthMm - (screw.washerMm ?? 0) - board.thicknessMm - (die.tallMm + post.levelMm + ON_DIE_MM);
      const most = post.holeDepthMm - BOTTOM_MM;
      const fits = engagementMm >= LEAST_DIAMETERS * post.threadMm - EPS && engagementMm <= most + EPS;
      return { engagementMm, fits, spareMm: most - engagementMm };
    }),
  );
  const chosen = assign({
    cost: holds.map((row) => row.map((one) => (one?.fits ? one.spareMm : null))),
    quantity: screws.map(({ quantity }) => quantity),
  });
  const found = posts.map((post, index): FitPostFound => {
    const pairing = pairingOf.get(index);
    const standsOffMm = die.tallMm + post.levelMm + ON_DIE_MM;
    if (!pairing) {
      reasons.push({ code: "hole-missing", id: post.id, text: holeWords(post, board.holes, match.shift) });
      return { postId: post.id, holeId: null, offMm: null, screwId: null, engagementMm: null, standsOffMm };
    }
    const at = served.indexOf(post);
    const kind = chosen[at] ?? null;
    if (kind === null)
      reasons.push({ code: "screw-missing", id: post.id, text: screwWords(post, holds[at] ?? [], input) });
    return {
      postId: post.id,
      holeId: board.holes[pairing.hole]?.id ?? null,
      offMm: Math.hypot(pairing.dxMm - dxMm, pairing.dyMm - dyMm),
      screwId: kind === null ? null : (screws[kind]?.id ?? null),
      engagementMm: kind === null ? null : (holds[at]?.[kind]?.engagementMm ?? null),
      standsOffMm,
    };
  });

  const under = board.parts.map((part) => ({ part, ...underOf(part, plate, faces) }));
  const headroom = under.flatMap(({ part: { id, tallMm }, lowestMm }) =>
    tallMm === null || lowestMm === null ? [] : [{ partId: id, roomMm: die.tallMm + lowestMm - tallMm }],
  );
  const collisions = headroom.flatMap(({ partId, roomMm }) => (roomMm < -EPS ? [{ partId, byMm: -roomMm }] : []));
  for (const { partId, byMm } of collisions)
    reasons.push({
      code: "collision",
      id: partId,
      text: `${partId} stands ${byMm.toFixed(2)} mm too tall for the cooler above it.`,
    });
  for (const post of posts)
    if (die.tallMm + post.levelMm < -EPS)
      reasons.push({
        code: "collision",
        id: post.id,
        text: `Post ${post.id} meets the board ${(-die.tallMm - post.levelMm).toFixed(2)} mm before the plate meets the die.`,
      });

  const dieCoveredPct = sharePct(die, plate);
  if (dieCoveredPct < 100 - 1e-6)
    reasons.push({
      code: "die-not-covered",
      id: "die",
      text: `The plate covers ${dieCoveredPct.toFixed(1)} % of the die.`,
    });
  const cooled = under.filter(({ part }) => part.kind !== "connector");
  const gaps = cooled.flatMap(({ part, taking }) => taking.map((face) => gapOf(part, face, die.tallMm)));
  const uncovered = cooled.flatMap(({ part, taking }) => (taking.length === 0 ? [part] : []));
  for (const part of uncovered) reasons.push({ code: "part-uncovered", id: part.id, text: uncoveredWords(part) });
  if (cooler.plate.metal === "aluminium")
    reasons.push({
      code: "plate-metal",
      id: "plate",
      text: "The plate is aluminium: no liquid metal, it eats aluminium.",
    });
  return {
    fits: !reasons.some(({ code }) => HINDERS.has(code)),
    turned,
    shiftMm: { x: dxMm, y: dyMm },
    posts: found,
    collisions,
    headroom,
    dieCoveredPct,
    gaps,
    uncovered: uncovered.map(({ id }) => id),
    heightUnknown: board.parts.filter(({ tallMm }) => tallMm === null).map(({ id }) => id),
    looksMirrored: match.pairings.length < posts.length && servedMirrored(posts, input) === posts.length,
    reasons,
  };
}

const halfTurned = (cooler: FitInput["cooler"]): FitInput["cooler"] => {
  return {
    ...cooler,
    plate: turn(cooler.plate),
    faces: cooler.faces.map(turn),
    posts: cooler.posts.map(turn),
  };
};

/** Posts that find a hole when the cooler is looked at from its other side. */
const servedMirrored = (
  posts: ReadonlyArray<{ xMm: number; yMm: number; threadMm: number }>,
  { board }: FitInput,
): number =>
  posts.length < 3
    ? 0
    : matchPosts(
        posts.map((post) => ({ ...post, xMm: 2 * board.die.xMm - post.xMm })),
        board.holes,
      ).pairings.length;

const gapOf = (part: FitPart, face: FitFace, dieTallMm: number): FitGap => ({
  partId: part.id,
  faceId: face.id,
  gapMm: part.tallMm === null ? null : dieTallMm + face.levelMm - part.tallMm,
  coveredPct: sharePct(part, face),
});

/** Share of the first box's area that lies under the second, per cent. */
const sharePct = (a: Box, b: Box): number => {
  const x = along(a.xMm, a.widthMm, b.xMm, b.widthMm);
  const y = along(a.yMm, a.heightMm, b.yMm, b.heightMm);
  return x <= 0 || y <= 0 ? 0 : Math.min(100, (100 * x * y) / (a.widthMm * a.heightMm));
};

function holeWords(
  post: { id: string; xMm: number; yMm: number; threadMm: number },
  holes: FitInput["board"]["holes"],
  { dxMm, dyMm }: { dxMm: number; dyMm: number },
): string {
  const near = holes
    .map((hole) => ({ hole, mm: Math.hypot(hole.xMm - post.xMm - dxMm, hole.yMm - post.yMm - dyMm) }))
    .toSorted((a, b) => a.mm - b.mm)[0];
  if (!near) return `No hole for post ${post.id}: the board has none.`;
  const { hole, mm } = near;
  return hole.diameterMm < post.threadMm
    ? `No hole for post ${post.id}: ${hole.id} is nearest and too narrow for its screw.`
    : `No hole for post ${post.id}: the nearest, ${hole.id}, is ${mm.toFixed(2)} mm off.`;
}

function screwWords(
  post: { id: string; thread: string; holeDepthMm: number; threadMm: number },
  holds: ReadonlyArray<{ engagementMm: number; fits: boolean } | null>,
  { screws }: FitInput,
): string {
  const same = holds.flatMap((one, index) => (one ? [{ ...one, screw: screws[index] }] : []));
  if (same.length === 0) return `No screw for post ${post.id}: none has ${post.thread}.`;
  if (same.some(({ fits }) => fits)) return `No screw for post ${post.id}: there are not enough that fit.`;
  const least = LEAST_DIAMETERS * post.threadMm;
  const most = post.holeDepthMm - BOTTOM_MM;
  const ways = same.map(
    ({ screw, engagementMm }) =>
      `${screw?.id ?? ""} ${engagementMm < least ? "too short" : "too long"} by ${(engagementMm < least ? least - engagementMm : engagementMm - most).toFixed(2)} mm`,
  );
  return `No screw for post ${post.id}: ${ways.slice(0, 4).join(", ")}.`;
}

const uncoveredWords = ({ id, kind }: FitPart): string =>
  kind === "memory" || kind === "mosfet" || kind === "choke"
    ? `${id} lies under no face for pad or paste: it needs air or contact of its own.`
    : `${id} lies under no face for pad or paste.`;

const turn = <T extends { xMm: number; yMm: number }>(one: T): T => ({ ...one, xMm: -one.xMm, yMm: -one.yMm });

const along = (at: number, size: number, other: number, wide: number): number =>
  Math.min(at + size / 2, other + wide / 2) - Math.max(at - size / 2, other - wide / 2);
