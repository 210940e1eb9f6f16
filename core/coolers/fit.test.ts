import loadHighs from "highs";
import { describe, expect, it } from "vitest";
import { Problem } from "../problem/index.ts";
import { type Random, seeded } from "../random/index.ts";
import { assign } from "./assign.ts";
import { type Fit, type FitInput, fit, readFit } from "./index.ts";
import { matchPosts } from "./match.ts";

/** Four posts about the die, one face left of it with a memory package under it: all figures below are worked out by hand. */
const file = () => ({
  board: {
    widthMm: 240,
    heightMm: 100,
    thicknessMm: 1.6,
    die: { xMm: 120, yMm: 52, widthMm: 20, heightMm: 22, tallMm: 2.4 },
    parts: [{ id: "m1", kind: "memory", xMm: 85, yMm: 60, widthMm: 14, heightMm: 12, tallMm: 1.2 as number | null }],
    holes: [-1, 1].flatMap((x) =>
      [-1, 1].map((y) => ({ id: `h${x}${y}`, xMm: 120 + 25 * x + 0.1, yMm: 52 + 27 * y - 0.05, diameterMm: 3.2 })),
    ),
  },
  cooler: {
    plate: { xMm: 0, yMm: 0, widthMm: 40, heightMm: 40, metal: "copper" },
    faces: [{ id: "f1", xMm: -35, yMm: 8, widthMm: 20, heightMm: 60, levelMm: 0.2, for: "pad" }],
    posts: [-1, 1].flatMap((x) =>
      [-1, 1].map((y) => ({
        id: `p${x}${y}`,
        xMm: 25 * x,
        yMm: 27 * y,
        thread: "M2.5",
        holeDepthMm: 5,
        levelMm: 0.6,
      })),
    ),
    mayTurn: false,
  },
  screws: [{ id: "short", thread: "M2.5", lengthMm: 7.5, washerMm: 0.5, quantity: 8 as number | null }],
});
type File = ReturnType<typeof file>;
const fitted = (change: (task: File) => void = () => undefined): Fit => {
  const task = file();
  change(task);
  return fit(readFit(task));
};
const at = <T>(list: readonly T[], index: number): T => {
  const one = list[index];
  if (one === undefined) throw new Error(`nothing at ${index}`);
  return one;
};
const codes = ({ reasons }: Fit): string[] => reasons.map(({ code, id }) => `${code} ${id}`);

describe("a cooler on a board", () => {
  it("is shifted onto its holes, screwed and padded as worked out by hand", () => {
    const found = fitted();
    expect(found.fits).toBe(true);
    expect(found.shiftMm.x).toBeCloseTo(0.1, 9);
    expect(found.shiftMm.y).toBeCloseTo(-0.05, 9);
    for (const post of found.posts) {
      // 7.5 − 0.5 − 1.6 − (2.4 + 0.6 + 0.02)
      expect(post.engagementMm).toBeCloseTo(2.38, 9);
      expect(post.offMm).toBeCloseTo(0, 9);
      expect(post.holeId).toBe(post.postId.replace("p", "h"));
    }
    expect(found.gaps).toEqual([{ partId: "m1", faceId: "f1", gapMm: expect.closeTo(1.4, 9), coveredPct: 100 }]);
    expect(found.reasons).toEqual([]);
  });

  it("says which post has no hole and leaves the others theirs", () => {
    const found = fitted((task) => void task.board.holes.pop());
    expect(found.fits).toBe(false);
    expect(codes(found)).toEqual(["hole-missing p11"]);
    expect(found.posts.filter(({ holeId }) => holeId !== null)).toHaveLength(3);
  });

  it.each([
    ["too short", 7.11, false],
    ["just long enough: 0.8 diameters", 7.12, true],
    ["just short enough: 0.3 mm above the bottom", 9.82, true],
    ["too long", 9.83, false],
  ])("takes no screw that is %s", (_, lengthMm, fits) => {
    expect(fitted((task) => void (at(task.screws, 0).lengthMm = lengthMm)).fits).toBe(fits);
  });

  it("says so where too few screws are at hand, or none has the thread", () => {
    expect(codes(fitted((task) => void (at(task.screws, 0).quantity = 3)))).toEqual(["screw-missing p11"]);
    const other = fitted((task) => void (at(task.screws, 0).thread = "6-32 UNC"));
    expect(at(other.reasons, 0).text).toContain("none has M2.5");
  });

  it("lets a part stand up to the face above it, into a pocket of the plate, and anywhere in free air", () => {
    const tall = (xMm: number, tallMm: number, more: (task: File) => void = () => undefined): Fit =>
      fitted((task) => {
        task.board.parts.push({ id: "x", kind: "connector", xMm, yMm: 52, widthMm: 4, heightMm: 4, tallMm });
        more(task);
      });
    expect(tall(82, 2.6).collisions).toEqual([]);
    expect(tall(82, 3.2).collisions).toEqual([{ partId: "x", byMm: expect.closeTo(0.6, 9) }]);
    expect(tall(200, 30).fits).toBe(true);
    expect(tall(136, 3).collisions).toEqual([{ partId: "x", byMm: expect.closeTo(0.6, 9) }]);
    const pocket = { id: "f2", xMm: 16, yMm: 0, widthMm: 6, heightMm: 6, levelMm: 1, for: "none" };
    expect(tall(136, 3, (task) => void task.cooler.faces.push(pocket)).fits).toBe(true);
    // Half a millimetre of it is left under the bare plate.
    expect(tall(138.6, 3, (task) => void task.cooler.faces.push(pocket)).collisions).toHaveLength(1);
  });

  it("names what stays uncovered, the metal and the share of the die", () => {
    const found = fitted((task) => {
      at(task.cooler.faces, 0).for = "none";
      task.cooler.plate = { xMm: 5, yMm: 0, widthMm: 20, heightMm: 40, metal: "aluminium" };
    });
    expect(found.uncovered).toEqual(["m1"]);
    // The plate's left edge lies 5.1 mm inside a die of 20 mm.
    expect(found.dieCoveredPct).toBeCloseTo(74.5, 6);
    expect(codes(found)).toEqual(["die-not-covered die", "part-uncovered m1", "plate-metal plate"]);
  });

  it("turns by half where it may and only then fits; a drawing from the other side is recognised", () => {
    const uneven = (task: File, factor: -1 | 1): void => {
      at(task.cooler.posts, 0).xMm = factor * -31;
      at(task.cooler.posts, 0).yMm = factor * -20;
      const hole = at(task.board.holes, 0);
      hole.xMm = 120 - 31;
      hole.yMm = 52 - 20;
    };
    expect(fitted((task) => uneven(task, 1)).turned).toBe(false);
    const drawnTurned = (mayTurn: boolean): Fit =>
      fitted((task) => {
        uneven(task, 1);
        task.cooler.posts.forEach((post) => {
          post.xMm *= -1;
          post.yMm *= -1;
        });
        task.cooler.mayTurn = mayTurn;
      });
    expect(drawnTurned(true)).toMatchObject({ fits: true, turned: true });
    expect(drawnTurned(false)).toMatchObject({ fits: false, turned: false });
    const mirrored = fitted((task) => {
      uneven(task, 1);
      task.cooler.posts.forEach((post) => {
        post.xMm *= -1;
      });
    });
    expect(mirrored).toMatchObject({ fits: false, looksMirrored: true });
  });

  it("says how far a post stands off the board: the die’s height, the post’s level and the compound", () => {
    const found = fitted((task) => {
      task.board.die.tallMm = 2.4;
      at(task.cooler.posts, 0).levelMm = -1.9;
    });
    expect(at(found.posts, 0).standsOffMm).toBeCloseTo(2.4 - 1.9 + 0.02, 9);
  });

  it("does not judge a part of which nobody knows how tall it is", () => {
    const found = fitted((task) => void (at(task.board.parts, 0).tallMm = null));
    expect(found).toMatchObject({ fits: true, heightUnknown: ["m1"], collisions: [] });
    expect(at(found.gaps, 0).gapMm).toBeNull();
  });

  it.each<[string, (task: File) => void, RegExp]>([
    ["no plate", (task) => void Reflect.deleteProperty(task.cooler, "plate"), /no plate/],
    ["a thread that is none", (task) => void (at(task.cooler.posts, 0).thread = "wood"), /“wood” is no thread/],
    ["a metal that is none", (task) => void (task.cooler.plate.metal = "tin"), /no metal/],
    ["one id twice", (task) => void (at(task.board.holes, 1).id = "h-1-1"), /twice/],
    ["a width of 0", (task) => void (task.cooler.plate.widthMm = 0), /below/],
    [
      "more holes than a board has",
      (task) => void (task.board.holes = Array(201).fill(at(task.board.holes, 0))),
      /200/,
    ],
  ])("refuses %s", (_, change, words) => {
    const task = file();
    change(task);
    expect(() => readFit(task)).toThrow(Problem);
    expect(() => readFit(task)).toThrow(words);
  });
});

describe("posts and holes", () => {
  /** Every way to give posts holes or none, each with its shift by bisecting a convex function in both directions: slow and plain. */
  function slow(posts: Place[], holes: Array<Place & { diameterMm: number }>): { served: number; overMm: number } {
    let best = { served: 0, overMm: 0 };
    const least = (low: number, high: number, of: (x: number) => number): number => {
      let [a, b] = [low, high];
      for (let k = 0; k < 80; k++) {
        const [p, q] = [a + (b - a) / 3, b - (b - a) / 3];
        if (of(p) < of(q)) b = q;
        else a = p;
      }
      return of((a + b) / 2);
    };
    const go = (post: number, taken: number[], chosen: Array<[number, number, number]>): void => {
      if (post === posts.length) {
        if (chosen.length < best.served || chosen.length === 0) return;
        const overMm = least(-9, 9, (x) =>
          least(-9, 9, (y) => Math.max(...chosen.map(([dx, dy, a]) => Math.hypot(dx - x, dy - y) - a))),
        );
        if (overMm <= 1e-7 && (chosen.length > best.served || overMm < best.overMm))
          best = { served: chosen.length, overMm };
        return;
      }
      go(post + 1, taken, chosen);
      const { xMm, yMm } = at(posts, post);
      for (const [index, hole] of holes.entries())
        if (!taken.includes(index))
          go(post + 1, [...taken, index], [...chosen, [hole.xMm - xMm, hole.yMm - yMm, (hole.diameterMm - 2.5) / 2]]);
    };
    go(0, [], []);
    return best;
  }
  interface Place {
    xMm: number;
    yMm: number;
  }
  const place = (chance: Random, wide: number): Place => ({
    xMm: chance.between(-wide, wide),
    yMm: chance.between(-wide, wide),
  });

  it("serves as many and is as little over as trying every way", () => {
    let whole = 0;
    for (let seed = 1; seed <= 8; seed++) {
      const chance = seeded(seed);
      const posts = Array.from({ length: 3 }, () => place(chance, 2.5));
      const holes = posts.map(({ xMm, yMm }) => ({
        xMm: xMm + 0.8 + chance.between(-0.6, 0.6),
        yMm: yMm + chance.between(-0.6, 0.6),
        diameterMm: chance.between(2.8, 4.5),
      }));
      const expected = slow(posts, holes);
      const found = matchPosts(
        posts.map((post) => ({ ...post, threadMm: 2.5 })),
        holes,
      );
      expect(found.pairings).toHaveLength(expected.served);
      if (expected.served === 3) {
        whole++;
        expect(found.shift.overMm).toBeCloseTo(expected.overMm, 5);
      }
    }
    expect(whole).toBeGreaterThan(2);
    expect(whole).toBeLessThan(8);
  });

  it("refuses a sieve of holes instead of looking for ever", () => {
    const sieve = Array.from({ length: 200 }, (_, k) => ({
      xMm: (k % 20) * 0.4,
      yMm: Math.floor(k / 20) * 0.4,
      diameterMm: 12,
    }));
    const posts = Array.from({ length: 30 }, (_, k) => ({
      xMm: (k % 6) * 0.5,
      yMm: Math.floor(k / 6) * 0.5,
      threadMm: 2,
    }));
    expect(() => matchPosts(posts, sieve)).toThrow(/too close together/);
  });
});

describe("screws for posts", () => {
  it("serves as many as HiGHS, an integer-programming library, and at the same cost", async () => {
    const highs = await loadHighs();
    for (let seed = 1; seed <= 12; seed++) {
      const chance = seeded(seed);
      const cost = Array.from({ length: 7 }, () =>
        Array.from({ length: 4 }, () => (chance.uniform() < 0.4 ? null : Math.round(chance.between(0, 40)) / 10)),
      );
      const quantity = Array.from({ length: 4 }, () => Math.floor(chance.between(0, 4)));
      const columns = cost.flatMap((row, place) =>
        row.flatMap((price, kind) => (price === null ? [] : [{ place, kind, price, name: `x${place}_${kind}` }])),
      );
      const sum = (of: (column: (typeof columns)[number]) => boolean): string =>
        columns
          .filter(of)
          .map(({ name }) => name)
          .join(" + ") || "0 x0_0";
      // Each place served is worth more than all costs together.
      const solved = highs.solve(
        [
          "Maximize",
          columns.map(({ name, price }) => `${(1000 - price).toFixed(3)} ${name}`).join(" + "),
          "Subject To",
          ...cost.map((_, place) => `p${place}: ${sum((one) => one.place === place)} <= 1`),
          ...quantity.map((many, kind) => `k${kind}: ${sum((one) => one.kind === kind)} <= ${many}`),
          "Binary",
          columns.map(({ name }) => name).join(" "),
          "End",
        ].join("\n"),
      );
      const given = assign({ cost, quantity });
      const served = given.filter((kind) => kind !== null).length;
      const paid = given.reduce<number>(
        (total, kind, row) => total + (kind === null ? 0 : (cost[row]?.[kind] ?? Number.NaN)),
        0,
      );
      expect(1000 * served - paid).toBeCloseTo(solved.ObjectiveValue, 6);
      quantity.forEach((many, kind) => {
        expect(given.filter((one) => one === kind).length).toBeLessThanOrEqual(many);
      });
    }
  });
});

it("answers for sixty parts, twelve posts and six kinds of screws", () => {
  const chance = seeded(5);
  const task: FitInput = readFit(file());
  const big: FitInput = {
    ...task,
    board: {
      ...task.board,
      parts: Array.from({ length: 60 }, (_, k) => ({
        ...at(task.board.parts, 0),
        id: `m${k}`,
        xMm: chance.between(0, 240),
        yMm: chance.between(0, 100),
      })),
      holes: Array.from({ length: 12 }, (_, k) => ({
        id: `h${k}`,
        xMm: 60 + 11 * k,
        yMm: 20 + ((k * 37) % 60),
        diameterMm: 3.2,
      })),
    },
    cooler: {
      ...task.cooler,
      posts: Array.from({ length: 12 }, (_, k) => ({
        ...at(task.cooler.posts, 0),
        id: `p${k}`,
        xMm: 60 + 11 * k - 120 + chance.between(-0.2, 0.2),
        yMm: 20 + ((k * 37) % 60) - 52 + chance.between(-0.2, 0.2),
      })),
    },
    screws: [6, 7, 7.5, 8, 9, 12].map((lengthMm) => ({
      ...at(task.screws, 0),
      id: `${lengthMm} mm`,
      lengthMm,
      quantity: 4,
    })),
  };
  const found = fit(big);
  expect(found.posts.every(({ holeId }) => holeId !== null)).toBe(true);
  // Four of 9 mm come first: they reach deepest; then 8, then 7.5.
  expect(found.posts.map(({ screwId }) => screwId ?? "").toSorted((a, b) => a.localeCompare(b))).toEqual(
    ["7.5 mm", "8 mm", "9 mm"].flatMap((id) => Array<string>(4).fill(id)),
  );
});
