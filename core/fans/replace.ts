import { levelChangeDb } from "./laws.ts";

/** What stands on a fan's label; null where nobody read it. */
export interface FanLabel {
  sizeMm: number | null;
  /** Between the middles of its holes. */
  holesMm: number | null;
  thicknessMm: number | null;
  plug: string;
  volts: number | null;
  amperes: number | null;
  fullRpm: number | null;
}

export interface Replaced {
  /** What speaks against it, in words; empty where nothing does. */
  against: string[];
  /** What could not be compared. */
  unknown: string[];
  /** Air it moves at full speed, over the old one's; null where size or speed is missing. */
  airRatio: number | null;
  levelDb: number | null;
}

/** Holes further off than this do not meet. */
const HOLES_MM = 0.5;
const SAME_VOLTS = 0.5;
const SIZE_LEVEL = 70;

const NAMES = {
  sizeMm: "size",
  holesMm: "holes",
  thicknessMm: "thickness",
  volts: "volts",
  amperes: "amperes",
  fullRpm: "full speed",
} as const;

/**
 * Whether a fan can stand in for another: holes, thickness, plug, volts, current; air and level by the fan laws for similar fans, flow ∝ n·D³,
 * level ∝ 50·log₁₀ n + 70·log₁₀ D (AMCA; fan engineering handbooks, from memory).
 */
export function replaces(old: FanLabel, other: FanLabel): Replaced {
  const against: string[] = [];
  const both = (key: keyof typeof NAMES, tell: (was: number, is: number) => string): void => {
    const [was, is] = [old[key], other[key]];
    const words = was === null || is === null ? "" : tell(was, is);
    if (words) against.push(words);
  };
  both("holesMm", (was, is) => (Math.abs(is - was) > HOLES_MM ? `its holes are ${is} mm apart, not ${was}` : ""));
  both("thicknessMm", (was, is) => (is > was ? `${is - was} mm thicker than its place` : ""));
  both("volts", (was, is) => (Math.abs(is - was) > SAME_VOLTS ? `made for ${is} V, not ${was}` : ""));
  both("amperes", (was, is) => (is > was ? `draws ${is} A, the card was made for ${was}` : ""));
  if (old.plug && other.plug && old.plug.toLowerCase() !== other.plug.toLowerCase())
    against.push(`its plug is ${other.plug}, not ${old.plug}`);
  const ratio = (key: "sizeMm" | "fullRpm"): number | null => {
    const [was, is] = [old[key], other[key]];
    return was !== null && is !== null && was > 0 && is > 0 ? is / was : null;
  };
  const [wide, fast] = [ratio("sizeMm"), ratio("fullRpm")];
  return {
    against,
    unknown: (Object.keys(NAMES) as Array<keyof typeof NAMES>)
      .filter((key) => old[key] === null || other[key] === null)
      .map((key) => NAMES[key]),
    airRatio: wide === null || fast === null ? null : fast * wide ** 3,
    levelDb: wide === null || fast === null ? null : levelChangeDb(1, fast) + SIZE_LEVEL * Math.log10(wide),
  };
}

const NUMBER = "(\\d+(?:[.,]\\d+)?)";
const found = (text: string, pattern: string): number | null => {
  const match = new RegExp(pattern, "i").exec(text);
  return match?.[1] === undefined ? null : Number(match[1].replace(",", "."));
};

/**
 * A fan's label as it is noted in the stores, such as “90 mm, holes 42 mm, 12 mm thick, 4-pin, 12 V, 0.35 A, 3000 rpm”; null for what is not said.
 * @example
 * ```ts
 * labelFrom("90 mm, 12 V").volts // => 12
 * ```
 */
export function labelFrom(note: string): FanLabel {
  const rest = note.replace(new RegExp(`holes? ${NUMBER} ?mm|${NUMBER} ?mm thick`, "gi"), "");
  return {
    sizeMm: found(rest, `${NUMBER} ?mm`),
    holesMm: found(note, `holes? ${NUMBER}`),
    thicknessMm: found(note, `${NUMBER} ?mm thick`),
    plug: /\d-pin/i.exec(note)?.[0] ?? "",
    volts: found(note, `${NUMBER} ?V\\b`),
    amperes: found(note, `${NUMBER} ?A\\b`),
    fullRpm: found(note, `${NUMBER} ?rpm`),
  };
}
