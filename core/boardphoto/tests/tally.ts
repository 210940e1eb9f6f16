import { PACKAGES } from "../../boardmap/index.ts";
import { proposeParts } from "../index.ts";
import { type Conditions, drawnBoard } from "./drawn-board.ts";

export interface Tally {
  memory: { recall: number; precision: number };
  die: { recall: number; precision: number };
  holes: { recall: number; falseOnes: number };
  /** MOSFETs and chokes in their rows: found of those drawn, and proposals of 80 % or more that are right. */
  power: { mosfets: number; chokes: number; sure: number };
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
  const power = { mosfet: { there: 0, found: 0 }, choke: { there: 0, found: 0 }, sure: 0, sureRight: 0 };
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
    const row = { mosfet: drawn.mosfets, choke: drawn.chokes };
    for (const kind of ["mosfet", "choke"] as const) {
      power[kind].there += row[kind].length;
      const said = proposals.filter((one) => one.kind === kind);
      power[kind].found += row[kind].filter((box) => said.some((one) => within(one, box, 1.5))).length;
      const sure = said.filter(({ confidence }) => confidence >= 0.8);
      power.sure += sure.length;
      power.sureRight += sure.filter((one) => row[kind].some((box) => within(one, box, 1.5))).length;
    }
    const round = proposals.filter(({ what }) => what === "hole");
    holes.there += drawn.holes.length;
    holes.said += round.length;
    holes.found += drawn.holes.filter((hole) => round.some((one) => within(one, hole, 1.5))).length;
  }
  return {
    memory: { recall: memory.found / memory.there, precision: memory.found / Math.max(1, memory.said) },
    die: { recall: die.found / seeds.length, precision: die.found / Math.max(1, die.said) },
    power: {
      mosfets: power.mosfet.found / power.mosfet.there,
      chokes: power.choke.found / power.choke.there,
      sure: power.sureRight / Math.max(1, power.sure),
    },
    holes: { recall: holes.found / holes.there, falseOnes: (holes.said - holes.found) / seeds.length },
  };
}
