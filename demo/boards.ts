import {
  addPlug,
  addScrew,
  type BoardMap,
  EMPTY_MAP,
  makeRow,
  mirrorCopy,
  PACKAGES,
  type Package,
  stampPart,
} from "#core/boardmap/index.ts";

const pack = (name: string): Package => {
  const found = PACKAGES.find((one) => one.name === name);
  if (!found) throw new Error(`No package ${name}.`);
  return found;
};

/** An invented board: eight memory packages around the die, a VRM of twelve phases at its right, some controllers behind. */
export function demoMap(widthMm: number, heightMm: number, phases: number, pullN = 55): BoardMap {
  const middle = heightMm / 2;
  const dieX = widthMm * 0.42;
  let map: BoardMap = {
    ...EMPTY_MAP,
    board: { ...EMPTY_MAP.board, widthMm, heightMm, thicknessMm: 2 },
    die: { xMm: dieX, yMm: middle, widthMm: 22, heightMm: 20 },
    cooler: { xMm: widthMm / 2, yMm: middle, widthMm: widthMm - 16, heightMm: heightMm - 6 },
  };
  for (const [xMm, yMm] of [
    [dieX - 26, middle - 26],
    [dieX + 26, middle - 26],
    [dieX - 26, middle + 26],
    [dieX + 26, middle + 26],
    [widthMm - 12, 12],
    [widthMm - 12, heightMm - 12],
    [widthMm - 52, middle],
    [14, middle],
  ] as const)
    map = addScrew(map, { xMm, yMm }).map;
  // The outer screws sit on standoffs: they hardly pull, but hold the distance like a stiff spring.
  map = {
    ...map,
    screws: map.screws.map((screw, index) =>
      index < 4
        ? {
            ...screw,
            forceN: pullN,
            springNPerMm: 12,
            thread: "M2.5",
            lengthMm: 7,
            head: "cross",
            driver: "PH1",
            spring: "coil",
            layer: "cooler",
            hiddenBy: index === 2 ? "seal" : "nothing",
          }
        : {
            ...screw,
            forceN: 3,
            springNPerMm: 150,
            shouldered: true,
            standoff: true,
            thread: "M2",
            lengthMm: 4,
            head: "cross",
            driver: "PH0",
            spring: "none",
            layer: "cooler",
          },
    ),
  };
  map = withOuterLayers(map, dieX);
  const left = stampPart(map, pack("Memory 14 × 12"), { xMm: dieX - 32, yMm: middle - 8 }, "front");
  const column = makeRow(left.map, left.ids, 2, 0, 16);
  map = mirrorCopy(column.map, column.ids, "left-right").map;
  const top = stampPart(map, pack("Memory 12 × 14"), { xMm: dieX - 8, yMm: middle + 28 }, "front");
  const row = makeRow(top.map, top.ids, 2, 16, 0);
  map = mirrorCopy(row.map, row.ids, "up-down").map;
  const pitch = Math.min(9, (heightMm - 24) / phases);
  const low = middle - ((phases - 1) * pitch) / 2;
  const mosfet = stampPart(map, pack("MOSFET 5 × 6"), { xMm: widthMm - 42, yMm: low }, "front");
  map = makeRow(mosfet.map, mosfet.ids, phases, 0, pitch).map;
  const choke = stampPart(map, pack("Choke 7 × 7"), { xMm: widthMm - 31, yMm: low }, "front");
  map = makeRow(choke.map, choke.ids, phases, 0, pitch).map;
  const behind = stampPart(map, pack("Controller 7 × 7"), { xMm: dieX, yMm: middle - 20 }, "back");
  map = makeRow(behind.map, behind.ids, 2, 0, 40).map;
  return {
    ...map,
    parts: map.parts.map((part) =>
      part.kind === "choke" && part.cooledBy === "pad" ? { ...part, guideMm: 1.5 } : part,
    ),
  };
}

const SMALL = {
  forceN: 0,
  springNPerMm: 0,
  spring: "none",
  thread: "M2",
  lengthMm: 5,
  head: "cross",
  driver: "PH0",
} as const;

/** Backplate, bracket, two plugs under the cooler, and a screw near the die that holds its frame. */
function withOuterLayers(map: BoardMap, dieX: number): BoardMap {
  const { widthMm, heightMm } = map.board;
  let next = map;
  const more: Array<readonly [xMm: number, yMm: number, more: Partial<BoardMap["screws"][number]>]> = [
    [8, 22, { ...SMALL, layer: "bracket", thread: "M3", lengthMm: 5, head: "hex", driver: "5 mm", side: "front" }],
    [8, heightMm - 22, { ...SMALL, layer: "bracket", thread: "M3", head: "hex", driver: "5 mm", side: "front" }],
    [dieX, 8, { ...SMALL, layer: "backplate" }],
    [dieX, heightMm - 8, { ...SMALL, layer: "backplate" }],
    [widthMm - 70, 10, { ...SMALL, layer: "backplate", lengthMm: 4 }],
    [widthMm - 70, heightMm - 10, { ...SMALL, layer: "backplate", lengthMm: 4, hiddenBy: "sticker" }],
    [dieX + 19, heightMm / 2 + 17, { ...SMALL, leaveAlone: true }],
  ];
  for (const [xMm, yMm, fields] of more) {
    const added = addScrew(next, { xMm, yMm });
    next = {
      ...added.map,
      screws: added.map.screws.map((screw) => (added.ids.includes(screw.id) ? { ...screw, ...fields } : screw)),
    };
  }
  for (const [xMm, yMm, feeds] of [
    [widthMm - 14, heightMm / 2 + 16, "fan"],
    [widthMm - 14, heightMm / 2 - 16, "light"],
  ] as const) {
    const added = addPlug(next, { xMm, yMm });
    next = {
      ...added.map,
      plugs: added.map.plugs.map((plug) => (added.ids.includes(plug.id) ? { ...plug, feeds } : plug)),
    };
  }
  return {
    ...next,
    layers: next.layers.map((layer) => ({ ...layer, there: !["fan", "shroud", "mid-plate"].includes(layer.id) })),
  };
}
