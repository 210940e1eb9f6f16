import { parseArgs } from "node:util";
import { type Findings, findings, readResults } from "#core/findings/index.ts";
import { figure, line, printJson, printTable, signed } from "../print.ts";
import { onText } from "../text-file.ts";
import { badUsage, type Command } from "../usage.ts";

const usage = "findings RESULTS.csv [--by COLUMN]… [--cluster COLUMN] [--json]";

export const findingsCommand: Command = {
  name: "findings",
  usage,
  run(words) {
    const { values, positionals } = parseArgs({
      args: words,
      allowPositionals: true,
      options: {
        by: { type: "string", multiple: true },
        cluster: { type: "string" },
        json: { type: "boolean" },
      },
    });
    const [path, ...more] = positionals;
    if (!path || more.length > 0) throw badUsage("findings reads one file.", usage);
    const found = onText(path, (text) => findings(readResults(text), { by: values.by ?? [], cluster: values.cluster }));
    if (values.json) printJson(found);
    else printFindings(found);
    return Promise.resolve();
  },
};

function printFindings({
  k,
  tau2,
  clusterTau2,
  i2Pct,
  q,
  qDf,
  coefficients,
  groups,
  contrasts,
  leftOut,
}: Findings): void {
  line(`${k} results${leftOut > 0 ? `, ${leftOut} left out for a missing or unusable figure` : ""}`);
  line(
    `Services differ by ${figure(Math.sqrt(tau2))} K beyond their own errors${clusterTau2 === null ? "" : `, clusters by ${figure(Math.sqrt(clusterTau2))} K`} (I² ${figure(i2Pct, 0)} %, Q ${figure(q)} on ${qDf})`,
  );
  printTable([
    ["", "K", "±", "p"],
    ...coefficients.map(({ name, estimate, u95, p }) => [name, signed(estimate, 2), figure(u95, 2), figure(p, 4)]),
  ]);
  if (groups.length === 0) return;
  printTable([
    ["", "services", "K", "±"],
    ...groups.map(({ level, k: count, meanK, u95K }) => [level, String(count), signed(meanK, 2), figure(u95K, 2)]),
  ]);
  printTable([
    ["against", "K", "±", "p (Holm)"],
    ...contrasts.map(({ a, b, differenceK, u95K, pHolm }) => [
      `${a} − ${b}`,
      signed(differenceK, 2),
      figure(u95K, 2),
      figure(pHolm, 4),
    ]),
  ]);
}
