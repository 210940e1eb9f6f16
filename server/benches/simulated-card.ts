import { seeded } from "#core/random/index.ts";
import { type CardFaults, type LiveCard, liveCard, randomBuild } from "#core/virtualcard/index.ts";

/** The hidden card of a seed, with one hidden fault or none; what was done to it by work notes is mended. */
export function hiddenCard(seed: number, work: readonly string[]): LiveCard {
  const random = seeded(seed);
  const build = randomBuild(random);
  const severity = random.between(0.35, 1);
  const kinds: [Partial<CardFaults>, ...Array<Partial<CardFaults>>] = [
    { dryPaste: severity },
    { dryPaste: 0.6 * severity, dust: 0.7 * severity },
    { dust: severity },
    { memoryPads: severity > 0.7 ? "missing" : "thin" },
    { vrmPads: "thin" },
    { weakFan: severity },
    {},
  ];
  const faults: Partial<CardFaults> = { ...random.pick(kinds) };
  if (work.includes("repasted") || work.includes("cooler changed")) faults.dryPaste = 0;
  if (work.includes("cleaned")) faults.dust = 0;
  if (work.includes("pads replaced") || work.includes("putty")) {
    faults.memoryPads = "good";
    faults.vrmPads = "good";
  }
  if (work.includes("fan replaced") || work.includes("fans oiled")) faults.weakFan = 0;
  return liveCard({ seed: seed + 17 * work.length, build, faults, bench: { roomC: random.between(20, 25) } });
}
