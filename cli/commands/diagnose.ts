import { parseArgs } from "node:util";
import { CAUSE_WORDS, type Diagnosis, diagnose, symptomsOf } from "#core/diagnose/index.ts";
import { analyseFile, readLogFile, readMap } from "../log-file.ts";
import { line, printJson, printTable } from "../print.ts";
import { badUsage, type Command, countOption, numberOption } from "../usage.ts";

const usage =
  "diagnose RUN [--healthy REFERENCE_RUN] [--ambient C] [--ambient-healthy C] [--ambient-u K] [--interval S] [--map ROLE=HEADER]… [--map-healthy ROLE=HEADER]… [--card N] [--load N] [--card-healthy N] [--load-healthy N] [--json]";

export const diagnoseCommand: Command = {
  name: "diagnose",
  usage,
  async run(words) {
    const { values, positionals } = parseArgs({
      args: words,
      allowPositionals: true,
      options: {
        healthy: { type: "string" },
        ambient: { type: "string" },
        "ambient-healthy": { type: "string" },
        "ambient-u": { type: "string" },
        interval: { type: "string" },
        map: { type: "string", multiple: true },
        "map-healthy": { type: "string", multiple: true },
        card: { type: "string" },
        load: { type: "string" },
        "card-healthy": { type: "string" },
        "load-healthy": { type: "string" },
        json: { type: "boolean" },
      },
    });
    const [path, ...more] = positionals;
    if (!path || more.length > 0)
      throw badUsage("diagnose reads one log file; a healthy one comes after --healthy.", usage);
    const intervalS = numberOption("interval", values.interval, 0.001);
    const ambientU95K = numberOption("ambient-u", values["ambient-u"], 0);
    const judge = (
      file: string,
      ambientC: number | undefined,
      own: readonly string[] | undefined,
      card: number | undefined,
      load: number | undefined,
    ) => {
      const table = readLogFile(file, { intervalS, map: own ? readMap(own) : readMap(values.map), card });
      return { table, analysis: analyseFile(file, table, { ambientC, ambientU95K, load }) };
    };
    const run = judge(
      path,
      numberOption("ambient", values.ambient),
      undefined,
      countOption("card", values.card),
      countOption("load", values.load),
    );
    const reference =
      values.healthy === undefined
        ? undefined
        : judge(
            values.healthy,
            numberOption("ambient-healthy", values["ambient-healthy"]),
            values["map-healthy"] ?? values.map,
            countOption("card-healthy", values["card-healthy"]),
            countOption("load-healthy", values["load-healthy"]),
          );
    const found = diagnose(
      run.table,
      run.analysis,
      reference ? { healthy: [symptomsOf(reference.table, reference.analysis)] } : {},
    );
    const { findings, known, minutesNeeded, notJudged, limits, version } = found;
    if (values.json) printJson({ findings, known, minutesNeeded, notJudged, limits, version });
    else printDiagnosis(found);
  },
};

function printDiagnosis({ findings, limits, known, minutesNeeded, notJudged }: Diagnosis): void {
  if (!known) line(`Not known yet: run it ${minutesNeeded ? `${minutesNeeded} more minutes` : "for longer"}.`);
  printTable(
    findings.map(({ cause, probability }) => [
      `${cause} (${CAUSE_WORDS[cause]})`,
      `${(100 * probability).toFixed(0)} %`,
    ]),
  );
  const [first] = findings;
  for (const sentence of first?.evidence ?? []) line(`· ${sentence}`);
  if (first) line(`Next: ${first.nextCheck}`);
  if (notJudged.length > 0) line(`Not judged, for want of their sensors: ${notJudged.join(", ")}`);
  for (const limit of limits) line(`Limit: ${limit}`);
}
