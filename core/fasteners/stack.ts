import * as v from "valibot";
import { readStack, type Stack } from "../contact/index.ts";
import { numberFrom, Problem, readDocument } from "../problem/index.ts";

/** A screw of the stack as it is turned: mm from first bite to its end, mm a turn. */
export interface Turned {
  id: string;
  xMm: number;
  yMm: number;
  springNPerMm: number;
  travelMm: number;
  pitchMm: number;
  group: "die" | "other";
  /** Seen from the die's middle, counter-clockwise, radians. */
  angle: number;
}

export interface FastenStack {
  stack: Stack;
  screws: readonly Turned[];
}

/** M2.5, coarse (ISO 261:1998, from memory). */
const USUAL_PITCH_MM = 0.45;
/** Where nobody says which, so many nearest to its middle press the die. */
const AROUND_DIE = 4;
/** A screw of more turns than these is no screw of a card. */
const MOST_TURNS = 200;
const SAME_PLACE_MM = 0.5;

const ExtraFile = v.object({
  screws: v.array(
    v.object({
      pitchMm: v.optional(numberFrom(0.1, 5), USUAL_PITCH_MM),
      group: v.optional(v.picklist(["die", "other"], "A screw’s group is “die” or “other”.")),
    }),
  ),
});

const bad = (what: string, where: string, remedy: string): Problem =>
  new Problem({ code: "bad-stack", what, where, remedy });

/**
 * A stack of `contact` whose screws may have a pitch and a group.
 * @throws Problem `bad-stack` naming the field and the remedy: also for a screw without travel, two in one place, none for the die
 */
export function readFasten(input: unknown): FastenStack {
  const stack = readStack(input);
  const extra = readDocument(ExtraFile, input, "bad-stack");
  const { die, screws } = stack;
  const away = screws.map(({ xMm, yMm }) => Math.hypot(xMm - die.xMm, yMm - die.yMm));
  const byDistance = [...screws.keys()].sort((a, b) => (away[a] ?? 0) - (away[b] ?? 0) || a - b);
  const near = new Set(byDistance.slice(0, AROUND_DIE));
  const turned = screws.map(({ id, xMm, yMm, forceN, springNPerMm }, index): Turned => {
    const { pitchMm = USUAL_PITCH_MM, group } = extra.screws[index] ?? {};
    const where = `screws[${index}]`;
    if (screws.findIndex((one) => one.id === id) !== index)
      throw bad(`“${id}” is there twice.`, where, "Give every screw its own id.");
    const other = screws.slice(0, index).find((one) => Math.hypot(one.xMm - xMm, one.yMm - yMm) < SAME_PLACE_MM);
    if (other) throw bad(`Screws ${other.id} and ${id} are in one place.`, where, "Check their positions.");
    if (!(forceN > 0))
      throw bad(
        `Screw ${id} has no travel: it pulls with 0 N.`,
        where,
        "Give its pull when it is tight, or leave it out.",
      );
    if (!(springNPerMm > 0))
      throw bad(
        `Screw ${id} has no spring: how far it travels can’t be told.`,
        where,
        "Give springNPerMm; of a screw without a spring some hundred.",
      );
    const travelMm = forceN / springNPerMm;
    if (travelMm / pitchMm > MOST_TURNS)
      throw bad(
        `Screw ${id} would need ${Math.round(travelMm / pitchMm)} turns.`,
        where,
        "Check its pull, spring and pitch.",
      );
    return {
      id,
      xMm,
      yMm,
      springNPerMm,
      travelMm,
      pitchMm,
      group: group ?? (near.has(index) ? "die" : "other"),
      angle: Math.atan2(yMm - die.yMm, xMm - die.xMm),
    };
  });
  if (!turned.some(({ group }) => group === "die"))
    throw bad("No screw presses the die.", "screws", "Give some of them the group “die”, or leave the groups out.");
  return { stack, screws: turned };
}
