import * as v from "valibot";

const line = (most: number) => v.pipe(v.string(), v.trim(), v.maxLength(most, `At most ${most} characters.`));
const needed = (message: string) => v.pipe(line(120), v.minLength(1, message));
const amount = (low: number, high: number, message: string) =>
  v.pipe(v.number(message), v.minValue(low, message), v.maxValue(high, message));
const maybeDay = v.nullable(v.pipe(v.string(), v.isoDate("Give the day as YYYY-MM-DD.")));

export const MATERIAL_KINDS = [
  "pad",
  "putty",
  "paste",
  "phase-change",
  "liquid metal",
  "adhesive",
  "alcohol",
  "wipes",
  "oil",
  "fan",
  "screw",
  "washer",
] as const;
export type MaterialKind = (typeof MATERIAL_KINDS)[number];

/** What a lot of each kind is counted in. */
export const STOCK_UNIT: Record<MaterialKind, "sheet" | "g" | "ml" | "piece"> = {
  pad: "sheet",
  putty: "g",
  paste: "g",
  "phase-change": "sheet",
  "liquid metal": "g",
  adhesive: "g",
  alcohol: "ml",
  wipes: "piece",
  oil: "ml",
  fan: "piece",
  screw: "piece",
  washer: "piece",
};

/** Softness: compressive strain against pressure. */
const Curve = v.pipe(
  v.array(v.tuple([amount(0, 0.95, "Squeeze lies between 0 and 95 %."), amount(0, 20_000, "Pressure in kPa.")])),
  v.minLength(2, "A softness curve needs two points or more."),
  v.maxLength(20, "Twenty points are enough."),
  v.check(
    (points) =>
      points.every(
        ([strain, kPa], index) =>
          index === 0 || (strain > (points[index - 1]?.[0] ?? 0) && kPa >= (points[index - 1]?.[1] ?? 0)),
      ),
    "A softness curve rises: more squeeze, more pressure.",
  ),
);

export const MaterialInput = v.object({
  kind: v.picklist(MATERIAL_KINDS),
  name: needed("Type a name."),
  note: line(1000),
  conductivityWPerMK: v.nullable(amount(0.05, 500, "A conductivity lies between 0.05 and 500 W/mK.")),
  curve: v.nullable(Curve),
  curveSource: line(200),
  /** Widest gap putty fills. */
  mostMm: v.nullable(amount(0.1, 12, "Between 0.1 and 12 mm.")),
  densityGPerMl: v.nullable(amount(0.1, 20, "A density lies between 0.1 and 20 g/ml.")),
  conductsElectricity: v.boolean(),
  attacksAluminium: v.boolean(),
  lowAt: v.nullable(amount(0, 100_000, "0 or more.")),
});
export type MaterialInput = v.InferOutput<typeof MaterialInput>;
export const MaterialChange = v.object({ ...MaterialInput.entries, version: v.number() });
export const Material = v.object({
  ...MaterialInput.entries,
  id: v.string(),
  version: v.number(),
});
export type Material = v.InferOutput<typeof Material>;

export const EMPTY_MATERIAL: MaterialInput = {
  kind: "pad",
  name: "",
  note: "",
  conductivityWPerMK: null,
  curve: null,
  curveSource: "",
  mostMm: null,
  densityGPerMl: null,
  conductsElectricity: false,
  attacksAluminium: false,
  lowAt: null,
};

const sheet = {
  materialId: v.pipe(v.string(), v.minLength(1, "Choose a material.")),
  thicknessMm: v.nullable(amount(0.05, 12, "A thickness lies between 0.05 and 12 mm.")),
  widthMm: v.nullable(amount(1, 2000, "A width lies between 1 and 2000 mm.")),
  heightMm: v.nullable(amount(1, 2000, "A height lies between 1 and 2000 mm.")),
  /** Of one sheet, gram, millilitre or piece. */
  price: amount(0, 100_000, "A price is 0 or more."),
};

export const LotInput = v.object({
  ...sheet,
  label: line(120),
  amount: amount(0, 1_000_000, "An amount is 0 or more."),
  openedOn: maybeDay,
  useBefore: maybeDay,
});
export type LotInput = v.InferOutput<typeof LotInput>;
export const LotChange = v.object({ ...LotInput.entries, version: v.number() });
export const Lot = v.object({
  ...LotInput.entries,
  id: v.string(),
  /** Service whose cutting left it over. */
  leftOverOf: v.nullable(v.string()),
  version: v.number(),
});
export type Lot = v.InferOutput<typeof Lot>;

/** One line of the price list: a sheet that can be bought. */
export const OfferInput = v.object({
  ...sheet,
  label: line(120),
  /** Days from ordering to being here; null where nobody said. */
  leadDays: v.optional(v.nullable(amount(0, 365, "Between 0 and 365 days.")), null),
  /** When it was ordered, until it is put into stock. */
  orderedOn: v.optional(maybeDay, null),
});
export type OfferInput = v.InferOutput<typeof OfferInput>;
export const OfferChange = v.object({ ...OfferInput.entries, version: v.number() });
export const Offer = v.object({
  ...OfferInput.entries,
  id: v.string(),
  version: v.number(),
});
export type Offer = v.InferOutput<typeof Offer>;

export const Stores = v.object({
  materials: v.array(Material),
  lots: v.array(Lot),
  offers: v.array(Offer),
  /** Materials with no more than their own limit left. */
  low: v.array(
    v.object({
      materialId: v.string(),
      name: v.string(),
      left: v.number(),
      unit: v.string(),
      lowAt: v.number(),
    }),
  ),
  /** Lots past their day. */
  stale: v.array(
    v.object({
      lotId: v.string(),
      name: v.string(),
      useBefore: v.string(),
    }),
  ),
});
export type Stores = v.InferOutput<typeof Stores>;

export const UseInput = v.object({
  lotId: v.pipe(v.string(), v.minLength(1, "Choose what was used.")),
  amount: amount(0.001, 1_000_000, "Say how much was used."),
  what: line(200),
  /** The person accepts a stated danger; kept with the use. */
  accepted: v.boolean(),
});
export type UseInput = v.InferOutput<typeof UseInput>;
export const Use = v.object({
  ...UseInput.entries,
  id: v.string(),
  serviceId: v.string(),
  at: v.string(),
  materialName: v.string(),
  unit: v.string(),
  /** The booking of a cut sheet that took it; null for what was taken by hand. */
  bookingId: v.nullable(v.string()),
});
export type Use = v.InferOutput<typeof Use>;
