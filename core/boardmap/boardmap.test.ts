import fc from "fast-check";
import { Matrix, solve } from "ml-matrix";
import { describe, expect, it } from "vitest";
import {
  addScrew,
  align,
  type BoardMap,
  checkMap,
  DIE_ID,
  EMPTY_MAP,
  homography,
  type Layer,
  makeRow,
  mapped,
  mapToSvg,
  mirrorCopy,
  moveThings,
  PACKAGES,
  type Point,
  pullingScrews,
  removeThings,
  setGroup,
  snapped,
  spreadOut,
  stampPart,
  straighten,
  thingsOf,
  turnThings,
  withGroups,
} from "./index.ts";

const memory = PACKAGES[0]!;
const WITH_DIE: BoardMap = { ...EMPTY_MAP, die: { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22 } };
const placesOf = (map: BoardMap) => map.parts.map(({ id, xMm, yMm }) => [id, xMm, yMm]);

describe("drawing in few steps", () => {
  const one = stampPart(WITH_DIE, memory, { xMm: 80, yMm: 30 }, "front");
  const row = makeRow(one.map, one.ids, 3, 0, 16);

  it("stamps a package, makes a row by count and pitch, and mirrors it across the die", () => {
    expect(placesOf(row.map)).toEqual([
      ["M1", 80, 30],
      ["M2", 80, 46],
      ["M3", 80, 62],
    ]);
    const both = mirrorCopy(row.map, row.ids, "left-right");
    expect(placesOf(both.map).slice(3)).toEqual([
      ["M4", 160, 30],
      ["M5", 160, 46],
      ["M6", 160, 62],
    ]);
    expect(placesOf(mirrorCopy(one.map, one.ids, "up-down").map).at(-1)).toEqual(["M2", 80, 74]);
    expect(checkMap(addScrew(both.map, { xMm: 95, yMm: 25 }).map)).toEqual([]);
  });

  it("lines up by edges and centres, spreads evenly, turns, groups and removes", () => {
    const choke = stampPart(row.map, PACKAGES[3]!, { xMm: 90, yMm: 90 }, "front");
    const ids = ["M1", "L1"];
    const edges = (map: BoardMap) => map.parts.filter((part) => ids.includes(part.id)).map((part) => part.xMm);
    expect(edges(align(choke.map, ids, "left"))).toEqual([80, 78]);
    expect(edges(align(choke.map, ids, "right"))).toEqual([88, 90]);
    expect(edges(align(choke.map, ids, "centre-x"))).toEqual([85, 85]);
    const uneven = moveThings(row.map, ["M2"], 0, 5);
    expect(placesOf(spreadOut(uneven, row.ids, "yMm"))).toEqual(placesOf(row.map));
    expect(turnThings(one.map, ["M1"]).parts[0]).toMatchObject({ widthMm: 12, heightMm: 14, xMm: 80 });
    const grouped = setGroup(row.map, ["M1", "M2"], true);
    expect(withGroups(grouped, ["M2"]).sort()).toEqual(["M1", "M2"]);
    expect(thingsOf(removeThings(row.map, ["M1", DIE_ID])).map((thing) => thing.id)).toEqual(["M2", "M3"]);
  });

  it("catches on the lines of other parts, else on the grid", () => {
    expect(snapped(row.map, ["M1"], 0.3, 0.1, 0.5, 0.7)).toMatchObject({ dxMm: 0, lineXMm: 80 });
    expect(snapped(row.map, ["M1"], 20.2, -7.4, 0.5, 0.7)).toMatchObject({ dxMm: 20, dyMm: -7.5, lineXMm: null });
  });

  it("moving back and mirroring twice lead back to where it was", () => {
    const step = fc.integer({ min: -4000, max: 4000 }).map((hundredths) => hundredths / 100);
    fc.assert(
      fc.property(step, step, (dx, dy) => {
        expect(placesOf(moveThings(moveThings(row.map, row.ids, dx, dy), row.ids, -dx, -dy))).toEqual(
          placesOf(row.map),
        );
        const moved = moveThings(one.map, one.ids, dx, dy);
        const there = mirrorCopy(moved, one.ids, "left-right");
        const back = mirrorCopy(there.map, there.ids, "left-right");
        expect(back.map.parts.at(-1)?.xMm).toBeCloseTo(moved.parts[0]?.xMm ?? 0, 6);
      }),
    );
  });
});

describe("what does not hold together on a map", () => {
  const part = stampPart(WITH_DIE, memory, { xMm: 80, yMm: 30 }, "front").map;
  it.each([
    ["overlapping parts", stampPart(part, memory, { xMm: 85, yMm: 30 }, "front").map, "M2", /M2 overlaps M1/],
    ["a part over the die", moveThings(part, ["M1"], 40, 22), "M1", /M1 overlaps The die/],
    ["a part off the board", moveThings(part, ["M1"], -78, 0), "M1", /off the board/],
    ["no die", { ...EMPTY_MAP }, DIE_ID, /no die yet/],
    ["a die without screws", part, DIE_ID, /no screws/],
    ["inches typed as height", { ...part, parts: [{ ...part.parts[0]!, tallMm: 25.4 }] }, "M1", /inches/],
  ])("%s is named beside the thing", (_, map, id, words) => {
    const found = checkMap(map).find((fault) => words.test(fault.text));
    expect(found?.id).toBe(id);
  });

  it("two cooler screws in one place are one too many; a shroud's screw may sit over one, a bracket's beside the board", () => {
    const two = addScrew(addScrew(part, { xMm: 95, yMm: 25 }).map, { xMm: 95.2, yMm: 25.1 }).map;
    expect(checkMap(two).map(({ code, id }) => [code, id])).toEqual([["same-place", "S2"]]);
    const layered = (layer: Layer, xMm: number): BoardMap => ({
      ...two,
      screws: two.screws.map((screw) => (screw.id === "S2" ? { ...screw, layer, xMm } : screw)),
    });
    expect(checkMap(layered("shroud", 95.2))).toEqual([]);
    expect(checkMap(layered("bracket", -12))).toEqual([]);
    expect(pullingScrews(layered("shroud", 95.2)).map(({ id }) => id)).toEqual(["S1"]);
    const idle = {
      ...two,
      screws: two.screws.map((one, index) => (index === 1 ? { ...one, xMm: 60, forceN: 0 } : one)),
    };
    expect(checkMap(idle)).toMatchObject([{ code: "no-travel", id: "S2", hinders: false }]);
    const alone = { ...two, screws: two.screws.map((screw) => ({ ...screw, leaveAlone: true })) };
    expect(checkMap(alone).map(({ code }) => code)).toContain("no-screws");
  });

  it("parts on the other side don't overlap", () => {
    const both = stampPart(part, memory, { xMm: 80, yMm: 30 }, "back").map;
    expect(checkMap(both).map((fault) => fault.code)).not.toContain("overlap");
  });
});

describe("straightening a photo", () => {
  const MARKS: Point[] = [
    [102, 611],
    [905, 570],
    [860, 95],
    [150, 140],
  ];
  const CORNERS: Point[] = [
    [0, 104],
    [240, 104],
    [240, 0],
    [0, 0],
  ];

  it("takes the four marks to the four corners, as a general linear solver finds it", () => {
    const h = homography(MARKS, CORNERS);
    MARKS.forEach((mark, index) => {
      const [x, y] = mapped(h, mark);
      expect(x).toBeCloseTo(CORNERS[index]?.[0] ?? 0, 6);
      expect(y).toBeCloseTo(CORNERS[index]?.[1] ?? 0, 6);
    });
    const rows = MARKS.flatMap(([x, y], index) => {
      const [u, v] = CORNERS[index] ?? [0, 0];
      return [
        [x, y, 1, 0, 0, 0, -u * x, -u * y],
        [0, 0, 0, x, y, 1, -v * x, -v * y],
      ];
    });
    const expected = solve(new Matrix(rows), Matrix.columnVector(CORNERS.flat())).to1DArray();
    expected.forEach((value, index) => expect(h[index]).toBeCloseTo(value, 8));
  });

  it("keeps straight lines straight: the crossing of the diagonals comes to the middle", () => {
    // Crossing of the marks' diagonals by hand: intersection of two lines.
    const [a, b, c, d] = MARKS as [Point, Point, Point, Point];
    const t =
      ((b[0] - a[0]) * (d[1] - b[1]) - (b[1] - a[1]) * (d[0] - b[0])) /
      ((c[0] - a[0]) * (d[1] - b[1]) - (c[1] - a[1]) * (d[0] - b[0]));
    const [x, y] = mapped(homography(MARKS, CORNERS), [a[0] + t * (c[0] - a[0]), a[1] + t * (c[1] - a[1])]);
    expect(x).toBeCloseTo(120, 6);
    expect(y).toBeCloseTo(52, 6);
  });

  it("fetches every pixel from where it was", () => {
    // Left half black, right half white, seen at a slant of one pixel per row.
    const size = 40;
    const pixels = new Uint8ClampedArray(size * size * 4).fill(255);
    for (let y = 0; y < size; y++)
      for (let x = 0; x < size; x++) if (x < 15 + y / 4) pixels.fill(0, 4 * (y * size + x), 4 * (y * size + x) + 3);
    const straight = straighten(
      pixels,
      size,
      size,
      [
        [10, 40],
        [40, 40],
        [30, 0],
        [0, 0],
      ],
      { width: 30, height: 40 },
    );
    const red = (x: number, y: number): number => straight[4 * (y * 30 + x)] ?? -1;
    for (const y of [2, 20, 37]) {
      expect(red(12, y)).toBeLessThan(30);
      expect(red(18, y)).toBeGreaterThan(225);
    }
  });

  it("refuses marks on one line", () => {
    expect(() =>
      homography(
        [
          [0, 0],
          [1, 1],
          [2, 2],
          [5, 0],
        ],
        CORNERS,
      ),
    ).toThrow(/one line/);
  });
});

it("a map is drawn in millimetres, y down", () => {
  const svg = mapToSvg(
    addScrew(stampPart(WITH_DIE, memory, { xMm: 80, yMm: 30 }, "front").map, { xMm: 95, yMm: 25 }).map,
  );
  expect(svg).toContain('width="240mm" height="104mm" viewBox="0 0 240 104"');
  expect(svg).toContain('x="73" y="68" width="14" height="12"');
  expect(svg).toContain('cx="95" cy="79" r="1.6"');
});
