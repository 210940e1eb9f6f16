import * as v from "valibot";

const line = (most: number) => v.pipe(v.string(), v.trim(), v.maxLength(most, `At most ${most} characters.`));
const needed = (most: number, message: string) => v.pipe(line(most), v.minLength(1, message));
const optionalNumber = (low: number, high: number, message: string) =>
  v.nullable(v.pipe(v.number(message), v.minValue(low, message), v.maxValue(high, message)));

/** What to look at before a card is plugged in. Common practice of the trade. */
export const LOOK_OVER_ITEMS = [
  { id: "front", label: "Front: burn marks, cracks, bent or missing parts" },
  { id: "back", label: "Back: burn marks, cracks, bent or missing parts" },
  { id: "water", label: "Water marks and corrosion" },
  { id: "oil", label: "Oil bled out of old pads" },
  { id: "blades", label: "Fan blades: cracked or rubbing" },
  { id: "cables", label: "Fan and light cables seated" },
  { id: "dirt", label: "Dirt: dust, hair, smoke film" },
  { id: "screws", label: "Screw heads and traces of earlier work" },
] as const;

export const SEAL_STATES = ["whole", "damaged", "missing", "unknown"] as const;
export const USE_KINDS = ["office", "games", "long constant load", "unknown"] as const;
export const WARRANTY_ANSWERS = ["not asked", "under warranty", "out of warranty", "owner accepts opening"] as const;

export const LookOverEntry = v.object({
  id: v.picklist(LOOK_OVER_ITEMS.map((item) => item.id)),
  state: v.picklist(["open", "ok", "noted"]),
  text: line(500),
});

/** What is known of a physical card when it comes in. */
export const CardInput = v.object({
  maker: needed(80, "Type the maker."),
  model: needed(120, "Type the model."),
  serial: line(120),
  boardModelId: v.nullable(v.string()),
  /** Name of a board model not yet known; made when given and `boardModelId` is null. */
  newBoardModel: line(120),
  holder: v.picklist(["owner", "stock"]),
  ownerName: line(120),
  /** Price paid or agreed, in the workshop's currency. */
  price: optionalNumber(0, 100_000, "A price lies between 0 and 100 000."),
  ageYears: optionalNumber(0, 40, "An age lies between 0 and 40 years."),
  useKind: v.picklist(USE_KINDS),
  complaint: line(1000),
  seal: v.picklist(SEAL_STATES),
  warranty: v.picklist(WARRANTY_ANSWERS),
  lookOver: v.array(LookOverEntry),
});
export type CardInput = v.InferOutput<typeof CardInput>;

export const EMPTY_CARD: CardInput = {
  maker: "",
  model: "",
  serial: "",
  boardModelId: null,
  newBoardModel: "",
  holder: "owner",
  ownerName: "",
  price: null,
  ageYears: null,
  useKind: "unknown",
  complaint: "",
  seal: "unknown",
  warranty: "not asked",
  lookOver: LOOK_OVER_ITEMS.map((item) => ({ id: item.id, state: "open", text: "" })),
};

/** A change carries the version it was made from, so that two windows don't overwrite each other unseen. */
export const CardChange = v.object({ ...CardInput.entries, version: v.number() });

export const Photo = v.object({
  id: v.string(),
  caption: v.string(),
  width: v.number(),
  height: v.number(),
  createdAt: v.string(),
});
export type Photo = v.InferOutput<typeof Photo>;

export const Card = v.object({
  ...CardInput.entries,
  id: v.string(),
  serviceId: v.string(),
  boardModelName: v.nullable(v.string()),
  version: v.number(),
  /** When it was removed; null while it is here. */
  deletedAt: v.nullable(v.string()),
  createdAt: v.string(),
  updatedAt: v.string(),
  photos: v.array(Photo),
});
export type Card = v.InferOutput<typeof Card>;

export const LimitsInput = v.object({
  edgeC: optionalNumber(40, 130, "A limit lies between 40 and 130 °C."),
  hotspotC: optionalNumber(40, 130, "A limit lies between 40 and 130 °C."),
  memoryC: optionalNumber(40, 130, "A limit lies between 40 and 130 °C."),
  vrmC: optionalNumber(40, 150, "A limit lies between 40 and 150 °C."),
});
export type Limits = v.InferOutput<typeof LimitsInput>;
/** Common practice of the trade, no source: changed per board model. */
export const USUAL_LIMITS: Limits = { edgeC: 85, hotspotC: 105, memoryC: 95, vrmC: 110 };

export const BoardInput = v.object({ name: needed(120, "Type a name."), notes: line(2000), limits: LimitsInput });
export type BoardInput = v.InferOutput<typeof BoardInput>;
export const BoardChange = v.object({ ...BoardInput.entries, version: v.number() });

export const Board = v.object({
  ...BoardInput.entries,
  id: v.string(),
  version: v.number(),
  cards: v.number(),
});
export type Board = v.InferOutput<typeof Board>;
