import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import {
  IMPRINT_SIZE,
  type Imprint,
  imprintForOwner,
  imprintFound,
  proposeImprint,
  readImprint,
  writeImprint,
} from "./index.ts";
import { labOf } from "./propose.ts";

const CELLS = IMPRINT_SIZE ** 2;
const all = (cell: Imprint[number]): Imprint => Array.from({ length: CELLS }, () => cell);

describe("reading an imprint", () => {
  it("is kept as letters and read back; anything else is none", () => {
    const cells = all("covered").with(0, "bare").with(1, "thin");
    expect(readImprint(writeImprint(cells))).toEqual(cells);
    for (const text of [null, "", "ccc", "x".repeat(CELLS), `${"c".repeat(CELLS)}c`])
      expect(readImprint(text)).toBeUndefined();
  });

  it.each([
    [0, "upper left"],
    [IMPRINT_SIZE - 1, "upper right"],
    [CELLS - IMPRINT_SIZE, "lower left"],
    [CELLS - 1, "lower right"],
  ])("a bare corner at %i is the %s", (corner, side) => {
    const step = { x: corner % IMPRINT_SIZE === 0 ? 1 : -1, y: corner < IMPRINT_SIZE ? IMPRINT_SIZE : -IMPRINT_SIZE };
    const cells = [corner, corner + step.x, corner + step.y].reduce<Imprint>(
      (now, at) => now.with(at, "bare"),
      all("covered"),
    );
    expect(imprintFound(cells, null)).toMatchObject({ side, bareCorner: true });
  });

  it("is held against what the screws press: least there, evenly, or most there", () => {
    const right = all("covered").map((cell, index) => (index % IMPRINT_SIZE >= IMPRINT_SIZE - 2 ? "bare" : cell));
    expect(imprintFound(right, { x: -0.4, y: 0 }).words).toMatch(/press least: their pull is uneven/);
    expect(imprintFound(right, { x: 0, y: 0.02 }).words).toMatch(/press evenly: a pad on that side/);
    expect(imprintFound(right, { x: 0.4, y: 0 }).words).toMatch(/holds the cooler off/);
    expect(imprintFound(all("covered"), { x: 0.4, y: 0 }).words).toBe("");
    expect(imprintFound(all("thin"), null)).toMatchObject({ side: "", bareShare: 0 });
    // Its owner is told what was seen, not what to do about it.
    const told = [right, all("thin"), all("covered")].map((cells) => imprintForOwner(imprintFound(cells, null)));
    expect(told).toEqual(["It was bare at the right.", "It was thin in places.", ""]);
  });
});

it("colours are told as the eye tells them: CIELAB of sRGB white, red and blue (CIE 15 under D65; values from memory)", () => {
  const expected = [
    [
      [255, 255, 255],
      [100, 0, 0],
    ],
    [
      [255, 0, 0],
      [53.24, 80.09, 67.2],
    ],
    [
      [0, 0, 255],
      [32.3, 79.19, -107.86],
    ],
  ] as const;
  for (const [[r, g, b], lab] of expected)
    labOf(r, g, b).forEach((value, axis) => expect(value).toBeCloseTo(lab[axis] ?? 0, 0));
});

const WIDTH = 120;

/**
 * A drawn die: compound as overlapping blobs with ragged edges and streaks, the rest mirror-like under a slanted light, with glare, grain and
 * a cast of the camera's. Nothing of it knows of clusters or cells.
 */
function drawing(seed: number) {
  const random = seeded(seed);
  const uniform = (low: number, high: number): number => random.between(low, high);
  const compound = random.pick([
    [196, 198, 202],
    [128, 134, 142],
    [236, 236, 228],
    [176, 186, 208],
  ]);
  const surface = random.pick([
    [44, 48, 58],
    [70, 62, 66],
    [184, 122, 78],
  ]);
  const blobs = Array.from({ length: 3 + Math.floor(random.uniform() * 3) }, () => ({
    x: uniform(0.25, 0.75),
    y: uniform(0.25, 0.75),
    r: uniform(0.2, 0.42),
    ragged: uniform(0, 0.06),
    turn: uniform(0, 6),
  }));
  const light = { x: uniform(-0.16, 0.16), y: uniform(-0.16, 0.16) };
  const glare = { x: uniform(0, 1), y: uniform(0, 1), r: uniform(0.03, 0.07) };
  const cast = [uniform(0.94, 1.06), 1, uniform(0.94, 1.06)];
  const pixels = new Uint8ClampedArray(WIDTH * WIDTH * 4);
  const covered = new Float64Array(CELLS);
  for (let row = 0; row < WIDTH; row++)
    for (let column = 0; column < WIDTH; column++) {
      const [x, y] = [column / WIDTH, row / WIDTH];
      const isIn = blobs.some(({ x: bx, y: by, r, ragged, turn }) => {
        const angle = Math.atan2(y - by, x - bx);
        return Math.hypot(x - bx, y - by) < r + ragged * Math.sin(7 * angle + turn);
      });
      const cell = Math.floor(y * IMPRINT_SIZE) * IMPRINT_SIZE + Math.floor(x * IMPRINT_SIZE);
      covered[cell] = (covered[cell] ?? 0) + (isIn ? 1 : 0);
      const shade = 1 + light.x * (2 * x - 1) + light.y * (2 * y - 1);
      const shine = !isIn && Math.hypot(x - glare.x, y - glare.y) < glare.r ? 90 : 0;
      (isIn ? compound : surface).forEach((value, channel) => {
        pixels[4 * (row * WIDTH + column) + channel] = value * shade * (cast[channel] ?? 1) + shine + uniform(-9, 9);
      });
      pixels[4 * (row * WIDTH + column) + 3] = 255;
    }
  const each = (WIDTH / IMPRINT_SIZE) ** 2;
  return { pixels, shares: [...covered].map((count) => count / each) };
}

describe("a proposal from a photo", () => {
  it("is right in nine of ten cells that are clearly covered or clearly bare, on drawn dies of known coverage", () => {
    let [right, clear, dies] = [0, 0, 0];
    for (let seed = 1; seed <= 24; seed++) {
      const { pixels, shares } = drawing(seed);
      const share = shares.reduce((sum, one) => sum + one, 0) / CELLS;
      if (share > 0.97) continue;
      dies++;
      // A hand swaps where the compound is the smaller part.
      const cells = proposeImprint(pixels, WIDTH, WIDTH, share < 0.5);
      shares.forEach((known, index) => {
        if (known > 0.15 && known < 0.85) return;
        clear++;
        if (cells[index] === (known > 0.5 ? "covered" : "bare")) right++;
      });
    }
    expect(dies).toBeGreaterThan(18);
    expect(right / clear).toBeGreaterThan(0.9);
  });

  it("a die that is covered all over, under any light, is proposed as covered", () => {
    const pixels = new Uint8ClampedArray(WIDTH * WIDTH * 4);
    const random = seeded(3);
    for (let at = 0; at < WIDTH * WIDTH; at++) {
      const shade = 150 + (20 * (at % WIDTH)) / WIDTH + 12 * (random.uniform() - 0.5);
      pixels.set([shade, shade, shade + 4, 255], 4 * at);
    }
    expect(proposeImprint(pixels, WIDTH, WIDTH)).toEqual(all("covered"));
  });
});
