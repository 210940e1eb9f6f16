import { type AirLoad, airLoad } from "./air.ts";
import { saturationKPa, wetBulbC } from "./humidity.ts";
import type { DryInput } from "./input.ts";

export interface Dried {
  saturationKPa: number;
  wetBulbC: number;
  /** Null where nothing dries, or the water boils. */
  crevices: Array<{ id: string; minutes: number | null }>;
  /** Of the longest; null as soon as one has none. */
  totalMin: number | null;
  solvent: AirLoad | null;
}

const GAS_J_PER_MOL_K = 8.314_462_618;
const ZERO_C_K = 273.15;
const WATER_KG_PER_MOL = 0.018_015_28;
const WATER_KG_PER_M3 = 998;
/** Water vapour in air at 20 °C and one atmosphere; it grows with temperature, falls with pressure. */
const DIFFUSION = { m2PerS: 0.242e-4, atK: 293.15, power: 1.81, atKPa: 101.325 };

/**
 * How long a blind hole full of water takes to dry from its mouth: quasi-steady diffusion through the still air that grows above what is left
 * (J. Stefan). t = ρRT·L² / (2·M·D·P·ln((P − p_mouth)/(P − p_water))).
 * @param mouthKPa vapour pressure of the room
 * @returns minutes; null where the part is at or below the dew point, or boils
 */
export function creviceMinutes(depthMm: number, partC: number, mouthKPa: number, pressureKPa: number): number | null {
  const waterKPa = saturationKPa(partC);
  if (waterKPa <= mouthKPa || waterKPa >= pressureKPa) return null;
  const kelvin = partC + ZERO_C_K;
  const diffusion = DIFFUSION.m2PerS * (kelvin / DIFFUSION.atK) ** DIFFUSION.power * (DIFFUSION.atKPa / pressureKPa);
  const driven = Math.log((pressureKPa - mouthKPa) / (pressureKPa - waterKPa));
  const depthM = depthMm / 1000;
  const seconds =
    (WATER_KG_PER_M3 * GAS_J_PER_MOL_K * kelvin * depthM ** 2) /
    (2 * WATER_KG_PER_MOL * diffusion * pressureKPa * 1000 * driven);
  return seconds / 60;
}

/** How long a washed part must rest, and what the solvent leaves in the air. */
export function dry({ airC, partC, relativeHumidityPct, pressureKPa, crevices, solvent }: DryInput): Dried {
  const humidity = relativeHumidityPct / 100;
  const mouthKPa = humidity * saturationKPa(airC);
  const dried = crevices.map(({ id, depthMm }) => ({
    id,
    minutes: creviceMinutes(depthMm, partC, mouthKPa, pressureKPa),
  }));
  const never = dried.some(({ minutes }) => minutes === null);
  return {
    saturationKPa: saturationKPa(airC),
    wetBulbC: wetBulbC(airC, humidity, pressureKPa),
    crevices: dried,
    totalMin: never || dried.length === 0 ? null : Math.max(...dried.map(({ minutes }) => minutes ?? 0)),
    solvent: solvent && airLoad(solvent, airC, pressureKPa),
  };
}
