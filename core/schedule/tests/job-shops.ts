import type { Shop } from "../index.ts";
import { readShop } from "../index.ts";

/**
 * Job shops that are published with their optimum: machine and minutes in turn, a job a line. FT from Fisher & Thompson 1963, LA from
 * Lawrence 1984; figures and optima from memory (a figure wrong in one place would hardly keep the optimum).
 */
const TEXTS = {
  ft06: [
    "2 1 0 3 1 6 3 7 5 3 4 6",
    "1 8 2 5 4 10 5 10 0 10 3 4",
    "2 5 3 4 5 8 0 9 1 1 4 7",
    "1 5 0 5 2 5 3 3 4 8 5 9",
    "2 9 1 3 4 5 5 4 0 3 3 1",
    "1 3 3 3 5 9 0 10 4 4 2 1",
  ],
  ft10: [
    "0 29 1 78 2 9 3 36 4 49 5 11 6 62 7 56 8 44 9 21",
    "0 43 2 90 4 75 9 11 3 69 1 28 6 46 5 46 7 72 8 30",
    "1 91 0 85 3 39 2 74 8 90 5 10 7 12 6 89 9 45 4 33",
    "1 81 2 95 0 71 4 99 6 9 8 52 7 85 3 98 9 22 5 43",
    "2 14 0 6 1 22 5 61 3 26 4 69 8 21 7 49 9 72 6 53",
    "2 84 1 2 5 52 3 95 8 48 9 72 0 47 6 65 4 6 7 25",
    "1 46 0 37 3 61 2 13 6 32 5 21 9 32 8 89 7 30 4 55",
    "2 31 0 86 1 46 5 74 4 32 6 88 8 19 9 48 7 36 3 79",
    "0 76 1 69 3 76 5 51 2 85 9 11 6 40 7 89 4 26 8 74",
    "1 85 0 13 2 61 6 7 8 64 9 76 5 47 3 52 4 90 7 45",
  ],
  ft20: [
    "0 29 1 9 2 49 3 62 4 44",
    "0 43 1 75 3 69 2 46 4 72",
    "1 91 0 39 2 90 4 12 3 45",
    "1 81 0 71 4 9 2 85 3 22",
    "2 14 1 22 0 26 3 21 4 72",
    "2 84 1 52 4 48 0 47 3 6",
    "1 46 0 61 2 32 3 32 4 30",
    "2 31 1 46 0 32 3 19 4 36",
    "0 76 3 76 2 85 1 40 4 26",
    "1 85 2 61 0 64 3 47 4 90",
    "1 78 3 36 0 11 4 56 2 21",
    "2 90 0 11 1 28 3 46 4 30",
    "0 85 2 74 1 10 3 89 4 33",
    "2 95 0 99 1 52 3 98 4 43",
    "0 6 1 61 4 69 2 49 3 53",
    "1 2 0 95 3 72 4 65 2 25",
    "0 37 2 13 1 21 3 89 4 55",
    "0 86 1 74 4 88 2 48 3 79",
    "1 69 2 51 0 11 3 89 4 74",
    "0 13 1 7 2 76 3 52 4 45",
  ],
  la01: [
    "1 21 0 53 4 95 3 55 2 34",
    "0 21 3 52 4 16 2 26 1 71",
    "3 39 4 98 1 42 2 31 0 12",
    "1 77 0 55 4 79 2 66 3 77",
    "0 83 3 34 2 64 1 19 4 37",
    "1 54 2 43 4 79 0 92 3 62",
    "3 69 4 77 1 87 2 87 0 93",
    "2 38 0 60 1 41 3 24 4 83",
    "3 17 1 49 4 25 0 44 2 98",
    "4 77 3 79 2 43 1 75 0 96",
  ],
} as const;

export const OPTIMA = { ft06: 55, ft10: 930, ft20: 1165, la01: 666 } as const;
export type JobShopName = keyof typeof TEXTS;

/** A job shop as the literature writes it: a line for every job, machine and minutes by turns. */
export const asShop = (lines: readonly string[]): Shop => {
  const jobs = lines.map((text, j) => {
    const figures = text.split(" ").map(Number);
    return {
      id: `job ${j}`,
      dueMin: null,
      steps: figures.flatMap((machine, k) =>
        k % 2 === 0 ? [{ id: `step ${k / 2}`, durationMin: figures[k + 1], needs: [`machine ${machine}`] }] : [],
      ),
    };
  });
  const machines = new Set(jobs.flatMap(({ steps }) => steps.flatMap(({ needs }) => needs)));
  return readShop({ resources: [...machines].map((id) => ({ id, capacity: 1 })), jobs });
};

export const jobShop = (name: JobShopName): Shop => asShop(TEXTS[name]);
