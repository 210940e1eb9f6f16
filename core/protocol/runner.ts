import type { Role, RunColumn, RunTable } from "../runfile/index.ts";
import { lookAhead, type Outlook } from "../soak/index.ts";
import type { FanSetting, Protocol, ProtocolStep } from "./protocol.ts";

export interface BenchChannel {
  header: string;
  role: Role | null;
  unit: string | null;
}

/** What the bench should be doing now. */
export interface Setting {
  /** Share of full load, 0…1. */
  load: number;
  fan: FanSetting;
  powerPct: number;
}

export type RunnerPhase = "idle" | "matching" | "load" | "rest" | "cool" | "done" | "stopped";

/** Temperatures at which the load is taken off at once, °C; null for no limit. */
export interface SafetyLimits {
  edgeC: number | null;
  hotspotC: number | null;
  memoryC: number | null;
  vrmC: number | null;
}

export interface RunnerState {
  step: number;
  phase: RunnerPhase;
  setting: Setting;
  /** Number of the run within the protocol that samples belong to; −1 between runs. */
  segment: number;
  label: string;
  /** Minutes left of the phase at most. */
  minutesLeft: number;
  outlook: Outlook | null;
  /** Why it ended before its time, in words. */
  reason: string | null;
  cycle: number;
  /** What a person has to do now, where the bench can't set load and fan by itself. */
  hands: string | null;
}

/** Idle before a load, and after it: both steps are wanted for telling compound from fins, s. */
const IDLE_S = 60;
const REST_S = 45;
const LOOK_EVERY_S = 30;
const FIRST_LOOK_S = 150;
/** Later on little changes between looks. */
const LATE_S = 1200;
const LATE_LOOK_S = 120;
const FAR_K = 2;
/** Cooled enough for the next run: edge within this of the room (or of its idle value), K. */
const COOLED_K = 9;
const LONGEST_COOL_S = 900;
/** Falling by more than this in half a minute, a card is still cooling from its last load, K. */
const COOLING_K = 1.5;
const MATCH_EVERY_S = 12;
const MATCHED_DB = 0.5;
/** Sound follows speed by 50·log₁₀(n₂/n₁), fan engineering handbooks, from memory. */
const DB_PER_DECADE = 50;
/** Readings over a limit in a row that stop a run; one may be a spike. */
const OVER_LIMIT = 3;
const MOST_ROWS = 3000;
const NAMES = { edgeC: "Edge", hotspotC: "Hotspot", memoryC: "Memory", vrmC: "VRM" } as const;
const ROLE_OF = { edgeC: "edge", hotspotC: "hotspot", memoryC: "memory", vrmC: "vrm" } as const;

/**
 * Runs a protocol from samples alone: no clock, no device. Feed every sample; `state.setting` is what the bench should do, and
 * `state.segment` the run that the sample belongs to. Keeps at most 3000 rows, so its memory does not grow.
 */
export class ProtocolRunner {
  readonly state: RunnerState;
  readonly #protocol: Protocol;
  readonly #channels: readonly BenchChannel[];
  readonly #limits: SafetyLimits;
  readonly #roomC: number | undefined;
  readonly #byHand: boolean;
  #rows: Array<{ tS: number; values: readonly number[] }> = [];
  #keepEveryS = 0.95;
  #phaseFromS: number | undefined;
  #lastLookS = 0;
  #over: Partial<Record<keyof SafetyLimits, number>> = {};
  #segments = 0;
  #matchAtS = 0;
  #idleEdgeC = Number.NaN;
  #idlePowerW = Number.NaN;
  #confirmed = false;
  #coolMark: { tS: number; edgeC: number } | undefined;
  #cooling = false;

  /**
   * @param more `roomC`: room air typed at the start, where no channel gives it; `byHand`: a person sets load and fan, so each load
   * waits until it shows in the samples or is confirmed
   */
  constructor(
    protocol: Protocol,
    channels: readonly BenchChannel[],
    limits: SafetyLimits,
    more: { roomC?: number | undefined; byHand?: boolean } = {},
  ) {
    this.#byHand = more.byHand ?? false;
    this.#protocol = protocol;
    this.#channels = channels;
    this.#limits = limits;
    this.#roomC = more.roomC;
    this.state = {
      step: 0,
      phase: "idle",
      setting: { load: 0, fan: "automatic", powerPct: 100 },
      segment: 0,
      label: "",
      minutesLeft: 0,
      outlook: null,
      reason: null,
      cycle: 0,
      hands: null,
    };
    this.#enter(0);
  }

  get finished(): boolean {
    return this.state.phase === "done" || this.state.phase === "stopped";
  }

  /**
   * @param tS seconds since the protocol began, rising
   * @param values one per channel; NaN where missing
   */
  feed(tS: number, values: readonly number[]): RunnerState {
    if (this.finished) return this.state;
    this.#phaseFromS ??= tS;
    this.#keep(tS, values);
    const inPhaseS = tS - this.#phaseFromS;
    const step = this.#protocol.steps[this.state.step];
    if (!step) return this.#finish("done", null);
    const over = this.#overLimit(values);
    if (over) return this.#finish("stopped", over);
    if (this.state.phase === "idle") this.#idle(tS, inPhaseS, step, values);
    else if (this.state.phase === "matching") this.#match(tS, inPhaseS, step, values);
    else if (this.state.phase === "load") this.#load(tS, inPhaseS, step);
    else if (this.state.phase === "rest") this.#rest(tS, inPhaseS, step);
    else if (this.state.phase === "cool") this.#cool(tS, inPhaseS, values);
    return this.state;
  }

  /** Goes on to the next thing now, as a person asks for it. */
  skipAhead(tS: number): void {
    if (this.state.phase === "load" || this.state.phase === "matching") this.#change("rest", tS, { load: 0 });
    else if (this.state.phase === "rest") this.#afterRest(tS);
    else if (this.state.phase === "cool") this.#enter(this.state.step + 1, tS);
  }

  /** A person did what `state.hands` asks for. */
  confirm(): void {
    if (this.state.hands) this.#confirmed = true;
  }

  stop(reason: string): void {
    if (!this.finished) this.#finish("stopped", reason);
  }

  #enter(index: number, tS?: number): void {
    const step = this.#protocol.steps[index];
    if (!step) {
      this.#finish("done", null);
      return;
    }
    const { state } = this;
    state.step = index;
    state.label = step.label;
    state.cycle = 0;
    state.outlook = null;
    state.segment = this.#segments++;
    this.#rows = [];
    this.#coolMark = undefined;
    this.#cooling = false;
    this.#keepEveryS = 0.95;
    this.#change("idle", tS, {
      load: 0,
      fan: step.fan,
      powerPct: step.kind === "soak" ? step.powerPct : 100,
    });
    state.minutesLeft = IDLE_S / 60;
  }

  #change(phase: RunnerPhase, tS: number | undefined, setting: Partial<Setting>): void {
    this.state.phase = phase;
    this.state.hands = null;
    this.state.setting = { ...this.state.setting, ...setting };
    this.#phaseFromS = tS;
    this.#lastLookS = 0;
  }

  #finish(phase: "done" | "stopped", reason: string | null): RunnerState {
    this.state.phase = phase;
    this.state.hands = null;
    this.state.reason = reason;
    this.state.setting = { load: 0, fan: "automatic", powerPct: 100 };
    this.state.minutesLeft = 0;
    return this.state;
  }

  #idle(tS: number, inPhaseS: number, step: ProtocolStep, values: readonly number[]): void {
    const edge = this.#read("edge", values);
    if (!Number.isNaN(edge) && !(edge >= this.#idleEdgeC)) this.#idleEdgeC = edge;
    this.state.minutesLeft = Math.max(0, (IDLE_S - inPhaseS) / 60);
    const power = this.#read("power", values);
    if (!Number.isNaN(power) && !(power >= this.#idlePowerW)) this.#idlePowerW = power;
    const cooling = this.#stillCooling(tS, edge);
    if (inPhaseS < IDLE_S || (cooling && inPhaseS < LONGEST_COOL_S)) return;
    if (this.#byHand && !this.#loadShows(values)) {
      this.state.hands = `Set the fan to ${fanWords(step.fan)} and start the load.`;
      return;
    }
    const matching = step.kind === "soak" && step.matchDb !== undefined;
    this.#change(matching ? "matching" : "load", tS, { load: 1 });
    this.#matchAtS = tS + MATCH_EVERY_S;
  }

  /** A card that comes warm from its last run waits until it no longer falls; a still fan at idle does not hold it up. */
  #stillCooling(tS: number, edgeC: number): boolean {
    if (Number.isNaN(edgeC)) return false;
    const coolMark = this.#coolMark;
    if (!coolMark || tS - coolMark.tS >= IDLE_S / 2) {
      this.#coolMark = { tS, edgeC };
      this.#cooling = coolMark !== undefined && coolMark.edgeC - edgeC > COOLING_K;
    }
    return this.#cooling;
  }

  /** The load is on: power, load or temperature left their idle values. */
  #loadShows(values: readonly number[]): boolean {
    if (this.#confirmed) {
      this.#confirmed = false;
      return true;
    }
    return (
      this.#read("power", values) > 1.5 * this.#idlePowerW + 15 ||
      this.#read("load", values) > 50 ||
      this.#read("edge", values) > this.#idleEdgeC + 6
    );
  }

  #match(tS: number, inPhaseS: number, step: ProtocolStep, values: readonly number[]): void {
    if (step.kind !== "soak" || step.matchDb === undefined) return;
    this.state.minutesLeft = step.minutes;
    const sound = this.#read("sound", values);
    if (Number.isNaN(sound) && inPhaseS > 60) {
      this.#finish("stopped", "The bench gives no sound level, so noise can’t be matched.");
      return;
    }
    if (tS < this.#matchAtS || Number.isNaN(sound)) return;
    this.#matchAtS = tS + MATCH_EVERY_S;
    const { fan } = this.state.setting;
    const duty = typeof fan === "number" ? fan : 50;
    const off = step.matchDb - sound;
    const next = Math.max(15, Math.min(100, duty * 10 ** ((0.7 * off) / DB_PER_DECADE)));
    if (Math.abs(off) <= MATCHED_DB || Math.abs(next - duty) < 0.3 || inPhaseS > 300) this.#change("load", tS, {});
    else this.state.setting = { ...this.state.setting, fan: Math.round(next * 2) / 2 };
  }

  #load(tS: number, inPhaseS: number, step: ProtocolStep): void {
    const minutes = step.kind === "soak" ? step.minutes : step.loadMinutes;
    this.state.minutesLeft = Math.max(0, minutes - inPhaseS / 60);
    if (step.kind === "soak" && inPhaseS >= FIRST_LOOK_S && inPhaseS - this.#lastLookS >= this.#lookEveryS(inPhaseS)) {
      this.#lastLookS = inPhaseS;
      this.state.outlook = this.#look(inPhaseS);
      if (step.early && this.state.outlook?.known) {
        this.#change("rest", tS, { load: 0 });
        return;
      }
    }
    if (inPhaseS >= 60 * minutes) this.#change("rest", tS, { load: 0 });
  }

  /** Where much is still open a look changes little; late in a run as well. */
  #lookEveryS(inPhaseS: number): number {
    if (inPhaseS >= LATE_S) return LATE_LOOK_S;
    return (this.state.outlook?.dieU95K ?? 0) > FAR_K ? 2 * LOOK_EVERY_S : LOOK_EVERY_S;
  }

  #rest(tS: number, inPhaseS: number, step: ProtocolStep): void {
    if (this.#byHand) this.state.hands = "Take the load off.";
    const restS = step.kind === "soak" ? REST_S : 60 * step.idleMinutes;
    this.state.minutesLeft = Math.max(0, (restS - inPhaseS) / 60);
    if (inPhaseS >= restS) this.#afterRest(tS);
  }

  #afterRest(tS: number): void {
    const step = this.#protocol.steps[this.state.step];
    if (step?.kind === "cycles" && this.state.cycle + 1 < step.count) {
      this.state.cycle++;
      this.#change("load", tS, { load: 1 });
      return;
    }
    if (this.state.step + 1 >= this.#protocol.steps.length) {
      this.#finish("done", null);
      return;
    }
    this.state.segment = -1;
    this.#change("cool", tS, { load: 0, fan: 100 });
  }

  #cool(tS: number, inPhaseS: number, values: readonly number[]): void {
    this.state.minutesLeft = Math.max(0, (LONGEST_COOL_S - inPhaseS) / 60);
    const edge = this.#read("edge", values);
    const room = this.#read("ambient", values);
    const floor = Number.isNaN(room) ? (this.#roomC ?? this.#idleEdgeC - 4) : room;
    if (edge - floor <= COOLED_K || inPhaseS >= LONGEST_COOL_S) this.#enter(this.state.step + 1, tS);
  }

  #read(role: Role, values: readonly number[]): number {
    const index = this.#channels.findIndex((channel) => channel.role === role);
    return index < 0 ? Number.NaN : (values[index] ?? Number.NaN);
  }

  #overLimit(values: readonly number[]): string | null {
    for (const key of Object.keys(NAMES) as Array<keyof SafetyLimits>) {
      const limit = this.#limits[key];
      const value = this.#read(ROLE_OF[key], values);
      const count = limit !== null && value > limit ? (this.#over[key] ?? 0) + 1 : 0;
      this.#over[key] = count;
      if (count >= OVER_LIMIT)
        return `${NAMES[key]} read ${value.toFixed(0)} °C, over its safety limit of ${limit} °C: the load was taken off.`;
    }
    return null;
  }

  #keep(tS: number, values: readonly number[]): void {
    const last = this.#rows.at(-1);
    if (last && tS - last.tS < this.#keepEveryS) return;
    this.#rows.push({ tS, values: [...values] });
    if (this.#rows.length < MOST_ROWS) return;
    this.#rows = this.#rows.filter((_, index) => index % 2 === 0);
    this.#keepEveryS *= 2;
  }

  #look(loadS: number): Outlook | null {
    const first = this.#rows[0]?.tS ?? 0;
    const timeS = Float64Array.from(this.#rows, (row) => row.tS - first);
    const table: RunTable = {
      rows: timeS.length,
      timeS,
      timeForm: "seconds",
      start: null,
      intervalS: this.#keepEveryS,
      cards: [],
      notices: [],
      columns: this.#channels.map(
        (channel, index): RunColumn => ({
          ...channel,
          sure: true,
          values: Float64Array.from(this.#rows, (row) => row.values[index] ?? Number.NaN),
        }),
      ),
    };
    try {
      return lookAhead(table, loadS, this.state.outlook ?? undefined, { ambientC: this.#roomC });
    } catch {
      // Too little of a run to judge yet; the next look will tell.
      return this.state.outlook;
    }
  }
}

const fanWords = (fan: FanSetting): string => (fan === "automatic" ? "automatic" : `${fan} %`);
