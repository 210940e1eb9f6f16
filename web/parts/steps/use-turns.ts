import * as Comlink from "comlink";
import { useEffect, useState } from "react";
import type { BoardMap } from "#core/boardmap/index.ts";
import type { Fastening } from "#core/fasteners/index.ts";
import { type Folded, type PlannedTurn, STEP } from "#core/handwork/index.ts";
import type { PadWork } from "#core/padplan/index.ts";
import type { ProblemDetail } from "#core/problem/index.ts";
import { BROKEN, type RemotePads } from "../../workers/use-pad-session.ts";
import type { MadeMark } from "./use-marks.ts";

export interface Turns {
  /** As it was fixed when the first screw was turned, else as it came out; null for rounds of the cross. */
  turns: readonly PlannedTurn[] | null;
  fastening: Fastening | null;
  problem: ProblemDetail | null;
  /** Share of the work that is done; null once it is. */
  progress: number | null;
  /** Kept with the first turn: what is begun goes on by the same plan, on every device. */
  kept: boolean;
}

/** Kept instead of turns where hands go by the cross. */
export const BY_CROSS = "cross";
export const BY_PLAN = "plan";

/**
 * Turns of the cooler's screws, worked out in a worker unless a plan is kept already.
 * @param work the pads it closes over; null for die and screws alone; undefined while that is not known
 */
export function useTurns(
  remote: RemotePads | null,
  way: "loosen" | "tighten",
  map: BoardMap | null,
  work: PadWork | null | undefined,
  folded: Folded,
): Turns {
  const kept = folded.get(STEP.plan);
  const isKept = kept?.value !== undefined && kept.value !== null;
  const [found, setFound] = useState<{ question: string; fastening?: Fastening; problem?: ProblemDetail } | null>(null);
  const [progress, setProgress] = useState(0);
  // What the answer rests on: a length that is learnt meanwhile changes nothing of it.
  const question =
    map && work !== undefined ? JSON.stringify([map.board, map.die, map.screws, work?.picks, work?.gapsMm]) : null;
  const asked = found !== null && found.question === question;
  useEffect(() => {
    if (!remote || !map || question === null || asked || work === undefined) return undefined;
    let isGone = false;
    setProgress(0);
    const tell = Comlink.proxy((share: number) => {
      if (!isGone) setProgress(share);
    });
    void remote
      .fasten(map, work, tell)
      .catch(() => ({ problem: BROKEN }))
      .then((answer) => {
        if (isGone) return;
        setFound("ok" in answer ? { question, fastening: answer.ok } : { question, problem: answer.problem });
      });
    return () => {
      isGone = true;
    };
    // The question stands for map and work.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [remote, question, asked]);
  const fastening = asked ? (found.fastening ?? null) : null;
  return {
    turns: isKept ? readTurns(kept.value, kept.text) : (fastening?.[way] ?? null),
    fastening,
    problem: asked ? (found.problem ?? null) : null,
    progress: question === null || asked ? null : progress,
    kept: isKept,
  };
}

/** Figures as fine as they are shown: a plan is kept in a mark. */
const ROUND = 1e4;

/** Kept with the first turn: what is begun goes on by the same plan. */
export const planMark = (turns: readonly PlannedTurn[] | null): MadeMark =>
  turns
    ? { stepId: STEP.plan, what: "value", value: BY_PLAN, text: writeTurns(turns) }
    : { stepId: STEP.plan, what: "value", value: BY_CROSS };

export const writeTurns = (turns: readonly PlannedTurn[]): string =>
  JSON.stringify(turns, (_key, value: unknown) =>
    typeof value === "number" ? Math.round(value * ROUND) / ROUND : value,
  );

export function readTurns(how: string | null, text: string): readonly PlannedTurn[] | null {
  if (how !== BY_PLAN) return null;
  try {
    return JSON.parse(text) as PlannedTurn[];
  } catch {
    return null;
  }
}
