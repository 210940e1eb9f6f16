import { IMPRINT_SIZE, type Imprint } from "./grid.ts";

type Colour = readonly [l: number, a: number, b: number];

const CLUSTERS = 3;
const ROUNDS = 12;
/** About so many points are looked at; more say the same. */
const POINTS = 4000;
/** Colours that differ by less are one surface in another light (CIE 1976 difference; the limit is of our own, tried on drawn pictures). */
const ONE_SURFACE = 14;
const COVERED_FROM = 0.7;
const BARE_TO = 0.3;

/**
 * Proposes an imprint from a straightened photo of a die: three clusters of colour (k-means in CIELAB), the two that differ most are compound
 * and bare surface, what lies between them is thin. The larger one is taken for the compound.
 * @param pixels RGBA rows of the die alone, `width` × `height`
 * @param swapped the smaller one is the compound
 * @returns cells from the upper left; all covered where there is one surface only
 */
export function proposeImprint(pixels: Uint8ClampedArray, width: number, height: number, swapped = false): Imprint {
  const every = Math.max(1, Math.floor(Math.sqrt((width * height) / POINTS)));
  const colours: Colour[] = [];
  const cellOf: number[] = [];
  for (let y = 0; y < height; y += every)
    for (let x = 0; x < width; x += every) {
      const at = 4 * (y * width + x);
      colours.push(labOf(pixels[at] ?? 0, pixels[at + 1] ?? 0, pixels[at + 2] ?? 0));
      cellOf.push(Math.floor((y * IMPRINT_SIZE) / height) * IMPRINT_SIZE + Math.floor((x * IMPRINT_SIZE) / width));
    }
  const [one, other] = furthest(clustersOf(colours));
  const all = Array.from({ length: IMPRINT_SIZE ** 2 }, () => "covered" as const);
  if (!one || !other || distance(one, other) < ONE_SURFACE) return all;
  // A surface under a slanted light may be two clusters: what counts is to which end a colour is nearer.
  const nearOne = colours.filter((colour) => along(colour, other, one) >= 0.5).length;
  const isOne = nearOne * 2 >= colours.length !== swapped;
  const [compound, bare] = isOne ? [one, other] : [other, one];
  const sums = new Float64Array(IMPRINT_SIZE ** 2);
  const counts = new Float64Array(IMPRINT_SIZE ** 2);
  colours.forEach((colour, index) => {
    const cell = cellOf[index] ?? 0;
    sums[cell] = (sums[cell] ?? 0) + along(colour, bare, compound);
    counts[cell] = (counts[cell] ?? 0) + 1;
  });
  return all.map((_, cell) => {
    const share = (sums[cell] ?? 0) / Math.max(1, counts[cell] ?? 0);
    return share >= COVERED_FROM ? "covered" : share <= BARE_TO ? "bare" : "thin";
  });
}

/** k-means from the darkest, the middle and the lightest on; the same each time. @returns centres of those that hold anything */
function clustersOf(colours: readonly Colour[]): Colour[] {
  const byLight = colours.toSorted((a, b) => a[0] - b[0]);
  let centres: Colour[] = Array.from(
    { length: CLUSTERS },
    (_, k) => byLight[Math.floor(((k + 0.5) / CLUSTERS) * byLight.length)] ?? [0, 0, 0],
  );
  for (let round = 0; round < ROUNDS; round++) {
    const sums = centres.map(() => ({ l: 0, a: 0, b: 0, count: 0 }));
    for (const colour of colours) {
      const sum = sums[nearest(colour, centres)];
      if (!sum) continue;
      sum.l += colour[0];
      sum.a += colour[1];
      sum.b += colour[2];
      sum.count++;
    }
    centres = sums.flatMap(({ l, a, b, count }): Colour[] => (count > 0 ? [[l / count, a / count, b / count]] : []));
  }
  return centres;
}

function nearest(colour: Colour, centres: readonly Colour[]): number {
  let [best, least] = [0, Number.POSITIVE_INFINITY];
  centres.forEach((centre, k) => {
    const away = distance(colour, centre);
    if (away < least) [best, least] = [k, away];
  });
  return best;
}

function furthest(centres: readonly Colour[]): [Colour | undefined, Colour | undefined] {
  let pair: [Colour | undefined, Colour | undefined] = [undefined, undefined];
  let most = -1;
  centres.forEach((one, k) => {
    for (const other of centres.slice(k + 1)) {
      const away = distance(one, other);
      if (away > most) [pair, most] = [[one, other], away];
    }
  });
  return pair;
}

/** How far a colour lies on the way from one to the other, 0…1. */
function along(colour: Colour, from: Colour, to: Colour): number {
  let [dot, length] = [0, 0];
  for (const axis of [0, 1, 2] as const) {
    dot += (colour[axis] - from[axis]) * (to[axis] - from[axis]);
    length += (to[axis] - from[axis]) ** 2;
  }
  return Math.min(1, Math.max(0, dot / Math.max(1e-9, length)));
}

const distance = (a: Colour, b: Colour): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

/** sRGB (IEC 61966-2-1) to CIELAB under D65 (CIE 15), 8 bits a channel. */
export function labOf(red: number, green: number, blue: number): Colour {
  const [r, g, b] = [red, green, blue].map((value) => {
    const share = value / 255;
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  const [x, y, z] = [
    (0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.9505,
    0.2126 * r + 0.7152 * g + 0.0722 * b,
    (0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.089,
  ].map((value) => (value > 216 / 24_389 ? Math.cbrt(value) : (value * (24_389 / 27) + 16) / 116)) as [
    number,
    number,
    number,
  ];
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}
