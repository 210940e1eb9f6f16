import * as v from "valibot";
import { idText, listOf, numberFrom, Problem, readDocument, said } from "../problem/index.ts";
import { SOLVENTS, type SolventUse } from "./air.ts";

const MOST_CREVICES = 1000;
export const SEA_LEVEL_KPA = 101.325;
/** Beyond it a hair's breadth of error is hours. */
const MOST_HUMIDITY = 95;

const KINDS = Object.keys(SOLVENTS) as Array<keyof typeof SOLVENTS>;

const DryFile = v.object({
  airC: numberFrom(5, 60),
  partC: v.optional(v.nullable(numberFrom(-20, 200))),
  relativeHumidityPct: numberFrom(0, 100),
  pressureKPa: v.optional(numberFrom(50, 120), SEA_LEVEL_KPA),
  crevices: listOf(v.object({ id: idText, depthMm: numberFrom(0.01, 500) }), MOST_CREVICES),
  solvent: v.optional(
    v.nullable(
      v.object({
        kind: v.picklist(KINDS, said("This solvent is not known.", `Use one of: ${KINDS.join(", ")}.`)),
        usedMl: numberFrom(0, 100_000),
        minutes: numberFrom(0.1, 10_000),
        roomM3: numberFrom(0.1, 100_000),
        airChangesPerHour: numberFrom(0, 1000),
      }),
    ),
    null,
  ),
});

export interface DryInput {
  airC: number;
  partC: number;
  relativeHumidityPct: number;
  pressureKPa: number;
  crevices: ReadonlyArray<{ id: string; depthMm: number }>;
  solvent: SolventUse | null;
}

/**
 * A task of drying as it stands in a file; a part without a temperature has the room's.
 * @throws Problem `bad-dry` naming the field, also for an unknown solvent; `too-humid` above 95 %
 */
export function readDry(input: unknown): DryInput {
  const { partC, ...found } = readDocument(DryFile, input, "bad-dry");
  if (found.relativeHumidityPct > MOST_HUMIDITY)
    throw new Problem({
      code: "too-humid",
      what: `At ${found.relativeHumidityPct} % humidity nothing can be said of drying.`,
      where: "relativeHumidityPct",
      remedy: `Dry it with warm air, or in a room of at most ${MOST_HUMIDITY} %.`,
    });
  return { ...found, partC: partC ?? found.airC };
}
