import { EMPTY_COOLER_PLAN } from "#contract";
import { changeCoolerPlan, readCoolers } from "#server/services/coolers.ts";
import type { FillStation } from "../station.ts";

/** One card may get a big cooler for air, which leaves its VRM bare: a heatsink of its own is tried there. */
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
        room: { slots: 3, lengthMm: 280 },
        heatsinks: [{ id: "H1", partId: "Q1", ...mosfetSink }],
      },
      version: 0,
    });
};
