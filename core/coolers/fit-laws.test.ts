import { expect, it } from "vitest";
import { type Random, seeded } from "../random/index.ts";
import { type Fit, type FitInput, fit, readFit } from "./index.ts";

/** What holds for every fit, whatever the board: tasks are made by chance, answers are held against one another and the words of the file format. */

const KINDS = ["memory", "mosfet", "choke", "capacitor", "connector"] as const;
const LENGTHS = [5, 6, 7, 8, 10];

/** A board with holes where the cooler's posts are, more or less, parts anywhere, screws of a few lengths. */
function made(chance: Random): FitInput {
  const die = { xMm: 110, yMm: 55, widthMm: 20, heightMm: 22, tallMm: chance.between(1.8, 2.6) };
  const posts = Array.from({ length: 2 + Math.floor(5 * chance.uniform()) }, (_, k) => ({
    id: `p${k}`,
    xMm: Math.round(chance.between(-70, 70)),
    yMm: Math.round(chance.between(-40, 40)),
    thread: chance.uniform() < 0.85 ? "M2.5" : "M3",
    holeDepthMm: chance.between(3.5, 6),
    levelMm: chance.between(0, 1.5),
  }));
  const off = { x: chance.between(-0.4, 0.4), y: chance.between(-0.4, 0.4) };
  return readFit({
    board: {
      widthMm: 240,
      heightMm: 110,
      thicknessMm: 1.6,
      die,
      parts: Array.from({ length: 14 }, (_, k) => ({
        id: `u${k}`,
        kind: chance.pick(KINDS),
        xMm: chance.between(20, 220),
        yMm: chance.between(10, 100),
        widthMm: chance.between(4, 14),
        heightMm: chance.between(4, 14),
        tallMm: chance.uniform() < 0.1 ? null : chance.between(0.6, 3.2),
      })),
      holes: posts.flatMap((post, k) =>
        chance.uniform() < 0.92
          ? [
              {
                id: `h${k}`,
                xMm: die.xMm + post.xMm + off.x + chance.between(-0.15, 0.15),
                yMm: die.yMm + post.yMm + off.y + chance.between(-0.15, 0.15),
                diameterMm: 3.2,
              },
            ]
          : [],
      ),
    },
    cooler: {
      plate: {
        xMm: 0,
        yMm: 0,
        widthMm: chance.between(15, 45),
        heightMm: 40,
        metal: chance.pick(["copper", "aluminium"]),
      },
      faces: Array.from({ length: 5 }, (_, k) => ({
        id: `f${k}`,
        xMm: chance.between(-80, 80),
        yMm: chance.between(-40, 40),
        widthMm: chance.between(8, 40),
        heightMm: chance.between(8, 40),
        levelMm: chance.between(-0.8, 2),
        for: chance.pick(["pad", "paste", "none"]),
      })),
      posts,
      mayTurn: chance.uniform() < 0.3,
    },
    screws: LENGTHS.map((lengthMm) => ({
      id: `${lengthMm}`,
      thread: "M2.5",
      lengthMm,
      washerMm: chance.pick([0, 0.5]),
      quantity: chance.pick([null, 1, 2, 4]),
    })),
  });
}
const TASKS = Array.from({ length: 120 }, (_, k) => made(seeded(900 + k)));
const all = TASKS.map((task) => ({ task, found: fit(task) }));

it("made tasks show both ends: coolers that go on and coolers that do not, for every reason", () => {
  const codes = new Set(all.flatMap(({ found }) => found.reasons.map(({ code }) => code)));
  expect([...codes].toSorted()).toEqual(
    ["collision", "die-not-covered", "hole-missing", "part-uncovered", "plate-metal", "screw-missing"].toSorted(),
  );
});

it("every post over a hole is within its allowance, no hole is used twice, no screw more often than there are", () => {
  for (const { task, found } of all) {
    const holes = found.posts.flatMap(({ holeId }) => (holeId === null ? [] : [holeId]));
    expect(new Set(holes).size).toBe(holes.length);
    for (const post of found.posts) {
      const thread = task.cooler.posts.find(({ id }) => id === post.postId)?.thread === "M3" ? 3 : 2.5;
      const hole = task.board.holes.find(({ id }) => id === post.holeId);
      if (hole) expect(post.offMm).toBeLessThanOrEqual((hole.diameterMm - thread) / 2 + 1e-9);
      else expect([post.offMm, post.screwId, post.engagementMm]).toEqual([null, null, null]);
    }
    for (const { id, quantity } of task.screws)
      expect(found.posts.filter(({ screwId }) => screwId === id).length).toBeLessThanOrEqual(
        quantity ?? Number.POSITIVE_INFINITY,
      );
  }
});

it("every screw holds as the format says: 0.8 diameters at least, 0.3 mm short of the bottom", () => {
  for (const { task, found } of all)
    for (const { postId, screwId, engagementMm } of found.posts) {
      if (screwId === null) continue;
      const post = task.cooler.posts.find(({ id }) => id === postId);
      const screw = task.screws.find(({ id }) => id === screwId);
      if (!post || !screw) throw new Error("A screw or a post that is not there.");
      const through = task.board.thicknessMm + task.board.die.tallMm + post.levelMm + 0.02;
      expect(engagementMm).toBeCloseTo(screw.lengthMm - (screw.washerMm ?? 0) - through, 9);
      expect(engagementMm).toBeGreaterThanOrEqual(0.8 * 2.5 - 1e-9);
      expect(engagementMm).toBeLessThanOrEqual(post.holeDepthMm - 0.3 + 1e-9);
      expect(post.thread).toBe("M2.5");
    }
});

it("it fits where nothing hinders, and every part that takes heat away is under a face or named", () => {
  const hinders = new Set(["hole-missing", "screw-missing", "collision", "die-not-covered"]);
  for (const { task, found } of all) {
    expect(found.fits).toBe(!found.reasons.some(({ code }) => hinders.has(code)));
    const warm = task.board.parts.filter(({ kind }) => kind !== "connector").map(({ id }) => id);
    const reached = new Set(found.gaps.map(({ partId }) => partId));
    expect(new Set([...reached, ...found.uncovered])).toEqual(new Set(warm));
    expect(found.uncovered.some((id) => reached.has(id))).toBe(false);
    for (const { coveredPct } of found.gaps) {
      expect(coveredPct).toBeGreaterThan(0);
      expect(coveredPct).toBeLessThanOrEqual(100);
    }
  }
});

/** What does not depend on names and order. */
const core = ({ fits, turned, dieCoveredPct, collisions, posts }: Fit) => ({
  fits,
  turned,
  dieCoveredPct: Math.round(1e6 * dieCoveredPct),
  collisions: collisions.map(({ byMm }) => Math.round(1e6 * byMm)).toSorted((a, b) => a - b),
  served: posts.filter(({ holeId }) => holeId !== null).length,
  screwed: posts.filter(({ screwId }) => screwId !== null).length,
  spare: Math.round(1e6 * posts.reduce((sum, { engagementMm }) => sum + (engagementMm ?? 0), 0)),
});

it("is the same wherever the board lies, and in whatever order its things are listed", () => {
  for (const [index, { task, found }] of all.entries()) {
    const by = <T extends { xMm: number; yMm: number }>(one: T): T => ({ ...one, xMm: one.xMm + 7, yMm: one.yMm - 3 });
    const { board, cooler } = task;
    const moved = fit({
      ...task,
      board: { ...board, die: by(board.die), parts: board.parts.map(by), holes: board.holes.map(by) },
    });
    expect(core(moved)).toEqual(core(found));
    expect(moved.shiftMm.x).toBeCloseTo(found.shiftMm.x, 6);
    const chance = seeded(index);
    const shuffled = fit({
      board: { ...board, parts: chance.shuffled(board.parts), holes: chance.shuffled(board.holes) },
      cooler: { ...cooler, faces: chance.shuffled(cooler.faces), posts: chance.shuffled(cooler.posts) },
      screws: chance.shuffled(task.screws),
    });
    expect(core(shuffled)).toEqual(core(found));
  }
});

it("a cooler and its board seen in a mirror fit alike; half a turn of both changes nothing", () => {
  for (const { task, found } of all) {
    const seen = (sx: 1 | -1, sy: 1 | -1): Fit => {
      const { board, cooler } = task;
      const about = <T extends { xMm: number; yMm: number }>(one: T): T => ({
        ...one,
        xMm: board.die.xMm + sx * (one.xMm - board.die.xMm),
        yMm: board.die.yMm + sy * (one.yMm - board.die.yMm),
      });
      const own = <T extends { xMm: number; yMm: number }>(one: T): T => ({
        ...one,
        xMm: sx * one.xMm,
        yMm: sy * one.yMm,
      });
      return fit({
        ...task,
        board: { ...board, parts: board.parts.map(about), holes: board.holes.map(about) },
        cooler: { ...cooler, plate: own(cooler.plate), faces: cooler.faces.map(own), posts: cooler.posts.map(own) },
      });
    };
    for (const other of [seen(-1, 1), seen(1, -1), seen(-1, -1)]) expect(core(other)).toEqual(core(found));
  }
});

it("more of a good thing does no harm: another kind of screw or as many as are needed serves no fewer posts", () => {
  for (const { task, found } of all) {
    if (found.turned) continue;
    const more = fit({
      ...task,
      cooler: { ...task.cooler, mayTurn: false },
      screws: task.screws.map((one) => ({ ...one, quantity: null })),
    });
    expect(core(more).screwed).toBeGreaterThanOrEqual(core(found).screwed);
    expect(core(more).served).toBe(core(found).served);
  }
});

it("a part that stands taller collides by as much more", () => {
  for (const { task, found } of all)
    for (const { partId, byMm } of found.collisions) {
      if (found.turned) continue;
      const taller = fit({
        ...task,
        cooler: { ...task.cooler, mayTurn: false },
        board: {
          ...task.board,
          parts: task.board.parts.map((part) =>
            part.id === partId ? { ...part, tallMm: (part.tallMm ?? 0) + 0.5 } : part,
          ),
        },
      });
      expect(taller.collisions.find((one) => one.partId === partId)?.byMm).toBeCloseTo(byMm + 0.5, 9);
    }
});
