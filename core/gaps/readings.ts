import { Problem } from "../problem/index.ts";

/** How a gap was come by. */
export const GAP_SOURCES = ["squeezed", "unsqueezed", "gap", "guide"] as const;
export type GapSource = (typeof GAP_SOURCES)[number];
export const OLD_PAD_STATES = ["unknown", "moist", "dry", "oily", "torn"] as const;
export type OldPadState = (typeof OLD_PAD_STATES)[number];
export const OLD_PAD_SOFTNESS = ["unknown", "soft", "medium", "hard"] as const;
export type OldPadSoftness = (typeof OLD_PAD_SOFTNESS)[number];

export interface GapReading {
  id: string;
  partId: string;
  source: GapSource;
  valueMm: number;
  padState: OldPadState;
  softness: OldPadSoftness;
  /** The card it was taken on; readings of one card share its differences from the model. */
  card: string;
}

/** What a reading says of the gap: gap = reading × factor, with a relative error all alike share and one of its own. */
export interface ReadingModel {
  factor: number;
  sharedRelative: number;
  ownMm: number;
}

interface Fraction {
  mean: number;
  sd: number;
}
const f = (mean: number, sd: number): Fraction => ({ mean, sd });

/** How far caliper jaws squeeze an old pad (share of its thickness). Common practice of the trade, no published source. */
const JAWS: Record<OldPadSoftness, Fraction> = {
  soft: f(0.08, 0.04),
  medium: f(0.04, 0.02),
  hard: f(0.01, 0.01),
  unknown: f(0.04, 0.04),
};
/** How far a squeezed place springs back once it is free. Common practice of the trade, no published source. */
const RECOVERY: Record<OldPadState, Fraction> = {
  moist: f(0.12, 0.06),
  dry: f(0.03, 0.03),
  oily: f(0.06, 0.04),
  torn: f(0.05, 0.06),
  unknown: f(0.08, 0.06),
};
/** What an unsqueezed place has shrunk by over the years, and how far makers mean a new pad to be squeezed (†). */
const SET = f(0.03, 0.02);
const MEANT_SQUEEZE = f(0.2, 0.1);
/** Repeatability of calipers on soft stuff by hand, mm (†); of a torn pad. */
const CALIPER_MM = 0.03;
const TORN_MM = 0.08;

/**
 * @returns how to read a value of this source, by the law of propagation for products (JCGM 100:2008, 5.1.6)
 * @example
 * ```ts
 * readingModel({ source: "gap", padState: "unknown", softness: "unknown" }).factor // => 1
 * ```
 */
export function readingModel({
  source,
  padState,
  softness,
}: Pick<GapReading, "source" | "padState" | "softness">): ReadingModel {
  const ownMm = padState === "torn" ? TORN_MM : CALIPER_MM;
  const jaws = JAWS[softness];
  switch (source) {
    case "gap":
      return { factor: 1, sharedRelative: 0, ownMm: 0.05 };
    case "guide":
      return {
        factor: 1 - MEANT_SQUEEZE.mean,
        sharedRelative: MEANT_SQUEEZE.sd / (1 - MEANT_SQUEEZE.mean),
        ownMm: 0.05,
      };
    case "squeezed": {
      const back = RECOVERY[padState];
      return {
        factor: 1 / ((1 + back.mean) * (1 - jaws.mean)),
        sharedRelative: Math.hypot(back.sd / (1 + back.mean), jaws.sd / (1 - jaws.mean)),
        ownMm,
      };
    }
    case "unsqueezed":
      return {
        factor: (1 - MEANT_SQUEEZE.mean) / ((1 - jaws.mean) * (1 - SET.mean)),
        sharedRelative: Math.hypot(
          MEANT_SQUEEZE.sd / (1 - MEANT_SQUEEZE.mean),
          jaws.sd / (1 - jaws.mean),
          SET.sd / (1 - SET.mean),
        ),
        ownMm,
      };
  }
}

const INCH_MM = 25.4;
const LEAST_MM = 0.15;
const MOST_MM = 12;

/**
 * Reads what was typed, pasted or sent by a caliper that types: numbers with blanks, semicolons, line ends or commas between them;
 * point or comma as decimal sign; `mm`, `in`, `inch` or `"` behind a number overrule the unit.
 * @returns the readings in millimetres
 * @throws Problem `bad-reading` naming the word, `doubtful-reading` for what no pad place can be
 * @example
 * ```ts
 * parseReadings("1,05 0.05in", "mm") // => [1.05, 1.27]
 * ```
 */
export function parseReadings(text: string, unit: "mm" | "in"): number[] {
  const plain = text
    .replace(
      /(\d)\s*(mm|inch|in|["″])/gi,
      (_, digit: string, word: string) => `${digit}${/mm/i.test(word) ? "m" : "i"} `,
    )
    .replace(/,(?=\s|$)/g, " ");
  const words = plain
    .split(/[\s;]+/)
    .flatMap((word) => (word.includes(".") ? word.split(",") : [word]))
    .filter((word) => word !== "");
  if (words.length === 0)
    throw new Problem({
      code: "bad-reading",
      what: "There is no reading in it.",
      remedy: "Type millimetres, such as 1.24.",
    });
  return words.map((word) => {
    const [, digits = "", mark = ""] = /^\+?(\d+(?:[.,]\d+)?)([mi]?)$/.exec(word) ?? [];
    if (digits === "")
      throw new Problem({
        code: "bad-reading",
        what: word.startsWith("-") ? `${word} is negative: zero the caliper.` : `“${word}” is no reading.`,
        remedy: "Type millimetres, such as 1.24; several with blanks between them.",
      });
    const value = Number(digits.replace(",", "."));
    const inch = mark === "i" || (mark === "" && unit === "in");
    const mm = Math.round(value * (inch ? INCH_MM : 1) * 1000) / 1000;
    if (mm > MOST_MM)
      throw new Problem({
        code: "doubtful-reading",
        what: `${word.replace(/[mi]$/, "")} would be a gap of ${mm} mm.`,
        remedy: inch
          ? "No pad is that thick: is the caliper in millimetres?"
          : "No pad is that thick: is the caliper in inches, or a point missing?",
      });
    if (mm < LEAST_MM)
      throw new Problem({
        code: "doubtful-reading",
        what: `${word.replace(/[mi]$/, "")} would be a pad of ${mm} mm.`,
        remedy: inch ? "No pad is that thin: check the caliper." : "No pad is that thin: is the caliper in inches?",
      });
    return mm;
  });
}
