import { type Random, seeded } from "../random/index.ts";
import { type CardBuild, type CardFaults, SOUND_CARD, withFaults } from "./card.ts";

/** One stretch of a protocol. */
export interface Step {
  durationS: number;
  /** Share of full load, 0…1; idle is 0. */
  load: number;
}

export interface Bench {
  /** Room air at the start, °C. */
  roomC: number;
  /** Drift of the room over the run, K per hour. */
  roomDriftKPerH: number;
  /** Slow swing of the room, K and s. */
  roomSwingK: number;
  roomSwingS: number;
  /** Fan duty in %, or the card's own curve. */
  fan: number | "automatic";
  /** Power limit in % of full. */
  powerPct: number;
  /** Relative swing of the load from scene to scene, 0 for a constant load. */
  loadSwing: number;
}

export interface Sensors {
  intervalS: number;
  /** Display step of the card's temperatures, K. */
  stepK: number;
  noiseK: number;
  /** Room thermometer; null when the log has none. */
  room: { stepK: number; noiseK: number; biasK: number } | null;
  powerNoise: number;
  /** Chance per sample of a single wild reading. */
  spikeChance: number;
}

export interface VirtualRun {
  timeS: Float64Array;
  edgeC: Float64Array;
  hotspotC: Float64Array;
  memoryC: Float64Array;
  vrmC: Float64Array;
  roomC: Float64Array;
  fanPct: Float64Array;
  fan1Rpm: Float64Array;
  fan2Rpm: Float64Array;
  powerW: Float64Array;
  coreClockMHz: Float64Array;
  memoryClockMHz: Float64Array;
  loadPct: Float64Array;
  build: CardBuild;
  sensors: Sensors;
}

export interface RunSpec {
  seed: number;
  build: CardBuild;
  faults?: Partial<CardFaults>;
  bench?: Partial<Bench>;
  sensors?: Partial<Sensors>;
  steps: readonly Step[];
}

/** Rises over room air that the card would settle at, K, without noise. */
export interface SettledRises {
  edgeK: number;
  hotspotK: number;
  memoryK: number;
  vrmK: number;
  powerW: number;
  fanRpm: number;
}

export const USUAL_BENCH: Bench = {
  roomC: 22,
  roomDriftKPerH: 0.4,
  roomSwingK: 0.15,
  roomSwingS: 700,
  fan: 62,
  powerPct: 100,
  loadSwing: 0,
};
export const USUAL_SENSORS: Sensors = {
  intervalS: 1,
  stepK: 1,
  noiseK: 0.25,
  room: { stepK: 0.1, noiseK: 0.05, biasK: 0 },
  powerNoise: 0.008,
  spikeChance: 0,
};

export const TICK_S = 0.1;
const STILL_AIR_RPM = 160;
const BOARD_TO_AIR_K_PER_W = 3.2;

interface State {
  dieC: number;
  plateC: number;
  finsC: number;
  memoryC: number;
  vrmC: number;
  duty: number;
  turning: boolean;
  /** Factor on the power that throttling leaves, up to 1. */
  allowed: number;
  powerW: number;
}

/** The card as a chain of heat stores between the die and the room; one call moves it by one tick. */
export function makeCard(build: CardBuild, faults: CardFaults, bench: Bench) {
  const card = withFaults(build, faults);
  const start = bench.roomC + 6;
  const state: State = {
    dieC: start,
    plateC: start,
    finsC: start,
    memoryC: start,
    vrmC: start,
    duty: 0,
    turning: build.zeroFanBelowC === 0,
    allowed: 1,
    powerW: build.idleW,
  };
  const rpm = (): { first: number; second: number } => {
    const full = state.turning ? card.fanMaxRpm * (state.duty / 100) ** 0.92 : 0;
    return { first: full, second: full * card.secondFan };
  };
  const step = (roomC: number, load: number): void => {
    const wanted = card.idleW + (card.powerW * (bench.powerPct / 100) - card.idleW) * load;
    const hotspotC = state.dieC + state.powerW * card.dieShare * card.gapKPerW;
    const over = Math.max(state.dieC - card.edgeLimitC, hotspotC - card.hotspotLimitC);
    state.allowed = Math.min(1, Math.max(0.3, state.allowed - 0.004 * TICK_S * Math.max(-1.5, Math.min(6, over))));
    state.powerW = load > 0.05 ? wanted * state.allowed : wanted;
    driveFan(state, card, bench, TICK_S);
    const { first, second } = rpm();
    const flow = Math.max(STILL_AIR_RPM, (first + second) / 2) / card.fanRefRpm;
    const finsToAir = card.finsKPerW * flow ** -card.fanExponent + card.airKPerW / flow;
    const heat = state.powerW;
    const intoPlate = (state.dieC - state.plateC) / card.pasteKPerW;
    const fromMemory = (state.memoryC - state.plateC) / card.memoryPadKPerW;
    const fromVrm = (state.vrmC - state.plateC) / card.vrmPadKPerW;
    const toFins = (state.plateC - state.finsC) / card.plateKPerW;
    const toAir = (state.finsC - roomC) / finsToAir;
    state.dieC += (TICK_S * (heat * card.dieShare - intoPlate)) / card.dieJPerK;
    state.memoryC +=
      (TICK_S * (heat * card.memoryShare - fromMemory - (state.memoryC - roomC) / BOARD_TO_AIR_K_PER_W)) /
      card.memoryJPerK;
    state.vrmC +=
      (TICK_S * (heat * card.vrmShare - fromVrm - (state.vrmC - roomC) / BOARD_TO_AIR_K_PER_W)) / card.vrmJPerK;
    state.plateC += (TICK_S * (intoPlate + fromMemory + fromVrm - toFins)) / card.plateJPerK;
    state.finsC += (TICK_S * (toFins - toAir)) / card.finsJPerK;
  };
  const hotspotC = (): number => state.dieC + state.powerW * card.dieShare * card.gapKPerW;
  return { state, step, rpm, hotspotC };
}

function driveFan(state: State, card: CardBuild, bench: Bench, tickS: number): void {
  let target: number;
  if (bench.fan === "automatic") {
    if (card.zeroFanBelowC > 0) {
      if (state.dieC > card.zeroFanBelowC) state.turning = true;
      else if (state.dieC < card.zeroFanBelowC - 6) state.turning = false;
    } else state.turning = true;
    target = state.turning ? along(card.fanCurve, state.dieC) : 0;
  } else {
    state.turning = true;
    target = bench.fan;
  }
  const pace = (bench.fan === "automatic" ? 1.2 : 30) * tickS;
  state.duty += Math.max(-pace, Math.min(pace, target - state.duty));
}

function along(curve: ReadonlyArray<readonly [number, number]>, x: number): number {
  const first = curve[0];
  const last = curve.at(-1);
  if (!first || !last) return 0;
  if (x <= first[0]) return first[1];
  for (let k = 1; k < curve.length; k++) {
    const [x1, y1] = curve[k] ?? last;
    const [x0, y0] = curve[k - 1] ?? first;
    if (x <= x1) return y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
  }
  return last[1];
}

/**
 * Runs a protocol on a simulated card and reads its sensors.
 * Physics: five heat stores (die, cold plate, fins, memory, VRM) joined by resistances, forward Euler with 0.1 s.
 * @returns one value per sampling interval and column; the same for the same `seed`
 */
export function simulate(spec: RunSpec): VirtualRun {
  const bench = { ...USUAL_BENCH, ...spec.bench };
  const sensors = { ...USUAL_SENSORS, ...spec.sensors };
  const random = seeded(spec.seed);
  const card = makeCard(spec.build, { ...SOUND_CARD, ...spec.faults }, bench);
  const totalS = spec.steps.reduce((sum, step) => sum + step.durationS, 0);
  const count = Math.floor(totalS / sensors.intervalS + 1e-9) + 1;
  const column = (): Float64Array => new Float64Array(count);
  const run: VirtualRun = {
    timeS: column(),
    edgeC: column(),
    hotspotC: column(),
    memoryC: column(),
    vrmC: column(),
    roomC: column(),
    fanPct: column(),
    fan1Rpm: column(),
    fan2Rpm: column(),
    powerW: column(),
    coreClockMHz: column(),
    memoryClockMHz: column(),
    loadPct: column(),
    build: spec.build,
    sensors,
  };
  const phase = random.between(0, 2 * Math.PI);
  let scene = 0;
  let now = 0;
  let tick = 0;
  for (let row = 0; row < count; row++) {
    const until = Math.round((row * sensors.intervalS) / TICK_S);
    for (; tick < until; tick++) {
      now = tick * TICK_S;
      const base = loadAt(spec.steps, now);
      if (bench.loadSwing > 0 && tick % 10 === 0) scene = 0.9 * scene + 0.436 * bench.loadSwing * random.normal();
      card.step(
        roomAt(bench, phase, now),
        base > 0 ? Math.max(0.05, Math.min(1, base * (1 + scene - bench.loadSwing))) : 0,
      );
    }
    read(
      run,
      row,
      card,
      loadAt(spec.steps, row * sensors.intervalS),
      roomAt(bench, phase, row * sensors.intervalS),
      random,
    );
  }
  return run;
}

export const roomAt = (bench: Bench, phase: number, timeS: number): number =>
  bench.roomC +
  (bench.roomDriftKPerH * timeS) / 3600 +
  bench.roomSwingK * Math.sin((2 * Math.PI * timeS) / bench.roomSwingS + phase);

function loadAt(steps: readonly Step[], timeS: number): number {
  let end = 0;
  for (const step of steps) {
    end += step.durationS;
    if (timeS < end) return step.load;
  }
  return steps.at(-1)?.load ?? 0;
}

/** What a sensor shows of a value: noise, now and then a wild reading, and the display's step. */
export function shownReading(random: Random, sensors: Sensors, value: number, stepK: number, noiseK: number): number {
  const noisy = value + noiseK * random.normal();
  const spiked =
    sensors.spikeChance > 0 && random.uniform() < sensors.spikeChance
      ? noisy + random.pick([-1, 1]) * random.between(15, 60)
      : noisy;
  return stepK > 0 ? Math.round(spiked / stepK) * stepK : spiked;
}

function read(
  run: VirtualRun,
  row: number,
  card: ReturnType<typeof makeCard>,
  load: number,
  roomC: number,
  random: Random,
): void {
  const { sensors, build } = run;
  const { state } = card;
  const shown = (value: number, stepK: number, noiseK: number): number =>
    shownReading(random, sensors, value, stepK, noiseK);
  const { first, second } = card.rpm();
  run.timeS[row] = row * sensors.intervalS;
  run.edgeC[row] = shown(state.dieC, sensors.stepK, sensors.noiseK);
  run.hotspotC[row] = shown(card.hotspotC(), sensors.stepK, sensors.noiseK * 1.4);
  run.memoryC[row] = shown(state.memoryC, sensors.stepK >= 1 ? 2 : sensors.stepK, sensors.noiseK);
  run.vrmC[row] = shown(state.vrmC, sensors.stepK, sensors.noiseK);
  run.roomC[row] = sensors.room
    ? shown(roomC + sensors.room.biasK, sensors.room.stepK, sensors.room.noiseK)
    : Number.NaN;
  run.fanPct[row] = Math.round(state.turning ? state.duty : 0);
  run.fan1Rpm[row] = first > 0 ? Math.max(0, Math.round(first + 4 * random.normal())) : 0;
  run.fan2Rpm[row] = second > 0 ? Math.max(0, Math.round(second + 4 * random.normal())) : 0;
  run.powerW[row] = Math.round(state.powerW * (1 + sensors.powerNoise * random.normal()) * 10) / 10;
  run.coreClockMHz[row] =
    load > 0.05 ? Math.round((build.coreClockMHz * state.allowed ** 0.5) / 15 + 0.3 * random.normal()) * 15 : 300;
  run.memoryClockMHz[row] = load > 0.05 ? build.memoryClockMHz : 405;
  run.loadPct[row] =
    load > 0.05
      ? Math.min(100, Math.round(100 * load - Math.abs(random.normal())))
      : Math.round(Math.abs(2 * random.normal()));
}

/** Where the card of a spec settles under full load in its room's first air: the truth that a log only shows with noise. */
export function settledRises(spec: RunSpec): SettledRises {
  const bench = { ...USUAL_BENCH, ...spec.bench, loadSwing: 0 };
  const card = makeCard(spec.build, { ...SOUND_CARD, ...spec.faults }, bench);
  const load = spec.steps.reduce((most, step) => Math.max(most, step.load), 0) || 1;
  for (let tick = 0; tick < 7200 / TICK_S; tick++) card.step(bench.roomC, load);
  const { state } = card;
  const { first, second } = card.rpm();
  return {
    edgeK: state.dieC - bench.roomC,
    hotspotK: card.hotspotC() - bench.roomC,
    memoryK: state.memoryC - bench.roomC,
    vrmK: state.vrmC - bench.roomC,
    powerW: state.powerW,
    fanRpm: (first + second) / 2,
  };
}
