import { NEW_PLUG } from "./fasteners.ts";
import {
  type BoardMap,
  type Box,
  DIE_ID,
  type MapPart,
  NEW_SCREW,
  type Package,
  plugBox,
  type Thing,
  thingsOf,
} from "./map.ts";

/** Positions are kept to a hundredth of a millimetre, so that sums of steps stay exact on screen. */
const round = (mm: number): number => Math.round(mm * 100) / 100;

type Kind = MapPart["kind"] | "screw" | "plug";

const LETTERS: Record<Kind, string> = {
  memory: "M",
  mosfet: "Q",
  choke: "L",
  capacitor: "C",
  controller: "U",
  other: "X",
  screw: "S",
  plug: "P",
};

/** The next free name of a kind: M1, M2, … */
export function freeId(map: BoardMap, kind: Kind): string {
  const taken = new Set(thingsOf(map).map((thing) => thing.id));
  const letter = LETTERS[kind];
  let count = 1;
  while (taken.has(`${letter}${count}`)) count++;
  return `${letter}${count}`;
}

function changed(map: BoardMap, ids: ReadonlySet<string>, change: (box: Box) => Partial<Box>): BoardMap {
  const apply = <T extends Box>(thing: T): T => {
    const next = change(thing);
    return { ...thing, ...next, xMm: round(next.xMm ?? thing.xMm), yMm: round(next.yMm ?? thing.yMm) };
  };
  return {
    ...map,
    die: map.die && ids.has(DIE_ID) ? apply(map.die) : map.die,
    screws: map.screws.map((screw) => {
      if (!ids.has(screw.id)) return screw;
      const { xMm, yMm } = apply({ ...screw, widthMm: screw.holeMm, heightMm: screw.holeMm });
      return { ...screw, xMm, yMm };
    }),
    parts: map.parts.map((part) => (ids.has(part.id) ? apply(part) : part)),
    plugs: map.plugs.map((plug) => {
      if (!ids.has(plug.id)) return plug;
      const { xMm, yMm } = apply(plugBox(plug));
      return { ...plug, xMm, yMm };
    }),
  };
}

/** The picked things and whatever is grouped with them. */
export function withGroups(map: BoardMap, ids: readonly string[]): string[] {
  const groups = new Set(map.parts.filter((part) => part.group && ids.includes(part.id)).map((part) => part.group));
  return [...new Set([...ids, ...map.parts.filter((part) => groups.has(part.group)).map((part) => part.id)])];
}

export const moveThings = (map: BoardMap, ids: readonly string[], dxMm: number, dyMm: number): BoardMap =>
  changed(map, new Set(ids), ({ xMm, yMm }) => ({ xMm: xMm + dxMm, yMm: yMm + dyMm }));

/** Turns each picked thing by a quarter about its own centre. */
export const turnThings = (map: BoardMap, ids: readonly string[]): BoardMap =>
  changed(map, new Set(ids), ({ widthMm, heightMm }) => ({ widthMm: heightMm, heightMm: widthMm }));

export function removeThings(map: BoardMap, ids: readonly string[]): BoardMap {
  return {
    ...map,
    die: ids.includes(DIE_ID) ? null : map.die,
    screws: map.screws.filter((screw) => !ids.includes(screw.id)),
    parts: map.parts.filter((part) => !ids.includes(part.id)),
    plugs: map.plugs.filter((plug) => !ids.includes(plug.id)),
  };
}

export interface Added {
  map: BoardMap;
  ids: string[];
}

export function stampPart(
  map: BoardMap,
  pack: Package,
  at: { xMm: number; yMm: number },
  side: MapPart["side"],
): Added {
  const id = freeId(map, pack.kind);
  const part: MapPart = {
    id,
    kind: pack.kind,
    side,
    xMm: round(at.xMm),
    yMm: round(at.yMm),
    widthMm: pack.widthMm,
    heightMm: pack.heightMm,
    tallMm: pack.tallMm,
    cooledBy: side === "back" ? "backplate" : pack.kind === "capacitor" || pack.kind === "other" ? "none" : "pad",
    group: null,
    guideMm: null,
  };
  return { map: { ...map, parts: [...map.parts, part] }, ids: [id] };
}

export function addScrew(map: BoardMap, at: { xMm: number; yMm: number }): Added {
  const id = freeId(map, "screw");
  const screw = { ...NEW_SCREW, id, xMm: round(at.xMm), yMm: round(at.yMm) };
  return { map: { ...map, screws: [...map.screws, screw] }, ids: [id] };
}

export function addPlug(map: BoardMap, at: { xMm: number; yMm: number }): Added {
  const id = freeId(map, "plug");
  return {
    map: { ...map, plugs: [...map.plugs, { ...NEW_PLUG, id, xMm: round(at.xMm), yMm: round(at.yMm) }] },
    ids: [id],
  };
}

/** Copies of parts, screws and plugs, each set in its own place. */
function copied(map: BoardMap, ids: readonly string[], place: (box: Thing) => { xMm: number; yMm: number }): Added {
  let next = map;
  const made: string[] = [];
  for (const thing of thingsOf(map)) {
    if (!ids.includes(thing.id) || thing.type === "die") continue;
    const at = place(thing);
    const xMm = round(at.xMm);
    const yMm = round(at.yMm);
    const screw = map.screws.find((one) => one.id === thing.id);
    const part = map.parts.find((one) => one.id === thing.id);
    const plug = map.plugs.find((one) => one.id === thing.id);
    const id = freeId(next, part?.kind ?? (plug ? "plug" : "screw"));
    made.push(id);
    next = {
      ...next,
      screws: screw ? [...next.screws, { ...screw, id, xMm, yMm }] : next.screws,
      parts: part ? [...next.parts, { ...part, id, xMm, yMm, group: null }] : next.parts,
      plugs: plug ? [...next.plugs, { ...plug, id, xMm, yMm }] : next.plugs,
    };
  }
  return { map: next, ids: made };
}

/** A row from the picked things on: `count` in all, each a pitch further. */
export function makeRow(map: BoardMap, ids: readonly string[], count: number, dxMm: number, dyMm: number): Added {
  let next = map;
  const made = [...ids];
  for (let k = 1; k < count; k++) {
    const step = copied(next, ids, ({ xMm, yMm }) => ({ xMm: xMm + k * dxMm, yMm: yMm + k * dyMm }));
    next = step.map;
    made.push(...step.ids);
  }
  return { map: next, ids: made };
}

/** Mirrored copies across the line through the die's centre (the board's, where there is no die). */
export function mirrorCopy(map: BoardMap, ids: readonly string[], across: "left-right" | "up-down"): Added {
  const centre = map.die ?? { xMm: map.board.widthMm / 2, yMm: map.board.heightMm / 2 };
  return copied(map, ids, ({ xMm, yMm }) =>
    across === "left-right" ? { xMm: 2 * centre.xMm - xMm, yMm } : { xMm, yMm: 2 * centre.yMm - yMm },
  );
}

export type Alignment = "left" | "right" | "top" | "bottom" | "centre-x" | "centre-y";

/** Lines the picked things up with the outermost of them; centres with their mean. */
export function align(map: BoardMap, ids: readonly string[], how: Alignment): BoardMap {
  const picked = thingsOf(map).filter((thing) => ids.includes(thing.id));
  if (picked.length < 2) return map;
  const least = (of: (thing: Thing) => number): number => Math.min(...picked.map(of));
  const most = (of: (thing: Thing) => number): number => Math.max(...picked.map(of));
  const mean = (of: (thing: Thing) => number): number =>
    picked.reduce((sum, thing) => sum + of(thing), 0) / picked.length;
  const left = least((one) => one.xMm - one.widthMm / 2);
  const right = most((one) => one.xMm + one.widthMm / 2);
  const bottom = least((one) => one.yMm - one.heightMm / 2);
  const top = most((one) => one.yMm + one.heightMm / 2);
  const x = mean((one) => one.xMm);
  const y = mean((one) => one.yMm);
  return changed(map, new Set(ids), ({ widthMm, heightMm }) => {
    switch (how) {
      case "left":
        return { xMm: left + widthMm / 2 };
      case "right":
        return { xMm: right - widthMm / 2 };
      case "bottom":
        return { yMm: bottom + heightMm / 2 };
      case "top":
        return { yMm: top - heightMm / 2 };
      case "centre-x":
        return { xMm: x };
      case "centre-y":
        return { yMm: y };
    }
  });
}

/** Equal distances between the centres of the picked things, the outermost staying where they are. */
export function spreadOut(map: BoardMap, ids: readonly string[], axis: "xMm" | "yMm"): BoardMap {
  const picked = thingsOf(map)
    .filter((thing) => ids.includes(thing.id))
    .sort((a, b) => a[axis] - b[axis]);
  const first = picked[0]?.[axis] ?? 0;
  const step = ((picked.at(-1)?.[axis] ?? 0) - first) / Math.max(1, picked.length - 1);
  return picked.reduce(
    (next, thing, index) => changed(next, new Set([thing.id]), () => ({ [axis]: first + index * step })),
    map,
  );
}

/** Parts, screws and plugs of these names as they are in `from`; all else, and what `from` or the map lacks, as it is in `map`. */
export function thingsFrom(map: BoardMap, from: BoardMap, ids: ReadonlySet<string>): BoardMap {
  const taken = <T extends { id: string }>(own: readonly T[], others: readonly T[]): T[] =>
    own.map((one) => (ids.has(one.id) ? (others.find((other) => other.id === one.id) ?? one) : one));
  return {
    ...map,
    parts: taken(map.parts, from.parts),
    screws: taken(map.screws, from.screws),
    plugs: taken(map.plugs, from.plugs),
  };
}

const thingIn = (map: BoardMap, id: string): object | undefined =>
  [...map.parts, ...map.screws, ...map.plugs].find((one) => one.id === id);

/** Those of `ids` whose part or screw is in both maps and the same there. */
export function sameThings(a: BoardMap, b: BoardMap, ids: readonly string[]): string[] {
  return ids.filter((id) => {
    const other = thingIn(b, id);
    const entries = Object.entries(thingIn(a, id) ?? {});
    return other && entries.length > 0 && entries.every(([key, value]) => Reflect.get(other, key) === value);
  });
}

export function setGroup(map: BoardMap, ids: readonly string[], together: boolean): BoardMap {
  const group = together ? `${ids[0] ?? ""}+` : null;
  return { ...map, parts: map.parts.map((part) => (ids.includes(part.id) ? { ...part, group } : part)) };
}

/**
 * Where a drag by (dx, dy) comes to rest: a centre or an edge of another thing within reach, else the grid.
 * @param reachMm how near a line must be to catch, mm
 */
export function snapped(
  map: BoardMap,
  ids: readonly string[],
  dxMm: number,
  dyMm: number,
  gridMm: number,
  reachMm: number,
): { dxMm: number; dyMm: number; lineXMm: number | null; lineYMm: number | null } {
  const all = thingsOf(map);
  const moved = all.filter((thing) => ids.includes(thing.id));
  const lead = moved[0];
  if (!lead) return { dxMm, dyMm, lineXMm: null, lineYMm: null };
  const others = all.filter((thing) => !ids.includes(thing.id));
  const along = (at: "xMm" | "yMm", size: "widthMm" | "heightMm", by: number): { by: number; line: number | null } => {
    let best: { by: number; line: number | null; away: number } = { by: 0, line: null, away: reachMm };
    for (const other of others)
      for (const side of [0, -0.5, 0.5]) {
        const line = other[at] + side * other[size];
        const own = lead[at] + by + side * lead[size];
        if (Math.abs(line - own) < best.away) best = { by: by + line - own, line, away: Math.abs(line - own) };
      }
    if (best.line !== null) return best;
    return { by: Math.round((lead[at] + by) / gridMm) * gridMm - lead[at], line: null };
  };
  const x = along("xMm", "widthMm", dxMm);
  const y = along("yMm", "heightMm", dyMm);
  return { dxMm: x.by, dyMm: y.by, lineXMm: x.line, lineYMm: y.line };
}

/** The map as the board lies with its back up: what is right is left. Its own inverse. */
export function turnedOver(map: BoardMap): BoardMap {
  const over = <T extends { xMm: number }>(thing: T): T => ({ ...thing, xMm: round(map.board.widthMm - thing.xMm) });
  return {
    ...map,
    die: map.die && over(map.die),
    cooler: map.cooler && over(map.cooler),
    screws: map.screws.map(over),
    parts: map.parts.map(over),
    plugs: map.plugs.map(over),
  };
}
