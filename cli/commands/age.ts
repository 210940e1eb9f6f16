import { basename } from "node:path";
import { parseArgs } from "node:util";
import { type Ageing, ageing, seriesOf } from "#core/ageing/index.ts";
import { Problem } from "#core/problem/index.ts";
import { type RunTable, TEMPERATURE_ROLES, type TemperatureRole } from "#core/runfile/index.ts";
import { analyseFile, readLogFile, readMap } from "../log-file.ts";
import { figure, line, printJson, printTable } from "../print.ts";
import { badUsage, type Command, countOption, numberOption } from "../usage.ts";

const usage =
  "age RUN… [--role edge] [--reference K] [--exponent N] [--interval S] [--map ROLE=HEADER]… [--card N] [--load N] [--json]";

export const ageCommand: Command = {
  name: "age",
  usage,
  run(words) {
    const { values, positionals } = parseArgs({
      args: words,
      allowPositionals: true,
      options: {
        role: { type: "string" },
        reference: { type: "string" },
        exponent: { type: "string" },
        ambient: { type: "string" },
        "ambient-u": { type: "string" },
        interval: { type: "string" },
        map: { type: "string", multiple: true },
        card: { type: "string" },
        load: { type: "string" },
        json: { type: "boolean" },
      },
    });
    if (positionals.length === 0) throw badUsage("age reads one or more log files.", usage);
    const role = TEMPERATURE_ROLES.find((one) => one === values.role) ?? null;
    if (values.role !== undefined && role === null)
      throw new Problem({
        code: "bad-option",
        what: `“${values.role}” is no temperature.`,
        remedy: `Give --role one of: ${TEMPERATURE_ROLES.join(", ")}.`,
      });
    // What belongs to the room is taken as `analyse` takes it, though no cycle depends on it.
    numberOption("ambient", values.ambient);
    numberOption("ambient-u", values["ambient-u"], 0);
    const options = {
      intervalS: numberOption("interval", values.interval, 0.001),
      map: readMap(values.map),
      card: countOption("card", values.card),
    };
    const load = countOption("load", values.load);
    const runs = positionals.map((path) => runOf(path, readLogFile(path, options), role, load));
    const found = ageing(runs, {
      referenceRangeK: numberOption("reference", values.reference, 0.001),
      exponent: numberOption("exponent", values.exponent, 0),
    });
    if (values.json) printJson(found);
    else printAgeing(found);
    return Promise.resolve();
  },
};

function runOf(path: string, table: RunTable, role: TemperatureRole | null, load: number | undefined) {
  try {
    const chosen = load === undefined ? undefined : analyseFile(path, table, { load }).loads?.[load - 1];
    return seriesOf(table, role, chosen);
  } catch (error) {
    if (!(error instanceof Problem) || error.detail().where) throw error;
    throw new Problem({ ...error.detail(), where: basename(path) });
  }
}

const MOST_LINES = 25;

function printAgeing({ cycles, hours, cyclesPerHour, equivalentCycles, referenceRangeK, exponent }: Ageing): void {
  line(`${figure(hours)} h, ${figure(cyclesPerHour, 2)} cycles an hour`);
  if (cycles.length > 0)
    printTable([
      ["range K", "mean °C", "count"],
      ...cycles
        .toReversed()
        .slice(0, MOST_LINES)
        .map(({ rangeK, meanC, count }) => [figure(rangeK), figure(meanC), figure(count)]),
    ]);
  if (cycles.length > MOST_LINES) line(`and ${cycles.length - MOST_LINES} smaller ranges`);
  line(`Worth ${figure(equivalentCycles, 2)} cycles of ${figure(referenceRangeK, 0)} K (exponent ${exponent})`);
}
