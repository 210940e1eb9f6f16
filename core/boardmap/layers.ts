import type { Layer } from "./fasteners.ts";
import type { BoardMap, MapScrew } from "./map.ts";

/** The layer a screw holds; one of which nobody said is taken for the cooler's, as on maps from before there were layers. */
export const layerOf = ({ layer }: MapScrew): Layer => layer ?? "cooler";

/** Screws that pull the board and the cooler together: only these are in the contact. */
export const pullingScrews = ({ screws }: Pick<BoardMap, "screws">): MapScrew[] =>
  screws.filter((screw) => layerOf(screw) === "cooler" && !screw.leaveAlone);

/** What is known of a layer: it has screws or plugs, or somebody looked. */
export function layerKnown(map: BoardMap, layer: Layer): boolean | null {
  const has =
    map.screws.some((screw) => layerOf(screw) === layer && !screw.leaveAlone) ||
    map.plugs.some((plug) => plug.layer === layer);
  return has || (map.layers.find(({ id }) => id === layer)?.there ?? null);
}

/** A screw in words: what is needed to find its driver and its place on the tray. */
export function screwWords({ thread, lengthMm, head, driver, spring, washerMm, sleeve }: MapScrew): string {
  const size = [thread ?? "", lengthMm === null ? "" : `${lengthMm} mm`].filter(Boolean).join(" × ");
  const headed = [head ? `${head} head` : "", driver].filter(Boolean).join(" ");
  const more = [
    spring === "coil" ? "spring" : spring === "leaf" ? "leaf spring" : "",
    washerMm > 0 ? `${washerMm} mm washer` : "",
    sleeve ? "sleeve" : "",
  ];
  return [size, headed, ...more].filter(Boolean).join(", ") || "size not known yet";
}

const away = (a: number, b: number, wide: number, other: number): number =>
  Math.max(0, Math.abs(a - b) - (wide + other) / 2);

/** Parts that stand within so many mm of the die. */
export function nearDie({ die, parts }: Pick<BoardMap, "die" | "parts">, withinMm: number): string[] {
  if (!die) return [];
  return parts
    .filter(
      (part) =>
        Math.hypot(
          away(part.xMm, die.xMm, part.widthMm, die.widthMm),
          away(part.yMm, die.yMm, part.heightMm, die.heightMm),
        ) <= withinMm,
    )
    .map(({ id }) => id);
}
