import { type ImprintFound, imprintFound, readImprint } from "../imprint/index.ts";
import { cleanWords } from "./clean.ts";
import { CLOSE } from "./close-up.ts";
import { compoundWords } from "./compound.ts";
import { outOf } from "./facts.ts";
import { fanWords } from "./fans.ts";
import { foldMarks, handTime, type StepMark, valueOf } from "./marks.ts";
import { STEP } from "./strip.ts";

/** What the steps of a service tell a record, over all its attempts. */
export interface HandSummary {
  minutes: number;
  screwsOut: number;
  /** Screws left over when it was closed last; null while nobody counted. */
  leftOver: number | null;
  seal: string | null;
  compound: string | null;
  /** Of the old compound; null where nobody said. */
  imprint: ImprintFound | null;
  /** Done between opening and closing, a line each. */
  done: string[];
  odd: Array<{ what: string; kind: string; text: string; dealt: boolean }>;
}

type Placed = StepMark & { station: string; attempt: number };

/**
 * @param marks all marks of a service; null where there are none
 * @param msOf reads a time of a mark, ms
 */
export function handSummary(marks: readonly Placed[], msOf: (at: string) => number): HandSummary | null {
  if (marks.length === 0) return null;
  const attempts = [...new Set(marks.map(({ attempt }) => attempt))].sort((a, b) => a - b);
  const of = (station: string, attempt: number | undefined): Placed[] =>
    marks.filter((mark) => mark.station === station && mark.attempt === attempt);
  const stations = [...new Set(marks.map(({ station }) => station))];
  const first = foldMarks(of("strip", attempts[0]));
  const last = foldMarks(of("closeUp", attempts.at(-1)));
  const cells = readImprint(valueOf(first, STEP.imprint));
  const leftOver = valueOf(last, CLOSE.count);
  return {
    minutes: attempts
      .flatMap((attempt) => stations.map((station) => handTime(of(station, attempt), msOf).minutes))
      .reduce((sum, minutes) => sum + minutes, 0),
    screwsOut: outOf(of("strip", attempts.at(-1))).length,
    leftOver: leftOver === null ? null : Number(leftOver),
    seal: valueOf(first, STEP.seal),
    compound: valueOf(first, STEP.compound),
    imprint: cells ? imprintFound(cells, null) : null,
    done: attempts.flatMap((attempt) => [
      ...cleanWords(of("clean", attempt)),
      ...compoundWords(of("compound", attempt)),
      ...fanWords(of("fans", attempt)),
    ]),
    odd: attempts.flatMap((attempt) => {
      const closed = foldMarks(of("closeUp", attempt));
      return [...foldMarks(of("strip", attempt)), ...closed].flatMap(([stepId, { odd }]) =>
        odd
          ? [
              {
                what: stepId.split(":").at(1) ?? "A step",
                kind: odd.kind,
                text: odd.text,
                dealt: closed.get(`dealt:${stepId}`)?.done ?? false,
              },
            ]
          : [],
      );
    }),
  };
}
