import { parseArgs } from "node:util";
import { type CutPlan, planCuts, readCuts } from "#core/cutting/index.ts";
import { onJson } from "../json-file.ts";
import { figure, line, printJson, printTable } from "../print.ts";
import { badUsage, type Command, numberOption } from "../usage.ts";

const usage = "cut CUTS.json [--seconds S] [--json]";
const USUAL_SECONDS = 5;

export const cutCommand: Command = {
  name: "cut",
  usage,
  run(words) {
    const { values, positionals } = parseArgs({
      args: words,
      allowPositionals: true,
      options: { seconds: { type: "string" }, json: { type: "boolean" } },
    });
    const [path, ...more] = positionals;
    if (!path || more.length > 0) throw badUsage("cut reads one cutting list.", usage);
    const seconds = numberOption("seconds", values.seconds, 0.05) ?? USUAL_SECONDS;
    const plan = onJson(path, (document) =>
      planCuts(readCuts(document), {
        now: () => performance.now(),
        until: performance.now() + 1000 * seconds,
      }),
    );
    if (values.json) printJson(plan);
    else printPlan(plan);
    return Promise.resolve();
  },
};

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
