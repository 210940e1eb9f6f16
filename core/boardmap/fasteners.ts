/** Threads that cards are screwed together with. */
export const THREADS = ["M1.6", "M2", "M2.5", "M3", "6-32 UNC"] as const;
export type Thread = (typeof THREADS)[number];

/** mm a turn: ISO 261:1998 coarse series (from memory); UNC after ASME B1.1, 32 turns an inch (from memory). */
export const PITCH_MM: Readonly<Record<Thread, number>> = {
  "M1.6": 0.35,
  M2: 0.4,
  "M2.5": 0.45,
  M3: 0.5,
  "6-32 UNC": 25.4 / 32,
};

export const HEADS = ["cross", "hex socket", "hex", "star", "slot"] as const;
export type Head = (typeof HEADS)[number];
export const SPRINGS = ["none", "coil", "leaf"] as const;
export type SpringKind = (typeof SPRINGS)[number];
export const HIDDEN_BY = ["nothing", "seal", "sticker"] as const;
export type HiddenBy = (typeof HIDDEN_BY)[number];

/** What a card is taken apart into, the outermost first as it usually lies (common practice); each map may say another order. */
export const LAYERS = ["bracket", "fan", "shroud", "backplate", "cooler", "mid-plate"] as const;
export type Layer = (typeof LAYERS)[number];

export interface MapLayer {
  id: Layer;
  /** Null while nobody has looked. */
  there: boolean | null;
}

export const PLUG_KINDS = ["plug", "ribbon"] as const;
export const FEEDS = ["fan", "light", "display", "sensor", "other"] as const;
export const RELEASES = ["wiggle and pull", "press the latch", "flip the latch up", "slide the latch out"] as const;

/** A plug or a ribbon cable: undone before the layer that it holds comes off. */
export interface MapPlug {
  id: string;
  xMm: number;
  yMm: number;
  side: "front" | "back";
  kind: (typeof PLUG_KINDS)[number];
  feeds: (typeof FEEDS)[number];
  release: (typeof RELEASES)[number];
  /** The layer it holds. */
  layer: Layer;
}

export const NEW_PLUG: Omit<MapPlug, "id" | "xMm" | "yMm"> = {
  side: "front",
  kind: "plug",
  feeds: "fan",
  release: "wiggle and pull",
  layer: "cooler",
};
