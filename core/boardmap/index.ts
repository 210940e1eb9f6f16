/**
 * The plan of a board model: what lies where, how it is edited, checked, straightened from a photo and drawn.
 *
 * Units: mm from the lower-left corner, x right, y up, seen from the component side; positions are centres. Every edit takes a map
 * and gives a new one, so that undoing is keeping the old.
 */

export { checkMap } from "./check.ts";
export type { Alignment } from "./edit.ts";
export {
  addPlug,
  addScrew,
  align,
  freeId,
  makeRow,
  mirrorCopy,
  moveThings,
  removeThings,
  sameThings,
  setGroup,
  snapped,
  spreadOut,
  stampPart,
  thingsFrom,
  turnedOver,
  turnThings,
  withGroups,
} from "./edit.ts";
export type { Layer, MapPlug } from "./fasteners.ts";
export {
  FEEDS,
  HEADS,
  HIDDEN_BY,
  LAYERS,
  PITCH_MM,
  PLUG_KINDS,
  RELEASES,
  SPRINGS,
  THREADS,
} from "./fasteners.ts";
export { layerKnown, layerOf, nearDie, pullingScrews, screwWords } from "./layers.ts";
export type { MapEdit } from "./learn.ts";
export { withEdits } from "./learn.ts";
export type { BoardMap, Box, MapPart, MapScrew, Package, PartKind, Thing } from "./map.ts";
export {
  COOLED_BY,
  DIE_ID,
  EMPTY_MAP,
  MAP_FORMAT,
  MAP_VERSION,
  NEW_SCREW,
  overlap,
  PACKAGES,
  PART_KINDS,
  thingsOf,
} from "./map.ts";
export type { Point } from "./straighten.ts";
export { homography, mapped, straighten } from "./straighten.ts";
export type { Shape } from "./svg.ts";
export { mapFromShapes, mapToSvg } from "./svg.ts";
