import { describe, expect, it } from "vitest";
import { PACKAGES } from "../boardmap/index.ts";
import { proposeParts } from "./index.ts";
import { HARD, OTHER } from "./tests/drawn-board.ts";
import { tally } from "./tests/tally.ts";

describe("parts from a photo", () => {
  it.each([
    ["one whose packages have rims and shadows, bent by the lens, compressed", OTHER, [101]],
    ["a dark, blurred, tilted, cluttered one", HARD, [201]],
  ])("finds memory and die on %s", (_, conditions, seeds) => {
    const found = tally(seeds, conditions);
    expect(found.memory.precision).toBeGreaterThanOrEqual(0.9);
    expect(found.memory.recall).toBeGreaterThanOrEqual(0.85);
    expect(found.die.recall).toBeGreaterThanOrEqual(0.85);
    expect(found.holes.recall).toBeGreaterThanOrEqual(0.5);
    // What is offered to be taken in one go is nearly always there.
    expect(found.power.sure).toBeGreaterThanOrEqual(0.8);
    expect(found.power.mosfets).toBeGreaterThanOrEqual(0.6);
  });

  it("proposes nothing on an empty board", () => {
    const [width, height] = [600, 300];
    const grey = new Uint8ClampedArray(4 * width * height).map((_, k) => (k % 4 === 3 ? 255 : 90 + ((k * 7919) % 5)));
    const place = { xMm: 100, yMm: 50, widthMm: 200, heightMm: 100 };
    expect(proposeParts(grey, width, height, place, PACKAGES)).toEqual([]);
  });

  it("puts what it finds where the photo lies on the board, y upward", () => {
    const [width, height] = [800, 400];
    const pixels = new Uint8ClampedArray(4 * width * height).fill(150);
    // 4 px a millimetre; two packages of 14 × 12 mm one above the other, and their mirror images.
    for (const [left, upper] of [
      [200, 80],
      [200, 240],
      [480, 80],
      [480, 240],
    ] as const)
      for (let y = upper; y < upper + 48; y++)
        for (let x = left; x < left + 56; x++) for (let c = 0; c < 3; c++) pixels[4 * (y * width + x) + c] = 25;
    const memory = proposeParts(pixels, width, height, { xMm: 130, yMm: 60, widthMm: 200, heightMm: 100 }, PACKAGES)
      .filter(({ kind }) => kind === "memory")
      .map(({ xMm, yMm }) => [xMm, yMm]);
    expect(memory).toHaveLength(4);
    // The photo's left edge lies at 30 mm, its upper one at 110 mm.
    for (const [x, y] of [
      [30 + 50 + 7, 110 - 20 - 6],
      [30 + 50 + 7, 110 - 60 - 6],
      [30 + 120 + 7, 110 - 20 - 6],
      [30 + 120 + 7, 110 - 60 - 6],
    ] as const)
      expect(memory.some(([px = 0, py = 0]) => Math.hypot(px - x, py - y) < 0.5)).toBe(true);
  });
});
