import { type CutPlan, planCuts, readCuts } from "#core/cutting/index.ts";
import { timedCommand } from "../json-command.ts";
import { figure, line, printTable } from "../print.ts";

const USUAL_SECONDS = 5;

export const cutCommand = timedCommand(
  "cut",
  "CUTS.json",
  USUAL_SECONDS,
  (document, until) => planCuts(readCuts(document), until),
  printPlan,
);

function printPlan(plan: CutPlan): void {
  plan.sheets.forEach((sheet, index) => {
    line(`Sheet ${index + 1} (${sheet.stockId})`);
    printTable([
      ["piece", "x mm", "y mm", "width mm", "height mm", ""],
      ...sheet.placements.map((one) => [
        one.pieceId,
        figure(one.xMm),
        figure(one.yMm),
        figure(one.widthMm),
        figure(one.heightMm),
        one.rotated ? "turned" : "",
      ]),
    ]);
  });
  for (const one of plan.unplaced) line(`! ${one.pieceId}: ${one.quantity} not placed`);
  line(
    `${figure(plan.utilisationPct, 0)} % of the sheets used; cost ${figure(plan.cost, 2)}, never below ${figure(plan.lowerBoundCost, 2)}`,
  );
}
