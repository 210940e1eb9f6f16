import type { Bead, DieSize } from "./input.ts";

/** Schools of putting compound on; each has its friends. */
export const PATTERNS = {
  dot: "one dot",
  line: "a line",
  cross: "a cross",
  "five dots": "five dots",
  spread: "spread thin",
  "spread and dot": "spread thin, a dot on top",
} as const;
export type Pattern = keyof typeof PATTERNS;

/** So much of the way from the middle to the edge a line goes. */
const REACH = 0.6;
const OUTER = 0.5;

const bead = (from: [number, number], to: [number, number], volumeUl: number): Bead => ({
  x1Mm: from[0],
  y1Mm: from[1],
  x2Mm: to[0],
  y2Mm: to[1],
  volumeUl,
});

/** Beads and film of a school for this die; the dose is all of it. */
export function patternOf(pattern: Pattern, die: DieSize, doseUl: number): { beads: Bead[]; filmUm: number } {
  const { widthMm: w, heightMm: h } = die;
  const at = (fx: number, fy: number): [number, number] => [(w / 2) * (1 + fx), (h / 2) * (1 + fy)];
  const dot = (fx: number, fy: number, volumeUl: number): Bead => bead(at(fx, fy), at(fx, fy), volumeUl);
  const filmUm = (ul: number): number => (1000 * ul) / (w * h);
  switch (pattern) {
    case "dot":
      return { beads: [dot(0, 0, doseUl)], filmUm: 0 };
    case "line":
      return {
        beads: [w >= h ? bead(at(-REACH, 0), at(REACH, 0), doseUl) : bead(at(0, -REACH), at(0, REACH), doseUl)],
        filmUm: 0,
      };
    case "cross":
      return {
        beads: [
          bead(at(-REACH, -REACH), at(REACH, REACH), doseUl / 2),
          bead(at(-REACH, REACH), at(REACH, -REACH), doseUl / 2),
        ],
        filmUm: 0,
      };
    case "five dots":
      return {
        beads: [
          dot(0, 0, doseUl / 3),
          ...[
            [-1, -1],
            [1, -1],
            [1, 1],
            [-1, 1],
          ].map(([x = 0, y = 0]) => dot(x * OUTER, y * OUTER, doseUl / 6)),
        ],
        filmUm: 0,
      };
    case "spread":
      return { beads: [], filmUm: filmUm(doseUl) };
    case "spread and dot":
      return { beads: [dot(0, 0, doseUl / 3)], filmUm: filmUm((2 * doseUl) / 3) };
  }
}
