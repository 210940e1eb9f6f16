import type { MapPart } from "../boardmap/index.ts";
import {
  asGiven,
  type BowField,
  bowField,
  type ContactReport,
  isSeated,
  type Prepared,
  prepare,
  pressureAt,
  report,
  type Solved,
  solveContact,
} from "../contact/index.ts";
import { ofKey } from "../numeric/index.ts";
import { type PadHeat, padHeat } from "../padheat/index.ts";
import { PASTE_MOST_MM, type PadPick, type PadWork, placesOf, pressesOnCooler, totalMm } from "./picks.ts";
import { STANDOFF, stackMaterial, stackOf } from "./stack.ts";

export interface PlaceJudgement {
  id: string;
  contact: boolean;
  compressionPct: number;
  pressureKPa: number;
  forceN: number;
  /** Thickness once mounted; null without a pad. */
  mountedMm: number | null;
  heat: PadHeat;
  temperatureC: number;
  /** What a full-size, centred pad without film would run at less, K. */
  lostK: number;
}

export interface Judgement {
  contact: ContactReport;
  places: PlaceJudgement[];
  bow: BowField;
  /** Pulls of the screws as they are, N, in the map's order. */
  pullsN: number[];
  seated: boolean;
}

/**
 * Everything the chosen pads do: contact, board, and the estimated temperature of every place.
 * Pads under the backplate don't push on the die; they are judged by their gap alone.
 * @throws Problem `map-not-ready`, `no-curve`, `bad-stack`, `no-balance`
 */
export function judgePads(work: PadWork, last?: LastJudged): Judgement {
  return judgeOn(work, last).judgement;
}

/** What the next judgement of nearly the same work can start from. */
export interface LastJudged {
  prepared: Prepared;
  solved: Solved;
}

/** As `judgePads`, with what the next one can start from. */
export function judgeOn(work: PadWork, last?: LastJudged): LastJudged & { judgement: Judgement } {
  const prepared = prepare(stackOf(work), undefined, last?.prepared);
  const variation = asGiven(prepared.stack);
  const start = prepared.plate === last?.prepared.plate ? last.solved.unknowns : undefined;
  const solved = solveContact(prepared, variation, start);
  const contact = report(prepared, variation, solved);
  const places = placesOf(work.map).map((part): PlaceJudgement => {
    const pick = work.picks[part.id] ?? null;
    const material = work.materials.find((one) => one.id === pick?.materialId);
    const gapMm = ofKey(work.gapsMm, part.id);
    const found = contact.pads.find((pad) => pad.id === part.id);
    const touch =
      pick && material
        ? found
          ? { ...found, mountedMm: found.thicknessMm }
          : material.form === "paste"
            ? aside(gapMm <= PASTE_MOST_MM, 0, 0, gapMm)
            : pressesOnCooler(part)
              ? NOTHING
              : behind(pick, gapMm, (strain) => pressureAt(stackMaterial(material), strain).kPa)
        : NOTHING;
    const powerW = work.heat.powerW[part.kind];
    const heatWith = (size: Pick<PadPick, "widthMm" | "heightMm" | "offXMm" | "offYMm" | "filmLeft">): PadHeat =>
      padHeat({
        widthMm: part.widthMm,
        heightMm: part.heightMm,
        powerW,
        pad:
          pick && material && touch.contact && touch.mountedMm !== null
            ? {
                widthMm: size.widthMm,
                heightMm: size.heightMm,
                offXMm: size.offXMm,
                offYMm: size.offYMm,
                filmLeft: size.filmLeft,
                bondLineMm: touch.mountedMm,
                conductivityWPerMK: material.conductivityWPerMK,
                pressureKPa: touch.pressureKPa,
                joints: 1 + pick.layers,
              }
            : null,
      });
    const full = { widthMm: part.widthMm, heightMm: part.heightMm, offXMm: 0, offYMm: 0, filmLeft: false };
    const heat = heatWith(pick ?? full);
    return {
      id: part.id,
      contact: touch.contact,
      compressionPct: touch.compressionPct,
      pressureKPa: touch.pressureKPa,
      forceN: touch.forceN,
      mountedMm: touch.contact ? touch.mountedMm : null,
      heat,
      temperatureC: work.heat.faceC + heat.riseK,
      lostK: touch.contact && pick && !isFull(pick, part) ? heat.riseK - heatWith(full).riseK : 0,
    };
  });
  const judgement = {
    contact: withoutStandoffs(contact),
    places,
    bow: bowField(prepared, solved),
    pullsN: solved.pullsN,
    seated: isSeated(prepared, solved),
  };
  return { prepared, solved, judgement };
}

const isFull = (pick: PadPick, part: MapPart): boolean =>
  !pick.filmLeft &&
  pick.offXMm === 0 &&
  pick.offYMm === 0 &&
  pick.widthMm >= part.widthMm &&
  pick.heightMm >= part.heightMm;

/** Standoffs are no pads: nothing is said of them. */
const withoutStandoffs = (contact: ContactReport): ContactReport => ({
  ...contact,
  pads: contact.pads.filter((pad) => !pad.id.startsWith(STANDOFF)),
  warnings: contact.warnings.filter((warning) => !warning.id.startsWith(STANDOFF)),
});

interface Touch {
  contact: boolean;
  compressionPct: number;
  pressureKPa: number;
  forceN: number;
  mountedMm: number | null;
}
const NOTHING: Touch = { contact: false, compressionPct: 0, pressureKPa: 0, forceN: 0, mountedMm: null };
const aside = (contact: boolean, compressionPct: number, pressureKPa: number, mountedMm: number): Touch => ({
  contact,
  compressionPct,
  pressureKPa,
  forceN: 0,
  mountedMm,
});

function behind(pick: PadPick, gapMm: number, pressure: (strain: number) => number): Touch {
  const strain = 1 - gapMm / totalMm(pick);
  const kPa = pressure(strain);
  return {
    ...aside(strain > 0, Math.max(0, 100 * strain), kPa, Math.min(gapMm, totalMm(pick))),
    forceN: (kPa * pick.widthMm * pick.heightMm) / 1000,
  };
}
