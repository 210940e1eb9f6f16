import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addScrew, type BoardMap, EMPTY_MAP, moveThings, PACKAGES, stampPart } from "#core/boardmap/index.ts";
import { historyAfter, type PlanHistory, type PlanStep } from "../parts/board/plan-history.ts";

const BEGUN: PlanHistory<BoardMap> = { map: EMPTY_MAP, past: [], future: [], picked: [] };
const after = (steps: readonly PlanStep<BoardMap>[], from = BEGUN): PlanHistory<BoardMap> =>
  steps.reduce(historyAfter, from);
const stamp = (map: BoardMap, xMm: number): PlanStep<BoardMap> => {
  const added = stampPart(map, PACKAGES[0]!, { xMm, yMm: 50 }, "front");
  return { type: "change", map: added.map, what: "Stamp", picked: added.ids };
};
const UNDO: PlanStep<BoardMap> = { type: "undo" };
const REDO: PlanStep<BoardMap> = { type: "redo" };

describe("undo and redo of a map", () => {
  const one = after([stamp(EMPTY_MAP, 50)]);
  const two = after([stamp(one.map, 90)], one);

  it("go back to the empty map and forward to the last, however many steps", () => {
    let state = BEGUN;
    for (let k = 0; k < 300; k++) state = after([stamp(state.map, 10 + k)], state);
    const back = after(
      Array.from({ length: 300 }, () => UNDO),
      state,
    );
    expect(back.map).toBe(EMPTY_MAP);
    expect(after([UNDO], back)).toBe(back);
    expect(
      after(
        Array.from({ length: 300 }, () => REDO),
        back,
      ).map,
    ).toEqual(state.map);
    expect(after([REDO], state)).toBe(state);
  });

  it("forget what was undone once something else is done", () => {
    const other = after(
      [UNDO, { type: "change", map: addScrew(one.map, { xMm: 5, yMm: 5 }).map, what: "Add a screw" }],
      two,
    );
    expect(other.future).toEqual([]);
    expect(after([REDO], other)).toBe(other);
    expect(after([UNDO], other).map).toBe(one.map);
  });

  it("take nudges of one kind on the same things as one step, others not", () => {
    const nudge = (map: BoardMap, what: string): PlanStep<BoardMap> => ({
      type: "change",
      map: moveThings(map, ["M1"], 0.5, 0),
      what,
      merge: true,
    });
    let state = one;
    for (let k = 0; k < 5; k++) state = after([nudge(state.map, "Nudge M1")], state);
    expect(state.map.parts[0]?.xMm).toBe(52.5);
    expect(after([UNDO], state).map.parts[0]?.xMm).toBe(50);
    const apart = after([nudge(state.map, "Nudge M1 M2")], state);
    expect(after([UNDO], apart).map.parts[0]?.xMm).toBe(52.5);
  });

  it("keep what is picked, and a change that changes nothing is no step", () => {
    expect(two.picked).toEqual(["M2"]);
    const picked = after([{ type: "pick", ids: ["M1"] }], two);
    expect(picked.past).toBe(two.past);
    expect(after([{ type: "change", map: two.map, what: "Nothing" }], two)).toBe(two);
  });

  it("any walk back and forth ends where counting says", () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom("do", "undo", "redo"), { maxLength: 40 }), (walk) => {
        const maps = [EMPTY_MAP];
        let at = 0;
        let state = BEGUN;
        walk.forEach((what, k) => {
          if (what === "do") {
            state = after([stamp(state.map, k)], state);
            maps.splice(at + 1, maps.length, state.map);
            at++;
          } else if (what === "undo") {
            state = after([UNDO], state);
            at = Math.max(0, at - 1);
          } else {
            state = after([REDO], state);
            at = Math.min(maps.length - 1, at + 1);
          }
        });
        expect(state.map).toBe(maps[at]);
      }),
    );
  });
});
