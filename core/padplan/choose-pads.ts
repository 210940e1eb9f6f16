import { type MapPart, pullingScrews } from "../boardmap/index.ts";
import {
  asGiven,
  isSeated,
  type Prepared,
  prepare,
  pressureAt,
  report,
  type Solved,
  searchPads,
  solveContact,
} from "../contact/index.ts";
import { factorOf, normalShare, nth, ofKey } from "../numeric/index.ts";
import { jointM2KPerW } from "../padheat/index.ts";
import { seeded } from "../random/index.ts";
import { DIE_PRESSURE_KPA, SCREW_SCATTER } from "../trade/index.ts";
import {
  fullPick,
  type PadMaterial,
  type PadPick,
  type PadWork,
  PUTTY_MORE_MM,
  placesOf,
  pressesOnCooler,
  totalMm,
} from "./picks.ts";
import { STANDOFF, stackMaterial, stackOf } from "./stack.ts";

export interface PadOffer {
  materialId: string;
  /** Null for putty, which takes any thickness. */
  thicknessMm: number | null;
  inStock: boolean;
}

export interface ChoosePadsInput extends Omit<PadWork, "picks" | "heat"> {
  offers: readonly PadOffer[];
  /** Covariance of the gaps in the order of `placesOf(map)`, mm². */
  covariance: Float64Array;
  prefer: "fewest" | "contact";
}

export interface ChosenPad {
  id: string;
  pick: PadPick | null;
  touchProbability: number | null;
  /** Of the whole choice. */
  seatProbability: number | null;
  why: string;
  /** Why not the next thinner and the next thicker one. */
  neighbours: Array<{ thicknessMm: number; text: string }>;
}

export interface PadChoice {
  pads: ChosenPad[];
  seatProbability: number;
  /** Every pad touches and the die seats. */
  allGoodProbability: number;
  thicknesses: number;
}

export interface ChoosePadsOptions {
  samples?: number;
  seed?: number;
  progress?: (share: number) => void;
}

/** A pad so many standard deviations above its gap touches in 95, 80, 60 % of cases: tried in this order. */
const SURE_SIGMAS = [1.645, 0.84, 0.25] as const;
/** A gap that is less sure than this can't be chosen for, mm. */
const UNKNOWN_SD_MM = 0.4;
const SQUEEZE_MOST = 0.5;
const SQUEEZE_LIKED_MOST = 0.4;
const MOST_SOLVES = 8;
const MOST_KINDS = 3;

interface Candidate {
  offer: PadOffer;
  pick: PadPick;
  forceN: number;
  /** Resistance of bond line and joints, m²K/W. */
  resistance: number;
  strain: number;
  conductivityWPerMK: number;
}

/** What reaches so far: one sheet, putty, two sheets on each other. */
interface Fitting {
  single: readonly Candidate[];
  filled: readonly Candidate[];
  doubled: readonly Candidate[];
}

const NOTHING_FITS: Fitting = { single: [], filled: [], doubled: [] };

interface Place {
  part: MapPart;
  gapMm: number;
  sdMm: number;
  fits: readonly Candidate[];
  /** Something offered surely touches here without being squeezed too far. */
  sure: boolean;
  /** Known well enough to be chosen for, and cooled by a pad. */
  reachable: boolean;
}

/**
 * Material, thickness and layers for every place: those that surely touch without taking the die off its seat; fewest different
 * sheets first, or best contact first. Chances come from sampling gaps (with what they share) and screw forces.
 * @throws Problem `map-not-ready`, `no-curve`, `bad-stack`
 */
export function choosePads(input: ChoosePadsInput, options: ChoosePadsOptions = {}): PadChoice {
  const parts = placesOf(input.map);
  const material = new Map(input.materials.map((one) => [one.id, one]));
  const placesAt = (least: number, puttyToo: boolean): Place[] =>
    parts.map((part, index) => {
      const gapMm = ofKey(input.gapsMm, part.id);
      const sdMm = Math.sqrt(Math.max(0, nth(input.covariance, index * parts.length + index)));
      // What is hardly known can't be chosen for: measuring comes first.
      const choosable = part.cooledBy !== "paste" && sdMm <= UNKNOWN_SD_MM;
      const at = (sigmas: number): Fitting =>
        choosable ? candidates(part, gapMm, gapMm + sigmas * sdMm, input.offers, material) : NOTHING_FITS;
      const [sure, likely, rather] = SURE_SIGMAS.map((sigmas) => (sigmas <= least ? at(sigmas) : NOTHING_FITS)) as [
        Fitting,
        Fitting,
        Fitting,
      ];
      // A place that nothing offered surely touches takes what probably does; one sheet that probably does before two on each other.
      const fits = firstOf([
        puttyToo ? [...sure.single, ...sure.filled] : sure.single,
        sure.filled,
        likely.single,
        sure.doubled,
        likely.filled,
        likely.doubled,
        rather.single,
        rather.filled,
        rather.doubled,
      ]);
      const surely = at(SURE_SIGMAS[0]);
      const isSure = firstOf([surely.single, surely.filled, surely.doubled]).length > 0;
      return { part, gapMm, sdMm, fits, sure: isSure, reachable: choosable };
    });
  const places = placesAt(SURE_SIGMAS[0], false);
  const tried: Settled[] = [];
  // Where pads that surely touch would take the die off its seat, thinner ones that probably touch are better than none.
  // Putty forgives the gap but is messy: last of all.
  for (const [sigmas, puttyToo] of [
    ...SURE_SIGMAS.map((one) => [one, false] as const),
    [SURE_SIGMAS[0], true] as const,
  ]) {
    const likely = placesAt(sigmas, puttyToo);
    for (const picks of chosenSets(likely, input.prefer).slice(0, MOST_SETS)) {
      tried.push(solveWith(input, places, picks, tried.at(-1)));
      // What conducts best takes all to be compared, and the steps down from what presses too hard.
      if (input.prefer === "contact" && !isGood(tried.at(-1))) tried.push(settle(input, likely, picks, tried.at(-1)));
      if (input.prefer === "fewest" && isGood(tried.at(-1))) break;
    }
    if (tried.some(isGood)) break;
  }
  if (input.prefer === "contact") tried.sort((one, other) => worstOf(one) - worstOf(other));
  const usual =
    tried.find(isGood) ??
    tried.filter((one) => one.seated).sort((a, b) => b.dieKPa - a.dieKPa)[0] ??
    settle(input, places, chosenSets(places, input.prefer)[0] ?? []);
  const first = sample(input, places, usual, options);
  const isServed = places.every(
    ({ reachable }, index) => !reachable || (usual.picks[index] !== null && nth(first.touched, index) >= MOST_CASES),
  );
  // A flat board's rule leaves something bare or unseated: the board's bow is looked at, which may want thinner pads or thicker.
  const best = isServed && first.seats >= MOST_CASES ? usual : bowed(input, places, usual, material);
  const chances = best === usual ? first : sample(input, places, best, { ...options, progress: () => undefined });
  const pads = places.map(({ part }, index): ChosenPad => {
    const one = best.picks[index] ?? null;
    return {
      id: part.id,
      pick: one?.pick ?? null,
      touchProbability: one ? nth(chances.touched, index) : null,
      seatProbability: one ? chances.seats : null,
      why: reason(places[index], one, material, nth(chances.touched, index)),
      neighbours: [],
    };
  });
  addNeighbours(input, places, best, pads);
  return {
    pads,
    seatProbability: chances.seats,
    allGoodProbability: chances.allGood,
    thicknesses: new Set(best.picks.flatMap((one) => (one ? sheetOf(one) : []))).size,
  };
}

/** Touching or seating in so many cases is what counts as served. */
const MOST_CASES = 0.5;
/** No board bows further toward or away from its cooler, mm. */
const MOST_BOW_MM = 0.6;

/** The chooser that looks at the bow (`searchPads`), over every pad that may touch then; from what the flat board's rule gave. */
function bowed(
  input: ChoosePadsInput,
  places: readonly Place[],
  usual: Settled,
  materials: ReadonlyMap<string, PadMaterial>,
): Settled {
  const lists = places.map(({ part, gapMm, reachable }, index) => {
    const own = usual.picks[index] ?? null;
    const found = reachable
      ? anyFitting(candidates(part, gapMm, Math.max(0.05, gapMm - MOST_BOW_MM), input.offers, materials)).filter(
          ({ pick }) => totalMm(pick) <= gapMm + MOST_BOW_MM || pick === own?.pick,
        )
      : [];
    const all = own && !found.some((one) => sameCandidate(one, own)) ? [...found, own] : found;
    return [...all].sort((a, b) => totalMm(a.pick) - totalMm(b.pick));
  });
  const start = lists.map((list, index) => {
    const own = usual.picks[index] ?? null;
    return own ? list.findIndex((one) => sameCandidate(one, own)) : -1;
  });
  const settled = new Map<string, Settled>();
  let near = usual;
  const settledAt = (choice: readonly number[]): Settled => {
    const key = choice.join();
    near =
      settled.get(key) ??
      solveWith(
        input,
        places,
        choice.map((pick, index) => lists[index]?.[pick] ?? null),
        near,
      );
    settled.set(key, near);
    return near;
  };
  const kinds = new Map<string, number[]>();
  places.forEach(({ part, gapMm }, index) => {
    const key = `${part.kind} ${part.widthMm} ${part.heightMm} ${gapMm.toFixed(1)}`;
    kinds.set(key, [...(kinds.get(key) ?? []), index]);
  });
  const choice = searchPads(
    {
      offersMm: lists.map((list) => list.map((one) => totalMm(one.pick))),
      alike: [...kinds.values()],
      toleranceMm: places.map(({ sdMm }) => Math.sqrt(3) * sdMm),
      solve: (picks) => {
        const { seated, solved, inStack } = settledAt(picks);
        const pads = inStack.map((at) => (at < 0 ? undefined : solved.pads[at]));
        return {
          seated,
          clearanceMm: pads.map((pad, index) =>
            pad && Number.isFinite(pad.clearanceMm) ? pad.clearanceMm : (places[index]?.gapMm ?? 0),
          ),
          forceN: pads.map((pad) => pad?.forceN ?? 0),
        };
      },
      sample: (picks, count) => {
        const { touched, seats } = sample(input, places, settledAt(picks), { samples: count });
        return { touches: touched, seats };
      },
    },
    [start, ...[0.1, -0.1, 0.3].map((above) => flatChoice(lists, places, above))],
  );
  return settledAt(choice);
}

const sameCandidate = (one: Candidate, other: Candidate): boolean =>
  one.offer === other.offer && one.pick.layers === other.pick.layers;

/** Of a flat board: the thinnest that reaches so far above each gap, else the thickest. */
const flatChoice = (lists: ReadonlyArray<readonly Candidate[]>, places: readonly Place[], aboveMm: number): number[] =>
  lists.map((list, index) => {
    const wanted = (places[index]?.gapMm ?? 0) + aboveMm;
    const at = list.findIndex((one) => totalMm(one.pick) >= wanted);
    return at < 0 ? list.length - 1 : at;
  });

/** What is bought and opened for it: a sheet of one thickness, or a tub of putty. */
const sheetOf = ({ pick, offer }: Candidate): string => `${pick.materialId} ${offer.thicknessMm ?? "any"}`;

function candidates(
  part: MapPart,
  gapMm: number,
  wantedMm: number,
  offers: readonly PadOffer[],
  materials: ReadonlyMap<string, PadMaterial>,
): Fitting {
  const single: Candidate[] = [];
  const doubled: Candidate[] = [];
  const filled: Candidate[] = [];
  for (const offer of offers) {
    const material = materials.get(offer.materialId);
    if (!material || material.form === "paste") continue;
    if (material.form === "pad" && !material.curve) continue;
    const law = stackMaterial(material);
    for (const layers of offer.thicknessMm === null ? [1] : [1, 2]) {
      const thicknessMm = offer.thicknessMm ?? Math.ceil((wantedMm + PUTTY_MORE_MM) * 10) / 10;
      const total = thicknessMm * layers;
      if (material.mostMm !== null && total > material.mostMm) continue;
      const strain = 1 - gapMm / total;
      const putty = material.form === "putty";
      if (total < wantedMm || (strain > SQUEEZE_MOST && !putty)) continue;
      const { kPa } = pressureAt(law, strain);
      (putty ? filled : layers === 1 ? single : doubled).push({
        offer,
        pick: fullPick(part, material, thicknessMm, layers),
        forceN: (kPa * part.widthMm * part.heightMm) / 1000,
        resistance: (gapMm * 1e-3) / material.conductivityWPerMK + (1 + layers) * jointM2KPerW(kPa),
        strain,
        conductivityWPerMK: material.conductivityWPerMK,
      });
    }
  }
  return { single, filled, doubled };
}

const firstOf = (lists: ReadonlyArray<readonly Candidate[]>): readonly Candidate[] =>
  lists.find((list) => list.length > 0) ?? [];

/** Two layers are one joint more: only where no single one and no putty fits. */
const anyFitting = ({ single, filled, doubled }: Fitting): readonly Candidate[] => firstOf([single, filled, doubled]);

/** Which candidate each place takes, best first; all lists are as long as the places. */
function chosenSets(places: readonly Place[], prefer: ChoosePadsInput["prefer"]): Array<Array<Candidate | null>> {
  const gentlest = places.map(({ fits }) => [...fits].sort(byForce)[0] ?? null);
  if (prefer === "contact") {
    const firm = places.map(({ fits }) => [...fits].filter(({ strain }) => strain >= FIRM).sort(byForce)[0] ?? null);
    return [
      places.map(({ fits }) => [...fits].sort(byContact)[0] ?? null),
      firm.map((one, index) => one ?? gentlest[index] ?? null),
      gentlest,
    ];
  }
  const wanted = places.filter(({ fits }) => fits.length > 0);
  const sheets = [...new Set(wanted.flatMap(({ fits }) => fits.map(sheetOf)))];
  const sets: Array<Array<Candidate | null>> = [];
  for (let count = 1; count <= Math.min(MOST_KINDS, sheets.length); count++) {
    const found: Array<{ picks: Array<Candidate | null>; cost: number }> = [];
    for (const subset of subsets(sheets, count)) {
      const picks = alike(places, subset);
      if (!picks || new Set(picks.flatMap((pick) => (pick ? sheetOf(pick) : []))).size < count) continue;
      const forceN = picks.reduce((sum, pick) => sum + (pick?.forceN ?? 0), 0);
      const bought = new Set(picks.flatMap((pick) => (pick && !pick.offer.inStock ? sheetOf(pick) : []))).size;
      found.push({ picks, cost: forceN + BOUGHT_N * bought });
    }
    sets.push(
      ...found
        .sort((a, b) => a.cost - b.cost)
        .slice(0, SETS_PER_COUNT)
        .map(({ picks }) => picks),
    );
  }
  return [...sets, gentlest];
}

/** What has to be bought counts like so much more force: stock first, unless it presses much harder. */
const BOUGHT_N = 100;
const SETS_PER_COUNT = 3;
const MOST_SETS = 8;

const tight = (one: Candidate): number => Number(one.strain > SQUEEZE_LIKED_MOST);
const byForce = (a: Candidate, b: Candidate): number => tight(a) - tight(b) || a.forceN - b.forceN;
const byContact = (a: Candidate, b: Candidate): number => tight(a) - tight(b) || a.resistance - b.resistance;

/** From a few sheets: the same for all places of a kind where one fits them all, else what fits each; undefined when one has none. */
function alike(places: readonly Place[], sheets: readonly string[]): Array<Candidate | null> | undefined {
  const usable = places.map(({ fits }) => fits.filter((one) => sheets.includes(sheetOf(one))).sort(byForce));
  const picks = usable.map((fits) => fits[0] ?? null);
  if (picks.some((pick, index) => pick === null && (places[index]?.fits.length ?? 0) > 0)) return undefined;
  for (const kind of new Set(places.map(kindOf))) {
    const members = places.flatMap((place, index) => (kindOf(place) === kind && picks[index] ? [index] : []));
    const common = sheets
      .map((sheet) => members.map((index) => usable[index]?.find((one) => sheetOf(one) === sheet)))
      .filter((row) => row.every((one) => one !== undefined))
      .sort((a, b) => forceOf(a) - forceOf(b))[0];
    members.forEach((index, at) => {
      picks[index] = common?.[at] ?? picks[index] ?? null;
    });
  }
  return picks;
}

const kindOf = ({ part }: Place): string => `${part.kind} ${part.cooledBy}`;
const forceOf = (row: ReadonlyArray<Candidate | undefined>): number =>
  row.reduce((sum, one) => sum + (one?.forceN ?? 0), 0);

function* subsets(from: readonly string[], count: number, at = 0, taken: readonly string[] = []): Generator<string[]> {
  if (taken.length === count) {
    yield [...taken];
    return;
  }
  for (let k = at; k < from.length; k++) yield* subsets(from, count, k + 1, [...taken, from[k] ?? ""]);
}

interface Settled {
  picks: Array<Candidate | null>;
  prepared: Prepared;
  solved: Solved;
  seated: boolean;
  dieKPa: number;
  /** Index among the stack's components, −1 for places that don't press on the cooler. */
  inStack: number[];
}

const workOf = (input: ChoosePadsInput, places: readonly Place[], picks: ReadonlyArray<Candidate | null>) => ({
  map: input.map,
  gapsMm: input.gapsMm,
  materials: input.materials,
  picks: Object.fromEntries(places.map(({ part }, index) => [part.id, picks[index]?.pick ?? null])),
});

function solveWith(
  input: ChoosePadsInput,
  places: readonly Place[],
  picks: Array<Candidate | null>,
  near?: Settled,
): Settled {
  const prepared = prepare(stackOf(workOf(input, places, picks)), undefined, near?.prepared);
  const solved = solveContact(prepared, asGiven(prepared.stack), near?.solved.unknowns);
  const { die } = report(prepared, asGiven(prepared.stack), solved);
  let next = prepared.stack.components.filter((one) => one.kind === STANDOFF).length;
  const inStack = places.map(({ part }) => (pressesOnCooler(part) ? next++ : -1));
  return { picks, prepared, solved, seated: isSeated(prepared, solved), dieKPa: die.meanPressureKPa, inStack };
}

const isGood = (one: Settled | undefined): boolean =>
  one !== undefined && one.seated && one.dieKPa >= DIE_PRESSURE_KPA.tooLow;

/** A pad squeezed by less than this hardly touches: what it conducts is not to be counted on (common practice, no source). */
const FIRM = 0.08;
/** So much resistance a pad that is not counts for beside one that is, m²K/W: more than any that is squeezed has. */
const LOOSE_M2KPERW = 1;

/** The worst resistance of its pads as the solved board squeezes them, m²K/W; pads that hardly touch before all else. */
function worstOf({ picks, solved, inStack }: Settled): number {
  let worst = 0;
  let loose = 0;
  picks.forEach((one, index) => {
    const pad = solved.pads[inStack[index] ?? -1];
    if (!one || !pad) return;
    const total = totalMm(one.pick);
    const thicknessMm = Math.min(total, pad.clearanceMm);
    const kPa = (1000 * pad.forceN) / (one.pick.widthMm * one.pick.heightMm);
    if (1 - thicknessMm / total < FIRM / 2) loose++;
    worst = Math.max(worst, (thicknessMm * 1e-3) / one.conductivityWPerMK + (1 + one.pick.layers) * jointM2KPerW(kPa));
  });
  return worst + LOOSE_M2KPERW * loose;
}

/** While the die does not seat, the place that presses hardest takes the next gentler candidate. */
function settle(
  input: ChoosePadsInput,
  places: readonly Place[],
  start: Array<Candidate | null>,
  near?: Settled,
): Settled {
  let now = solveWith(input, places, [...start], near);
  for (let turn = 0; turn < MOST_SOLVES && !isGood(now); turn++) {
    const gentler = places.flatMap(({ fits }, index) => {
      const pick = now.picks[index];
      const better = pick ? fits.filter((one) => one.forceN < pick.forceN - 1e-6) : [];
      const choice = better.sort((a, b) => b.forceN - a.forceN)[0];
      return pick && choice ? [{ index, choice, forceN: pick.forceN }] : [];
    });
    const worst = Math.max(...gentler.map((one) => one.forceN));
    if (gentler.length === 0) break;
    const picks = [...now.picks];
    // All that press as hard as the hardest one, so that like places stay alike.
    for (const { index, choice, forceN } of gentler) if (forceN > 0.9 * worst) picks[index] = choice;
    now = solveWith(input, places, picks, now);
  }
  return now;
}

function sample(
  input: ChoosePadsInput,
  places: readonly Place[],
  { picks, prepared, solved, inStack }: Settled,
  { samples = 60, seed = 1, progress }: ChoosePadsOptions,
): { touched: number[]; seats: number; allGood: number } {
  const size = places.length;
  const spread = input.covariance.slice();
  for (let k = 0; k < size; k++) spread[k * size + k] = nth(spread, k * size + k) + 1e-8;
  const factor = factorOf(spread, size, "the gaps’ scatter");
  const random = seeded(seed);
  const nominal = asGiven(prepared.stack);
  const touched = places.map(() => 0);
  let seats = 0;
  let allGood = 0;
  for (let turn = 0; turn < samples; turn++) {
    const z = places.map(() => random.normal());
    const gaps = places.map(({ gapMm }, i) => {
      let off = 0;
      for (let j = 0; j <= i; j++) off += nth(factor, i * size + j) * nth(z, j);
      return Math.max(0, gapMm + off);
    });
    const gapsMm = [...nominal.gapsMm];
    inStack.forEach((at, index) => {
      if (at >= 0) gapsMm[at] = nth(gaps, index);
    });
    const forcesN = prepared.stack.screws.map(({ forceN }, index) => {
      const share = pullingScrews(input.map)[index]?.shouldered ? SCREW_SCATTER.shouldered : SCREW_SCATTER.plain;
      return forceN * Math.max(0, 1 + (share / 2) * random.normal());
    });
    const drawn = solveContact(prepared, { ...nominal, gapsMm, forcesN }, solved.unknowns);
    const seated = isSeated(prepared, drawn);
    let all = seated;
    places.forEach((_, index) => {
      const pick = picks[index]?.pick;
      if (!pick) return;
      const at = inStack[index] ?? -1;
      const touches = at >= 0 ? (drawn.pads[at]?.contact ?? false) : totalMm(pick) > nth(gaps, index);
      if (touches) touched[index] = nth(touched, index) + 1;
      else all = false;
    });
    if (seated) seats++;
    if (all) allGood++;
    progress?.((turn + 1) / samples);
  }
  return { touched: touched.map((count) => count / samples), seats: seats / samples, allGood: allGood / samples };
}

/** A pad that is thick enough and still touches more rarely than this is where the board bends away. */
const BENT_AWAY = 0.9;

function reason(
  place: Place | undefined,
  one: Candidate | null,
  materials: ReadonlyMap<string, PadMaterial>,
  touched: number,
): string {
  if (!place) return "";
  const gap = `${place.gapMm.toFixed(2)} ± ${(1.96 * place.sdMm).toFixed(2)} mm`;
  if (place.part.cooledBy === "paste") return `Gap ${gap}: paste, no pad.`;
  if (!one && place.sdMm > UNKNOWN_SD_MM) return `Gap ${gap} is hardly known: measure it first.`;
  if (!one)
    return `Gap ${gap}: nothing offered surely touches it with less than half squeezed away. Take putty, add a thickness, or measure it again.`;
  const { pick } = one;
  const layers = pick.layers > 1 ? `, ${pick.layers} layers` : "";
  const what = `Gap ${gap}: ${pick.thicknessMm} mm of ${materials.get(pick.materialId)?.name ?? "it"}${layers}`;
  if (one.pick.thicknessMm * pick.layers < place.gapMm + SURE_SIGMAS[0] * place.sdMm)
    return `${what} touches in ${(100 * touched).toFixed(0)} % of cases; ${place.sure ? "thicker ones would take the die off its seat" : "nothing thicker is offered that is not squeezed too far"}. Measure this place to be surer.`;
  return touched < BENT_AWAY
    ? `${what} is thick enough, but the board bends away here and it touches in ${(100 * touched).toFixed(0)} % of cases. Take softer pads around it, or check for a screw near it.`
    : `${what} is squeezed by ${(100 * one.strain).toFixed(0)} % and surely touches.`;
}

/** Like places are changed together: what would the next thinner and the next thicker one do? */
function addNeighbours(input: ChoosePadsInput, places: readonly Place[], best: Settled, pads: ChosenPad[]): void {
  const groups = new Map<string, number[]>();
  best.picks.forEach((one, index) => {
    if (!one || one.offer.thicknessMm === null) return;
    const key = `${places[index]?.part.kind} ${sheetOf(one)} ${one.pick.layers}`;
    groups.set(key, [...(groups.get(key) ?? []), index]);
  });
  for (const members of groups.values()) {
    const lead = best.picks[nth(members, 0)];
    if (!lead) continue;
    const own = lead.pick.thicknessMm;
    const others = [
      ...new Set(
        input.offers
          .filter((offer) => offer.materialId === lead.pick.materialId)
          .flatMap((offer) => offer.thicknessMm ?? []),
      ),
    ].sort((a, b) => a - b);
    const thinner = others.filter((one) => one < own).at(-1);
    const thicker = others.find((one) => one > own);
    const neighbours: ChosenPad["neighbours"] = [];
    if (thinner !== undefined) {
      const chances = members.map((index) => {
        const { gapMm = 0, sdMm = 0 } = places[index] ?? {};
        return normalShare((thinner * lead.pick.layers - gapMm) / Math.max(1e-3, sdMm));
      });
      const least = Math.min(...chances);
      neighbours.push({
        thicknessMm: thinner,
        text:
          least < 0.95
            ? `${thinner} mm: the widest of these gaps would be touched in ${(100 * least).toFixed(0)} % of cases only.`
            : `${thinner} mm would touch too, squeezed less.`,
      });
    }
    if (thicker !== undefined) {
      const picks = best.picks.map((one, index) =>
        one && members.includes(index) ? { ...one, pick: { ...one.pick, thicknessMm: thicker } } : one,
      );
      const found = solveWith(input, places, picks, best);
      const from = best.dieKPa.toFixed(0);
      neighbours.push({
        thicknessMm: thicker,
        text: found.seated
          ? `${thicker} mm: pressure on the die would go from ${from} to ${found.dieKPa.toFixed(0)} kPa.`
          : `${thicker} mm: the die would no longer seat.`,
      });
    }
    for (const index of members) {
      const pad = pads[index];
      if (pad) pad.neighbours = neighbours;
    }
  }
}
