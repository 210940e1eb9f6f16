import { nth } from "../numeric/index.ts";
import { DIE_PRESSURE_KPA } from "../trade/index.ts";
import { PER_NODE } from "./plate.ts";
import { asGiven, DIE_KPA_PER_MM, type Prepared, prepare, type Solved, solveContact, type Variation } from "./solve.ts";
import type { Stack } from "./stack.ts";

export type WarningCode =
  | "pad-no-contact"
  | "pad-too-thick"
  | "die-not-seated"
  | "board-bowed"
  | "pressure-low"
  | "pressure-high";

/** Which of them mean that it is not to be closed like this. */
export const IS_FAULT: Readonly<Record<WarningCode, boolean>> = {
  "pad-no-contact": true,
  "pad-too-thick": true,
  "die-not-seated": true,
  "board-bowed": false,
  "pressure-low": false,
  "pressure-high": false,
};

export interface ContactReport {
  die: {
    forceN: number;
    meanPressureKPa: number;
    minPressureKPa: number;
    tiltMradX: number;
    tiltMradY: number;
    seated: boolean;
  };
  pads: Array<{
    id: string;
    contact: boolean;
    compressionPct: number;
    pressureKPa: number;
    forceN: number;
    thicknessMm: number;
  }>;
  board: { maxDeflectionMm: number; atXMm: number; atYMm: number };
  warnings: Array<{ code: WarningCode; id: string; text: string }>;
}

/** A corner this far off still counts as seated, mm. */
const SEATED_MM = 0.01;
const SEATED_SHARE = 0.1;
const SCREWS_AROUND = 4;
/** A board bent by more than this is bowed, mm (common practice of the trade). */
const BOWED_MM = 0.15;
const USUAL_KPA = `${DIE_PRESSURE_KPA.usualLow.toFixed(0)} to ${DIE_PRESSURE_KPA.usualHigh.toFixed(0)} kPa`;
/** Less of the mean pressure than this at its weakest point, and the die is pressed unevenly. */
const UNEVEN_SHARE = 0.1;
/** So many pads are named in a warning. */
const MOST_NAMED = 3;
/** Leaning along one side by less than this share of the other is no lean. */
const CORNER_SHARE = 0.3;
const SAME_BOW_MM = 1e-6;
const PAD_HIGH_KPA = 1000;
const PAD_LOW_STRAIN = 0.04;
/** Squeezed by more than this a pad is too thick for its place. */
const PAD_TOO_THICK_STRAIN = 0.5;

/**
 * Will the die seat? Pressures, tilt, bow and warnings of a stack.
 * @param stack from `readStack`
 * @throws Problem `no-balance`
 */
export function contact(stack: Stack, widestMm?: number): ContactReport {
  const prepared = prepare(stack, widestMm);
  return report(prepared, asGiven(stack));
}

export function report(
  prepared: Prepared,
  variation: Variation,
  solved: Solved = solveContact(prepared, variation),
): ContactReport {
  const { stack } = prepared;
  const { die } = stack;
  const areaMm2 = die.widthMm * die.heightMm;
  const forceN = dieForce(prepared, solved);
  const [lowerLeft = 0, lowerRight = 0, upperRight = 0, upperLeft = 0] = solved.cornersMm;
  const seated = isSeated(prepared, solved);
  const board = bow(prepared, solved);
  const pads = stack.components.flatMap((component, index) => {
    const found = solved.pads[index];
    const thickness = nth(variation.thicknessesMm, index);
    if (!found || !component.pad || thickness <= 0) return [];
    return [
      {
        id: component.id,
        contact: found.contact,
        compressionPct: 100 * found.strain,
        pressureKPa: (1000 * found.forceN) / Math.max(1e-9, nth(prepared.padAreas, index)),
        forceN: found.forceN,
        thicknessMm: thickness * (1 - found.strain),
      },
    ];
  });
  const result = {
    die: {
      forceN,
      meanPressureKPa: (1000 * forceN) / areaMm2,
      minPressureKPa: Math.min(...cornerPressures(solved), ...solved.diePressuresKPa),
      tiltMradX: (500 * (lowerRight + upperRight - lowerLeft - upperLeft)) / die.widthMm,
      tiltMradY: (500 * (upperLeft + upperRight - lowerLeft - lowerRight)) / die.heightMm,
      seated,
    },
    pads,
    board,
  };
  return { ...result, warnings: warningsOf(result, prepared, variation) };
}

const cornerPressures = ({ cornersMm }: Solved): number[] =>
  cornersMm.map((apart) => Math.max(0, -apart) * DIE_KPA_PER_MM);

function dieForce({ stack: { die } }: Prepared, { diePressuresKPa }: Solved): number {
  const mean = diePressuresKPa.reduce((sum, one) => sum + one, 0) / diePressuresKPa.length;
  return (mean * die.widthMm * die.heightMm) / 1000;
}

/** Every corner of the die within 0.01 mm of the cooler, and a tenth of the pull of the four screws nearest to it on the die. */
export function isSeated(prepared: Prepared, solved: Solved): boolean {
  const { die, screws } = prepared.stack;
  const around = screws
    .map((screw, index) => ({
      away: Math.hypot(screw.xMm - die.xMm, screw.yMm - die.yMm),
      pull: nth(solved.pullsN, index),
    }))
    .sort((a, b) => a.away - b.away)
    .slice(0, SCREWS_AROUND)
    .reduce((sum, one) => sum + one.pull, 0);
  return solved.cornersMm.every((apart) => apart <= SEATED_MM) && dieForce(prepared, solved) >= SEATED_SHARE * around;
}

/** Departure of the board from the plane through the die's corners at the lines of the grid, column by column, + toward the cooler. */
export interface BowField {
  xsMm: number[];
  ysMm: number[];
  offMm: number[];
}

export function bowField({ stack: { die }, grid }: Prepared, { unknowns, cornersMm }: Solved): BowField {
  const [lowerLeft = 0, lowerRight = 0, upperRight = 0, upperLeft = 0] = cornersMm.map((apart) => -apart);
  const middle = (lowerLeft + lowerRight + upperRight + upperLeft) / 4;
  const slopeX = (lowerRight + upperRight - lowerLeft - upperLeft) / (2 * die.widthMm);
  const slopeY = (upperLeft + upperRight - lowerLeft - lowerRight) / (2 * die.heightMm);
  const offMm: number[] = [];
  grid.xs.forEach((x, column) => {
    grid.ys.forEach((y, row) => {
      const w = nth(unknowns, PER_NODE * (column * grid.ys.length + row));
      offMm.push(w - middle - slopeX * (x - die.xMm) - slopeY * (y - die.yMm));
    });
  });
  return { xsMm: [...grid.xs], ysMm: [...grid.ys], offMm };
}

function bow(prepared: Prepared, solved: Solved): ContactReport["board"] {
  const { xsMm, ysMm, offMm } = bowField(prepared, solved);
  const { die } = prepared.stack;
  let most = { maxDeflectionMm: 0, atXMm: die.xMm, atYMm: die.yMm };
  offMm.forEach((off, index) => {
    // Of places that are bent alike the first counts, whatever the last digits say.
    if (Math.abs(off) <= Math.abs(most.maxDeflectionMm) + SAME_BOW_MM) return;
    most = {
      maxDeflectionMm: off,
      atXMm: nth(xsMm, Math.floor(index / ysMm.length)),
      atYMm: nth(ysMm, index % ysMm.length),
    };
  });
  return most;
}

function warningsOf(
  { die, pads, board }: Omit<ContactReport, "warnings">,
  { stack }: Prepared,
  variation: Variation,
): ContactReport["warnings"] {
  const warnings: ContactReport["warnings"] = [];
  const add = (code: WarningCode, id: string, text: string): void => {
    warnings.push({ code, id, text });
  };
  // Where pads are to be thinner first, the others' gaps change with them: nothing thicker is advised beside it.
  const thinnerFirst =
    !die.seated ||
    board.maxDeflectionMm < -BOWED_MM ||
    pads.some(
      (pad) => pad.contact && (pad.compressionPct > 100 * PAD_TOO_THICK_STRAIN || pad.pressureKPa > PAD_HIGH_KPA),
    );
  const thicker = thinnerFirst ? "Mend first what is pressed too hard, then look again." : "Take the next thicker one.";
  for (const pad of pads) {
    const index = stack.components.findIndex((component) => component.id === pad.id);
    const gapMm = nth(variation.gapsMm, index);
    const thickness = nth(variation.thicknessesMm, index);
    if (!pad.contact)
      add(
        "pad-no-contact",
        pad.id,
        thickness > gapMm
          ? `Pad of ${thickness.toFixed(2)} mm does not touch although the gap is ${gapMm.toFixed(2)} mm: the board bends away here. Take softer pads around it, or check for a screw near it.`
          : `Pad of ${thickness.toFixed(2)} mm does not touch: the gap is ${gapMm.toFixed(2)} mm. ${thicker}`,
      );
    else if (pad.compressionPct > 100 * PAD_TOO_THICK_STRAIN || (!die.seated && pad.compressionPct > 25))
      add(
        "pad-too-thick",
        pad.id,
        `Squeezed by ${pad.compressionPct.toFixed(0)} % with ${pad.pressureKPa.toFixed(0)} kPa${die.seated ? "" : ", and the die does not seat"}. Take a thinner or a softer one.`,
      );
    else if (pad.compressionPct < 100 * PAD_LOW_STRAIN)
      add("pressure-low", pad.id, `Squeezed by ${pad.compressionPct.toFixed(1)} % only: it hardly touches. ${thicker}`);
    if (pad.pressureKPa > PAD_HIGH_KPA)
      add("pressure-high", pad.id, `${pad.pressureKPa.toFixed(0)} kPa on this part: take a softer or thinner pad.`);
  }
  if (!die.seated)
    add(
      "die-not-seated",
      "die",
      `The cooler does not sit flat on the die: take thinner or softer pads where they hold it off${most(pads, (pad) => pad.pressureKPa * pad.compressionPct * pad.thicknessMm)}.`,
    );
  else if (die.meanPressureKPa < DIE_PRESSURE_KPA.tooLow)
    add(
      "pressure-low",
      "die",
      `${die.meanPressureKPa.toFixed(0)} kPa on the die; ${USUAL_KPA} is usual. Thinner or softer pads leave more of the screws’ pull to it.`,
    );
  else if (pressedUnevenly(die))
    add(
      "pressure-low",
      "die",
      `Pressed unevenly: ${die.meanPressureKPa.toFixed(0)} kPa on average, ${die.minPressureKPa.toFixed(0)} at the ${weakSide(die, stack.die)}. Even out the pull of the screws, or take softer pads on that side.`,
    );
  if (die.meanPressureKPa > DIE_PRESSURE_KPA.tooHigh)
    add(
      "pressure-high",
      "die",
      `${die.meanPressureKPa.toFixed(0)} kPa on the die; ${USUAL_KPA} is usual. Loosen the screws.`,
    );
  /** How far a place lies from the middle of the die toward where the board is bent most, mm. */
  const leverMm = (id: string): number => {
    const { xMm, yMm } = stack.components.find((component) => component.id === id) ?? stack.die;
    const [towardX, towardY] = [board.atXMm - stack.die.xMm, board.atYMm - stack.die.yMm];
    const along = (xMm - stack.die.xMm) * towardX + (yMm - stack.die.yMm) * towardY;
    return along / Math.hypot(towardX, towardY);
  };
  if (Math.abs(board.maxDeflectionMm) > BOWED_MM)
    add(
      "board-bowed",
      "board",
      `The board is bent by ${Math.abs(board.maxDeflectionMm).toFixed(2)} mm ${board.maxDeflectionMm > 0 ? "toward" : "away from"} the cooler at x ${board.atXMm.toFixed(0)}, y ${board.atYMm.toFixed(0)} mm. ${
        board.maxDeflectionMm > 0
          ? `The screws bend it over the die: loosen them evenly${thinnerFirst ? "" : ", or let thicker pads hold it up there"}. If a backplate stiffens it, give its map a thicker board.`
          : `Pads push it off: take thinner or softer ones${most(pads, (pad) => pad.forceN * leverMm(pad.id))}.`
      }`,
    );
  return warnings;
}

type PadReport = ContactReport["pads"][number];

/** The pads of most weight in brackets, to be put behind a sentence; empty where none has any. */
function most(pads: readonly PadReport[], weight: (pad: PadReport) => number): string {
  const weighty = pads.filter((pad) => weight(pad) > 0).toSorted((a, b) => weight(b) - weight(a));
  const named = weighty.slice(0, MOST_NAMED).map((pad) => `${pad.id} ${pad.pressureKPa.toFixed(0)} kPa`);
  return named.length > 0 ? ` (${named.join(", ")})` : "";
}

/** Whether a die that seats carries almost nothing at its weakest point. */
export const pressedUnevenly = ({
  seated,
  minPressureKPa,
  meanPressureKPa,
}: Pick<ContactReport["die"], "seated" | "minPressureKPa" | "meanPressureKPa">): boolean =>
  seated && minPressureKPa < UNEVEN_SHARE * meanPressureKPa;

/** The side or corner of the die, seen on the plan, from which the cooler leans away. */
function weakSide(
  { tiltMradX, tiltMradY }: { tiltMradX: number; tiltMradY: number },
  { widthMm, heightMm }: { widthMm: number; heightMm: number },
): string {
  const [across, up] = [tiltMradX * widthMm, tiltMradY * heightMm];
  const most = Math.max(Math.abs(across), Math.abs(up));
  const names = [
    Math.abs(up) < CORNER_SHARE * most ? "" : up > 0 ? "upper" : "lower",
    Math.abs(across) < CORNER_SHARE * most ? "" : across > 0 ? "right" : "left",
  ].filter(Boolean);
  return `${names.join(" ")} ${names.length === 2 ? "corner" : "edge"}`;
}
