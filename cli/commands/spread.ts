import { readSpread, type Spread, spread } from "#core/compound/index.ts";
import { jsonCommand } from "../json-command.ts";
import { figure, line } from "../print.ts";

export const spreadCommand = jsonCommand(
  "spread",
  "SPREAD.json",
  (document) => spread(readSpread(document)),
  printSpread,
);

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
