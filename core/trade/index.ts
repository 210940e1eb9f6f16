/**
 * Figures of the trade that more than one computation rests on: each once, with where it comes from. What a single computation uses
 * stands beside it. Units are in the names.
 */

/**
 * What of a rise the air carries on usual cards with fans on a fin stack, and how that share falls with the fan's speed:
 * rise ∝ (1 − share) + share · (n/n₀)^(−exponent). The exponent lies between the 0.5 of laminar and the 0.8 of turbulent forced convection
 * (Incropera et al., flat plate and duct correlations, from memory); share and scatter are common practice, with no source.
 */
export const USUAL_AIR = { share: 0.65, shareSd: 0.12, exponent: 0.7, exponentSd: 0.12 } as const;

/** Of the slow part of a rise (plate, fins and air, behind the compound) the air carries about so much (common practice, no source). */
export const SLOW_PART_AIR_SHARE = 0.8;

/** NIST SP 811. */
const KPA_PER_PSI = 6.894757;

/** Mean pressure on a die: a usual target of 30 to 40 psi, and how far from it is a fault (common practice, no source). */
export const DIE_PRESSURE_KPA = {
  usualLow: 30 * KPA_PER_PSI,
  usualHigh: 40 * KPA_PER_PSI,
  tooLow: 0.6 * 30 * KPA_PER_PSI,
  tooHigh: 90 * KPA_PER_PSI,
} as const;

/** Pulls of screws tightened by hand scatter by this share (95 %), of shouldered ones by less (common practice, after torque scatter of bolted joints). */
export const SCREW_SCATTER = { plain: 0.25, shouldered: 0.05 } as const;
