import type { Box } from "../../boardmap/index.ts";
import { type Random, seeded } from "../../random/index.ts";

export interface DrawnBoard {
  pixels: Uint8ClampedArray;
  width: number;
  height: number;
  place: Box;
  die: Box;
  memory: Box[];
  mosfets: Box[];
  chokes: Box[];
  holes: Array<{ xMm: number; yMm: number }>;
}

/** How hard the photo is to read. */
export interface Conditions {
  /** Brightness at the dark end as a share of that at the bright one. */
  light: number;
  blurMm: number;
  tiltDeg: number;
  noise: number;
  /** Small parts, traces and lettering a square centimetre. */
  clutter: number;
  /** The board is nearly as dark as its packages. */
  darkBoard: boolean;
  /** Old pads left something on packages and around them. */
  residue: boolean;
  /** What straightening and the lens left crooked, at the corners. */
  warpMm?: number;
  /** Packages with round corners, a bright rim towards the lamp and a shadow away from it, on a patched board; blocks of a strong compression. */
  moulded?: boolean;
}

export const CLEAN: Conditions = {
  light: 0.8,
  blurMm: 0.2,
  tiltDeg: 0.2,
  noise: 3,
  clutter: 3,
  darkBoard: false,
  residue: false,
};
export const HARD: Conditions = {
  light: 0.4,
  blurMm: 0.45,
  tiltDeg: 0.9,
  noise: 7,
  clutter: 7,
  darkBoard: true,
  residue: true,
};
/** Nothing as the finder models it: edges are rims and shadows, lines are not straight. */
export const OTHER: Conditions = {
  light: 0.6,
  blurMm: 0.25,
  tiltDeg: 0.5,
  noise: 4,
  clutter: 5,
  darkBoard: false,
  residue: true,
  warpMm: 0.9,
  moulded: true,
};

const PX_PER_MM = 5;
type Colour = [number, number, number];

/** A made-up board from above: what lies where is known, how it looks is left to chance. */
export function drawnBoard(seed: number, conditions: Conditions): DrawnBoard {
  const chance = seeded(seed);
  const widthMm = Math.round(chance.between(190, 260));
  const heightMm = Math.round(chance.between(96, 122));
  const width = widthMm * PX_PER_MM;
  const height = heightMm * PX_PER_MM;
  const canvas = new Float32Array(3 * width * height);
  const base: Colour = conditions.darkBoard
    ? [chance.between(48, 62), chance.between(50, 66), chance.between(50, 64)]
    : [chance.between(30, 60), chance.between(80, 130), chance.between(50, 90)];
  const turn = (chance.between(-1, 1) * conditions.tiltDeg * Math.PI) / 180;
  const paint = ({ xMm, yMm, widthMm: w, heightMm: h }: Box, colour: Colour, round = false): void => {
    const reach = Math.ceil((Math.hypot(w, h) / 2 + 1) * PX_PER_MM);
    const [sin, cos] = [Math.sin(turn), Math.cos(turn)];
    // Everything turns about the middle of the photo.
    const [mx, my] = [widthMm / 2, heightMm / 2];
    const cx = (mx + (xMm - mx) * cos - (yMm - my) * sin) * PX_PER_MM;
    const cy = height - (my + (xMm - mx) * sin + (yMm - my) * cos) * PX_PER_MM;
    for (let y = Math.max(0, Math.floor(cy - reach)); y < Math.min(height, cy + reach); y++)
      for (let x = Math.max(0, Math.floor(cx - reach)); x < Math.min(width, cx + reach); x++) {
        const [dx, dy] = [(x - cx) / PX_PER_MM, (cy - y) / PX_PER_MM];
        const [u, v] = [dx * cos + dy * sin, -dx * sin + dy * cos];
        if (round ? Math.hypot(u, v) > w / 2 : Math.abs(u) > w / 2 || Math.abs(v) > h / 2) continue;
        for (const channel of [0, 1, 2] as const) canvas[3 * (y * width + x) + channel] = colour[channel];
      }
  };
  const grey = (low: number, high: number): Colour => {
    const value = chance.between(low, high);
    return [value, value * chance.between(0.95, 1.05), value * chance.between(0.95, 1.05)];
  };
  paint({ xMm: widthMm / 2, yMm: heightMm / 2, widthMm: 2 * widthMm, heightMm: 2 * heightMm }, base);
  if (conditions.moulded)
    for (let k = 0; k < 14; k++) {
      const shade = chance.between(0.75, 1.3);
      paint(
        {
          xMm: chance.between(0, widthMm),
          yMm: chance.between(0, heightMm),
          widthMm: chance.between(15, 60),
          heightMm: chance.between(15, 60),
        },
        base.map((c) => c * shade) as Colour,
      );
    }
  drawClutter({ chance, widthMm, heightMm, paint, grey, base }, conditions.clutter);

  const dieAt = { xMm: widthMm * chance.between(0.36, 0.48), yMm: heightMm / 2 + chance.between(-3, 3) };
  const die: Box = { ...dieAt, widthMm: chance.between(14, 24), heightMm: chance.between(14, 24) };
  const substrate = Math.max(die.widthMm, die.heightMm) + chance.between(9, 16);
  const body: Box = { ...dieAt, widthMm: substrate, heightMm: substrate };
  const memory = memoryAround(chance, die, substrate, heightMm);
  const clear = (box: Box): void => paint({ ...box, widthMm: box.widthMm + 2.4, heightMm: box.heightMm + 2.4 }, base);
  for (const box of [body, ...memory]) clear(box);
  paint(body, conditions.darkBoard ? grey(80, 110) : [40, 95, 60]);
  for (let k = 0; k < 26; k++) {
    const edge = chance.pick([-1, 1] as const) * (substrate / 2 - 2);
    const along = chance.between(-substrate / 2 + 2, substrate / 2 - 2);
    const [x, y] = chance.uniform() < 0.5 ? [edge, along] : [along, edge];
    paint({ xMm: dieAt.xMm + x, yMm: dieAt.yMm + y, widthMm: 1, heightMm: 0.6 }, grey(130, 190));
  }
  // Bare silicon mirrors: darker or brighter than its package.
  paint(die, chance.uniform() < 0.6 ? grey(22, 40) : grey(150, 200));
  const skin = chance.between(18, 30);
  for (const box of memory) {
    if (conditions.moulded) moulded(box, skin, paint);
    else paint(box, [skin, skin, skin * 1.05]);
    lettering(box, { chance, paint, grey });
    if (conditions.residue && chance.uniform() < 0.5)
      paint(
        {
          xMm: box.xMm + chance.between(-4, 4),
          yMm: box.yMm + chance.between(-4, 4),
          widthMm: chance.between(2, 5),
          heightMm: chance.between(1, 3),
        },
        grey(90, 150),
      );
  }
  const { mosfets, chokes } = drawPower({ chance, widthMm, heightMm, paint, grey });
  const holes = [
    ...[-1, 1].flatMap((x) =>
      [-1, 1].map((y) => ({ xMm: dieAt.xMm + x * (substrate / 2 + 4), yMm: dieAt.yMm + y * (substrate / 2 + 4) })),
    ),
    { xMm: widthMm - 6, yMm: 6 },
    { xMm: widthMm - 6, yMm: heightMm - 6 },
  ].filter((hole) => !memory.some((box) => Math.abs(box.xMm - hole.xMm) < 10 && Math.abs(box.yMm - hole.yMm) < 10));
  for (const hole of holes) {
    paint({ ...hole, widthMm: 6, heightMm: 6 }, [190, 170, 90], true);
    if (conditions.moulded && chance.uniform() < 0.4) screwHead(hole, { chance, paint, grey });
    else paint({ ...hole, widthMm: 3.2, heightMm: 3.2 }, [15, 15, 15], true);
  }
  return {
    pixels: photographed(canvas, width, height, conditions, chance),
    width,
    height,
    place: { xMm: widthMm / 2, yMm: heightMm / 2, widthMm, heightMm },
    die,
    memory,
    mosfets,
    chokes,
    holes,
  };
}

/** A bright head with a dark cross cut into it, in its hole; black ones as well. */
function screwHead(
  at: { xMm: number; yMm: number },
  { chance, paint, grey }: Pick<Pen, "chance" | "paint" | "grey">,
): void {
  const wide = chance.between(4.4, 5.4);
  const isBlack = chance.uniform() < 0.3;
  paint({ ...at, widthMm: wide, heightMm: wide }, isBlack ? grey(25, 40) : grey(150, 205), true);
  const cut = isBlack ? grey(8, 14) : grey(40, 70);
  paint({ ...at, widthMm: 2.4, heightMm: 0.7 }, cut);
  paint({ ...at, widthMm: 0.7, heightMm: 2.4 }, cut);
}

interface Pen {
  chance: Random;
  widthMm: number;
  heightMm: number;
  paint: (box: Box, colour: Colour, round?: boolean) => void;
  grey: (low: number, high: number) => Colour;
  base: Colour;
}

/** Left and right of the die, above and below it, or on three sides. */
function memoryAround(chance: Random, die: Box, substrate: number, heightMm: number): Box[] {
  const aside = substrate / 2 + chance.between(10, 12);
  const pitch = chance.between(15.5, 18);
  const upright = { widthMm: 14, heightMm: 12 };
  const found: Box[] = [];
  const perSide = chance.pick([2, 3] as const);
  for (const side of [-1, 1])
    for (let k = 0; k < perSide; k++)
      found.push({ xMm: die.xMm + side * aside, yMm: die.yMm + (k - (perSide - 1) / 2) * pitch, ...upright });
  const rows = chance.pick([[1], [-1, 1], []] as [number[], number[], number[]]);
  for (const side of rows)
    for (const k of [-0.5, 0.5])
      found.push({ xMm: die.xMm + k * pitch, yMm: die.yMm + side * aside, widthMm: 12, heightMm: 14 });
  return found.filter(({ yMm, heightMm: tall }) => yMm - tall / 2 > 3 && yMm + tall / 2 < heightMm - 3);
}

/** Round at the corners, bright along two sides, its shadow on the board along the others. */
function moulded(box: Box, skin: number, paint: Pen["paint"]): void {
  const { xMm, yMm, widthMm, heightMm } = box;
  const round = 0.8;
  const dark: Colour = [skin, skin, skin * 1.05];
  const rim: Colour = [skin * 2.2, skin * 2.2, skin * 2.2];
  paint({ ...box, xMm: xMm + 0.5, yMm: yMm - 0.5 }, [14, 16, 15]);
  for (const [dx, dy, colour] of [
    [0, 0, rim],
    [0.35, -0.35, dark],
  ] as Array<[number, number, Colour]>) {
    const [w, h] = [widthMm - Math.abs(dx), heightMm - Math.abs(dy)];
    const [x, y] = [xMm + dx / 2, yMm + dy / 2];
    paint({ xMm: x, yMm: y, widthMm: w - 2 * round, heightMm: h }, colour);
    paint({ xMm: x, yMm: y, widthMm: w, heightMm: h - 2 * round }, colour);
    for (const right of [-1, 1])
      for (const up of [-1, 1])
        paint(
          {
            xMm: x + right * (w / 2 - round),
            yMm: y + up * (h / 2 - round),
            widthMm: 2 * round,
            heightMm: 2 * round,
          },
          colour,
          true,
        );
  }
}

function lettering(box: Box, { chance, paint, grey }: Pick<Pen, "chance" | "paint" | "grey">): void {
  const ink = grey(70, 120);
  for (const line of [-0.22, 0, 0.22])
    for (let k = 0; k < 7; k++)
      if (chance.uniform() < 0.8)
        paint(
          {
            xMm: box.xMm + (k - 3) * box.widthMm * 0.1,
            yMm: box.yMm + line * box.heightMm,
            widthMm: box.widthMm * 0.06,
            heightMm: 1,
          },
          ink,
        );
  paint(
    { xMm: box.xMm - box.widthMm * 0.4, yMm: box.yMm + box.heightMm * 0.38, widthMm: 0.9, heightMm: 0.9 },
    ink,
    true,
  );
}

function drawClutter({ chance, widthMm, heightMm, paint, grey, base }: Pen, perCm2: number): void {
  const many = Math.round((perCm2 * widthMm * heightMm) / 100);
  for (let k = 0; k < many; k++) {
    const at = { xMm: chance.between(0, widthMm), yMm: chance.between(0, heightMm) };
    const kind = chance.uniform();
    const shade = chance.between(0.8, 1.25);
    if (kind < 0.35) {
      const long = chance.between(3, 22);
      const lies = chance.uniform() < 0.5;
      paint({ ...at, widthMm: lies ? long : 0.3, heightMm: lies ? 0.3 : long }, base.map((c) => c * shade) as Colour);
    } else if (kind < 0.8) {
      const long = chance.pick([1, 1.6, 2] as const);
      const lies = chance.uniform() < 0.5;
      paint({ ...at, widthMm: lies ? long : long / 2, heightMm: lies ? long / 2 : long }, grey(60, 190));
    } else if (kind < 0.95) {
      for (let n = 0; n < 4; n++)
        paint({ xMm: at.xMm + n * 1.1, yMm: at.yMm, widthMm: 0.7, heightMm: 1.2 }, grey(170, 220));
    } else paint({ ...at, widthMm: chance.between(3, 9), heightMm: chance.between(3, 9) }, grey(15, 60));
  }
}

function drawPower({ chance, widthMm, heightMm, paint, grey }: Omit<Pen, "base">): { mosfets: Box[]; chokes: Box[] } {
  const mosfets: Box[] = [];
  const chokes: Box[] = [];
  const phases = Math.round(chance.between(5, 9));
  const pitch = (heightMm - 24) / phases;
  for (let k = 0; k < phases; k++) {
    const yMm = 14 + k * pitch;
    mosfets.push({ xMm: widthMm - 40, yMm, widthMm: 5, heightMm: 6 });
    chokes.push({ xMm: widthMm - 29, yMm, widthMm: 7, heightMm: 7 });
    paint({ xMm: widthMm - 40, yMm, widthMm: 5, heightMm: 6 }, grey(18, 35));
    const choke = grey(55, 95);
    paint({ xMm: widthMm - 29, yMm, widthMm: 7, heightMm: 7 }, choke);
    paint({ xMm: widthMm - 29, yMm, widthMm: 3, heightMm: 1 }, grey(150, 200));
    if (k % 2 === 0) paint({ xMm: widthMm - 17, yMm, widthMm: 8, heightMm: 8 }, grey(110, 170), true);
  }
  return { mosfets, chokes };
}

/** Light that falls off to one side, a lamp’s gloss, blur and noise. */
function photographed(
  canvas: Float32Array,
  width: number,
  height: number,
  { light, blurMm, noise, warpMm = 0, moulded: blocks = false }: Conditions,
  chance: Random,
): Uint8ClampedArray {
  const bend = [chance.between(-1, 1), chance.between(-1, 1), chance.between(-1, 1)] as const;
  const angle = chance.between(0, 2 * Math.PI);
  const gloss = { x: chance.between(0, width), y: chance.between(0, height), size: chance.between(100, 250) };
  const lit = new Float32Array(canvas.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const along = 0.5 + ((x / width - 0.5) * Math.cos(angle) + (y / height - 0.5) * Math.sin(angle)) / Math.SQRT2;
      const factor = light + (1 - light) * along;
      const shine = 25 * Math.exp(-((x - gloss.x) ** 2 + (y - gloss.y) ** 2) / gloss.size ** 2);
      const from = warped(x, y, width, height, warpMm * PX_PER_MM, bend);
      for (let channel = 0; channel < 3; channel++)
        lit[3 * (y * width + x) + channel] = (canvas[3 * from + channel] ?? 0) * factor + shine;
    }
  const radius = Math.max(1, Math.round((blurMm * PX_PER_MM) / 1.4));
  const soft = blurred(blurred(lit, width, height, radius), width, height, radius);
  const pixels = new Uint8ClampedArray(4 * width * height);
  for (let at = 0; at < width * height; at++) {
    for (let channel = 0; channel < 3; channel++)
      pixels[4 * at + channel] = (soft[3 * at + channel] ?? 0) + noise * chance.normal();
    pixels[4 * at + 3] = 255;
  }
  if (blocks) compressed(pixels, width, height);
  return pixels;
}

/** Where a pixel was before the lens: barrel, keystone both ways, `most` pixels at a corner. */
function warped(
  x: number,
  y: number,
  width: number,
  height: number,
  most: number,
  [barrel, across, up]: readonly [number, number, number],
): number {
  if (most === 0) return y * width + x;
  const [u, v] = [(2 * x) / width - 1, (2 * y) / height - 1];
  const dx = most * (0.5 * barrel * u * (u * u + v * v) * 0.5 + 0.5 * across * u * v);
  const dy = most * (0.5 * barrel * v * (u * u + v * v) * 0.5 + 0.5 * up * u * v);
  const within = (value: number, size: number): number => Math.min(size - 1, Math.max(0, Math.round(value)));
  return within(y + dy, height) * width + within(x + dx, width);
}

/** Blocks of eight pixels keep their mean; what differs from it comes in steps of eight. */
function compressed(pixels: Uint8ClampedArray, width: number, height: number): void {
  for (let top = 0; top < height; top += 8)
    for (let left = 0; left < width; left += 8)
      for (let channel = 0; channel < 3; channel++) {
        const places: number[] = [];
        for (let y = top; y < Math.min(height, top + 8); y++)
          for (let x = left; x < Math.min(width, left + 8); x++) places.push(4 * (y * width + x) + channel);
        const mean = places.reduce((sum, at) => sum + (pixels[at] ?? 0), 0) / places.length;
        for (const at of places) pixels[at] = mean + 8 * Math.round(((pixels[at] ?? 0) - mean) / 8);
      }
}

function blurred(from: Float32Array, width: number, height: number, radius: number): Float32Array {
  const pass = (source: Float32Array, step: number, line: number, lines: number, count: number): Float32Array => {
    const to = new Float32Array(source.length);
    for (let row = 0; row < lines; row++)
      for (let channel = 0; channel < 3; channel++) {
        const start = row * line + channel;
        let sum = 0;
        for (let k = -radius; k <= radius; k++) sum += source[start + Math.min(count - 1, Math.max(0, k)) * step] ?? 0;
        for (let k = 0; k < count; k++) {
          to[start + k * step] = sum / (2 * radius + 1);
          sum +=
            (source[start + Math.min(count - 1, k + radius + 1) * step] ?? 0) -
            (source[start + Math.max(0, k - radius) * step] ?? 0);
        }
      }
    return to;
  };
  return pass(pass(from, 3, 3 * width, height, width), 3 * width, 3, width, height);
}
