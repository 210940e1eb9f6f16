import { type BoardMap, type Layer, layerOf, type MapScrew, turnedOver } from "../boardmap/index.ts";

/** A circle on the tray sheet that a screw is laid on, mm from the board's lower left corner as it lies. */
export interface TrayPlace {
  screw: MapScrew;
  xMm: number;
  yMm: number;
  /** Where it sat: circles that would overlap are moved beside it. */
  fromXMm: number;
  fromYMm: number;
}

export interface TraySheet {
  layer: Layer;
  /** The board as it lies for this layer. */
  map: BoardMap;
  places: TrayPlace[];
}

export const TRAY_R_MM = 6;
const APART_MM = 2 * TRAY_R_MM + 1;
const MOST_ROUNDS = 500;

/** A sheet for each layer that has screws, in the order in which they come out. */
export function traySheets(map: BoardMap): TraySheet[] {
  return map.layers.flatMap(({ id }): TraySheet[] => {
    const own = map.screws.filter((screw) => layerOf(screw) === id && !screw.leaveAlone);
    if (own.length === 0) return [];
    const back = own.filter(({ side }) => side === "back").length * 2 >= own.length;
    const lies = back ? turnedOver(map) : map;
    const ids = new Set(own.map((screw) => screw.id));
    return [
      {
        layer: id,
        map: lies,
        places: spread(
          lies.screws.filter((screw) => ids.has(screw.id)),
          lies.board,
        ),
      },
    ];
  });
}

const inside = (value: number, size: number): number => Math.min(size - TRAY_R_MM, Math.max(TRAY_R_MM, value));

/** Pushes circles apart until none overlap, each as near to its hole as it can stay. */
function spread(screws: readonly MapScrew[], { widthMm, heightMm }: BoardMap["board"]): TrayPlace[] {
  const places = screws.map((screw) => ({
    screw,
    xMm: screw.xMm,
    yMm: screw.yMm,
    fromXMm: screw.xMm,
    fromYMm: screw.yMm,
  }));
  for (let round = 0; round < MOST_ROUNDS; round++) {
    let moved = false;
    for (const place of places) {
      const [x, y] = [inside(place.xMm, widthMm), inside(place.yMm, heightMm)];
      if (x !== place.xMm || y !== place.yMm) [place.xMm, place.yMm, moved] = [x, y, true];
    }
    places.forEach((one, index) => {
      for (const other of places.slice(index + 1)) {
        const [dx, dy] = [other.xMm - one.xMm, other.yMm - one.yMm];
        const away = Math.hypot(dx, dy);
        if (away >= APART_MM - 1e-6) continue;
        // In one place: each its own way.
        const [ux, uy] = away > 1e-6 ? [dx / away, dy / away] : [Math.cos(index + 1), Math.sin(index + 1)];
        const by = (APART_MM - away) / 2;
        one.xMm -= by * ux;
        one.yMm -= by * uy;
        other.xMm += by * ux;
        other.yMm += by * uy;
        moved = true;
      }
    });
    if (!moved) break;
  }
  return places;
}
