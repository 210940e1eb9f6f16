/** Fit of a cooler: as large as boards are, while a face is dragged over it (50 ms asked). */
import { type FitInput, fit } from "#core/coolers/index.ts";
import { seeded } from "#core/random/index.ts";

const chance = seeded(7);
const within = (least: number, most: number): number => chance.between(least, most);
const input: FitInput = {
  board: {
    widthMm: 250,
    heightMm: 110,
    thicknessMm: 1.6,
    die: { xMm: 110, yMm: 55, widthMm: 20, heightMm: 22, tallMm: 2.2 },
    parts: Array.from({ length: 60 }, (_, k) => ({
      id: `part ${k}`,
      kind: chance.pick(["memory", "mosfet", "choke", "capacitor", "connector"] as const),
      xMm: within(10, 240),
      yMm: within(8, 102),
      widthMm: within(4, 14),
      heightMm: within(4, 14),
      tallMm: within(0.8, 4),
    })),
    holes: Array.from({ length: 12 }, (_, k) => ({
      id: `hole ${k}`,
      xMm: 20 + 18 * k,
      yMm: k % 2 === 0 ? 15 : 95,
      diameterMm: 3.2,
    })),
  },
  cooler: {
    plate: { xMm: 0, yMm: 0, widthMm: 60, heightMm: 60, metal: "copper" },
    faces: Array.from({ length: 24 }, (_, k) => ({
      id: `face ${k}`,
      xMm: within(-90, 90),
      yMm: within(-45, 45),
      widthMm: within(10, 30),
      heightMm: within(8, 20),
      levelMm: within(0.5, 3),
      for: "pad" as const,
    })),
    posts: Array.from({ length: 12 }, (_, k) => ({
      id: `post ${k}`,
      xMm: 20 + 18 * k - 110 + within(-0.2, 0.2),
      yMm: (k % 2 === 0 ? 15 : 95) - 55 + within(-0.2, 0.2),
      thread: "M2.5",
      holeDepthMm: within(4, 7),
      levelMm: -2,
    })),
    mayTurn: true,
  },
  screws: [4, 5, 6, 7, 8, 10].map((lengthMm) => ({
    id: `${lengthMm} mm`,
    thread: "M2.5",
    lengthMm,
    washerMm: 0,
    quantity: 3,
  })),
};
const times = Array.from({ length: 31 }, () => {
  const from = performance.now();
  fit(input);
  return performance.now() - from;
}).slice(1);
const found = fit(input);
console.log(
  `60 parts, 12 posts, 6 kinds of screws: ${(times.sort((a, b) => a - b)[15] ?? 0).toFixed(1)} ms, ${found.posts.filter(({ holeId }) => holeId !== null).length} posts over holes`,
);
