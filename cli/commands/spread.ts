import { parseArgs } from "node:util";
import { readSpread, type Spread, spread } from "#core/compound/index.ts";
import { onJson } from "../json-file.ts";
import { figure, line, printJson } from "../print.ts";
import { badUsage, type Command } from "../usage.ts";

const usage = "spread SPREAD.json [--json]";

export const spreadCommand: Command = {
  name: "spread",
  usage,
  run(words) {
    const { values, positionals } = parseArgs({
      args: words,
      allowPositionals: true,
      options: { json: { type: "boolean" } },
    });
    const [path, ...more] = positionals;
    if (!path || more.length > 0) throw badUsage("spread reads one file.", usage);
    const found = onJson(path, (document) => spread(readSpread(document)));
    if (values.json) printJson(found);
    else printSpread(found);
    return Promise.resolve();
  },
};

function printSpread(found: Spread): void {
  const { bondLineUm, doseUl, doseMg, coveragePct, uncoveredMm2, squeezedOutUl, enclosedAirMm2, leastDoseUl } = found;
  line(
    `Dose ${figure(doseUl)} µL${doseMg === null ? "" : `, ${figure(doseMg)} mg`}; pressed to ${figure(bondLineUm)} µm`,
  );
  line(`Covers ${figure(coveragePct)} % of the die, ${figure(uncoveredMm2)} mm² stay bare`);
  line(`Squeezed out ${figure(squeezedOutUl)} µL; air closed in over ${figure(enclosedAirMm2)} mm²`);
  line(
    leastDoseUl === null
      ? "No dose of this pattern covers 99 %: put it on otherwise."
      : `Least dose of this pattern for 99 %: ${figure(leastDoseUl)} µL`,
  );
}
