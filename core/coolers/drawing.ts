import { type BoardMap, type Box, DIE_ID, EMPTY_MAP, NEW_SCREW } from "../boardmap/index.ts";
import type { Fins } from "./heatsink.ts";
import { threadDiameterMm } from "./threads.ts";

/** What the face on the die is made of. */
export const METALS = ["copper", "nickel-plated copper", "aluminium"] as const;
export type Metal = (typeof METALS)[number];

/** What a face is meant for; one for none is only there. */
export const FACE_USES = ["pad", "paste", "none"] as const;
export type FaceUse = (typeof FACE_USES)[number];

export const COOLER_KINDS = ["original", "air", "waterblock", "hybrid", "heatsink"] as const;
export type CoolerKind = (typeof COOLER_KINDS)[number];

export interface CoolerFace extends Box {
  id: string;
  /** From the plane of the plate's face, positive away from the board. */
  levelMm: number;
  for: FaceUse;
}

export interface CoolerPost {
  id: string;
  xMm: number;
  yMm: number;
  thread: string;
  holeDepthMm: number;
  levelMm: number;
}

/** A screw of the mount kit, or of a drawer. */
export interface KitScrew {
  id: string;
  thread: string;
  lengthMm: number;
  washerMm: number;
  /** Null: as many as are needed. */
  quantity: number | null;
  /** A shoulder or a sleeve ends its travel: its spring pulls the same each time. */
  shouldered: boolean;
}

/** Die over air per watt at a fan speed, and how loud it is there. */
export interface AirPoint {
  fanRpm: number;
  kPerW: number;
  dba: number | null;
}

export const COOLER_FORMAT = "algidus-cooler";
export const COOLER_VERSION = 1;

/**
 * A cooler and its plan to scale, seen through it from above: mm from its own origin, which comes to lie on the die's centre; x right, y up;
 * positions are centres.
 */
export interface Cooler {
  format: typeof COOLER_FORMAT;
  version: number;
  name: string;
  kind: CoolerKind;
  outline: Box | null;
  plate: (Box & { metal: Metal }) | null;
  faces: CoolerFace[];
  posts: CoolerPost[];
  fans: Array<Box & { id: string }>;
  mayTurn: boolean;
  kit: KitScrew[];
  /** How far it stands out from the board's front, fans included. */
  heightMm: number | null;
  weightG: number | null;
  /** Pull of each screw when it is tight, and its spring; null where nobody knows. */
  screwPullN: number | null;
  springNPerMm: number | null;
  /** Pressure on the die it is made for; null where its sheet does not say. */
  dieKPa: number | null;
  air: AirPoint[];
  water: {
    insideMl: number;
    losses: Array<{ lPerMin: number; kPa: number }>;
    block: Array<{ lPerMin: number; kPerW: number }>;
  } | null;
  /** Of one that is put on a single chip. */
  fins: Fins | null;
  note: string;
}

export const EMPTY_COOLER: Cooler = {
  format: COOLER_FORMAT,
  version: COOLER_VERSION,
  name: "",
  kind: "air",
  outline: null,
  plate: null,
  faces: [],
  posts: [],
  fans: [],
  mayTurn: false,
  kit: [],
  heightMm: null,
  weightG: null,
  screwPullN: null,
  springNPerMm: null,
  dieKPa: null,
  air: [],
  water: null,
  fins: null,
  note: "",
};

/** Whether water runs through it: such a one is tested for leaks before power. */
export const isWet = ({ kind }: Pick<Cooler, "kind">): boolean => kind === "waterblock" || kind === "hybrid";

const USUAL_FRAME = { widthMm: 240, heightMm: 120 };
const MARGIN_MM = 12;
export const FIN_MARGIN_MM = 5;

/** The sheet a cooler is drawn on, and where its origin lies on it: set by its outline alone, so that it stays while things are moved. */
function frameOf(cooler: Cooler): { widthMm: number; heightMm: number; x0Mm: number; y0Mm: number } {
  const outline = outlineOf(cooler);
  // Beside a heatsink seen from above there is room for the same from its end.
  if (cooler.fins) {
    const { widthMm, lengthMm, baseMm, finHeightMm } = cooler.fins;
    const heightMm = Math.max(lengthMm, baseMm + finHeightMm) + 2 * FIN_MARGIN_MM;
    return {
      widthMm: 2 * widthMm + 3 * FIN_MARGIN_MM,
      heightMm,
      x0Mm: widthMm / 2 + FIN_MARGIN_MM,
      y0Mm: heightMm / 2,
    };
  }
  if (!outline) return { ...USUAL_FRAME, x0Mm: USUAL_FRAME.widthMm / 2, y0Mm: USUAL_FRAME.heightMm / 2 };
  return {
    widthMm: outline.widthMm + 2 * MARGIN_MM,
    heightMm: outline.heightMm + 2 * MARGIN_MM,
    x0Mm: outline.widthMm / 2 + MARGIN_MM - outline.xMm,
    y0Mm: outline.heightMm / 2 + MARGIN_MM - outline.yMm,
  };
}

/** What it covers: a heatsink's is that of its base. */
const outlineOf = ({ outline, fins }: Cooler): Box | null =>
  fins ? { xMm: 0, yMm: 0, widthMm: fins.widthMm, heightMm: fins.lengthMm } : outline;

/** A cooler as a plan that the board map's editor draws and moves: the plate as its die, posts as screws, faces and fans as parts. */
export function planOfCooler(cooler: Cooler): BoardMap {
  const { widthMm, heightMm, x0Mm, y0Mm } = frameOf(cooler);
  const onSheet = <T extends { xMm: number; yMm: number }>(one: T): T => ({
    ...one,
    xMm: one.xMm + x0Mm,
    yMm: one.yMm + y0Mm,
  });
  const part = { kind: "other", side: "front", tallMm: null, cooledBy: "none", group: null, guideMm: null } as const;
  const { plate } = cooler;
  const outline = outlineOf(cooler);
  return {
    ...EMPTY_MAP,
    board: { ...EMPTY_MAP.board, widthMm, heightMm },
    die: plate && onSheet({ xMm: plate.xMm, yMm: plate.yMm, widthMm: plate.widthMm, heightMm: plate.heightMm }),
    cooler: outline && onSheet(outline),
    screws: cooler.posts.map((post) => ({
      ...NEW_SCREW,
      ...onSheet({ id: post.id, xMm: post.xMm, yMm: post.yMm }),
      holeMm: threadDiameterMm(post.thread) ?? 2.5,
    })),
    parts: [...cooler.faces, ...cooler.fans].map((box) => ({
      ...part,
      ...onSheet({ id: box.id, xMm: box.xMm, yMm: box.yMm, widthMm: box.widthMm, heightMm: box.heightMm }),
    })),
  };
}

/** The cooler after its plan was edited: what was moved, turned or removed there is so here. */
export function withPlan(cooler: Cooler, plan: BoardMap): Cooler {
  const { x0Mm, y0Mm } = frameOf(cooler);
  const back = (box: Box): Box => ({
    xMm: round(box.xMm - x0Mm),
    yMm: round(box.yMm - y0Mm),
    widthMm: box.widthMm,
    heightMm: box.heightMm,
  });
  const parts = new Map(plan.parts.map((part) => [part.id, part]));
  const screws = new Map(plan.screws.map((screw) => [screw.id, screw]));
  const kept = <T extends Box & { id: string }>(list: readonly T[]): T[] =>
    list.flatMap((one) => {
      const part = parts.get(one.id);
      return part ? [{ ...one, ...back(part) }] : [];
    });
  return {
    ...cooler,
    plate: cooler.plate && plan.die && { ...cooler.plate, ...back(plan.die) },
    faces: kept(cooler.faces),
    fans: kept(cooler.fans),
    posts: cooler.posts.flatMap((post) => {
      const screw = screws.get(post.id);
      return screw ? [{ ...post, xMm: round(screw.xMm - x0Mm), yMm: round(screw.yMm - y0Mm) }] : [];
    }),
  };
}

/** The next free name on a cooler's plan: f1, f2, … for faces, p for posts, fan for fans. */
export function freeCoolerId(cooler: Cooler, letter: "f" | "p" | "fan"): string {
  const taken = new Set([DIE_ID, ...[...cooler.faces, ...cooler.posts, ...cooler.fans].map(({ id }) => id)]);
  let count = 1;
  while (taken.has(`${letter}${count}`)) count++;
  return `${letter}${count}`;
}

/** The drawing seen from its other side: left and right change places. */
export function turnedOverCooler(cooler: Cooler): Cooler {
  return {
    ...cooler,
    outline: cooler.outline && over(cooler.outline),
    plate: cooler.plate && over(cooler.plate),
    faces: cooler.faces.map(over),
    posts: cooler.posts.map(over),
    fans: cooler.fans.map(over),
  };
}

const round = (mm: number): number => Math.round(mm * 100) / 100;

const over = <T extends { xMm: number }>(one: T): T => ({ ...one, xMm: -one.xMm });
