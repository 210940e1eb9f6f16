import { describe, expect, it } from "vitest";
import { PACKAGES } from "../boardmap/index.ts";
import { proposeParts } from "./index.ts";
import { HARD, OTHER } from "./tests/drawn-board.ts";
import { tally } from "./tests/tally.ts";

/** Something grey on a board, mm from its upper left corner. */
interface Painted {
  x: number;
  y: number;
  w: number;
  h?: number;
  grey: number;
  round?: boolean;
}

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
    const [width, height] = [300, 150];
    const grey = new Uint8ClampedArray(4 * width * height).map((_, k) => (k % 4 === 3 ? 255 : 90 + ((k * 7919) % 5)));
    const place = { xMm: 50, yMm: 25, widthMm: 100, heightMm: 50 };
    expect(proposeParts(grey, width, height, place, PACKAGES)).toEqual([]);
  });

  const GREEN = [45, 110, 70] as const;
  const PX = 5;
  /** What is painted on a small green board of 110 × 50 mm, in mm from its upper left corner, is proposed as what. */
  const proposed = (...things: Painted[]) => {
    const [width, height] = [110 * PX, 50 * PX];
    const pixels = new Uint8ClampedArray(4 * width * height);
    for (let at = 0; at < width * height; at++) pixels.set([...GREEN, 255], 4 * at);
    for (const { x, y, w, h = w, grey, round = false } of things)
      for (let py = Math.round((y - h / 2) * PX); py < (y + h / 2) * PX; py++)
        for (let px = Math.round((x - w / 2) * PX); px < (x + w / 2) * PX; px++)
          if (!round || Math.hypot(px + 0.5 - x * PX, py + 0.5 - y * PX) <= (w / 2) * PX)
            pixels.set([grey, grey, grey, 255], 4 * (py * width + px));
    const place = { xMm: 55, yMm: 25, widthMm: 110, heightMm: 50 };
    return proposeParts(pixels, width, height, place, PACKAGES).map((one) => ({ ...one, y: 50 - one.yMm }));
  };
  const row = (grey: number, w: number, count: number) =>
    Array.from({ length: count }, (_, k) => ({ x: 15 + 12 * k, y: 20, w, grey }));

  it("sees chokes in a row by their grey, as bright as the board; takes the one in their middle that hardly shows", () => {
    // The luma of the board’s green is 86.
    const found = proposed(...row(86, 7, 6)).filter(({ kind }) => kind === "choke");
    expect(found.map(({ xMm }) => Math.round(xMm)).toSorted((a, b) => a - b)).toEqual([15, 27, 39, 51, 63, 75]);
    for (const { y, widthMm, confidence } of found) {
      expect(Math.abs(y - 20)).toBeLessThan(0.6);
      expect(widthMm).toBe(7);
      expect(confidence).toBeGreaterThanOrEqual(0.8);
    }
    const faint = row(86, 7, 6).filter((_, k) => k !== 3);
    const gap = proposed(...faint, { x: 51, y: 20, w: 7, h: 4.5, grey: 86 }).filter(({ kind }) => kind === "choke");
    expect(gap.some(({ xMm }) => Math.abs(xMm - 51) < 1)).toBe(true);
  });

  it("calls dark ones of seven millimetres chokes in a row, and a controller alone", () => {
    const kinds = (...things: Painted[]) => proposed(...things).map(({ kind }) => kind);
    expect(kinds(...row(20, 7, 5)).filter((kind) => kind === "choke")).toHaveLength(5);
    const [alone] = proposed({ x: 40, y: 25, w: 7, grey: 20 }).filter(({ what }) => what === "part");
    expect(alone?.kind).toBe("controller");
    expect(alone?.confidence).toBeLessThan(0.8);
  });

  it("tells round cans from square chokes, and a screw’s head with its cross from nothing", () => {
    const cans = proposed(...row(150, 8, 5).map((one) => ({ ...one, round: true })));
    expect(cans.filter(({ kind }) => kind === "choke")).toEqual([]);
    expect(cans.filter(({ kind }) => kind === "capacitor").length).toBeGreaterThanOrEqual(4);
    const head = proposed(
      { x: 55, y: 25, w: 5, grey: 190, round: true },
      { x: 55, y: 25, w: 2.4, h: 0.7, grey: 50 },
      { x: 55, y: 25, w: 0.7, h: 2.4, grey: 50 },
    ).filter(({ what }) => what === "hole");
    expect(head).toHaveLength(1);
    expect(Math.hypot((head[0]?.xMm ?? 0) - 55, (head[0]?.y ?? 0) - 25)).toBeLessThan(0.5);
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
