import * as v from "valibot";
import type { NextService } from "#core/ageing/index.ts";
import { number } from "./shapes.ts";

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
export const HandOverChange = v.object({ ...HandOverInput.entries, version: v.number() });
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
export const NextServiceChange = v.object({ ...NextServiceInput.entries, version: v.number() });
export const NO_NEXT: NextServiceInput = { use: null, compound: null };

/** A card’s figures at one end of a service, from its leading run. */
export interface CardState {
  at: string;
  /** Rises of sensors over room air, K. */
  risesK: Record<string, number>;
  gap: { meanK: number; u95K: number } | null;
  thetaKPerW: number | null;
}
export interface CardEnds {
  before: CardState | null;
  after: CardState | null;
}

/** One service of a card, as a line of its history. */
export interface HistoryLine {
  serviceId: string;
  openedAt: string;
  closedAt: string | null;
  work: string | null;
  ends: CardEnds;
  gainK: number | null;
  dueOn: string | null;
}

/** When a card is due again, as far as can be said. */
export interface NextView {
  told: NextServiceInput;
  version: number;
  /** What is taken where nothing is told. */
  use: v.InferOutput<typeof CardUseInput>;
  useSource: "log" | "typed" | "usual";
  compound: (typeof INTERFACES)[number];
  next: NextService;
  /** A layer was renewed, or somebody said which one lies there: else there is nothing to count from. */
  foretold: boolean;
  /** Months as days: first of the month. */
  dueOn: string;
  lowOn: string;
  highOn: string | null;
  reason: string;
  /** How much slower it ages by its temperature than before the work, as a factor; null without both. */
  heatFactor: number | null;
}

/** A card that is due. */
export interface DueCard {
  cardId: string;
  name: string;
  serial: string;
  ownerName: string;
  dueOn: string;
}
