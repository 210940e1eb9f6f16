import type { Opened } from "../diagnose/index.ts";
import { imprintFound, readImprint } from "../imprint/index.ts";
import { foldMarks, type StepMark, valueOf } from "./marks.ts";
import { OLD_COMPOUND, STEP } from "./strip.ts";

/** What was seen of compound and die when the card was first taken apart, as evidence; undefined where nobody looked. */
export function openedOf(marks: ReadonlyArray<StepMark & { attempt: number }>): Opened | undefined {
  const folded = foldMarks(marks.filter(({ attempt }) => attempt === 1));
  const said = valueOf(folded, STEP.compound);
  const compound = OLD_COMPOUND.find(({ value }) => value === said)?.value ?? null;
  const cells = readImprint(valueOf(folded, STEP.imprint));
  if (compound === null && !cells) return undefined;
  const found = cells && imprintFound(cells, null);
  return {
    compound,
    bareShare: found?.bareShare ?? null,
    lopsided: found !== undefined && found.bareShare > 0 && found.side !== "",
    words: found?.words ?? "",
  };
}
