import { Problem } from "../problem/index.ts";
import type { DieLoad } from "./load.ts";
import { FastenModel, type State } from "./model.ts";
import { across, around, type Move, searchMoves } from "./plan.ts";
import type { FastenStack } from "./stack.ts";

/** One turn of one screw and the die's load after it. */
export interface Turn extends DieLoad {
  screwId: string;
  /** Negative where it is loosened. */
  turns: number;
  /** How far it is driven in after it, turns from its first bite. */
  totalTurns: number;
}

export interface School {
  name: "around-1" | "cross-1" | "cross-2" | "cross-3";
  moves: number;
  peakCornerKPa: number;
  peakRatio: number | null;
}

export interface Fastening {
  /** All tight. */
  final: DieLoad;
  tighten: Turn[];
  loosen: Turn[];
  /** The largest load of a corner while tightening, and how it compares with the one at the end; null where that is nothing. */
  peakCornerKPa: number;
  peakRatio: number | null;
  schools: School[];
}

export interface FastenOptions {
  /** At most so many moves; three a screw by default. */
  moves?: number | undefined;
  /** Called with the share of the work that is done, 0…1. */
  onProgress?: ((share: number) => void) | undefined;
}

const MOVES_A_SCREW = 3;
const MOST_SCREWS = 24;

/**
 * In which order and by how many turns to tighten and to loosen screws so that no edge of the die ever carries more than it must.
 * @throws Problem `too-few-moves`, `too-many-screws`, `no-balance`
 */
export function fasten(input: FastenStack, options: FastenOptions = {}): Fastening {
  const { screws } = input;
  const mostMoves = options.moves ?? MOVES_A_SCREW * screws.length;
  if (screws.length > MOST_SCREWS)
    throw new Problem({
      code: "too-many-screws",
      what: `These are ${screws.length} screws; ${MOST_SCREWS} can be planned.`,
      where: "screws",
      remedy: "Leave out those that hold no part of the cooler.",
    });
  if (mostMoves < screws.length)
    throw new Problem({
      code: "too-few-moves",
      what: `${mostMoves} moves are fewer than the ${screws.length} screws.`,
      where: "--moves",
      remedy: `Allow ${screws.length} or more.`,
    });
  const model = new FastenModel(input);
  const of = (group: "die" | "other"): number[] => [...screws.keys()].filter((index) => screws[index]?.group === group);
  const [dies, others] = [of("die"), of("other")];
  const free: State = screws.map(() => 0);
  const tight: State = screws.map(({ travelMm }) => travelMm);
  const dieTight: State = screws.map(({ travelMm, group }) => (group === "die" ? travelMm : 0));
  model.learn(likelyStates(screws, dies, tight));
  options.onProgress?.(0.1);
  const search = (way: "tighten" | "loosen"): Move[] =>
    searchMoves({
      screws,
      turned: dies,
      rest: free,
      way,
      mostMoves: mostMoves - others.length,
      cornerKPa: (state) => model.cornerKPa(state),
      asked: () => model.asked,
    });
  const tightening = [...search("tighten"), ...oneByOne(model, others, dieTight, tight)];
  options.onProgress?.(0.4);
  const loosening = [...oneByOne(model, others, tight, dieTight), ...search("loosen")];
  options.onProgress?.(0.8);
  const final = model.load(tight);
  const tighten = turnsOf(input, model, free, tightening);
  const loosen = turnsOf(input, model, tight, loosening);
  const peakCornerKPa = peak(tighten);
  const ratio = (kPa: number): number | null => (final.cornerKPa > 0 ? kPa / final.cornerKPa : null);
  const schools = SCHOOLS.map(({ name, order, rounds }): School => {
    const round = order(screws, dies);
    const moves = [
      ...Array.from({ length: rounds }, (_, k) =>
        round.map((screw): Move => ({ screw, toMm: ((screws[screw]?.travelMm ?? 0) * (k + 1)) / rounds })),
      ).flat(),
      ...others.map((screw): Move => ({ screw, toMm: screws[screw]?.travelMm ?? 0 })),
    ];
    const kPa = peak(turnsOf(input, model, free, moves));
    return { name, moves: moves.length, peakCornerKPa: kPa, peakRatio: ratio(kPa) };
  });
  options.onProgress?.(1);
  return { final, tighten, loosen, peakCornerKPa, peakRatio: ratio(peakCornerKPa), schools };
}

/** States as a plan goes through: some rounds across, the next screw a little ahead, from half way on. */
function likelyStates(screws: FastenStack["screws"], dies: readonly number[], tight: State): State[] {
  const order = across(screws, dies).slice(0, 4);
  const at = (share: number): State => tight.map((mm, index) => (screws[index]?.group === "die" ? share * mm : 0));
  return [
    ...SEEN_AT.flatMap((share) =>
      order.map((ahead) => at(share).with(ahead, Math.min(1, share + 0.3) * (tight[ahead] ?? 0))),
    ),
    at(1),
    tight,
  ];
}

/** Shares of their travel that the others are driven in meanwhile. */
const SEEN_AT = [0.3, 0.7];

const SCHOOLS = [
  { name: "around-1", order: around, rounds: 1 },
  { name: "cross-1", order: across, rounds: 1 },
  { name: "cross-2", order: across, rounds: 2 },
  { name: "cross-3", order: across, rounds: 3 },
] as const;

const peak = (turns: readonly Turn[]): number => turns.reduce((most, { cornerKPa }) => Math.max(most, cornerKPa), 0);

/** Screws beside the die, each in one move, the one next that loads a corner least. */
function oneByOne(model: FastenModel, turned: readonly number[], from: State, to: State): Move[] {
  const state = [...from];
  const left = [...turned];
  const moves: Move[] = [];
  while (left.length > 0) {
    const after = (screw: number): number => model.cornerKPa(state.with(screw, to[screw] ?? 0));
    const screw = left.reduce((a, b) => (after(b) < after(a) ? b : a));
    left.splice(left.indexOf(screw), 1);
    state[screw] = to[screw] ?? 0;
    moves.push({ screw, toMm: state[screw] });
  }
  return moves;
}

function turnsOf({ screws }: FastenStack, model: FastenModel, from: State, moves: readonly Move[]): Turn[] {
  const state = [...from];
  return moves.flatMap(({ screw, toMm }) => {
    const one = screws[screw];
    if (!one) return [];
    const before = state[screw] ?? 0;
    state[screw] = toMm;
    return [
      {
        screwId: one.id,
        turns: (toMm - before) / one.pitchMm,
        totalTurns: toMm / one.pitchMm,
        ...model.load(state),
      },
    ];
  });
}
