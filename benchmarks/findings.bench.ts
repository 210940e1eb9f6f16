/**
 * Findings over made-up shops: time against the size, and a second opinion by R's metafor where Debian's r-cran-metafor is installed (it is no
 * dependency): estimates and variances of the same rows.
 */
import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { findings, type ResultRow } from "#core/findings/index.ts";
import { seeded } from "#core/random/index.ts";

function shop(services: number, seed: number): ResultRow[] {
  const random = seeded(seed);
  const models = Array.from({ length: Math.max(4, Math.floor(services / 25)) }, () => 1.5 * random.normal());
  const works = { repasted: -6, cleaned: -3, "paste and pads": -9, fans: -1 } as const;
  const names = Object.keys(works) as Array<keyof typeof works>;
  return Array.from({ length: services }, () => {
    const model = Math.floor(models.length * random.uniform());
    const work = names[Math.floor(names.length * random.uniform() ** 2)] ?? "cleaned";
    const age = Math.round(10 * random.between(1, 9)) / 10;
    const u95K = Math.round(100 * random.between(0.8, 3.5)) / 100;
    const change =
      works[work] - 0.3 * (age - 5) + (models[model] ?? 0) + random.normal() + (u95K / 1.96) * random.normal();
    return { changeK: Math.round(1000 * change) / 1000, u95K, columns: { work, age, model: `M${model}` } };
  });
}

const timed = (work: () => unknown): number => {
  const begun = performance.now();
  work();
  return performance.now() - begun;
};

const ASKED = { by: ["work", "age"], cluster: "model" };
const small = timed(() => findings(shop(500, 1), ASKED));
for (const size of [1000, 5000]) {
  const rows = shop(size, 2);
  const all = timed(() => findings(rows, ASKED));
  const part = timed(() =>
    findings(
      rows.filter(({ columns }) => columns.work !== "fans"),
      ASKED,
    ),
  );
  console.log(
    `${size} services by work and age, models as clusters: ${all.toFixed(0)} ms (1000 asked of 5000), ${(all / small).toFixed(1)} × that of 500; another filter ${part.toFixed(0)} ms (200 asked)`,
  );
}

const SCRIPT = `suppressMessages(library(metafor)); d <- read.csv(commandArgs(TRUE)[1]); d$vi <- (d$u95K/1.96)^2; d$id <- seq_len(nrow(d))
ref <- names(sort(-table(factor(d$work, levels=unique(d$work)))))[1]; d$w <- relevel(factor(d$work), ref); d$a <- d$age - mean(d$age)
one <- rma(changeK, vi, mods=~w+a, data=d, test="knha", control=list(threshold=1e-10))
two <- rma.mv(changeK, vi, mods=~w+a, random=list(~1|model, ~1|id), data=d)
cat(one$tau2, one$beta[1], one$se[1], two$sigma2[2], two$sigma2[1], two$beta[1], sep=" ")`;

const folder = mkdtempSync(join(tmpdir(), "algidus-second-"));
for (const seed of [5, 6, 7]) {
  const rows = shop(120, seed);
  const path = join(folder, "rows.csv");
  const lines = rows.map(({ changeK, u95K, columns: c }) => [changeK, u95K, c.work, c.age, c.model].join(","));
  writeFileSync(path, ["changeK,u95K,work,age,model", ...lines].join("\n"));
  const { stdout, status, error } = spawnSync("Rscript", ["-e", SCRIPT, path], { encoding: "utf8" });
  if (error || status !== 0) {
    console.log("second opinion: R with metafor is not installed here");
    break;
  }
  const [tau2 = 0, mean = 0, se = 0, own = 0, cluster = 0, clustered = 0] = stdout.trim().split(" ").map(Number);
  const [plain, mixed] = [findings(rows, { by: ASKED.by }), findings(rows, ASKED)];
  const off = (a: number | null | undefined, b: number): string => Math.abs((a ?? 0) - b).toExponential(0);
  console.log(
    `against metafor, seed ${seed}: τ² off by ${off(plain.tau2, tau2)}, intercept ${off(plain.coefficients[0]?.estimate, mean)}, its error ${off(plain.coefficients[0]?.se, se)}; with clusters τ² ${off(mixed.tau2, own)}, clusters ${off(mixed.clusterTau2, cluster)}, intercept ${off(mixed.coefficients[0]?.estimate, clustered)}`,
  );
}
rmSync(folder, { recursive: true });
