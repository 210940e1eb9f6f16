import { parseArgs } from "node:util";
import { CASES, type Comparison, checkIntake, compare, doubtWords, type Setting } from "#core/compare/index.ts";
import { analyseFile, readLogFile, readMap } from "../log-file.ts";
import { figure, line, printJson, printTable, signed } from "../print.ts";
import { badUsage, type Command, choiceOption, countOption, numberOption, textOption } from "../usage.ts";

const usage =
  "compare BEFORE AFTER [--ambient-before C] [--ambient-after C] [--ambient-u K] [--interval S] [--map …] [--map-before …] [--map-after …] [--card-before N] [--load-before N] [--card-after N] [--load-after N] [--case-before open-bench|panel-off|panel-on] [--case-after …] [--load-name-before TEXT] [--load-name-after TEXT] [--inlet-before C] [--inlet-after C] [--scatter-mount K] [--scatter-run K] [--json]";

export const compareCommand: Command = {
  name: "compare",
  usage,
  async run(words) {
    const { values, positionals } = parseArgs({
      args: words,
      allowPositionals: true,
      options: {
        "ambient-before": { type: "string" },
        "ambient-after": { type: "string" },
        "ambient-u": { type: "string" },
        interval: { type: "string" },
        map: { type: "string", multiple: true },
        "map-before": { type: "string", multiple: true },
        "map-after": { type: "string", multiple: true },
        "card-before": { type: "string" },
        "load-before": { type: "string" },
        "card-after": { type: "string" },
        "load-after": { type: "string" },
        "case-before": { type: "string" },
        "case-after": { type: "string" },
        "load-name-before": { type: "string" },
        "load-name-after": { type: "string" },
        "inlet-before": { type: "string" },
        "inlet-after": { type: "string" },
        "scatter-mount": { type: "string" },
        "scatter-run": { type: "string" },
        json: { type: "boolean" },
      },
    });
    const [before, after, ...more] = positionals;
    if (!before || !after || more.length > 0) throw badUsage("compare reads two log files, before and after.", usage);
    const intervalS = numberOption("interval", values.interval, 0.001);
    const ambientU95K = numberOption("ambient-u", values["ambient-u"], 0);
    const options = {
      scatterMountK: numberOption("scatter-mount", values["scatter-mount"], 0),
      scatterRunK: numberOption("scatter-run", values["scatter-run"], 0),
    };
    const said = (side: "before" | "after"): Setting => ({
      case: choiceOption(`case-${side}`, values[`case-${side}`], CASES),
      loadName: textOption(`load-name-${side}`, values[`load-name-${side}`]),
      inletC: numberOption(`inlet-${side}`, values[`inlet-${side}`], -40, 120),
    });
    const settings = [said("before"), said("after")] as const;
    const judge = (path: string, side: "before" | "after") =>
      analyseFile(
        path,
        readLogFile(path, {
          intervalS,
          map: [...readMap(values.map), ...readMap(values[`map-${side}`])],
          card: countOption(`card-${side}`, values[`card-${side}`]),
        }),
        {
          ambientC: numberOption(`ambient-${side}`, values[`ambient-${side}`]),
          ambientU95K,
          load: countOption(`load-${side}`, values[`load-${side}`]),
        },
      );
    const runs = [judge(before, "before"), judge(after, "after")] as const;
    for (const at of [0, 1] as const) checkIntake(runs[at], settings[at]);
    const found = compare(...runs, { ...options, settings });
    if (values.json) printJson(found);
    else printComparison(found);
  },
};

const shown = (value: string | number | null): string => (typeof value === "string" ? value : figure(value));

function printComparison(found: Comparison): void {
  if (found.reason) line(`Can't be compared: ${found.reason}`);
  if (found.doubts.length > 0)
    line(`Is this the same card under the same load? If it is, ${doubtWords(found.doubts)}.`);
  const rows = [["", "before K", "after K", "change K", "±", "equal K", "±", "verdict"]];
  for (const [role, one] of Object.entries(found.roles)) {
    const equal = found.atEqualConditions?.roles[role as keyof typeof found.roles];
    rows.push([
      role,
      figure(one.beforeRiseK),
      figure(one.afterRiseK),
      signed(one.changeK),
      figure(one.u95K),
      equal ? signed(equal.changeK) : "–",
      figure(equal?.u95K),
      equal?.verdict === null ? "another load" : (equal?.verdict ?? one.verdict),
    ]);
  }
  if (rows.length > 1) printTable(rows);
  if (found.hotspotGap)
    line(
      `Hotspot gap ${signed(found.hotspotGap.changeK)} ± ${figure(found.hotspotGap.u95K)} K: ${found.hotspotGap.verdict}`,
    );
  for (const one of found.differences)
    line(`· ${one.what}: ${shown(one.before)} → ${shown(one.after)} (${one.handled})`);
  if (found.detectableK !== null) line(`Changes from ${figure(found.detectableK)} K on would have been seen.`);
  for (const [name, one] of [
    ["Worst", found.worst],
    ["Best", found.best],
  ] as const)
    if (one) line(`${name}: ${one.role} ${signed(one.changeK)} ± ${figure(one.u95K)} K`);
  line(`Verdict: ${found.verdict}`);
}
