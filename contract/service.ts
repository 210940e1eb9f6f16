import * as v from "valibot";
import { VERDICTS } from "./choices.ts";
import { Decision, PowerOnInput } from "./decide.ts";
import { Run } from "./run.ts";
import { Clock, LadderRung, PairFacts } from "./shapes-of-runs.ts";
import { STATIONS, StationName } from "./stations.ts";

export const StationState = v.object({
  id: StationName,
  title: v.string(),
  state: v.picklist(["open", "next", "done", "skipped"]),
  /** The station's one figure. */
  figure: v.string(),
  skipReason: v.nullable(v.string()),
  /** It still comes. */
  ahead: v.boolean(),
});
export type StationState = v.InferOutput<typeof StationState>;

const SKIPPABLE = STATIONS.flatMap(({ id, skipWhy }) => (skipWhy === null ? [] : [id]));

export const SkipInput = v.object({
  station: v.picklist(SKIPPABLE, "This station can’t be skipped."),
  reason: v.nullable(v.pipe(v.string(), v.trim(), v.minLength(3, "Say why in a few words."), v.maxLength(300))),
});

export const WORK_KINDS = [
  "cleaned",
  "repasted",
  "pads replaced",
  "putty",
  "fans oiled",
  "fan replaced",
  "cooler changed",
  "other",
] as const;

export const NoteInput = v.object({
  doneOn: v.pipe(v.string(), v.isoDate("Give the day as YYYY-MM-DD.")),
  /** Who did it; empty where one person works here. */
  person: v.pipe(v.string(), v.trim(), v.maxLength(80)),
  work: v.pipe(v.array(v.picklist(WORK_KINDS)), v.minLength(1, "Tick what was done.")),
  compound: v.pipe(v.string(), v.trim(), v.maxLength(120)),
  minutes: v.nullable(v.pipe(v.number("Minutes are a number."), v.minValue(0), v.maxValue(10_000))),
  text: v.pipe(v.string(), v.trim(), v.maxLength(4000)),
});
export type NoteInput = v.InferOutput<typeof NoteInput>;
export const NoteChange = v.object({ ...NoteInput.entries, version: v.number() });

export const WorkNote = v.object({
  ...NoteInput.entries,
  id: v.string(),
  serviceId: v.string(),
  version: v.number(),
});
export type WorkNote = v.InferOutput<typeof WorkNote>;

/** What was changed before the card was run again. */
export const AttemptInput = v.object({
  changed: v.pipe(v.string(), v.trim(), v.minLength(3, "Say in a few words what was changed."), v.maxLength(300)),
});

/** One proof of the work, and what was done for it. */
export const Attempt = v.object({
  /** From 1. */
  number: v.number(),
  /** Empty for the first: that is the work itself. */
  changed: v.string(),
  startedAt: v.nullable(v.string()),
  /** What it came to; empty while it has no run that counts. */
  comparisons: v.array(PairFacts),
});
export type Attempt = v.InferOutput<typeof Attempt>;

/** One service with all that its stations show. */
export const ServiceView = v.object({
  id: v.string(),
  cardId: v.string(),
  openedAt: v.string(),
  closedAt: v.nullable(v.string()),
  stations: v.array(StationState),
  runs: v.array(Run),
  notes: v.array(WorkNote),
  comparisons: v.array(PairFacts),
  /** Work and proof, as often as it took; the last is the one that counts by default. */
  attempts: v.array(Attempt),
  powerOn: v.nullable(PowerOnInput),
  decision: v.nullable(Decision),
  /** Why it was handed over although something got worse or stays over its limit; empty where it needs no reason. */
  closedReason: v.string(),
  /** What the work costs its owner, in the workshop's currency; null where nobody said. */
  workPrice: v.nullable(v.number()),
});
export type ServiceView = v.InferOutput<typeof ServiceView>;

export const WorkPriceInput = v.object({
  price: v.nullable(
    v.pipe(
      v.number("A price lies between 0 and 100 000."),
      v.minValue(0, "A price lies between 0 and 100 000."),
      v.maxValue(100_000, "A price lies between 0 and 100 000."),
    ),
  ),
});

const between = (low: number, high: number, words: string) =>
  v.pipe(v.number(words), v.minValue(low, words), v.maxValue(high, words));

/** Minutes from midnight between which somebody is there; null for a day on which nobody is. */
const OpenDay = v.nullable(
  v.pipe(
    v.object({
      fromMin: between(0, 1439, "A day has 24 hours."),
      untilMin: between(1, 1440, "A day has 24 hours."),
    }),
    v.check(({ fromMin, untilMin }) => untilMin > fromMin, "Closing comes after opening."),
  ),
);
const PersonFile = v.object({
  name: v.pipe(v.string(), v.trim(), v.minLength(1, "Type a name."), v.maxLength(60)),
  /** Stations this person does; null for all. */
  can: v.nullable(v.array(v.picklist(STATIONS.map(({ id }) => id)))),
});
/** Nobody named is one person who does all. */
const people = v.pipe(v.array(PersonFile), v.maxLength(20, "At most 20 people."));
/** Monday first. */
const opening = v.pipe(
  v.array(OpenDay),
  v.length(7, "Seven days, Monday first."),
  v.check((days) => days.some((day) => day !== null), "Somebody has to be there on one day at least."),
);
const USUAL_DAY = { fromMin: 9 * 60, untilMin: 18 * 60 };

/** A service in one line of a list. */
export const ServiceLine = v.object({
  serviceId: v.string(),
  cardId: v.string(),
  maker: v.string(),
  model: v.string(),
  serial: v.string(),
  holder: v.picklist(["owner", "stock"]),
  ownerName: v.string(),
  stationTitle: v.string(),
  closed: v.boolean(),
  updatedAt: v.string(),
  /** What dries or sets on its own, of all stations. */
  clocks: v.array(Clock),
  /** The station it has reached. */
  station: StationName,
  figure: v.string(),
  /** What to do next, in words. */
  next: v.string(),
  verdict: v.nullable(v.picklist(VERDICTS)),
  ladder: v.array(LadderRung),
});
export type ServiceLine = v.InferOutput<typeof ServiceLine>;

/** So many removed things are listed at most. */
export const MOST_REMOVED = 200;

/** Something that was removed and can be put back. */
export const RemovedThing = v.object({
  kind: v.picklist(["note", "card", "run", "photo"]),
  id: v.string(),
  cardId: v.string(),
  /** Maker and model of the card it is or belongs to. */
  card: v.string(),
  what: v.string(),
  at: v.string(),
});
export type RemovedThing = v.InferOutput<typeof RemovedThing>;

export const SettingsInput = v.object({
  workshop: v.pipe(v.string(), v.trim(), v.minLength(1, "Type a name."), v.maxLength(120)),
  currency: v.pipe(v.string(), v.trim(), v.minLength(1, "Type a currency."), v.maxLength(8)),
  scatterMountK: v.pipe(
    v.number("A number of kelvins."),
    v.minValue(0, "Not below 0."),
    v.maxValue(10, "At most 10 K."),
  ),
  scatterRunK: v.pipe(v.number("A number of kelvins."), v.minValue(0, "Not below 0."), v.maxValue(10, "At most 10 K.")),
  person: v.pipe(v.string(), v.trim(), v.maxLength(80)),
  /** Stands on records: street, town, how to be reached. */
  address: v.optional(v.pipe(v.string(), v.trim(), v.maxLength(300, "At most 300 characters.")), ""),
  /** The warmest room a card will work in, °C: limits are held against it. Null for the room of its runs. */
  warmestRoomC: v.optional(
    v.nullable(
      v.pipe(
        v.number("A temperature in °C."),
        v.minValue(10, "A room lies between 10 and 45 °C."),
        v.maxValue(45, "A room lies between 10 and 45 °C."),
      ),
    ),
    null,
  ),
  /** The workroom's air and size, where nothing was measured: washed parts dry in it, solvent evaporates into it. */
  roomC: v.optional(between(5, 45, "A room lies between 5 and 45 °C."), 22),
  humidityPct: v.optional(between(0, 95, "Humidity lies between 0 and 95 %."), 50),
  roomM3: v.optional(v.nullable(between(1, 100_000, "A room has 1 m³ or more.")), null),
  airChangesPerHour: v.optional(between(0, 1000, "Between 0 and 1000 air changes an hour."), 0.5),
  /** What an hour of hands and of a bench costs, tax and how often a card has to be worth that: quotes begin with them. */
  hourlyRate: v.optional(between(0, 10_000, "A rate lies between 0 and 10 000."), 45),
  benchRate: v.optional(between(0, 10_000, "A rate lies between 0 and 10 000."), 2),
  taxPct: v.optional(between(0, 100, "A tax lies between 0 and 100 %."), 0),
  worthTimes: v.optional(between(0, 100, "Between 0 and 100 times."), 3),
  people: v.optional(people, []),
  opening: v.optional(opening, [USUAL_DAY, USUAL_DAY, USUAL_DAY, USUAL_DAY, USUAL_DAY, USUAL_DAY, null]),
});
/** Who works here and when: kept by itself, beside the other settings. */
export const WeekInput = v.object({ people, opening });
export type Week = v.InferOutput<typeof WeekInput>;
export type Settings = v.InferOutput<typeof SettingsInput>;
export const USUAL_SETTINGS: Settings = {
  workshop: "My workshop",
  currency: "EUR",
  scatterMountK: 0.7,
  scatterRunK: 0.5,
  person: "",
  address: "",
  warmestRoomC: null,
  roomC: 22,
  humidityPct: 50,
  roomM3: null,
  airChangesPerHour: 0.5,
  hourlyRate: 45,
  benchRate: 2,
  taxPct: 0,
  worthTimes: 3,
  people: [],
  opening: [USUAL_DAY, USUAL_DAY, USUAL_DAY, USUAL_DAY, USUAL_DAY, USUAL_DAY, null],
};

export const PassphraseInput = v.object({
  passphrase: v.pipe(v.string(), v.minLength(10, "Use ten characters or more."), v.maxLength(200)),
  /** The one until now, where one is set. */
  current: v.optional(v.pipe(v.string(), v.maxLength(200))),
});
