import { parseArgs } from "node:util";
import { TEMPERATURE_ROLES } from "#core/runfile/index.ts";
import type { Analysis } from "#core/soak/index.ts";
import { analyseFile, readLogFile, readMap } from "../log-file.ts";
import { figure, line, printJson, printTable } from "../print.ts";
import { badUsage, type Command, countOption, numberOption } from "../usage.ts";

const usage =
  "analyse RUN [--ambient C] [--ambient-u K] [--interval S] [--map ROLE=HEADER]… [--card N] [--load N] [--json]";

export const analyseCommand: Command = {
  name: "analyse",
  usage,
  async run(words) {
    const { values, positionals } = parseArgs({
      args: words,
      allowPositionals: true,
      options: {
        ambient: { type: "string" },
        "ambient-u": { type: "string" },
        interval: { type: "string" },
        map: { type: "string", multiple: true },
        card: { type: "string" },
        load: { type: "string" },
        json: { type: "boolean" },
      },
    });
    const [path, ...more] = positionals;
    if (!path || more.length > 0) throw badUsage("analyse reads one log file.", usage);
    const table = readLogFile(path, {
      intervalS: numberOption("interval", values.interval, 0.001),
      map: readMap(values.map),
      card: countOption("card", values.card),
    });
    const found = analyseFile(path, table, {
      ambientC: numberOption("ambient", values.ambient),
      ambientU95K: numberOption("ambient-u", values["ambient-u"], 0),
      load: countOption("load", values.load),
    });
    if (values.json) printJson(found);
    else printAnalysis(found);
  },
};

function printAnalysis(found: Analysis): void {
  const { steady, ambient, throttling, hotspotGapK: gap } = found;
  line(
    `${found.samples} samples over ${(found.durationS / 60).toFixed(1)} min, one each ${figure(found.intervalS, 2)} s`,
  );
  line(
    ambient
      ? `Room air ${figure(ambient.valueC)} ± ${figure(ambient.u95K)} °C (${ambient.source})`
      : "Room air unknown: this run can't be compared. Give --ambient.",
  );
  if (steady.reached) line(`Steady from ${figure(steady.fromS, 0)} to ${figure(steady.toS, 0)} s`);
  else
    line(
      steady.minutesNeeded === null ? "Not steady" : `Not steady: about ${steady.minutesNeeded} more minutes needed`,
    );
  const rows = [["", "mean °C", "±", "max °C", "rise K", "±", "θ K/W", "settles °C", "±"]];
  for (const role of TEMPERATURE_ROLES) {
    const one = found.roles[role];
    if (!one || !("meanC" in one)) continue;
    rows.push([
      role,
      figure(one.meanC),
      figure(one.u95K, 2),
      figure(one.maxC),
      figure(one.riseK),
      figure(one.riseU95K),
      figure(one.thetaKPerW, 3),
      figure(one.finalC),
      figure(one.finalU95K, 2),
    ]);
  }
  printTable(rows);
  const levels = Object.entries(found.roles).flatMap(([role, one]) =>
    one && "mean" in one ? [[role, figure(one.mean), figure(one.u95, 2)]] : [],
  );
  if (levels.length > 0) printTable([["", "mean", "±"], ...levels]);
  if (gap) line(`Hotspot gap ${figure(gap.mean)} ± ${figure(gap.u95)} K`);
  line(
    throttling.detected
      ? `Throttled for ${(100 * throttling.shareOfLoad).toFixed(0)} % of the load (${throttling.kinds.join(", ")})`
      : "No throttling",
  );
  for (const notice of found.notices) line(`· ${notice.text}`);
}
