import type { Run } from "#contract";

/** What a run is called where nobody named it. */
export const runName = ({ name, typed, fileName }: Pick<Run, "name" | "typed" | "fileName">): string =>
  name || (typed ? "Figures from paper" : fileName);
