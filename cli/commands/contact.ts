import { parseArgs } from "node:util";
import { type Choice, type ContactReport, choose, contact, readStack } from "#core/contact/index.ts";
import { Problem } from "#core/problem/index.ts";
import { onJson } from "../json-file.ts";
import { figure, line, printJson, printTable } from "../print.ts";
import { badUsage, type Command, numberOption } from "../usage.ts";

const usage = "contact STACK.json [--choose THICKNESSES [--tolerance MM]] [--json]";

export const contactCommand: Command = {
  name: "contact",
  usage,
  run(words) {
    const { values, positionals } = parseArgs({
      args: words,
      allowPositionals: true,
      options: { choose: { type: "string" }, tolerance: { type: "string" }, json: { type: "boolean" } },
    });
    const [path, ...more] = positionals;
    if (!path || more.length > 0) throw badUsage("contact reads one stack file.", usage);
    const toleranceMm = numberOption("tolerance", values.tolerance, 0);
    const offered = values.choose === undefined ? undefined : thicknesses(values.choose);
    const { found, choice } = onJson(path, (document) => {
      const stack = readStack(document);
      return {
        found: contact(stack),
        choice: offered && choose(stack, offered, toleranceMm === undefined ? {} : { toleranceMm }),
      };
    });
    if (values.json) printJson(choice ? { ...found, choice } : found);
    else printContact(found, choice);
    return Promise.resolve();
  },
};

function thicknesses(text: string): number[] {
  const numbers = text.split(",").map((part) => Number(part.trim()));
  if (numbers.length === 0 || numbers.some((one) => !(one > 0)))
    throw new Problem({
      code: "bad-thickness",
      what: `“${text}” is no list of thicknesses.`,
      where: "--choose",
      remedy: "Give millimetres with commas, such as 0.5,1,1.5,2.",
    });
  return numbers;
}

/** Reads a JSON document from disk. @throws Problem `no-file`, `not-json` */
function printContact({ die, pads, board, warnings }: ContactReport, choice: Choice[] | undefined): void {
  line(
    `Die ${die.seated ? "seated" : "NOT seated"}: ${figure(die.forceN)} N, ${figure(die.meanPressureKPa, 0)} kPa (least ${figure(die.minPressureKPa, 0)}), tilt ${figure(die.tiltMradX, 2)} / ${figure(die.tiltMradY, 2)} mrad`,
  );
  line(
    `Board bent by ${figure(board.maxDeflectionMm, 3)} mm at ${figure(board.atXMm, 0)}, ${figure(board.atYMm, 0)} mm`,
  );
  printTable([
    ["pad", "touches", "squeezed %", "kPa", "N", "mm"],
    ...pads.map((pad) => [
      pad.id,
      pad.contact ? "yes" : "no",
      figure(pad.compressionPct),
      figure(pad.pressureKPa, 0),
      figure(pad.forceN),
      figure(pad.thicknessMm, 2),
    ]),
  ]);
  for (const warning of warnings) line(`! ${warning.id}: ${warning.text}`);
  if (choice) {
    printTable([
      ["place", "thickness mm", "touches", "seats"],
      ...choice.map((one) => [
        one.id,
        figure(one.thicknessMm, 2),
        figure(one.touchProbability, 2),
        figure(one.seatProbability, 2),
      ]),
    ]);
  }
}
