import { addScrew, type BoardMap, EMPTY_MAP, PACKAGES, type Package, stampPart } from "../../boardmap/index.ts";
import { type Cooler, EMPTY_COOLER } from "../index.ts";

export const memory = PACKAGES[0] as Package;
/** A die with four holes about it, an outer one, and a memory package left of it. */
export const ON_MAP: BoardMap = [
  [-25, -25],
  [25, -25],
  [-25, 25],
  [25, 25],
  [80, 0],
].reduce(
  (map, [x = 0, y = 0]) => addScrew(map, { xMm: 100 + x, yMm: 50 + y }).map,
  stampPart(
    {
      ...EMPTY_MAP,
      board: { ...EMPTY_MAP.board, dieTallMm: 2.4 },
      die: { xMm: 100, yMm: 50, widthMm: 20, heightMm: 20 },
    },
    memory,
    { xMm: 68, yMm: 50 },
    "front",
  ).map,
);
/** A block that fits it. */
export const BLOCK: Cooler = {
  ...EMPTY_COOLER,
  name: "Block",
  kind: "waterblock",
  outline: { xMm: 20, yMm: 0, widthMm: 200, heightMm: 96 },
  plate: { xMm: 0, yMm: 0, widthMm: 40, heightMm: 40, metal: "copper" },
  faces: [{ id: "f1", xMm: -32, yMm: 0, widthMm: 15, heightMm: 30, levelMm: -0.5, for: "pad" }],
  posts: [-25, 25].flatMap((x) =>
    [-25, 25].map((y) => ({ id: `p${x}${y}`, xMm: x, yMm: y, thread: "M2.5", holeDepthMm: 5, levelMm: 0.5 })),
  ),
  kit: [{ id: "kit", thread: "M2.5", lengthMm: 8, washerMm: 0.5, quantity: 4, shouldered: false }],
  screwPullN: 40,
  springNPerMm: 10,
};
