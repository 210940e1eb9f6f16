import { LAYERS, type Layer, type MapLayer, type MapPlug, NEW_PLUG } from "./fasteners.ts";
import { type BoardMap, type Box, type MapScrew, NEW_SCREW } from "./map.ts";

/** One thing learnt of a board while a card is in the hand: said by name, so that it holds on whatever the map has become. */
export type MapEdit =
  | { edit: "screw"; id: string; more: Partial<Omit<MapScrew, "id">> & { xMm: number; yMm: number } }
  | { edit: "plug"; id: string; more: Partial<Omit<MapPlug, "id">> & { xMm: number; yMm: number } }
  | { edit: "change"; id: string; more: Partial<Omit<MapScrew, "id">> }
  | { edit: "remove"; id: string }
  | { edit: "layer"; id: Layer; there: boolean }
  | { edit: "board"; more: Partial<BoardMap["board"]> }
  | { edit: "die"; more: Partial<Box> };

/** Usual where only its middle was tapped so far, mm. */
const NEW_DIE = { widthMm: 20, heightMm: 20 };

/** The map with what was learnt; the same learnt twice changes nothing. */
export const withEdits = (map: BoardMap, edits: readonly MapEdit[]): BoardMap => edits.reduce(withEdit, map);

function withEdit(map: BoardMap, edit: MapEdit): BoardMap {
  switch (edit.edit) {
    case "screw": {
      const screw = { ...NEW_SCREW, ...edit.more, id: edit.id };
      return { ...map, screws: put(map.screws, screw) };
    }
    case "plug":
      return { ...map, plugs: put(map.plugs, { ...NEW_PLUG, ...edit.more, id: edit.id }) };
    case "change":
      return { ...map, screws: map.screws.map((one) => (one.id === edit.id ? { ...one, ...edit.more } : one)) };
    case "remove":
      return {
        ...map,
        screws: map.screws.filter(({ id }) => id !== edit.id),
        plugs: map.plugs.filter(({ id }) => id !== edit.id),
      };
    case "layer":
      return { ...map, layers: layersWith(map.layers, { id: edit.id, there: edit.there }) };
    case "board":
      return { ...map, board: { ...map.board, ...edit.more } };
    case "die": {
      const { widthMm, heightMm } = map.board;
      const held = map.die ?? { xMm: widthMm / 2, yMm: heightMm / 2, ...NEW_DIE };
      return { ...map, die: { ...held, ...edit.more } };
    }
  }
}

const put = <T extends { id: string }>(list: readonly T[], one: T): T[] =>
  list.some(({ id }) => id === one.id) ? list.map((held) => (held.id === one.id ? one : held)) : [...list, one];

const layersWith = (layers: readonly MapLayer[], layer: MapLayer): MapLayer[] =>
  (layers.length > 0 ? layers : LAYERS.map((id) => ({ id, there: null }))).map((one) =>
    one.id === layer.id ? layer : one,
  );
