import { Problem } from "../problem/index.ts";

const KELVIN = 273.15;
/** Below this a surface mirrors the room more than it shows itself. */
const LEAST_USABLE = 0.5;

/** Surfaces on a board and their emissivity, from memory of general heat-transfer tables. */
export const EMISSIVITIES = [
  { surface: "Black epoxy package", emissivity: 0.93 },
  { surface: "Solder mask", emissivity: 0.9 },
  { surface: "Paper or matt tape stuck on", emissivity: 0.95 },
  { surface: "Anodised aluminium", emissivity: 0.8 },
  { surface: "Bare metal, solder, polished die", emissivity: 0.07 },
] as const;

/**
 * True temperature of a surface from an infrared thermometer that is set to an emissivity of 1:
 * T⁴ = (T_read⁴ − (1 − ε) · T_surround⁴) / ε, in kelvins (Stefan–Boltzmann).
 * @param emissivity ε of the surface, 0…1
 * @param surroundC what the surface mirrors: usually the room
 * @returns the temperature and, for bare metal, a warning in words
 * @throws Problem `bad-emissivity` outside of 0…1, `impossible-reading` when no temperature gives such a reading
 * @example
 * ```ts
 * correctInfrared({ shownC: 80, emissivity: 1, surroundC: 22 }).valueC // => 80
 * ```
 */
export function correctInfrared(reading: { shownC: number; emissivity: number; surroundC: number }): {
  valueC: number;
  warning: string | null;
} {
  const { shownC, emissivity, surroundC } = reading;
  if (!(emissivity > 0 && emissivity <= 1))
    throw new Problem({
      code: "bad-emissivity",
      what: "An emissivity lies between 0 and 1.",
      remedy: "Black epoxy packages have about 0.93.",
    });
  const fourth = ((shownC + KELVIN) ** 4 - (1 - emissivity) * (surroundC + KELVIN) ** 4) / emissivity;
  if (!(fourth > 0))
    throw new Problem({
      code: "impossible-reading",
      what: "No surface of this emissivity gives such a reading in these surroundings.",
      remedy: "Check emissivity and the temperature of the surroundings.",
    });
  return {
    valueC: fourth ** 0.25 - KELVIN,
    warning:
      emissivity < LEAST_USABLE
        ? "Bare metal mirrors the room: such a reading can’t be trusted. Stick matt tape on it, or use a contact probe."
        : null,
  };
}
