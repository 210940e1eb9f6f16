import { parseArgs } from "node:util";
import { type Fastening, fasten, readFasten, type Turn } from "#core/fasteners/index.ts";
import { onJson } from "../json-file.ts";
import { figure, line, printJson, printTable } from "../print.ts";
import { badUsage, type Command, numberOption } from "../usage.ts";

const usage = "fasten STACK.json [--moves N] [--json]";

export const fastenCommand: Command = {
  name: "fasten",
  usage,
  run(words) {
    const { values, positionals } = parseArgs({
      args: words,
      allowPositionals: true,
      options: { moves: { type: "string" }, json: { type: "boolean" } },
    });
    const [path, ...more] = positionals;
    if (!path || more.length > 0) throw badUsage("fasten reads one stack file.", usage);
    const moves = numberOption("moves", values.moves, 1);
    if (moves !== undefined && !Number.isInteger(moves)) throw badUsage("--moves takes a whole number.", usage);
    const found = onJson(path, (document) => fasten(readFasten(document), { moves }));
    if (values.json) printJson(asTold(found));
    else printPlan(found);
    return Promise.resolve();
  },
};

const withoutPlace = (turns: readonly Turn[]) => turns.map(({ exMm: _x, eyMm: _y, ...turn }) => turn);

/** The fields of the format, which names no place. */
function asTold({ final, tighten, loosen, ...more }: Fastening) {
  const { exMm: _x, eyMm: _y, ...end } = final;
  return { final: end, tighten: withoutPlace(tighten), loosen: withoutPlace(loosen), ...more };
}

function printTurns(title: string, turns: readonly Turn[]): void {
  line(title);
  printTable([
    ["", "screw", "turns", "in all", "N on the die", "off centre", "worst corner kPa"],
    ...turns.map((one, k) => [
      String(k + 1),
      one.screwId,
      figure(one.turns, 2),
      figure(one.totalTurns, 2),
      figure(one.dieForceN),
      one.offCentre === null ? "–" : figure(one.offCentre, 2),
      figure(one.cornerKPa, 0),
    ]),
  ]);
}

function printPlan({ final, tighten, loosen, peakCornerKPa, peakRatio, schools }: Fastening): void {
  line(`All tight: ${figure(final.dieForceN)} N on the die, ${figure(final.cornerKPa, 0)} kPa at its worst corner`);
  printTurns("Tighten:", tighten);
  printTurns("Loosen:", loosen);
  line(
    `On the way at most ${figure(peakCornerKPa, 0)} kPa${peakRatio === null ? "" : `, ${figure(peakRatio, 2)} times the end’s`}. Without a plan:`,
  );
  printTable([
    ["school", "moves", "worst corner kPa", "times the end’s"],
    ...schools.map((one) => [
      one.name,
      String(one.moves),
      figure(one.peakCornerKPa, 0),
      one.peakRatio === null ? "–" : figure(one.peakRatio, 2),
    ]),
  ]);
}
