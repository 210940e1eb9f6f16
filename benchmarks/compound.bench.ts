/** Compound and fans: one answer while beads are dragged, the least dose, a coast-down from a recording; and how often the gain's interval holds. */
import { closing, PATTERNS, type Pattern, patternOf, pressing, spread } from "#core/compound/index.ts";
import { fitCoast } from "#core/fans/index.ts";
import { seeded } from "#core/random/index.ts";
import { fallingLine } from "#core/sound/index.ts";

const DIE = { widthMm: 20, heightMm: 22 };
const REPEATS = 7;

/** Median seconds of a few repeats, the first left out. */
function median(work: () => unknown): number {
  const times = Array.from({ length: REPEATS }, () => {
    const from = performance.now();
    work();
    return (performance.now() - from) / 1000;
  }).slice(1);
  return times.sort((a, b) => a - b)[times.length >> 1] ?? Number.NaN;
}

console.log(
  "one answer on a quarter millimetre (150 ms asked), on half of one while dragged, with its least dose (2 s asked)",
);
for (const pattern of Object.keys(PATTERNS) as Pattern[]) {
  const input = { die: DIE, bondLineUm: 45, densityGPerMl: 2.5, ...patternOf(pattern, DIE, 24) };
  const [fine, coarse, whole] = [
    median(() => pressing(input, 0.25)),
    median(() => pressing(input, 0.5)),
    median(() => spread(input)),
  ];
  console.log(
    `${PATTERNS[pattern].padEnd(30)} ${(1000 * fine).toFixed(0).padStart(5)} ms ${(1000 * coarse).toFixed(0).padStart(5)} ms ${(1000 * whole).toFixed(0).padStart(6)} ms`,
  );
}
const dot = { die: DIE, bondLineUm: 45, densityGPerMl: 2.5, ...patternOf("dot", DIE, 24) };
console.log(`24 moments of the closing: ${(1000 * median(() => closing(dot, 24, 0.5))).toFixed(0)} ms`);

const RATE = 48_000;
const chance = seeded(3);
let [speed, phase] = [207, 0];
const recording = Float32Array.from({ length: 20 * RATE }, (_, k) => {
  if (k > 2 * RATE) speed = Math.max(0, speed - (8 + 0.12 * speed) / RATE);
  phase += (9 * speed) / RATE;
  return 0.1 * (speed / 207) * Math.sin(phase) + 0.01 * (chance.uniform() - 0.5);
});
const seconds = median(() => {
  const { timeS, hz } = fallingLine(recording, RATE);
  return fitCoast(
    timeS,
    hz.map((one) => (2 * Math.PI * one) / 9),
  );
});
console.log(`coast-down from 20 s at 48 kHz (1 s asked): ${seconds.toFixed(2)} s`);
