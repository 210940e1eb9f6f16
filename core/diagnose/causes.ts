/** What can be wrong with a card that runs warm, and how each shows. One list; adding a cause is adding an entry. */

export const CAUSES = [
  "healthy",
  "dry-paste",
  "dust-or-airflow",
  "memory-pads",
  "vrm-pads",
  "cooler-held-off",
  "fan-fault",
  "hot-room",
] as const;
export type Cause = (typeof CAUSES)[number];

export const CAUSE_WORDS: Record<Cause, string> = {
  healthy: "nothing wrong found",
  "dry-paste": "dried or pumped-out compound",
  "dust-or-airflow": "dust or blocked airflow",
  "memory-pads": "memory pads missing, thin or too small",
  "vrm-pads": "VRM pads missing, thin or too small",
  "cooler-held-off": "cooler held off the die",
  "fan-fault": "a weak or dead fan",
  "hot-room": "a hot room",
};

/** How often benches meet each cause before anything is measured: nearly even, so that the log decides. */
export const USUAL_SHARE: Record<Cause, number> = {
  healthy: 0.19,
  "dry-paste": 0.12,
  "dust-or-airflow": 0.12,
  "memory-pads": 0.12,
  "vrm-pads": 0.12,
  "cooler-held-off": 0.12,
  "fan-fault": 0.12,
  "hot-room": 0.09,
};

/** Symptoms that a fault multiplies. */
export const SYMPTOM_KEYS = ["fast", "slow", "gap", "memory", "vrm"] as const;
export type SymptomKey = (typeof SYMPTOM_KEYS)[number];
export type Factors = Record<SymptomKey, number>;

const NONE: Factors = { fast: 1, slow: 1, gap: 1, memory: 1, vrm: 1 };

/**
 * Factor on each symptom at a severity from 0 (just worth naming) to 1 (as bad as benches see it). Common practice of the trade:
 * dried compound up to three times the jump of fresh; dust up to half as much again; a pad that is too thin
 * twice, a missing one three to four times the rise over the plate; a cooler held off makes the hotspot gap grow faster than the edge while memory gets
 * better, because its pads are squeezed hard.
 */
export const SHOWS: Record<Cause, (severity: number) => Factors> = {
  healthy: () => NONE,
  "dry-paste": (s) => ({
    ...NONE,
    fast: 1.3 + 2 * s,
    gap: 1.2 + 1.1 * s,
    memory: 0.95 - 0.2 * s,
    vrm: 0.95 - 0.35 * s,
  }),
  "dust-or-airflow": (s) => ({ ...NONE, slow: 1.1 + 0.4 * s, memory: 1 - 0.15 * s, vrm: 1 - 0.2 * s }),
  "memory-pads": (s) => ({ ...NONE, memory: 1.6 * 2.3 ** s }),
  "vrm-pads": (s) => ({ ...NONE, vrm: 1.5 * 2.3 ** s }),
  "cooler-held-off": (s) => ({ ...NONE, fast: 1.3 + 1.9 * s, gap: 1.35 + 3 * s, memory: 0.72, vrm: 0.65 }),
  "fan-fault": () => NONE,
  "hot-room": () => NONE,
};

/** The cheapest check that tells the leading two apart; by the leading one when no pair is named. */
const CHECKS: ReadonlyArray<readonly [Cause, Cause, string]> = [
  [
    "dry-paste",
    "cooler-held-off",
    "Look along the edge of the board for a bow, and read the memory with an infrared thermometer: pads that hold the cooler off keep memory cool.",
  ],
  [
    "dry-paste",
    "dust-or-airflow",
    "Blow the fins out and repeat the fixed-fan run: dust goes, compound stays as it is.",
  ],
  ["dry-paste", "healthy", "Log a run with a minute of idle before and after the load: the jump at the step tells."],
  [
    "cooler-held-off",
    "healthy",
    "Loosen and re-tighten the four screws around the die in a cross pattern, then rerun.",
  ],
  ["dust-or-airflow", "fan-fault", "Turn each fan by finger with the power off, and compare speeds at equal duty."],
  ["dust-or-airflow", "healthy", "Run with the side panel off and the fan at 100 %: blocked air shows at once."],
  ["memory-pads", "healthy", "Read the memory packages from the back with an infrared thermometer under load."],
  ["vrm-pads", "healthy", "Read the MOSFETs and chokes with an infrared thermometer under load."],
  ["fan-fault", "healthy", "Set a fixed duty and compare each fan's speed with its twin; listen for a tick."],
  ["hot-room", "healthy", "Measure the room air beside the card's intake with a second thermometer."],
];

const ALONE: Record<Cause, string> = {
  healthy: "Nothing: keep this run as the card's reference.",
  "dry-paste": "Compare with a healthy run of this board model at the same fan.",
  "dust-or-airflow": "Look through the fins against a light.",
  "memory-pads": "Read the memory packages with an infrared thermometer under load.",
  "vrm-pads": "Read the MOSFETs and chokes with an infrared thermometer under load.",
  "cooler-held-off": "Look along the edge of the board for a bow.",
  "fan-fault": "Turn each fan by finger with the power off.",
  "hot-room": "Repeat the run in a cooler room.",
};

/** @param other the next likely cause */
export function nextCheck(cause: Cause, other: Cause | undefined): string {
  const found = CHECKS.find(([a, b]) => (a === cause && b === other) || (a === other && b === cause));
  return found?.[2] ?? ALONE[cause];
}
