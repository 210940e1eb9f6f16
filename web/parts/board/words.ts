import type { MapPart } from "#core/boardmap/index.ts";

/** What a part gives its heat to, in words. */
export const COOLED_WORDS: Record<MapPart["cooledBy"], string> = {
  pad: "pad to the cooler",
  "mid-plate": "pad to the mid-plate",
  backplate: "pad to the backplate",
  paste: "paste",
  none: "nothing",
};
