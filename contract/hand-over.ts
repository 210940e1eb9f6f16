import * as v from "valibot";
import { changes, number } from "./shapes.ts";
import { NextService } from "./shapes-of-plans.ts";

const text = (most: number) => v.pipe(v.string(), v.trim(), v.maxLength(most, `At most ${most} characters.`));

/** What the record shows by choice, and what leaves with the card. */
export const HandOverInput = v.object({
  /** Photos in their order; null for the first ones. */
  photos: v.nullable(v.pipe(v.array(v.pipe(v.string(), v.maxLength(40))), v.maxLength(4, "At most four photos fit."))),
  watch: text(600),
  leaves: v.pipe(
    v.array(v.object({ what: v.pipe(text(120), v.minLength(1, "Say what it is.")), packed: v.boolean() })),
    v.maxLength(30, "At most 30 things."),
  ),
});
export type HandOverInput = v.InferOutput<typeof HandOverInput>;
export const HandOverView = v.object({ ...HandOverInput.entries, version: v.number() });
export type HandOverView = v.InferOutput<typeof HandOverView>;
export const HandOverChange = v.object({ ...HandOverView.entries, changes });
export const NO_HAND_OVER: HandOverInput = { photos: null, watch: "", leaves: [] };

export const INTERFACES = ["paste", "phase-change", "putty", "liquid metal", "adhesive"] as const;

/** How a card is used from now on. */
export const CardUseInput = v.object({
  hoursPerWeek: number(0, 168, "Between 0 and 168 hours a week."),
  sessionsPerDay: number(0, 50, "Between 0 and 50 sessions a day."),
  /** Cycles of 40 K an hour, counted from a log of its use; null: from the sessions. */
  cyclesPerHour: v.nullable(number(0, 500, "Between 0 and 500 cycles an hour.")),
});
export type CardUseInput = v.InferOutput<typeof CardUseInput>;

export const NextServiceInput = v.object({
  use: v.nullable(CardUseInput),
  compound: v.nullable(v.picklist(INTERFACES)),
});
export type NextServiceInput = v.InferOutput<typeof NextServiceInput>;
export const NextServiceChange = v.object({ ...NextServiceInput.entries, version: v.number(), changes });
export const NO_NEXT: NextServiceInput = { use: null, compound: null };

/** A card’s figures at one end of a service, from its leading run. */
export const CardState = v.object({
  at: v.string(),
  /** Rises of sensors over room air, K. */
  risesK: v.record(v.string(), v.number()),
  gap: v.nullable(
    v.object({
      meanK: v.number(),
      u95K: v.number(),
    }),
  ),
  thetaKPerW: v.nullable(v.number()),
});
export type CardState = v.InferOutput<typeof CardState>;
export const CardEnds = v.object({
  before: v.nullable(CardState),
  after: v.nullable(CardState),
});
export type CardEnds = v.InferOutput<typeof CardEnds>;

/** One service of a card, as a line of its history. */
export const HistoryLine = v.object({
  serviceId: v.string(),
  openedAt: v.string(),
  closedAt: v.nullable(v.string()),
  work: v.nullable(v.string()),
  ends: CardEnds,
  gainK: v.nullable(v.number()),
  dueOn: v.nullable(v.string()),
});
export type HistoryLine = v.InferOutput<typeof HistoryLine>;

/** When a card is due again, as far as can be said. */
export const NextView = v.object({
  told: NextServiceInput,
  version: v.number(),
  /** What is taken where nothing is told. */
  use: v.object({
    hoursPerWeek: v.number(),
    sessionsPerDay: v.number(),
    /** Cycles of 40 K an hour, counted from a log of its use; null: from the sessions. */
    cyclesPerHour: v.nullable(v.number()),
  }),
  useSource: v.picklist(["typed", "usual", "log"]),
  compound: v.picklist(INTERFACES),
  next: NextService,
  /** A layer was renewed, or somebody said which one lies there: else there is nothing to count from. */
  foretold: v.boolean(),
  /** Months as days: first of the month. */
  dueOn: v.string(),
  lowOn: v.string(),
  highOn: v.nullable(v.string()),
  reason: v.string(),
  /** How much slower it ages by its temperature than before the work, as a factor; null without both. */
  heatFactor: v.nullable(v.number()),
});
export type NextView = v.InferOutput<typeof NextView>;

/** A card that is due. */
export const DueCard = v.object({
  cardId: v.string(),
  name: v.string(),
  serial: v.string(),
  ownerName: v.string(),
  dueOn: v.string(),
});
export type DueCard = v.InferOutput<typeof DueCard>;

const BeforeAfter = v.object({ before: v.nullable(v.number()), after: v.nullable(v.number()) });

/** A record as it is kept beside the card: what was found, done and proved, under a checksum of all of it. */
export const RecordFile = v.object({
  format: v.literal("algidus-record"),
  version: v.number(),
  madeAt: v.string(),
  workshop: v.object({
    name: v.string(),
    address: v.string(),
  }),
  card: v.object({
    maker: v.string(),
    model: v.string(),
    serial: v.string(),
    board: v.nullable(v.string()),
  }),
  service: v.object({
    openedAt: v.string(),
    closedAt: v.nullable(v.string()),
  }),
  found: v.object({
    complaint: v.string(),
    seal: v.string(),
    warranty: v.string(),
    noted: v.array(v.string()),
  }),
  done: v.object({
    notes: v.array(
      v.object({
        on: v.string(),
        by: v.string(),
        work: v.array(v.string()),
        compound: v.string(),
        text: v.string(),
      }),
    ),
    steps: v.array(v.string()),
    handMin: v.nullable(v.number()),
  }),
  used: v.array(
    v.object({
      what: v.string(),
      amount: v.number(),
      unit: v.string(),
    }),
  ),
  results: v.array(
    v.object({
      beforeRun: v.string(),
      afterRun: v.string(),
      /** When they were made, by their logs' own clocks where those tell a date; missing in older records. */
      beforeAt: v.exactOptional(v.string()),
      afterAt: v.exactOptional(v.string()),
      headline: v.string(),
      roomC: BeforeAfter,
      fanRpm: BeforeAfter,
      powerW: BeforeAfter,
      atEqualConditions: v.nullable(
        v.record(
          v.string(),
          v.object({
            changeK: v.number(),
            u95K: v.number(),
          }),
        ),
      ),
    }),
  ),
  /** Null where no layer was renewed. */
  nextService: v.nullable(
    v.object({
      dueOn: v.string(),
      notBefore: v.string(),
      notAfter: v.nullable(v.string()),
      reason: v.string(),
    }),
  ),
  watch: v.string(),
  leavesWithCard: HandOverInput.entries.leaves,
  checksum: v.object({
    algorithm: v.literal("sha-256"),
    value: v.string(),
  }),
});
export type RecordFile = v.InferOutput<typeof RecordFile>;
