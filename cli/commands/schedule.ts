import { readShop, type Schedule, schedule } from "#core/schedule/index.ts";
import { timedCommand } from "../json-command.ts";
import { figure, line, printTable } from "../print.ts";

const USUAL_SECONDS = 5;

export const scheduleCommand = timedCommand(
  "schedule",
  "SHOP.json",
  USUAL_SECONDS,
  (document, until) => schedule(readShop(document), until),
  printPlan,
);

function printPlan({ steps, makespanMin, lowerBoundMin, totalLatenessMin }: Schedule): void {
  printTable([
    ["from min", "to min", "job", "step"],
    ...steps
      .toSorted((a, b) => a.startMin - b.startMin)
      .map((step) => [figure(step.startMin), figure(step.endMin), step.job, step.step]),
  ]);
  line(
    `Done after ${figure(makespanMin)} min, never before ${figure(lowerBoundMin)} min; late by ${figure(totalLatenessMin)} min in all`,
  );
}
