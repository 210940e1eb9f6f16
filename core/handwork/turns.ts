import { type BoardMap, type MapScrew, NEW_SCREW, PITCH_MM, pullingScrews } from "../boardmap/index.ts";
import type { Stack } from "../contact/index.ts";
import type { FastenStack } from "../fasteners/index.ts";
import { readFasten } from "../fasteners/index.ts";
import { type HandStep, handStep, type PlannedTurn, turnWords } from "./step.ts";

/** A screw without a spring is itself one: its shank and what it holds give about so much, N/mm (common practice, no source). */
const BARE_N_PER_MM = 300;

/**
 * What `fasten` is asked for a map: the cooler's screws, each with its thread's pitch.
 * @param stack die, board and pads as `contact` has them; a map's own screws take the place of its
 * @throws Problem `bad-stack`: no die, no pull, two screws in one place, none for the die
 */
export function fastenStackOf(map: BoardMap, stack: Omit<Stack, "screws">): FastenStack {
  return readFasten({
    ...stack,
    screws: pullingScrews(map)
      .filter(({ forceN }) => forceN > 0)
      .map(({ id, xMm, yMm, forceN, springNPerMm, washerMm, thread }) => ({
        id,
        xMm,
        yMm,
        forceN: forceN + springNPerMm * washerMm,
        springNPerMm: springNPerMm > 0 ? springNPerMm : BARE_N_PER_MM,
        ...(thread ? { pitchMm: PITCH_MM[thread] } : {}),
      })),
  });
}

/**
 * Screws of the cooler of which nobody told spring or thread: how many turns they take can only be guessed, and a guess must not be turned in
 * one go. A shoulder stops a screw by itself.
 */
export const guessedScrews = (map: BoardMap): string[] =>
  pullingScrews(map)
    .filter(
      ({ thread, forceN, springNPerMm, shouldered }) =>
        thread === null && !shouldered && forceN === NEW_SCREW.forceN && springNPerMm === NEW_SCREW.springNPerMm,
    )
    .map(({ id }) => id);

/** What a plan of turns takes for granted; empty where everything was told. */
export function assumedWords(map: BoardMap): string {
  const guessed = guessedScrews(map);
  const threadless = pullingScrews(map).filter(({ id, thread }) => thread === null && !guessed.includes(id));
  return [
    guessed.length > 0
      ? `Spring and thread of ${guessed.join(", ")} are not known: a pull of ${NEW_SCREW.forceN} N, a spring of ${NEW_SCREW.springNPerMm} N/mm and a pitch of ${PITCH_MM["M2.5"]} mm are a guess.`
      : "",
    threadless.length > 0
      ? `The thread of ${threadless.map(({ id }) => id).join(", ")} is not known: a pitch of ${PITCH_MM["M2.5"]} mm is taken.`
      : "",
  ]
    .filter(Boolean)
    .join(" ");
}

/** The plan where it can be trusted or was begun, else rounds of the cross by quarter turns. */
export function tensionSteps(
  way: "loosen" | "tighten",
  turns: readonly PlannedTurn[] | null,
  isBegun: boolean,
  map: BoardMap,
  group: string,
): HandStep[] {
  return turns && (isBegun || guessedScrews(map).length === 0)
    ? turnSteps(way, turns, map, group)
    : crossSteps(way, map, group);
}

/** Less than this nobody turns on purpose. */
const TOUCH = 1 / 16;

/** Steps of a plan of turns; a screw's last one says where it ends. */
function turnSteps(way: "loosen" | "tighten", turns: readonly PlannedTurn[], map: BoardMap, group: string): HandStep[] {
  const made = new Map<string, number>();
  return turns.map((turn) => {
    const nth = (made.get(turn.screwId) ?? 0) + 1;
    made.set(turn.screwId, nth);
    const isLast = turns.findLast(({ screwId }) => screwId === turn.screwId) === turn;
    const screw = map.screws.find(({ id }) => id === turn.screwId);
    const by = turnWords(turn.turns);
    const isTouch = Math.abs(turn.turns) < TOUCH;
    const text =
      way === "loosen"
        ? isLast
          ? isTouch
            ? `Loosen ${turn.screwId}: a touch, and it is free. Leave it in`
            : `Loosen ${turn.screwId} by ${by}: now it is free, leave it in`
          : `Loosen ${turn.screwId} by ${by}`
        : isLast
          ? `Tighten ${turn.screwId}${isTouch ? "" : ` by ${by}`}, ${screw?.shouldered ? "until its shoulder stops it" : "until it bottoms or resists"}: no further`
          : `Tighten ${turn.screwId} by ${by}`;
    return handStep(`${way}:${turn.screwId}:${nth}`, "turn", group, text, {
      things: [turn.screwId],
      side: screw?.side ?? "back",
      layer: "cooler",
      turn,
      cautions: way === "tighten" && isLast ? ["overTight"] : [],
    });
  });
}

/** Rounds of the cross, for screws whose turns can't be computed: a quarter turn each, none twice before the others. */
function crossSteps(way: "loosen" | "tighten", map: BoardMap, group: string): HandStep[] {
  const order = crosswise(pullingScrews(map), map);
  const rounds =
    way === "loosen"
      ? [
          "a quarter turn",
          "a quarter turn more",
          "in quarter turns, in turn with the others, until it is free: leave it in",
        ]
      : [
          "until it just grips",
          "a quarter turn",
          "in quarter turns, in turn with the others, until it bottoms or resists: no further",
        ];
  const guess = "How many turns it takes is not known.";
  return rounds.flatMap((how, round) =>
    order.map((screw) =>
      handStep(
        `${way}:${screw.id}:${round + 1}`,
        "turn",
        group,
        `${way === "loosen" ? "Loosen" : "Tighten"} ${screw.id}, ${how}`,
        {
          things: [screw.id],
          side: screw.side,
          layer: "cooler",
          detail: round === 0 ? "" : guess,
          cautions: way === "tighten" && round === rounds.length - 1 ? ["overTight"] : [],
        },
      ),
    ),
  );
}

/** Each time the one most nearly opposite the one before, about the die's middle. */
function crosswise(screws: readonly MapScrew[], map: BoardMap): MapScrew[] {
  const middle = map.die ?? { xMm: map.board.widthMm / 2, yMm: map.board.heightMm / 2 };
  const angle = ({ xMm, yMm }: MapScrew): number => Math.atan2(yMm - middle.yMm, xMm - middle.xMm);
  const left = [...screws];
  const order: MapScrew[] = [];
  let last: MapScrew | undefined;
  while (left.length > 0) {
    const before = last;
    const next = before
      ? left.reduce((a, b) => (Math.cos(angle(b) - angle(before)) < Math.cos(angle(a) - angle(before)) - 1e-9 ? b : a))
      : left[0];
    if (!next) break;
    left.splice(left.indexOf(next), 1);
    order.push(next);
    last = next;
  }
  return order;
}
