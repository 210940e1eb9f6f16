import { parseArgs } from "node:util";
import { type Dried, dry, readDry } from "#core/cleaning/index.ts";
import { onJson } from "../json-file.ts";
import { figure, line, printJson, printTable } from "../print.ts";
import { badUsage, type Command } from "../usage.ts";

const usage = "dry DRY.json [--json]";

export const dryCommand: Command = {
  name: "dry",
  usage,
  run(words) {
    const { values, positionals } = parseArgs({
      args: words,
      allowPositionals: true,
      options: { json: { type: "boolean" } },
    });
    const [path, ...more] = positionals;
    if (!path || more.length > 0) throw badUsage("dry reads one file.", usage);
    const found = onJson(path, (document) => dry(readDry(document)));
    if (values.json) printJson(found);
    else printDried(found);
    return Promise.resolve();
  },
};

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
