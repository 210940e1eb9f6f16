/** How much of a drawn board is proposed from its photo, and how much of what is proposed is there. */
import { CLEAN, HARD, OTHER } from "#core/boardphoto/tests/drawn-board.ts";
import { tally } from "#core/boardphoto/tests/tally.ts";

const MANY = 20;
const share = (value: number): string => value.toFixed(3);
const middle = {
  light: 0.6,
  blurMm: 0.3,
  tiltDeg: 0.6,
  noise: 5,
  clutter: 5,
  darkBoard: false,
  residue: true,
};

for (const [name, conditions] of [
  ["clean", CLEAN],
  ["usual", middle],
  ["hard", HARD],
  ["other", OTHER],
  ["black", { ...OTHER, darkBoard: true }],
] as const) {
  const { memory, die, holes, power } = tally(
    Array.from({ length: MANY }, (_, k) => 1000 + k),
    conditions,
  );
  console.log(
    `${name}: memory precision ${share(memory.precision)} recall ${share(memory.recall)} (0.9 and 0.85 asked), die ${share(die.precision)} and ${share(die.recall)}, holes recall ${share(holes.recall)}, ${holes.falseOnes.toFixed(1)} false a board, MOSFETs ${share(power.mosfets)}, chokes ${share(power.chokes)}, right of the sure ones ${share(power.sure)}`,
  );
}
