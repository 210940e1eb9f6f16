import { levelChangeDb } from "../fans/index.ts";
import { seeded } from "../random/index.ts";
import type { CardBuild, CardFaults } from "./card.ts";
import { SOUND_CARD } from "./card.ts";
import {
  type Bench,
  makeCard,
  roomAt,
  type Sensors,
  shownReading,
  TICK_S,
  USUAL_BENCH,
  USUAL_SENSORS,
} from "./simulate.ts";

/** What a live simulated bench shows, in this order. */
export const LIVE_CHANNELS = [
  { header: "GPU temperature [°C]", role: "edge", unit: "°C" },
  { header: "GPU hot spot [°C]", role: "hotspot", unit: "°C" },
  { header: "Memory temperature [°C]", role: "memory", unit: "°C" },
  { header: "VRM [°C]", role: "vrm", unit: "°C" },
  { header: "Room air [°C]", role: "ambient", unit: "°C" },
  { header: "GPU fan [%]", role: "fanPct", unit: "%" },
  { header: "Fan 1 [rpm]", role: "fanRpm", unit: "rpm" },
  { header: "Fan 2 [rpm]", role: "fanRpm", unit: "rpm" },
  { header: "Board power [W]", role: "power", unit: "W" },
  { header: "Core clock [MHz]", role: "coreClock", unit: "MHz" },
  { header: "GPU load [%]", role: "load", unit: "%" },
  { header: "Sound [dBA]", role: "sound", unit: "dBA" },
] as const;

/** Sound of the simulated fans at 1500 rpm, one metre off, and of the quiet room, dBA. */
const FAN_DB_AT_1500 = 36;
const ROOM_DB = 27;

/** Sound power of one fan, relative to 0 dB. */
const fanPower = (rpm: number): number =>
  rpm > 100 ? 10 ** ((FAN_DB_AT_1500 - 3 + levelChangeDb(1500, rpm)) / 10) : 0;

export interface LiveCard {
  /** Moves time on and reads the sensors. */
  next(bySeconds: number): number[];
  set(setting: { load?: number; fan?: number | "automatic"; powerPct?: number }): void;
}

/** A simulated card on a simulated bench that answers to what it is told while it runs. */
export function liveCard(spec: {
  seed: number;
  build: CardBuild;
  faults?: Partial<CardFaults> | undefined;
  bench?: Partial<Bench> | undefined;
  sensors?: Partial<Sensors> | undefined;
}): LiveCard {
  const bench: Bench = { ...USUAL_BENCH, fan: "automatic", ...spec.bench };
  const sensors = { ...USUAL_SENSORS, ...spec.sensors };
  const random = seeded(spec.seed);
  const card = makeCard(spec.build, { ...SOUND_CARD, ...spec.faults }, bench);
  const phase = random.between(0, 2 * Math.PI);
  let tick = 0;
  let owed = 0;
  let load = 0;
  const read = (value: number, stepK: number, noiseK: number): number =>
    shownReading(random, sensors, value, stepK, noiseK);
  return {
    set(setting) {
      if (setting.load !== undefined) load = setting.load;
      if (setting.fan !== undefined) bench.fan = setting.fan;
      if (setting.powerPct !== undefined) bench.powerPct = setting.powerPct;
    },
    next(bySeconds) {
      owed += bySeconds;
      while (owed >= TICK_S - 1e-9) {
        card.step(roomAt(bench, phase, tick * TICK_S), load);
        tick++;
        owed -= TICK_S;
      }
      const roomC = roomAt(bench, phase, tick * TICK_S);
      const { first, second } = card.rpm();
      const { state } = card;
      const sound = 10 * Math.log10(10 ** (ROOM_DB / 10) + fanPower(first) + fanPower(second));
      const { stepK, noiseK } = sensors;
      return [
        read(state.dieC, stepK, noiseK),
        spec.build.hasHotspot ? read(card.hotspotC(), stepK, noiseK * 1.4) : Number.NaN,
        spec.build.hasMemorySensor ? read(state.memoryC, stepK >= 1 ? 2 : stepK, noiseK) : Number.NaN,
        read(state.vrmC, stepK, noiseK),
        sensors.room ? read(roomC + sensors.room.biasK, sensors.room.stepK, sensors.room.noiseK) : Number.NaN,
        Math.round(state.turning ? state.duty : 0),
        first > 0 ? Math.max(0, Math.round(first + 4 * random.normal())) : 0,
        second > 0 ? Math.max(0, Math.round(second + 4 * random.normal())) : 0,
        Math.round(state.powerW * (1 + sensors.powerNoise * random.normal()) * 10) / 10,
        load > 0.05 ? Math.round(spec.build.coreClockMHz * state.allowed ** 0.5) : 300,
        load > 0.05 ? Math.round(99 - Math.abs(random.normal())) : Math.round(Math.abs(2 * random.normal())),
        Math.round((sound + 0.2 * random.normal()) * 10) / 10,
      ];
    },
  };
}
