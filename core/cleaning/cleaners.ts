/** What is cleaned with, and what it does to what it may touch. */

export const CLEANERS = {
  air: "air",
  brush: "dry brush",
  isopropanol: "2-propanol",
  remover: "two-step compound remover",
  soap: "warm soapy water",
  acetone: "acetone",
} as const;
export type Cleaner = keyof typeof CLEANERS;

export const SURFACES = {
  electronics: "electronics",
  die: "the die",
  copper: "copper or nickel plate",
  aluminium: "bare aluminium",
  plastic: "plastic shroud or blades",
  label: "labels and printed marks",
  lacquer: "lacquer and paint",
  bearing: "a fan’s bearing",
  pad: "thermal pads",
} as const;
export type Surface = keyof typeof SURFACES;

export interface Compatibility {
  /** Refused, a matter of degree, or nothing against it. */
  verdict: "refused" | "degree" | "fine";
  why: string;
  source: string;
}

const TRADE = "common practice, no source";
/** Stress crazing of amorphous plastics by alcohols and ketones: general guides of chemical resistance. */
const PLASTICS = "guides of chemical resistance for ABS, polycarbonate and acrylic, from memory";
const DEGREASER = "terpenes swell rubber and many plastics; safety data sheets, from memory";

/** What is not fine; all else is. */
const AGAINST: Readonly<Partial<Record<`${Cleaner}:${Surface}`, Compatibility>>> = {
  "air:bearing": { verdict: "degree", why: "Hold the rotor: a fan that is blown spins past its speed.", source: TRADE },
  "isopropanol:plastic": {
    verdict: "degree",
    why: "Clear plastic can craze where it is under stress: a damp cloth, not a bath, and wipe it off.",
    source: PLASTICS,
  },
  "isopropanol:label": { verdict: "degree", why: "Print smears: around the label, not over it.", source: TRADE },
  "isopropanol:lacquer": { verdict: "degree", why: "Some lacquers soften: try where nobody looks.", source: TRADE },
  "isopropanol:bearing": { verdict: "refused", why: "It washes the oil out of the bearing.", source: TRADE },
  "isopropanol:pad": { verdict: "refused", why: "A pad that stays takes it up and bleeds oil.", source: TRADE },
  "remover:plastic": { verdict: "refused", why: "Citrus oil crazes and swells plastic.", source: DEGREASER },
  "remover:label": { verdict: "refused", why: "It takes print and glue off.", source: DEGREASER },
  "remover:lacquer": { verdict: "degree", why: "Lacquer may soften: wipe it off at once.", source: DEGREASER },
  "remover:bearing": { verdict: "refused", why: "It washes the oil out of the bearing.", source: TRADE },
  "remover:pad": { verdict: "refused", why: "It eats into pads.", source: TRADE },
  "remover:electronics": {
    verdict: "degree",
    why: "Only on the die and right beside it, and the second step after it: what stays is sticky.",
    source: TRADE,
  },
  "soap:electronics": { verdict: "refused", why: "Water under a package does not come out again.", source: TRADE },
  "soap:die": { verdict: "refused", why: "The die sits on its electronics.", source: TRADE },
  "soap:bearing": { verdict: "refused", why: "Water gets in, oil gets out.", source: TRADE },
  "soap:pad": { verdict: "refused", why: "Pads come off before anything is washed.", source: TRADE },
  "soap:aluminium": {
    verdict: "degree",
    why: "Mild soap only: alkaline cleaners etch bare aluminium; rinse and dry at once.",
    source: "corrosion handbooks (aluminium is attacked outside about pH 4 to 9), from memory",
  },
  "acetone:plastic": { verdict: "refused", why: "It dissolves or crazes plastic.", source: PLASTICS },
  "acetone:label": { verdict: "refused", why: "It takes print and glue off.", source: TRADE },
  "acetone:lacquer": { verdict: "refused", why: "It strips lacquer and paint.", source: PLASTICS },
  "acetone:electronics": {
    verdict: "refused",
    why: "It attacks package edges, connectors and lacquer.",
    source: TRADE,
  },
  "acetone:bearing": { verdict: "refused", why: "It washes the oil out and attacks the cage.", source: TRADE },
  "acetone:pad": { verdict: "refused", why: "It dissolves pads.", source: TRADE },
};

/**
 * Whether this may touch that.
 * @example
 * ```ts
 * cleanerOn("acetone", "plastic").verdict // => "refused"
 * ```
 */
export const cleanerOn = (cleaner: Cleaner, surface: Surface): Compatibility =>
  AGAINST[`${cleaner}:${surface}`] ?? { verdict: "fine", why: "", source: "" };
