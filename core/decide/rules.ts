import type { Cause } from "../diagnose/index.ts";
import { EFFORT } from "./materials.ts";
import type { Reason, Rule, Work } from "./terms.ts";

const TRADE = "common practice of the trade";
const OWN = "this shop’s own records";
const percent = (share: number): string => `${Math.round(100 * share)} %`;
const kelvin = (value: number): string => `${value.toFixed(1)} K`;

/** A cause counts as found from here on. */
const LIKELY = 0.5;
/** Buying pads for a cooler that is held off needs more than that. */
const SURE = 0.75;

type CauseRule = "room" | "fan" | "pads" | "held" | "paste" | "dust" | "nothing";
/** The rules that answer each cause; one that nobody answers does not compile. */
const ANSWERS: Record<Cause, readonly [CauseRule, ...CauseRule[]]> = {
  healthy: ["nothing"],
  "dry-paste": ["paste"],
  "dust-or-airflow": ["dust"],
  "memory-pads": ["pads"],
  "vrm-pads": ["pads"],
  "cooler-held-off": ["held", "paste"],
  "fan-fault": ["fan"],
  "hot-room": ["room"],
};

const cause = (id: CauseRule, speaksFor: Work, text: string, from = LIKELY): Rule => ({
  id,
  source: "diagnosis of the baseline run",
  says({ causes }) {
    const share = causes
      .filter((one) => ANSWERS[one.cause].includes(id))
      .reduce((sum, one) => sum + one.probability, 0);
    return share >= from ? { speaksFor, decides: true, text, figure: percent(share) } : null;
  },
});

/**
 * The rules in the order in which they decide: what rules a service out comes first, then the causes, then age and use. All that
 * have something to say are shown as reasons; the first that decides makes the recommendation.
 */
export const RULES: readonly Rule[] = [
  {
    id: "warranty",
    source: TRADE,
    says({ warranty, causes }) {
      const healthy = causes.find((one) => one.cause === "healthy")?.probability ?? 0;
      if (warranty !== "under warranty") return null;
      return {
        speaksFor: "leave",
        decides: true,
        text:
          healthy >= LIKELY
            ? "Under warranty and nothing wrong found: opening may end the warranty. Rules differ by country; ask."
            : "Under warranty: a fault is the seller’s to mend first. Rules differ by country; ask before you open it.",
        figure: "under warranty",
      };
    },
  },
  cause("room", "leave", "The room is hot, the card’s rises are in order: cool the room, not the card."),
  cause("fan", "fans", "A fan is weak or dead: mend it before anything else is judged."),
  {
    id: "worth",
    source: TRADE,
    says({ worth }) {
      const least = EFFORT.clean.material;
      if (worth === null || worth >= 5 * least) return null;
      return {
        speaksFor: "not-worth",
        decides: true,
        text: "Material and time against the card’s worth: even cleaning costs too large a part of it.",
        figure: `worth ${worth.toFixed(0)}`,
      };
    },
  },
  cause("pads", "pads", "Memory or VRM has lost its contact: pads missing, thin or too small."),
  cause("held", "pads", "The cooler does not sit on the die: pads too thick, or mounted askew.", SURE),
  cause(
    "paste",
    "repaste",
    "Die and cold plate have lost contact: compound dried or pumped out, or a cooler held off. Look at the pads once it is open.",
  ),
  cause("dust", "clean", "Fins and fans carry less heat away than they should: dust or blocked air."),
  {
    id: "limit",
    source: "limits of the board model",
    says({ overLimit }) {
      if (overLimit.length === 0) return null;
      return {
        speaksFor: "repaste",
        decides: true,
        text: `Over its limit at load: ${overLimit.map((one) => one.role).join(", ")}.`,
        figure: overLimit.map((one) => `${one.valueC.toFixed(0)} of ${one.limitC} °C`).join(", "),
      };
    },
  },
  {
    id: "model",
    source: OWN,
    says({ model, riseK }) {
      if (!model || riseK === null) return null;
      const over = riseK - model.meanK;
      const warm = over > 2 * Math.hypot(model.sdK, 1);
      return {
        speaksFor: warm ? "repaste" : "leave",
        decides: warm,
        text: `${warm ? "Warmer than" : "Within what"} this board model usually ${warm ? "runs" : "shows"} here: ${kelvin(model.meanK)} ± ${kelvin(2 * model.sdK)} over ${model.cards} card${model.cards === 1 ? "" : "s"}.`,
        figure: `${over >= 0 ? "+" : "−"}${kelvin(Math.abs(over))}`,
      };
    },
  },
  {
    id: "age",
    source: TRADE,
    says({ ageYears, useKind, expected }) {
      const old = (ageYears ?? 0) > 3;
      const hard = useKind === "long constant load" || useKind === "games" || useKind === "unknown";
      if (!old || !hard) return null;
      const worthIt = expected.gainK >= 2.5;
      return {
        speaksFor: worthIt ? "repaste" : "clean",
        decides: true,
        text: "Over three years of hard or unknown use: cycles age the compound. Office use ages it little.",
        figure: `${ageYears} years`,
      };
    },
  },
  {
    id: "nothing",
    fallback: true,
    source: "diagnosis of the baseline run",
    says({ causes }) {
      const healthy = causes.find((one) => one.cause === "healthy")?.probability ?? 0;
      return {
        speaksFor: "leave",
        decides: true,
        text: "Nothing speaks for opening it: clean cards gain nothing that a run could show.",
        figure: `healthy ${percent(healthy)}`,
      };
    },
  },
];

/** Premium materials are for cards worth many times their kit; on cheap cards cleaning and compound must do. */
export const PREMIUM_WORTH = 15;
export const PADS_WORTH = 3;

const moved = (to: Work, text: string, figure: string): { work: Work; reason: Reason } => ({
  work: to,
  reason: { rule: "money", speaksFor: to, text, figure, source: TRADE, decides: true },
});

/** What the card's worth allows of what its state asks for. */
export function afford(work: Work, worth: number | null): { work: Work; reason: Reason | null } {
  if (worth === null) return { work, reason: null };
  if (work === "pads" && worth >= PREMIUM_WORTH * EFFORT.premium.material)
    return moved(
      "premium",
      `Worth ${PREMIUM_WORTH} times a premium kit or more: better pads and compound pay.`,
      `${(worth / EFFORT.premium.material).toFixed(0)} times the kit`,
    );
  if (work === "pads" && worth < PADS_WORTH * EFFORT.pads.material)
    return moved(
      "repaste",
      "A full set of pads is rarely sensible on a card worth three times that: clean and repaste, keep whole pads.",
      `${(worth / EFFORT.pads.material).toFixed(1)} times the pads`,
    );
  return { work, reason: null };
}
