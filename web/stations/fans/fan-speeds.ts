import type { Run } from "#contract";

/** Mean speed of every fan of a run, rpm. */
export const fanSpeeds = ({ analysis }: Pick<Run, "analysis">): number[] =>
  analysis.columns.flatMap(({ role, mean }) => (role === "fanRpm" && mean !== null && mean > 0 ? [mean] : []));
