/** What a simulated card is built like; thermal resistances in K/W, heat capacities in J/K. */
export interface CardBuild {
  /** Board power at full load, W. */
  powerW: number;
  idleW: number;
  /** Shares of the board power that turn to heat in the die, the memory and the VRM; the rest goes into the board. */
  dieShare: number;
  memoryShare: number;
  vrmShare: number;
  /** Die to cold plate through a fresh, well-spread compound. */
  pasteKPerW: number;
  /** Hotspot above edge per watt of die power, with even contact. */
  gapKPerW: number;
  plateKPerW: number;
  /** Fins to air at `fanRefRpm`. */
  finsKPerW: number;
  /** Fins to air goes with speed to the power of minus this. */
  fanExponent: number;
  /** Warming of the air on its way through the fins at `fanRefRpm`, K/W; goes with 1/speed. */
  airKPerW: number;
  memoryPadKPerW: number;
  vrmPadKPerW: number;
  dieJPerK: number;
  plateJPerK: number;
  finsJPerK: number;
  memoryJPerK: number;
  vrmJPerK: number;
  fanMaxRpm: number;
  fanRefRpm: number;
  /** Fan curve: edge °C against duty %. */
  fanCurve: ReadonlyArray<readonly [number, number]>;
  /** Fans stand still below this edge temperature; 0 for a card without that mode. */
  zeroFanBelowC: number;
  edgeLimitC: number;
  hotspotLimitC: number;
  coreClockMHz: number;
  memoryClockMHz: number;
  hasHotspot: boolean;
  hasMemorySensor: boolean;
}

/** What is wrong with it; 0 is as new, 1 as bad as benches see it. */
export interface CardFaults {
  dryPaste: number;
  dust: number;
  memoryPads: "good" | "thin" | "missing";
  vrmPads: "good" | "thin" | "missing";
  /** How far thick pads hold the cooler off the die, mm; it then sits crooked, and the pads are squeezed hard. */
  heldOffMm: number;
  /** How much of the speed one of the two fans has lost, 0…1. */
  weakFan: number;
}

export const SOUND_CARD: CardFaults = {
  dryPaste: 0,
  dust: 0,
  memoryPads: "good",
  vrmPads: "good",
  heldOffMm: 0,
  weakFan: 0,
};

/** A mid-sized card of about 200 W, the usual starting point. */
export const MIDSIZE: CardBuild = {
  powerW: 200,
  idleW: 14,
  dieShare: 0.72,
  memoryShare: 0.13,
  vrmShare: 0.09,
  pasteKPerW: 0.055,
  gapKPerW: 0.075,
  plateKPerW: 0.035,
  finsKPerW: 0.125,
  fanExponent: 0.65,
  airKPerW: 0.025,
  memoryPadKPerW: 0.55,
  vrmPadKPerW: 0.9,
  dieJPerK: 30,
  plateJPerK: 190,
  finsJPerK: 420,
  memoryJPerK: 45,
  vrmJPerK: 35,
  fanMaxRpm: 3000,
  fanRefRpm: 1800,
  fanCurve: [
    [45, 28],
    [55, 36],
    [65, 48],
    [75, 66],
    [84, 88],
    [90, 100],
  ],
  zeroFanBelowC: 48,
  edgeLimitC: 86,
  hotspotLimitC: 106,
  coreClockMHz: 1980,
  memoryClockMHz: 7000,
  hasHotspot: true,
  hasMemorySensor: true,
};

const PAD_FACTOR = { good: 1, thin: 2.4, missing: 6 } as const;

/** The build with its faults worked in: what the heat meets. */
export function withFaults(build: CardBuild, faults: CardFaults) {
  const contact = 1 + 2.6 * faults.dryPaste;
  const squeezed = faults.heldOffMm > 0 ? 0.8 : 1;
  return {
    ...build,
    pasteKPerW: build.pasteKPerW * contact + 0.55 * faults.heldOffMm,
    gapKPerW: build.gapKPerW * (1 + 1.3 * faults.dryPaste + 12 * faults.heldOffMm),
    finsKPerW: build.finsKPerW * (1 + 0.55 * faults.dust),
    airKPerW: build.airKPerW * (1 + 0.9 * faults.dust),
    memoryPadKPerW: build.memoryPadKPerW * PAD_FACTOR[faults.memoryPads] * squeezed,
    vrmPadKPerW: build.vrmPadKPerW * PAD_FACTOR[faults.vrmPads] * squeezed,
    secondFan: 1 - 0.6 * faults.weakFan,
  };
}
