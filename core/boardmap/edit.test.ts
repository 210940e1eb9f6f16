import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  addPlug,
  addScrew,
  align,
  type BoardMap,
  checkMap,
  DIE_ID,
  EMPTY_MAP,
  HEADS,
  HIDDEN_BY,
  LAYERS,
  makeRow,
  mapFromShapes,
  mapToSvg,
  mirrorCopy,
  moveThings,
  overlap,
  PACKAGES,
  removeThings,
  sameThings,
  setGroup,
  snapped,
  spreadOut,
  stampPart,
  THREADS,
  thingsFrom,
  thingsOf,
  turnedOver,
  turnThings,
  withGroups,
} from "./index.ts";

const WITH_DIE: BoardMap = { ...EMPTY_MAP, die: { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22 } };
const hundredths = fc.integer({ min: 500, max: 20_000 }).map((one) => one / 100);

/** Of the screw that was added last: what it is, any of it not known. */
function withKind(map: BoardMap, pick: number): BoardMap {
  const one = <T>(list: readonly T[], shift: number): T | null => list[(pick >> shift) % (list.length + 1)] ?? null;
  const kind = {
    thread: one(THREADS, 0),
    head: one(HEADS, 3),
    layer: one(LAYERS, 6),
    lengthMm: pick % 3 === 0 ? null : 4 + (pick % 9) / 2,
    driver: pick % 2 === 0 ? "" : "PH0",
    side: pick % 5 === 0 ? ("front" as const) : ("back" as const),
    hiddenBy: one(HIDDEN_BY, 9) ?? "nothing",
    leaveAlone: pick % 7 === 0,
  };
  return {
    ...map,
    screws: map.screws.map((screw, index) => (index === map.screws.length - 1 ? { ...screw, ...kind } : screw)),
  };
}

/** A map as a hand draws it: stamps, screws, rows, mirror images, moves, in any order. */
const drawn = fc
  .array(
    fc.tuple(
      fc.constantFrom("stamp", "screw", "plug", "row", "mirror", "move", "turn", "remove"),
      hundredths,
      hundredths,
      fc.nat(),
    ),
    { minLength: 1, maxLength: 14 },
  )
  .map((strokes) =>
    strokes.reduce<BoardMap>((map, [what, xMm, yMm, pick]) => {
      const parts = map.parts.map((part) => part.id);
      const ids = parts.length === 0 ? [] : [parts[pick % parts.length]!];
      switch (what) {
        case "stamp":
          return stampPart(map, PACKAGES[pick % PACKAGES.length]!, { xMm, yMm }, pick % 2 ? "front" : "back").map;
        case "screw":
          return withKind(addScrew(map, { xMm, yMm }).map, pick);
        case "plug":
          return addPlug(map, { xMm, yMm }).map;
        case "row":
          return makeRow(map, ids, 3, 10, 0).map;
        case "mirror":
          return mirrorCopy(map, ids, pick % 2 ? "left-right" : "up-down").map;
        case "move":
          return moveThings(map, ids, xMm / 10, -yMm / 10);
        case "turn":
          return turnThings(map, ids);
        default:
          return removeThings(map, ids);
      }
    }, WITH_DIE),
  );

describe("whatever is drawn", () => {
  it("every thing has a name of its own, and places to a hundredth of a millimetre", () => {
    fc.assert(
      fc.property(drawn, (map) => {
        const ids = thingsOf(map).map((thing) => thing.id);
        expect(new Set(ids).size).toBe(ids.length);
        for (const { xMm, yMm } of map.parts)
          for (const mm of [xMm, yMm]) expect(Math.abs(mm * 100 - Math.round(mm * 100))).toBeLessThan(1e-6);
        expect(checkMap(map).map((fault) => fault.code)).not.toContain("same-name");
      }),
    );
  });

  it("things taken from another map are as they are there, and all else stays", () => {
    fc.assert(
      fc.property(drawn, fc.nat(), (map, seed) => {
        const ids = thingsOf(map).map((thing) => thing.id);
        const touched = ids.filter((_, index) => (seed >> (index % 20)) % 2 === 1);
        const moved = removeThings(moveThings(map, ids, 3, -2), touched.slice(0, 1));
        const found = thingsFrom(map, moved, new Set(touched));
        const wanted = moveThings(map, touched.slice(1), 3, -2);
        expect({ ...found, die: null }).toEqual({ ...wanted, die: null });
        const still = ids.filter((id) => id !== DIE_ID && !touched.slice(1).includes(id));
        expect(new Set(sameThings(map, found, ids))).toEqual(new Set(still));
      }),
    );
  });

  it("two parts are told to overlap just when they share more than a line on the same side", () => {
    fc.assert(
      fc.property(drawn, (map) => {
        const told = new Set(checkMap(map).flatMap((fault) => (fault.code === "overlap" ? [fault.id] : [])));
        const boxes = thingsOf(map).filter((thing) => thing.type !== "screw" && thing.type !== "plug");
        const shared = (a: (typeof boxes)[number], b: (typeof boxes)[number]): boolean => {
          const across =
            Math.min(a.xMm + a.widthMm / 2, b.xMm + b.widthMm / 2) -
            Math.max(a.xMm - a.widthMm / 2, b.xMm - b.widthMm / 2);
          const along =
            Math.min(a.yMm + a.heightMm / 2, b.yMm + b.heightMm / 2) -
            Math.max(a.yMm - a.heightMm / 2, b.yMm - b.heightMm / 2);
          return a.side === b.side && across > 0.0100001 && along > 0.0100001;
        };
        boxes.forEach((one, index) => {
          const earlier = boxes.slice(0, index).some((before) => shared(before, one));
          if (earlier) expect(told.has(one.id)).toBe(true);
        });
        for (const id of told) {
          const one = boxes.find((thing) => thing.id === id)!;
          expect(boxes.some((other) => other !== one && overlap(other, one))).toBe(true);
        }
      }),
    );
  });

  it("its drawing read back is the same map, but for groups", () => {
    fc.assert(
      fc.property(drawn, (map) => {
        const shapes = [...mapToSvg(map).matchAll(/<(rect|circle)\s([^>]*?)\/?>/g)].map(([, element, text]) => ({
          element: element as "rect" | "circle",
          attributes: Object.fromEntries(
            [...(text ?? "").matchAll(/([\w-]+)="([^"]*)"/g)].map(([, name, value]) => [name, value!]),
          ),
        }));
        const { widthMm, heightMm, thicknessMm } = map.board;
        const back = mapFromShapes(shapes, { width: widthMm, height: heightMm, mmPerUnit: 1, thicknessMm });
        expect(back.die).toEqual(map.die);
        expect(back.parts.map(({ id, kind, side, cooledBy, tallMm }) => [id, kind, side, cooledBy, tallMm])).toEqual(
          map.parts.map(({ id, kind, side, cooledBy, tallMm }) => [id, kind, side, cooledBy, tallMm]),
        );
        back.parts.forEach((part, k) => {
          expect(part.xMm).toBeCloseTo(map.parts[k]?.xMm ?? Number.NaN, 2);
          expect(part.yMm).toBeCloseTo(map.parts[k]?.yMm ?? Number.NaN, 2);
        });
        const kept = ({
          washerMm: _w,
          shouldered: _s,
          standoff: _o,
          xMm: _x,
          yMm: _y,
          spring: _p,
          sleeve: _l,
          ...screw
        }: BoardMap["screws"][number]) => screw;
        expect(back.screws.map(kept)).toEqual(map.screws.map(kept));
        expect(back.plugs).toEqual(
          map.plugs.map((plug) => ({ ...plug, xMm: expect.closeTo(plug.xMm, 2), yMm: expect.closeTo(plug.yMm, 2) })),
        );
      }),
    );
  });
});

describe("a board that is turned over", () => {
  it("has its right at the left, stays as far from its edges, and is as it was when turned again", () => {
    fc.assert(
      fc.property(drawn, (map) => {
        const over = turnedOver(map);
        thingsOf(over).forEach((thing, index) => {
          const was = thingsOf(map)[index];
          expect(thing.xMm + (was?.xMm ?? 0)).toBeCloseTo(map.board.widthMm, 2);
          expect(thing.yMm).toBe(was?.yMm);
        });
        expect(thingsOf(turnedOver(over)).map(({ xMm }) => xMm)).toEqual(
          thingsOf(map).map(({ xMm }) => expect.closeTo(xMm, 2)),
        );
      }),
    );
  });
});

describe("the finer points of drawing", () => {
  const row = (() => {
    const one = stampPart(WITH_DIE, PACKAGES[0]!, { xMm: 40, yMm: 30 }, "front");
    return makeRow(one.map, one.ids, 3, 0, 16);
  })();

  it("a row of screws keeps their pull; a mirrored group is no group, and the die is never copied", () => {
    const screw = addScrew(WITH_DIE, { xMm: 95, yMm: 25 });
    const strong = { ...screw.map, screws: screw.map.screws.map((one) => ({ ...one, forceN: 61, shouldered: true })) };
    const both = mirrorCopy(strong, [...screw.ids, DIE_ID], "left-right");
    expect(both.map.screws[1]).toMatchObject({ id: "S2", xMm: 145, forceN: 61, shouldered: true });
    expect(both.ids).toEqual(["S2"]);
    const grouped = mirrorCopy(setGroup(row.map, row.ids, true), row.ids, "left-right");
    expect(grouped.map.parts.slice(3).every((part) => part.group === null)).toBe(true);
    expect(withGroups(grouped.map, ["M1"]).sort()).toEqual(["M1", "M2", "M3"]);
    expect(withGroups(setGroup(grouped.map, ["M1", "M2", "M3"], false), ["M1"])).toEqual(["M1"]);
  });

  it("parts on the back are cooled by the backplate, capacitors by nothing, until told otherwise", () => {
    expect(stampPart(WITH_DIE, PACKAGES[0]!, { xMm: 40, yMm: 30 }, "back").map.parts[0]?.cooledBy).toBe("backplate");
    const capacitor = PACKAGES.find((pack) => pack.kind === "capacitor")!;
    expect(stampPart(WITH_DIE, capacitor, { xMm: 40, yMm: 30 }, "front").map.parts[0]?.cooledBy).toBe("none");
  });

  it("lines up tops and bottoms of unlike parts, and one alone stays where it is", () => {
    const mixed = stampPart(row.map, PACKAGES[3]!, { xMm: 70, yMm: 80 }, "front");
    const ids = ["M1", "L1"];
    const ends = (map: BoardMap, sign: 1 | -1) =>
      map.parts.filter((part) => ids.includes(part.id)).map((part) => part.yMm + (sign * part.heightMm) / 2);
    expect(ends(align(mixed.map, ids, "top"), 1)).toEqual([85, 85]);
    expect(ends(align(mixed.map, ids, "bottom"), -1)).toEqual([24, 24]);
    expect(align(mixed.map, ["M1"], "top")).toBe(mixed.map);
    expect(spreadOut(row.map, row.ids, "yMm").parts.map((part) => part.yMm)).toEqual([30, 46, 62]);
  });

  it("a drag catches on an edge as well as on a centre, and on nothing that moves with it", () => {
    // Left edge of M1 at 33; the choke's own left edge comes within reach of it.
    const beside = stampPart(row.map, PACKAGES[3]!, { xMm: 60, yMm: 90 }, "front");
    const found = snapped(beside.map, ["L1"], -21.6, 0, 0.5, 0.7);
    expect(found).toMatchObject({ lineXMm: 33 });
    expect(60 + found.dxMm - 5).toBeCloseTo(33, 9);
    const together = snapped(beside.map, [...row.ids, "L1"], 3.3, 2.2, 0.5, 0.2);
    expect([together.dxMm, together.dyMm]).toEqual([3.5, 2]);
  });
});
