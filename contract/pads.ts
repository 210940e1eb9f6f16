import * as v from "valibot";
import {
  type BoardMap,
  COOLED_BY,
  EMPTY_MAP,
  FEEDS,
  HEADS,
  HIDDEN_BY,
  LAYERS,
  MAP_FORMAT,
  MAP_VERSION,
  PART_KINDS,
  PLUG_KINDS,
  RELEASES,
  SPRINGS,
  THREADS,
} from "#core/boardmap/index.ts";
import { GAP_SOURCES, OLD_PAD_SOFTNESS, OLD_PAD_STATES } from "#core/gaps/index.ts";
import { BoxFile, changes, number, place, shortName, size } from "./shapes.ts";
import { GapReading } from "./shapes-of-plans.ts";

/** A board map as it is stored and exchanged; an unfinished one may be kept, `checkMap` says what is wrong with it. */
export const BoardMapFile = v.object({
  format: v.literal(MAP_FORMAT, "This is not a board map."),
  version: v.pipe(
    v.number("This is not a board map."),
    v.maxValue(MAP_VERSION, "This map was written by a newer version. Update this application, then import it again."),
    // What an older one lacks is filled in below.
    v.transform(() => MAP_VERSION),
  ),
  board: v.object({
    widthMm: number(10, 1000, "A board is 10 to 1000 mm wide."),
    heightMm: number(10, 1000, "A board is 10 to 1000 mm high."),
    thicknessMm: number(0.3, 5, "A board is 0.3 to 5 mm thick."),
    youngGPa: number(1, 300, "Stiffness in GPa: 1 to 300; 22 is usual."),
    poisson: number(0, 0.49, "Poisson’s ratio: 0 to 0.49; 0.15 is usual."),
    dieTallMm: v.optional(v.nullable(number(0.2, 20, "A die stands 0.2 to 20 mm above its board."))),
  }),
  die: v.nullable(BoxFile),
  screws: v.pipe(
    v.array(
      v.object({
        id: shortName,
        xMm: place,
        yMm: place,
        holeMm: number(0.5, 12, "A hole is 0.5 to 12 mm wide."),
        forceN: number(0, 1000, "A pull lies between 0 and 1000 N."),
        springNPerMm: number(0, 2000, "A spring lies between 0 and 2000 N/mm."),
        washerMm: number(0, 5, "A washer is 0 to 5 mm thick."),
        shouldered: v.boolean(),
        standoff: v.optional(v.boolean(), false),
        thread: v.optional(v.nullable(v.picklist(THREADS, "A thread of the list.")), null),
        lengthMm: v.optional(v.nullable(number(0.5, 60, "A screw is 0.5 to 60 mm long: millimetres?")), null),
        head: v.optional(v.nullable(v.picklist(HEADS, "A head of the list.")), null),
        driver: v.optional(v.pipe(v.string(), v.trim(), v.maxLength(20, "At most 20 characters.")), ""),
        spring: v.optional(v.nullable(v.picklist(SPRINGS)), null),
        sleeve: v.optional(v.boolean(), false),
        side: v.optional(v.picklist(["front", "back"]), "back"),
        layer: v.optional(v.nullable(v.picklist(LAYERS, "A layer of the list.")), null),
        hiddenBy: v.optional(v.picklist(HIDDEN_BY), "nothing"),
        leaveAlone: v.optional(v.boolean(), false),
      }),
    ),
    v.maxLength(100, "At most 100 screws."),
  ),
  parts: v.pipe(
    v.array(
      v.object({
        ...BoxFile.entries,
        id: shortName,
        kind: v.picklist(PART_KINDS),
        side: v.picklist(["front", "back"]),
        tallMm: v.nullable(number(0, 100, "A height lies between 0 and 100 mm.")),
        cooledBy: v.picklist(COOLED_BY),
        group: v.nullable(v.pipe(v.string(), v.maxLength(40))),
        guideMm: v.nullable(number(0.1, 12, "A guide value lies between 0.1 and 12 mm: millimetres?")),
      }),
    ),
    v.maxLength(1000, "At most 1000 parts."),
  ),
  cooler: v.nullable(BoxFile),
  layers: v.optional(
    v.pipe(
      v.array(v.object({ id: v.picklist(LAYERS), there: v.nullable(v.boolean()) })),
      v.check(
        (layers) => layers.length === LAYERS.length && LAYERS.every((layer) => layers.some(({ id }) => id === layer)),
        "A map names every layer once.",
      ),
    ),
    [...EMPTY_MAP.layers],
  ),
  plugs: v.optional(
    v.pipe(
      v.array(
        v.object({
          id: shortName,
          xMm: place,
          yMm: place,
          side: v.picklist(["front", "back"]),
          kind: v.picklist(PLUG_KINDS),
          feeds: v.picklist(FEEDS),
          release: v.picklist(RELEASES),
          layer: v.picklist(LAYERS),
        }),
      ),
      v.maxLength(40, "At most 40 plugs."),
    ),
    [],
  ),
});

/** Packages to stamp on maps. */
export const PackageList = v.pipe(
  v.array(
    v.object({
      name: v.pipe(v.string(), v.trim(), v.minLength(1, "Give it a name."), v.maxLength(40, "At most 40 characters.")),
      kind: v.picklist(PART_KINDS),
      widthMm: size,
      heightMm: size,
      tallMm: number(0, 100, "A height lies between 0 and 100 mm."),
    }),
  ),
  v.maxLength(60, "At most 60 packages."),
);

export const BoardMapChange = v.object({ map: BoardMapFile, version: v.number(), changes });
export interface BoardMapChange {
  map: BoardMap;
  version: number;
  changes?: readonly string[];
}

/** Where the rectangle of a straightened photo lies on the board; without a new photo, `hash` names the earlier one that is put back. */
export const UnderlayPlace = v.object({ ...BoxFile.entries, hash: v.optional(v.pipe(v.string(), v.maxLength(128))) });
export const Underlay = v.object({
  hash: v.string(),
  xMm: v.number(),
  yMm: v.number(),
  widthMm: v.number(),
  heightMm: v.number(),
});
export type Underlay = v.InferOutput<typeof Underlay>;

export const BoardMapView = v.object({
  boardModelId: v.string(),
  boardName: v.string(),
  map: BoardMapFile,
  /** 0 while nothing is stored. */
  version: v.number(),
  underlay: v.nullable(Underlay),
});
export type BoardMapView = v.InferOutput<typeof BoardMapView>;

export const GapInput = v.object({
  readings: v.pipe(
    v.array(
      v.object({
        /** The sender's own, so that a reading whose answer was lost is known when it is sent again. */
        id: v.optional(v.pipe(v.string(), v.minLength(16), v.maxLength(40))),
        partId: shortName,
        source: v.picklist(GAP_SOURCES),
        valueMm: number(0.05, 12, "A reading lies between 0.05 and 12 mm: is the caliper in inches?"),
        padState: v.picklist(OLD_PAD_STATES),
        softness: v.picklist(OLD_PAD_SOFTNESS),
        /** Share of the part the old pad covered. */
        coverPct: v.nullable(number(0, 100, "Between 0 and 100 %.")),
      }),
    ),
    v.minLength(1, "There is no reading in it."),
    v.maxLength(200, "At most 200 readings at once."),
  ),
});
export type GapInput = v.InferOutput<typeof GapInput>;

export const KeptGapReading = v.object({
  ...GapReading.entries,
  coverPct: v.nullable(v.number()),
  at: v.string(),
});
export type KeptGapReading = v.InferOutput<typeof KeptGapReading>;

const Pick = v.object({
  materialId: v.string(),
  thicknessMm: number(0.05, 12, "A thickness lies between 0.05 and 12 mm."),
  layers: v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(4, "At most four layers.")),
  widthMm: size,
  heightMm: size,
  offXMm: place,
  offYMm: place,
  filmLeft: v.boolean(),
});

const Space = v.object({ xMm: v.number(), yMm: v.number(), widthMm: v.number(), heightMm: v.number() });
const Notch = v.object({ xMm: v.number(), yMm: v.number(), radiusMm: v.number() });

/** One sheet of a cutting plan as it is carried out. */
export const CutSheetInput = v.object({
  from: v.picklist(["lot", "offer"]),
  sourceId: v.string(),
  materialId: v.string(),
  thicknessMm: v.number(),
  widthMm: v.number(),
  heightMm: v.number(),
  price: v.number(),
  pieces: v.array(
    v.object({
      ...Space.entries,
      pieceId: v.string(),
      rotated: v.boolean(),
      notches: v.array(Notch),
      cut: v.boolean(),
    }),
  ),
  leftOvers: v.array(Space),
  /** Its use and its left-overs are in the stock. */
  booked: v.boolean(),
  /** The booking that did that; not in plans from before bookings had ids. */
  bookingId: v.optional(v.nullable(v.pipe(v.string(), v.maxLength(80)))),
});
export type CutSheetInput = v.InferOutput<typeof CutSheetInput>;

export const PadPlanInput = v.object({
  picks: v.record(v.string(), v.nullable(Pick)),
  prefer: v.picklist(["fewest", "contact"]),
  faceC: v.nullable(number(0, 120, "A face temperature lies between 0 and 120 °C.")),
  rules: v.object({
    marginMm: number(-2, 5, "A margin lies between −2 and 5 mm."),
    clearMm: number(0, 5, "A clearance lies between 0 and 5 mm."),
    spareEvery: number(0, 1000, "0 for no spares."),
  }),
  cutting: v.nullable(
    v.object({
      sheets: v.pipe(v.array(CutSheetInput), v.maxLength(200)),
      unplaced: v.array(v.object({ pieceId: v.string(), quantity: v.number() })),
      cost: v.number(),
      lowerBoundCost: v.number(),
    }),
  ),
});
export type PadPlanInput = v.InferOutput<typeof PadPlanInput>;
export const PadPlanChange = v.object({ plan: PadPlanInput, version: v.number(), changes });
export interface PadPlanChange {
  plan: PadPlanInput;
  version: number;
  changes?: readonly string[];
}
export const BookInput = v.object({
  sheet: v.pipe(v.number(), v.integer(), v.minValue(0)),
  booked: v.boolean(),
  /** Of the plan that the sheet belongs to. */
  version: v.number(),
});
export type BookInput = v.InferOutput<typeof BookInput>;

export const EMPTY_PAD_PLAN: PadPlanInput = {
  picks: {},
  prefer: "fewest",
  faceC: null,
  rules: { marginMm: 0, clearMm: 0.5, spareEvery: 10 },
  cutting: null,
};

/** All a service's pads station shows. */
/** Pads of an open card that are chosen and not cut yet. */
export const OpenPads = v.object({
  serviceId: v.string(),
  cardId: v.string(),
  name: v.string(),
  serial: v.string(),
  map: BoardMapFile,
  picks: PadPlanInput.entries.picks,
  rules: PadPlanInput.entries.rules,
});
export type OpenPads = v.InferOutput<typeof OpenPads>;

export const PadJob = v.object({
  serviceId: v.string(),
  boardModelId: v.nullable(v.string()),
  boardName: v.string(),
  map: v.nullable(BoardMapFile),
  /** Under which the map is kept; 0 where there is none. */
  mapVersion: v.number(),
  /** Own readings and those of earlier cards of the model; `card` is the service they were taken in. */
  readings: v.array(KeptGapReading),
  /** Cards of this model that were measured before. */
  earlierCards: v.number(),
  plan: PadPlanInput,
  version: v.number(),
  /** What the cooler face is taken for while nothing is typed, and why. */
  face: v.object({
    valueC: v.number(),
    source: v.string(),
  }),
});
export type PadJob = v.InferOutput<typeof PadJob>;
