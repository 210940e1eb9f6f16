import { layerOf, pullingScrews } from "./layers.ts";
import { type BoardMap, type Box, DIE_ID, overlap, thingsOf } from "./map.ts";

export interface MapFault {
  code:
    | "off-board"
    | "overlap"
    | "no-die"
    | "no-screws"
    | "no-pull"
    | "tall"
    | "same-name"
    | "same-place"
    | "no-travel";
  /** The thing it is shown beside, or the board. */
  id: string;
  text: string;
  /** Until it is mended the contact can't be computed. */
  hinders: boolean;
}

const inside = (thing: Box, { widthMm, heightMm }: BoardMap["board"]): boolean =>
  thing.xMm - thing.widthMm / 2 >= -0.01 &&
  thing.yMm - thing.heightMm / 2 >= -0.01 &&
  thing.xMm + thing.widthMm / 2 <= widthMm + 0.01 &&
  thing.yMm + thing.heightMm / 2 <= heightMm + 0.01;

/** What does not hold together on a map, in words and with what to do; an unfinished map may be kept all the same. */
export function checkMap(map: BoardMap): MapFault[] {
  const faults: MapFault[] = [];
  const add = (code: MapFault["code"], id: string, text: string, hinders = true): void => {
    faults.push({ code, id, text, hinders });
  };
  const things = thingsOf(map);
  const boxes = things.filter((thing) => thing.type !== "screw" && thing.type !== "plug");
  const pulling = pullingScrews(map);
  if (!map.die) add("no-die", DIE_ID, "There is no die yet: place it by its centre and size.");
  if (pulling.length === 0) add("no-screws", DIE_ID, "The die has no screws: add those that pull the cooler on.");
  else if (!pulling.some((screw) => screw.forceN > 0))
    add("no-pull", pulling[0]?.id ?? DIE_ID, "No screw pulls: give the pull of the screws in newtons.");
  // Screws of bracket or shroud and cables may lie beside the board.
  const onBoard = new Set([...boxes.map(({ id }) => id), ...pulling.map(({ id }) => id)]);
  for (const thing of things)
    if (onBoard.has(thing.id) && !inside(thing, map.board))
      add("off-board", thing.id, `${nameOf(thing.id)} lies off the board: move it, or make the board larger.`);
  boxes.forEach((one, index) => {
    const other = boxes.slice(0, index).find((before) => before.side === one.side && overlap(before, one));
    if (other) add("overlap", one.id, `${nameOf(one.id)} overlaps ${nameOf(other.id)}: move one of them.`);
  });
  for (const part of map.parts)
    if (part.side === "front" && part.cooledBy === "pad" && (part.tallMm ?? 0) > 12)
      add(
        "tall",
        part.id,
        `${part.id} is ${part.tallMm} mm tall: was that typed in inches or without its point?`,
        false,
      );
  if (pulling.some(({ forceN }) => forceN > 0))
    for (const { id, forceN } of pulling)
      if (forceN === 0)
        add(
          "no-travel",
          id,
          `${id} has no travel: it pulls with 0 N. Give its pull when it is tight, or its layer.`,
          false,
        );
  map.screws.forEach((one, index) => {
    const other = map.screws
      .slice(0, index)
      .find(
        (before) =>
          layerOf(before) === layerOf(one) && Math.hypot(before.xMm - one.xMm, before.yMm - one.yMm) < SAME_PLACE_MM,
      );
    if (other) add("same-place", one.id, `${one.id} and ${other.id} are in one place: remove one, or move it.`);
  });
  const seen = new Set<string>();
  for (const { id } of things) {
    if (seen.has(id)) add("same-name", id, `${id} is there twice: rename one.`);
    seen.add(id);
  }
  return faults;
}

/** Two screws of one layer nearer than this are one. */
const SAME_PLACE_MM = 0.5;

const nameOf = (id: string): string => (id === DIE_ID ? "The die" : id);
