import { EMPTY_COOLER_PLAN } from "#contract";
import { changeCoolerPlan, readCoolers } from "#server/services/coolers.ts";
import { addReading } from "#server/services/readings.ts";
import { decide } from "#server/stations/decide/decide.ts";
import type { FillStation } from "../station.ts";

/** Minutes, kPa and °C of a loop that stands under pressure. */
const LEAK = [
  [0, 40.0, 21.2],
  [4, 40.0, 21.2],
  [9, 40.0, 21.3],
  [15, 40.0, 21.3],
  [20, 40.5, 21.4],
] as const;

const LEAK_BEGAN_MS = 24 * 60_000;

/** One card may get a big cooler for air, which leaves its VRM bare: a heatsink of its own is tried there; another gets a block of water. */
export const fill: FillStation = async (context, serviceOf) => {
  const coolers = await readCoolers(context);
  const idOf = (name: string): string | null => coolers.find((one) => one.name === name)?.id ?? null;
  const air = serviceOf.get("BT12/81/1022");
  const mosfetSink = {
    fins: { widthMm: 6, lengthMm: 6, baseMm: 1, finHeightMm: 4, finThickMm: 0.8, count: 3 },
    air: "stream" as const,
    speedMS: 1.5,
    joint: { thicknessMm: 0.2, conductivityWPerMK: 1.2 },
    glued: true,
    powerW: 2.5,
    riseNowK: 55,
    bridge: null,
  };
  if (air)
    await changeCoolerPlan(context, air, {
      plan: {
        ...EMPTY_COOLER_PLAN,
        coolerId: idOf("Ulmen Broadvane"),
        room: { ...EMPTY_COOLER_PLAN.room, slots: 3, lengthMm: 280 },
        heatsinks: [{ id: "H1", partId: "Q1", ...mosfetSink }],
      },
      version: 0,
    });
  const water = serviceOf.get("OF70-12310");
  if (!water) return;
  const heard = {
    kind: "sound",
    place: "30 cm",
    shown: 39,
    emissivity: null,
    surroundC: null,
    note: "",
    liveId: null,
  } as const;
  await addReading(context, water, heard, null);
  await decide(context, water, {
    choice: "cooler",
    recommended: "repaste",
    reason: "Its owner wants it silent",
  });
  await changeCoolerPlan(context, water, {
    plan: {
      ...EMPTY_COOLER_PLAN,
      coolerId: idOf("Torrin Flatbrook 70"),
      room: { ...EMPTY_COOLER_PLAN.room, slots: 2, lengthMm: 300 },
      loop: {
        pump: [
          { lPerMin: 0, kPa: 34 },
          { lPerMin: 5, kPa: 20 },
          { lPerMin: 9, kPa: 0 },
        ],
        radiators: [
          {
            name: "Front, three fans of 120 mm",
            insideMl: 190,
            losses: [{ lPerMin: 4, kPa: 2.4 }],
            cooling: [
              { fanRpm: 600, wPerK: 14, dba: 25 },
              { fanRpm: 1000, wPerK: 21, dba: 31 },
              { fanRpm: 1600, wPerK: 29, dba: 41 },
            ],
          },
        ],
        tubeMm: 1600,
        boreMm: 10,
        bends: 6,
        reservoirMl: 180,
        fanRpm: 1000,
      },
      leak: {
        ...EMPTY_COOLER_PLAN.leak,
        startedAt: new Date(Date.now() - LEAK_BEGAN_MS).toISOString(),
        readings: LEAK.map(([atMin, pressureKPa, airC]) => ({ atMin, pressureKPa, airC })),
      },
    },
    version: 0,
  });
};
