import * as v from "valibot";
import { SIDE_PANELS } from "#core/compare/index.ts";
import { BenchChannel, RunnerState } from "./shapes-of-runs.ts";

const line = (most: number) => v.pipe(v.string(), v.trim(), v.maxLength(most, `At most ${most} characters.`));
const needed = (most: number, message: string) => v.pipe(line(most), v.minLength(1, message));
const between = (low: number, high: number, message: string) =>
  v.pipe(v.number(message), v.minValue(low, message), v.maxValue(high, message));

/** How a bench is connected: what it is called, what it is, and what it asks for beside a name and an interval. */
export const DRIVERS = [
  {
    id: "simulated",
    label: "Simulated bench",
    about: "A card with hidden faults, to learn and to try protocols on.",
    asks: [
      { field: "seed", label: "Hidden card", hint: "Another number, another card with another fault." },
      { field: "speed", label: "Times real speed", hint: "1 to 200" },
    ],
  },
  {
    id: "hwmon",
    label: "This machine’s sensors (Linux hwmon)",
    about: "Reads the kernel’s sensor files; you set load and fan.",
    asks: [{ field: "path", label: "Folder of the sensor files", hint: "Empty for the kernel’s own." }],
  },
  {
    id: "file",
    label: "A logger’s file",
    about: "Follows a file that any logger appends to; you set load and fan.",
    asks: [{ field: "path", label: "File the logger writes", hint: "Full path on the machine of the server." }],
  },
  {
    id: "push",
    label: "Sent over HTTP",
    about: "Any script sends samples with the bench’s token; you set load and fan.",
    asks: [],
  },
] as const satisfies ReadonlyArray<{
  id: string;
  label: string;
  about: string;
  asks: ReadonlyArray<{ field: "seed" | "speed" | "path"; label: string; hint: string }>;
}>;
export type DriverId = (typeof DRIVERS)[number]["id"];

export const BenchInput = v.object({
  name: needed(80, "Type a name."),
  driver: v.picklist(DRIVERS.map((driver) => driver.id)),
  /** Seconds between samples: 1 to 10 a second, slower for loggers. */
  intervalS: between(0.1, 10, "Between 0.1 and 10 s."),
  /** Simulated bench: which hidden card. */
  seed: between(0, 1e9, "A whole number."),
  /** Simulated bench: how many times faster than real. */
  speed: between(1, 200, "Between 1 and 200 times."),
  /** Folder of the sensor files, or the file to follow. */
  path: line(500),
});
export type BenchInput = v.InferOutput<typeof BenchInput>;
export const EMPTY_BENCH: BenchInput = { name: "", driver: "simulated", intervalS: 1, seed: 1, speed: 60, path: "" };

export const TestBench = v.object({
  ...BenchInput.entries,
  id: v.string(),
  /** The live run under way, if any. */
  liveId: v.nullable(v.string()),
  /** Told once, when the bench is made or its token is made anew. */
  token: v.nullable(v.string()),
});
export type TestBench = v.InferOutput<typeof TestBench>;

const Fan = v.union([between(0, 100, "A duty lies between 0 and 100 %."), v.literal("automatic")]);
export const ProtocolStepInput = v.variant("kind", [
  v.object({
    kind: v.literal("soak"),
    label: needed(80, "Name the step."),
    fan: Fan,
    powerPct: between(20, 200, "A power limit lies between 20 and 200 %."),
    minutes: between(1, 240, "Between 1 and 240 minutes."),
    early: v.boolean(),
    matchDb: v.optional(between(20, 80, "A level lies between 20 and 80 dBA.")),
  }),
  v.object({
    kind: v.literal("cycles"),
    label: needed(80, "Name the step."),
    count: between(1, 50, "Between 1 and 50 cycles."),
    loadMinutes: between(1, 60, "Between 1 and 60 minutes."),
    idleMinutes: between(1, 60, "Between 1 and 60 minutes."),
    fan: Fan,
  }),
]);
export const ProtocolInput = v.object({
  name: needed(80, "Name the protocol."),
  about: line(300),
  steps: v.pipe(v.array(ProtocolStepInput), v.minLength(1, "A protocol has at least one step."), v.maxLength(20)),
});
export type ProtocolInput = v.InferOutput<typeof ProtocolInput>;

export const OwnProtocol = v.object({
  ...ProtocolInput.entries,
  /** Null for the protocols that come with the application. */
  id: v.nullable(v.string()),
});
export type OwnProtocol = v.InferOutput<typeof OwnProtocol>;

export const LiveStart = v.object({
  benchId: v.string(),
  serviceId: v.string(),
  side: v.picklist(["before", "after"]),
  protocol: ProtocolInput,
  loadName: line(300),
  sidePanel: v.picklist(SIDE_PANELS),
  /** Room air typed at the start, where no channel gives it. */
  roomC: v.nullable(between(-10, 45, "Room air lies between −10 and 45 °C. Is it in Fahrenheit?")),
});
export type LiveStart = v.InferOutput<typeof LiveStart>;

export type LiveStatus = "running" | "done" | "stopped" | "interrupted";

/** What was wrong with samples, and what was done about it. */
export const SampleCounts = v.object({
  kept: v.number(),
  repeated: v.number(),
  notNumbers: v.number(),
  outOfTime: v.number(),
});
export type SampleCounts = v.InferOutput<typeof SampleCounts>;

export const LiveRun = v.object({
  id: v.string(),
  benchId: v.string(),
  benchName: v.string(),
  serviceId: v.string(),
  cardId: v.string(),
  cardName: v.string(),
  side: v.picklist(["before", "after"]),
  protocol: ProtocolInput,
  channels: v.array(BenchChannel),
  status: v.picklist(["done", "running", "stopped", "interrupted"]),
  reason: v.nullable(v.string()),
  /** A trouble that does not end the run, in words. */
  trouble: v.nullable(v.string()),
  /** True when a person has to set load and fan. */
  byHand: v.boolean(),
  state: v.nullable(RunnerState),
  counts: SampleCounts,
  elapsedS: v.number(),
  startedAt: v.string(),
  endedAt: v.nullable(v.string()),
  runIds: v.array(v.string()),
  roomC: v.nullable(v.number()),
});
export type LiveRun = v.InferOutput<typeof LiveRun>;

/** Samples for drawing: one row each, time first, NaN as null. */
export const LiveRows = v.object({
  rows: v.array(v.array(v.nullable(v.number()))),
  /** Time of the last sample that is in, s. */
  upToS: v.number(),
});
export type LiveRows = v.InferOutput<typeof LiveRows>;

export const PushInput = v.object({
  samples: v.pipe(
    v.array(
      v.record(v.pipe(v.string(), v.maxLength(200, "A channel’s name has at most 200 characters.")), v.unknown()),
    ),
    v.minLength(1, "Send at least one sample."),
    v.maxLength(5000),
  ),
});

export const READING_KINDS = [
  { id: "infrared", label: "Infrared thermometer", unit: "°C" },
  { id: "probe", label: "Contact probe", unit: "°C" },
  { id: "wallPower", label: "Wall power", unit: "W" },
  { id: "sound", label: "Sound level", unit: "dBA" },
  { id: "room", label: "Room air", unit: "°C" },
] as const;

export const ReadingInput = v.pipe(
  v.object({
    kind: v.picklist(READING_KINDS.map((kind) => kind.id)),
    /** Where it was taken, such as “memory 3” or “choke by the plug”. */
    place: line(80),
    /** As the instrument showed it. */
    shown: v.number("Type the figure the instrument shows."),
    /** Infrared: emissivity of the surface; the instrument itself set to 1. */
    emissivity: v.nullable(between(0.02, 1, "An emissivity lies between 0.02 and 1.")),
    surroundC: v.nullable(between(-20, 60, "The surroundings lie between −20 and 60 °C.")),
    note: line(300),
    liveId: v.nullable(v.string()),
  }),
  v.forward(
    v.check(({ kind, shown }) => {
      if (kind === "room") return shown >= -10 && shown <= 45;
      if (kind === "wallPower") return shown >= 0 && shown <= 3000;
      if (kind === "sound") return shown >= 10 && shown <= 130;
      return shown >= -40 && shown <= 250;
    }, "That is outside of what such an instrument shows on a bench. Check unit and figure."),
    ["shown"],
  ),
);
export type ReadingInput = v.InferOutput<typeof ReadingInput>;

export const Reading = v.object({
  ...ReadingInput.entries,
  id: v.string(),
  serviceId: v.string(),
  /** After correction. */
  value: v.number(),
  /** Why the value is not to be trusted, in words. */
  warning: v.nullable(v.string()),
  /** Seconds into the live run it was taken in. */
  atS: v.nullable(v.number()),
  at: v.string(),
});
export type Reading = v.InferOutput<typeof Reading>;
