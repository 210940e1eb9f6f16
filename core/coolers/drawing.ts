import type { Box } from "../boardmap/index.ts";

/** What the face on the die is made of. */
export const METALS = ["copper", "nickel-plated copper", "aluminium"] as const;
export type Metal = (typeof METALS)[number];

/** What a face is meant for; one for none is only there. */
export const FACE_USES = ["pad", "paste", "none"] as const;
export type FaceUse = (typeof FACE_USES)[number];

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

/** A screw of the mount kit. */
export interface KitScrew {
  id: string;
  thread: string;
  lengthMm: number;
  washerMm: number;
  /** Null: as many as are needed. */
  quantity: number | null;
}

export const COOLER_FORMAT = "algidus-cooler";
export const COOLER_VERSION = 1;

/**
 * Plan of a cooler to scale, seen through it from above: mm from its own origin, which comes to lie on the die's centre; x right, y up;
 * positions are centres.
 */
export interface CoolerDrawing {
  format: typeof COOLER_FORMAT;
  version: number;
  outline: Box | null;
  plate: (Box & { metal: Metal }) | null;
  faces: CoolerFace[];
  posts: CoolerPost[];
  fans: Array<Box & { id: string }>;
  mayTurn: boolean;
  kit: KitScrew[];
}

export const EMPTY_COOLER: CoolerDrawing = {
  format: COOLER_FORMAT,
  version: COOLER_VERSION,
  outline: null,
  plate: null,
  faces: [],
  posts: [],
  fans: [],
  mayTurn: false,
  kit: [],
};
