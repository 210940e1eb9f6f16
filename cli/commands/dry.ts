import { type Dried, dry, readDry } from "#core/cleaning/index.ts";
import { jsonCommand } from "../json-command.ts";
import { figure, line, printTable } from "../print.ts";

export const dryCommand = jsonCommand("dry", "DRY.json", (document) => dry(readDry(document)), printDried);

function printDried({ saturationKPa, wetBulbC, crevices, totalMin, solvent }: Dried): void {
  line(`Saturated at ${figure(saturationKPa, 3)} kPa; a wet part comes to ${figure(wetBulbC)} °C`);
  printTable([
    ["crevice", "minutes"],
    ...crevices.map(({ id, minutes }) => [id, minutes === null ? "never" : figure(minutes, 0)]),
  ]);
  line(
    totalMin === null
      ? "It does not dry: warm the part, or use drier air."
      : `Dry after ${figure(totalMin, 0)} min (${figure(totalMin / 60)} h)`,
  );
  if (!solvent) return;
  const { peakPpm, meanPpm, limitPpm, lowerFlammablePpm } = solvent;
  line(
    `Solvent: at most ${figure(peakPpm, 0)} ppm, ${figure(meanPpm, 0)} on average; limit of exposure ${limitPpm}, can be lit from ${lowerFlammablePpm}`,
  );
}
