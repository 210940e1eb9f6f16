import type { BoardMap, MapPart, PartKind } from "../boardmap/index.ts";
import { checkMap } from "../boardmap/index.ts";
import type { GapPlace } from "../gaps/index.ts";
import { Problem } from "../problem/index.ts";

export type PadForm = "pad" | "putty" | "paste";

export interface PadMaterial {
  id: string;
  name: string;
  form: PadForm;
  conductivityWPerMK: number;
  /** Strain against pressure in kPa; a pad without one can't be computed with. */
  curve: ReadonlyArray<readonly [number, number]> | null;
  /** Widest gap it fills, mm; null where that is no question. */
  mostMm: number | null;
}

/** What goes on one place. */
export interface PadPick {
  materialId: string;
  thicknessMm: number;
  layers: number;
  widthMm: number;
  heightMm: number;
  offXMm: number;
  offYMm: number;
  /** A protective film was left on. */
  filmLeft: boolean;
}

export type Picks = Readonly<Record<string, PadPick | null | undefined>>;

export interface PadWork {
  map: BoardMap;
  /** Gap of every place, mm. */
  gapsMm: Readonly<Record<string, number>>;
  picks: Picks;
  materials: readonly PadMaterial[];
  heat: HeatAssumptions;
}

export interface HeatAssumptions {
  /** Cooler face above the parts. */
  faceC: number;
  powerW: Readonly<Record<PartKind, number>>;
}

/** Heat of one part under load, W: common practice of the trade, without a source. */
export const USUAL_POWER_W: Record<PartKind, number> = {
  memory: 2.5,
  mosfet: 3,
  choke: 1,
  capacitor: 0.1,
  controller: 0.5,
  other: 1,
};

/** Putty flows at about this pressure and fills what is there (common practice). */
export const PUTTY_CURVE = [
  [0, 0],
  [0.02, 15],
  [0.8, 40],
] as const;
/** It is put on this much thicker than the gap. */
export const PUTTY_MORE_MM = 0.3;
/** Paste bridges no wider gap than this, mm (common practice). */
export const PASTE_MOST_MM = 0.4;
/** A film left on, mm. */
const FILM_MM = 0.05;

/** Parts that want a pad, in the order in which they are stepped through: by kind, from the top left, row by row. */
export function placesOf(map: BoardMap): MapPart[] {
  const kinds = [...new Set(map.parts.map((part) => part.kind))];
  const places = map.parts.filter((part) => part.cooledBy !== "none");
  return (["front", "back"] as const).flatMap((side) =>
    kinds.flatMap((kind) => inRows(places.filter((part) => part.side === side && part.kind === kind))),
  );
}

/** A part less than this below its neighbour lies in the same row, mm. */
const ROW_MM = 3;

function inRows(parts: readonly MapPart[]): MapPart[] {
  const fromTop = parts.toSorted((a, b) => b.yMm - a.yMm);
  const rows: MapPart[][] = [];
  fromTop.forEach((part, k) => {
    const above = fromTop[k - 1];
    if (above && above.yMm - part.yMm < ROW_MM) rows.at(-1)?.push(part);
    else rows.push([part]);
  });
  return rows.flatMap((row) => row.sort((a, b) => a.xMm - b.xMm));
}

export const gapPlaces = (map: BoardMap): GapPlace[] =>
  placesOf(map).map(({ id, kind, cooledBy }) => ({ id, kind: `${kind} ${cooledBy}` }));

/** Places whose pads push against the die's seating: on the front, under the cooler or its mid-plate. */
export const pressesOnCooler = (part: MapPart): boolean =>
  part.side === "front" && (part.cooledBy === "pad" || part.cooledBy === "mid-plate" || part.cooledBy === "paste");

/** @throws Problem `map-not-ready` naming the thing, while the map has something that hinders the computation */
export function needReadyMap(map: BoardMap): void {
  const fault = checkMap(map).find((one) => one.hinders);
  if (fault)
    throw new Problem({
      code: "map-not-ready",
      what: fault.text,
      where: fault.id,
      remedy: "Mend it on the board map.",
    });
}

export function fullPick(part: MapPart, material: PadMaterial, thicknessMm: number, layers = 1): PadPick {
  return {
    materialId: material.id,
    thicknessMm,
    layers,
    widthMm: part.widthMm,
    heightMm: part.heightMm,
    offXMm: 0,
    offYMm: 0,
    filmLeft: false,
  };
}

export const totalMm = (pick: PadPick): number => pick.thicknessMm * pick.layers + (pick.filmLeft ? FILM_MM : 0);
