import { PACKAGES } from "../../boardmap/index.ts";
import { proposeParts } from "../index.ts";
import { type Conditions, drawnBoard } from "./drawn-board.ts";

export interface Tally {
  memory: { recall: number; precision: number };
  die: { recall: number; precision: number };
  holes: { recall: number; falseOnes: number };
}

interface Place {
  xMm: number;
  yMm: number;
}
const within = (a: Place, b: Place, mm: number): boolean => Math.hypot(a.xMm - b.xMm, a.yMm - b.yMm) < mm;

/** How many of the drawn parts are proposed where they lie (1.5 mm) and of their size, and how many proposals are right. */
export function tally(seeds: readonly number[], conditions: Conditions): Tally {
  const memory = { there: 0, found: 0, said: 0 };
  const die = { found: 0, said: 0 };
  const holes = { there: 0, found: 0, said: 0 };
  for (const seed of seeds) {
    const drawn = drawnBoard(seed, conditions);
    const proposals = proposeParts(drawn.pixels, drawn.width, drawn.height, drawn.place, PACKAGES);
    const chips = proposals.filter(({ kind }) => kind === "memory");
    memory.there += drawn.memory.length;
    memory.said += chips.length;
    memory.found += drawn.memory.filter((box) =>
      chips.some((one) => within(one, box, 1.5) && one.widthMm === box.widthMm && one.heightMm === box.heightMm),
    ).length;
    const dies = proposals.filter(({ what }) => what === "die");
    die.said += dies.length;
    die.found += dies.filter(
      (one) =>
        within(one, drawn.die, 1.5) &&
        Math.abs(one.widthMm - drawn.die.widthMm) < 1.5 &&
        Math.abs(one.heightMm - drawn.die.heightMm) < 1.5,
    ).length;
    const round = proposals.filter(({ what }) => what === "hole");
    holes.there += drawn.holes.length;
    holes.said += round.length;
    holes.found += drawn.holes.filter((hole) => round.some((one) => within(one, hole, 1.5))).length;
  }
  return {
    memory: { recall: memory.found / memory.there, precision: memory.found / Math.max(1, memory.said) },
    die: { recall: die.found / seeds.length, precision: die.found / Math.max(1, die.said) },
    holes: { recall: holes.found / holes.there, falseOnes: (holes.said - holes.found) / seeds.length },
  };
}
