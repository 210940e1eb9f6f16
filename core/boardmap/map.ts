import {
  type Head,
  type HiddenBy,
  LAYERS,
  type Layer,
  type MapLayer,
  type MapPlug,
  type SpringKind,
  type Thread,
} from "./fasteners.ts";

export const PART_KINDS = ["memory", "mosfet", "choke", "capacitor", "controller", "other"] as const;
export type PartKind = (typeof PART_KINDS)[number];

/** What takes a part's heat: a pad to the cooler, the mid-plate or the backplate; paste; nothing. */
export const COOLED_BY = ["pad", "mid-plate", "backplate", "paste", "none"] as const;
export type CooledBy = (typeof COOLED_BY)[number];

export interface Box {
  xMm: number;
  yMm: number;
  widthMm: number;
  heightMm: number;
}

export interface MapPart extends Box {
  id: string;
  kind: PartKind;
  side: "front" | "back";
  /** Top above the board's face. */
  tallMm: number | null;
  cooledBy: CooledBy;
  /** Parts of one group move together. */
  group: string | null;
  /** Pad thickness a guide or the maker gives for this place. */
  guideMm: number | null;
}

export interface MapScrew {
  id: string;
  xMm: number;
  yMm: number;
  holeMm: number;
  /** Pull when the die is seated and the board flat. */
  forceN: number;
  springNPerMm: number;
  /** Added under its head; each millimetre stretches the spring by as much. */
  washerMm: number;
  /** It stops at its shoulder: turning further adds nothing. */
  shouldered: boolean;
  /** It holds the board on a standoff of the cooler, which keeps it from coming nearer. */
  standoff: boolean;
  /** What nobody looked at yet is null, and empty for the driver. */
  thread: Thread | null;
  lengthMm: number | null;
  head: Head | null;
  driver: string;
  spring: SpringKind | null;
  sleeve: boolean;
  /** From which side it is turned. */
  side: "front" | "back";
  layer: Layer | null;
  hiddenBy: HiddenBy;
  /** It is never turned. */
  leaveAlone: boolean;
}

/**
 * Plan of a board model to scale: mm from the lower-left corner, x right, y up, seen from the component side; positions are centres.
 * Parts on the back keep the same coordinates, seen through the board.
 */
export interface BoardMap {
  format: typeof MAP_FORMAT;
  version: number;
  board: {
    widthMm: number;
    heightMm: number;
    thicknessMm: number;
    youngGPa: number;
    poisson: number;
    /** Top of the die above the board's face; null or missing while nobody measured it. */
    dieTallMm?: number | null | undefined;
  };
  die: Box | null;
  screws: MapScrew[];
  parts: MapPart[];
  /** Outline of the cooler's face. */
  cooler: Box | null;
  /** In the order in which they come off. */
  layers: MapLayer[];
  plugs: MapPlug[];
}

export const MAP_FORMAT = "algidus-board-map";
export const MAP_VERSION = 2;

export const EMPTY_MAP: BoardMap = {
  format: MAP_FORMAT,
  version: MAP_VERSION,
  // Glass-epoxy laminate with copper: about 22 GPa and 0.15 (usual values, from memory).
  board: { widthMm: 240, heightMm: 104, thicknessMm: 1.6, youngGPa: 22, poisson: 0.15 },
  die: null,
  screws: [],
  parts: [],
  cooler: null,
  layers: LAYERS.map((id) => ({ id, there: null })),
  plugs: [],
};

export const NEW_SCREW: Omit<MapScrew, "id" | "xMm" | "yMm"> = {
  holeMm: 3.2,
  forceN: 35,
  springNPerMm: 12,
  washerMm: 0,
  shouldered: false,
  standoff: false,
  thread: null,
  lengthMm: null,
  head: null,
  driver: "",
  spring: null,
  sleeve: false,
  side: "back",
  layer: null,
  hiddenBy: "nothing",
  leaveAlone: false,
};

export interface Package {
  name: string;
  kind: PartKind;
  widthMm: number;
  heightMm: number;
  tallMm: number;
}

/** Memory outlines after JEDEC (from memory); the others are sizes common on boards, without a source. */
export const PACKAGES: readonly Package[] = [
  { name: "Memory 14 × 12", kind: "memory", widthMm: 14, heightMm: 12, tallMm: 1.1 },
  { name: "Memory 12 × 14", kind: "memory", widthMm: 12, heightMm: 14, tallMm: 1.1 },
  { name: "MOSFET 5 × 6", kind: "mosfet", widthMm: 5, heightMm: 6, tallMm: 0.9 },
  { name: "Choke 10 × 10", kind: "choke", widthMm: 10, heightMm: 10, tallMm: 4 },
  { name: "Choke 7 × 7", kind: "choke", widthMm: 7, heightMm: 7, tallMm: 3 },
  { name: "Capacitor ⌀ 8", kind: "capacitor", widthMm: 8, heightMm: 8, tallMm: 9 },
  { name: "Controller 7 × 7", kind: "controller", widthMm: 7, heightMm: 7, tallMm: 0.9 },
];

/** One thing on the map that can be picked and moved. */
export interface Thing extends Box {
  id: string;
  type: "die" | "screw" | "part" | "plug";
  side: "front" | "back" | "both";
}

export const DIE_ID = "die";

/** A plug on a plan, mm. */
const PLUG_SIZE_MM = { widthMm: 7, heightMm: 4 };
export const plugBox = ({ xMm, yMm }: MapPlug): Box => ({ xMm, yMm, ...PLUG_SIZE_MM });

export function thingsOf(map: BoardMap): Thing[] {
  return [
    ...(map.die ? [{ ...map.die, id: DIE_ID, type: "die" as const, side: "front" as const }] : []),
    ...map.screws.map(({ id, xMm, yMm, holeMm }) => ({
      id,
      xMm,
      yMm,
      widthMm: holeMm,
      heightMm: holeMm,
      type: "screw" as const,
      side: "both" as const,
    })),
    ...map.parts.map(({ id, xMm, yMm, widthMm, heightMm, side }) => ({
      id,
      xMm,
      yMm,
      widthMm,
      heightMm,
      type: "part" as const,
      side,
    })),
    ...map.plugs.map((plug) => ({ ...plugBox(plug), id: plug.id, type: "plug" as const, side: plug.side })),
  ];
}

export const overlap = (a: Box, b: Box, slackMm = 0.01): boolean =>
  Math.abs(a.xMm - b.xMm) < (a.widthMm + b.widthMm) / 2 - slackMm &&
  Math.abs(a.yMm - b.yMm) < (a.heightMm + b.heightMm) / 2 - slackMm;
