import * as v from "valibot";
import {
  COOLER_FORMAT,
  COOLER_KINDS,
  COOLER_VERSION,
  type Cooler,
  FACE_USES,
  METALS,
  threadDiameterMm,
  USUAL_MOMENT_LIMIT_NM,
} from "#core/coolers/index.ts";
import { BoardMapFile } from "./pads.ts";
import { BoxFile, changes, number, place, shortName, size } from "./shapes.ts";
import { Fins } from "./shapes-of-plans.ts";
import { CoolerNow } from "./shapes-of-runs.ts";

const level = number(-100, 200, "A level lies between −100 and 200 mm.");
const flow = number(0, 100, "A flow lies between 0 and 100 L/min.");
const speed = number(1, 20_000, "A fan speed lies between 1 and 20 000 rpm.");
const thread = v.pipe(
  v.string(),
  v.trim(),
  v.check((text) => threadDiameterMm(text) !== null, "Write a thread as M2.5 or 6-32 UNC."),
);
const words = (most: number) => v.pipe(v.string(), v.trim(), v.maxLength(most, `At most ${most} characters.`));
const known = <S extends v.GenericSchema>(schema: S) => v.optional(v.nullable(schema), null);

const ScrewFile = v.object({
  id: v.pipe(v.string(), v.trim(), v.minLength(1, "Give it a name."), v.maxLength(30, "At most 30 characters.")),
  thread,
  lengthMm: number(0.5, 100, "A screw is 0.5 to 100 mm long."),
  washerMm: number(0, 10, "A washer is 0 to 10 mm thick."),
  quantity: v.nullable(v.pipe(number(0, 1000, "0 to 1000 screws."), v.integer("A whole number of screws."))),
  shouldered: v.optional(v.boolean(), false),
});
const screws = v.pipe(v.array(ScrewFile), v.maxLength(40, "At most 40 kinds of screws."));
const FinsFile = v.object({
  widthMm: size,
  lengthMm: size,
  baseMm: size,
  finHeightMm: size,
  finThickMm: size,
  count: v.pipe(number(1, 200, "1 to 200 fins."), v.integer("A whole number of fins.")),
});
const PumpPoint = v.object({ lPerMin: flow, kPa: number(0, 500, "A pressure lies between 0 and 500 kPa.") });
const points = <S extends v.GenericSchema>(point: S) => v.pipe(v.array(point), v.maxLength(20, "At most 20 points."));

/** A cooler as it is stored and exchanged; an unfinished one may be kept. */
export const CoolerFile = v.object({
  format: v.literal(COOLER_FORMAT, "This is not a cooler."),
  version: v.pipe(
    v.number("This is not a cooler."),
    v.maxValue(
      COOLER_VERSION,
      "This cooler was written by a newer version. Update this application, then import it again.",
    ),
  ),
  name: v.pipe(v.string(), v.trim(), v.minLength(1, "Give it a name."), v.maxLength(60, "At most 60 characters.")),
  kind: v.picklist(COOLER_KINDS),
  outline: known(BoxFile),
  plate: known(v.object({ ...BoxFile.entries, metal: v.picklist(METALS) })),
  faces: v.pipe(
    v.array(v.object({ ...BoxFile.entries, id: shortName, levelMm: level, for: v.picklist(FACE_USES) })),
    v.maxLength(200, "At most 200 faces."),
  ),
  posts: v.pipe(
    v.array(
      v.object({
        id: shortName,
        xMm: place,
        yMm: place,
        thread,
        holeDepthMm: number(0.5, 100, "A hole is 0.5 to 100 mm deep."),
        levelMm: level,
      }),
    ),
    v.maxLength(40, "At most 40 posts."),
  ),
  fans: v.optional(v.pipe(v.array(v.object({ ...BoxFile.entries, id: shortName })), v.maxLength(10)), []),
  mayTurn: v.optional(v.boolean(), false),
  kit: v.optional(screws, []),
  heightMm: known(number(1, 300, "A cooler stands 1 to 300 mm high.")),
  weightG: known(number(1, 10_000, "A cooler weighs 1 to 10 000 g.")),
  screwPullN: known(number(0, 1000, "A pull lies between 0 and 1000 N.")),
  springNPerMm: known(number(0, 2000, "A spring lies between 0 and 2000 N/mm.")),
  dieKPa: known(number(1, 5000, "A pressure on the die lies between 1 and 5000 kPa.")),
  air: v.optional(
    points(
      v.object({
        fanRpm: speed,
        kPerW: number(0.01, 10, "Kelvin per watt lie between 0.01 and 10."),
        dba: v.nullable(number(0, 120, "A level lies between 0 and 120 dBA.")),
      }),
    ),
    [],
  ),
  water: known(
    v.object({
      insideMl: number(0, 5000, "0 to 5000 mL."),
      losses: points(PumpPoint),
      block: points(v.object({ lPerMin: flow, kPerW: number(0.001, 5, "Kelvin per watt lie between 0.001 and 5.") })),
    }),
  ),
  fins: known(FinsFile),
  note: v.optional(words(2000), ""),
});

export const CoolerChange = v.object({ cooler: CoolerFile, version: v.number(), changes });
export interface CoolerChange {
  cooler: Cooler;
  version: number;
  changes?: readonly string[];
}
export const CoolerInput = v.object({ cooler: CoolerFile });

export const CoolerView = v.object({
  id: v.string(),
  cooler: CoolerFile,
  version: v.number(),
});
export type CoolerView = v.InferOutput<typeof CoolerView>;
/** One of the list: what is needed to choose it. */
export const CoolerLine = v.object({
  id: v.string(),
  name: v.string(),
  kind: v.picklist(COOLER_KINDS),
  cards: v.number(),
  /** Of an add-on heatsink, to put on a chip. */
  fins: v.nullable(Fins),
});
export type CoolerLine = v.InferOutput<typeof CoolerLine>;

const LoopFile = v.object({
  pump: points(PumpPoint),
  radiators: v.pipe(
    v.array(
      v.object({
        name: words(60),
        insideMl: number(0, 5000, "0 to 5000 mL."),
        losses: points(PumpPoint),
        cooling: points(
          v.object({
            fanRpm: speed,
            wPerK: number(0.01, 1000, "W/K lie between 0.01 and 1000."),
            dba: v.optional(v.nullable(number(0, 120, "A level lies between 0 and 120 dBA.")), null),
          }),
        ),
      }),
    ),
    v.maxLength(6, "At most six radiators."),
  ),
  tubeMm: number(1, 20_000, "A tube is 1 to 20 000 mm long."),
  boreMm: number(2, 30, "A bore is 2 to 30 mm wide."),
  bends: v.pipe(number(0, 100, "0 to 100 bends."), v.integer("A whole number of bends.")),
  reservoirMl: number(0, 5000, "0 to 5000 mL."),
  fanRpm: speed,
});

export const MOST_LEAK_READINGS = 2000;
const LeakFile = v.object({
  namedKPaPerH: number(0.2, 100, "A leak worth naming lies between 0.2 and 100 kPa an hour."),
  gaugeStepKPa: number(0.001, 20, "A gauge’s step lies between 0.001 and 20 kPa."),
  airStepK: number(0.001, 5, "A thermometer’s step lies between 0.001 and 5 K."),
  readings: v.pipe(
    v.array(
      v.object({
        atMin: number(0, 20_000, "Minutes since the start."),
        pressureKPa: number(-200, 20_000, "Pressure in kPa."),
        airC: number(-100, 300, "Air in °C."),
      }),
    ),
    v.maxLength(MOST_LEAK_READINGS, `At most ${MOST_LEAK_READINGS} readings.`),
  ),
  startedAt: v.nullable(v.string()),
  /** Why it goes on without a finished test; empty where it does not. */
  accepted: words(300),
});

/** What is planned and measured for another cooler on one card. */
export const CoolerPlanFile = v.object({
  coolerId: v.nullable(v.pipe(v.string(), v.maxLength(64))),
  /** Screws at hand beside the kit. */
  drawer: screws,
  room: v.object({
    slots: v.nullable(number(1, 10, "One to ten slots.")),
    lengthMm: v.nullable(number(50, 1000, "50 to 1000 mm.")),
    /** From this moment on a support is advised. */
    supportNm: v.optional(number(0.1, 20, "0.1 to 20 N·m."), USUAL_MOMENT_LIMIT_NM),
  }),
  loop: v.nullable(LoopFile),
  leak: LeakFile,
  heatsinks: v.pipe(
    v.array(
      v.object({
        id: shortName,
        partId: shortName,
        fins: FinsFile,
        air: v.picklist(["still", "stream", "blocked"]),
        speedMS: number(0.05, 30, "A stream lies between 0.05 and 30 m/s."),
        joint: v.object({
          thicknessMm: number(0.01, 5, "0.01 to 5 mm."),
          conductivityWPerMK: number(0.1, 100, "0.1 to 100 W/mK."),
        }),
        glued: v.boolean(),
        powerW: number(0.05, 100, "0.05 to 100 W."),
        riseNowK: number(0.5, 200, "0.5 to 200 K."),
        /** Pads on its back to the main heatsink. */
        bridge: v.optional(
          v.nullable(
            v.object({
              padMm: number(0.1, 12, "0.1 to 12 mm."),
              layers: v.picklist([1, 2]),
              conductivityWPerMK: number(0.1, 100, "0.1 to 100 W/mK."),
              widthMm: size,
              heightMm: size,
              coolerRiseK: number(0.5, 150, "0.5 to 150 K."),
            }),
          ),
          null,
        ),
      }),
    ),
    v.maxLength(40, "At most 40 heatsinks."),
  ),
});
export type CoolerPlan = v.InferOutput<typeof CoolerPlanFile>;

/** A loop that falls by 2 kPa an hour loses some litre of air a day at most (a size that is usually looked for, common practice). */
export const EMPTY_COOLER_PLAN: CoolerPlan = {
  coolerId: null,
  drawer: [],
  room: { slots: null, lengthMm: null, supportNm: USUAL_MOMENT_LIMIT_NM },
  loop: null,
  leak: { namedKPaPerH: 2, gaugeStepKPa: 0.5, airStepK: 0.1, readings: [], startedAt: null, accepted: "" },
  heatsinks: [],
};

export const CoolerPlanChange = v.object({ plan: CoolerPlanFile, version: v.number(), changes });
export interface CoolerPlanChange {
  plan: CoolerPlan;
  version: number;
  changes?: readonly string[];
}

/** The card as another cooler sees it. */
export const CoolerJob = v.object({
  serviceId: v.string(),
  plan: CoolerPlanFile,
  version: v.number(),
  cooler: v.nullable(CoolerFile),
  boardModelId: v.nullable(v.string()),
  boardName: v.string(),
  map: v.nullable(BoardMapFile),
  /** Figures of the last run before the work, where there is one: what today’s cooler does. */
  now: v.nullable(CoolerNow),
});
export type CoolerJob = v.InferOutput<typeof CoolerJob>;
