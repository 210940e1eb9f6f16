import { studentShare, studentT } from "../numeric/index.ts";
import { Problem } from "../problem/index.ts";
import { type Column, columnOf, isNumberColumn, numberIn, type ResultRow, textIn } from "./columns.ts";
import { holm } from "./holm.ts";
import { heterogeneity, type MixedData, reml } from "./reml.ts";

export interface Coefficient {
  /** `intercept`, `COLUMN` for a slope, `COLUMN=LEVEL` for a level. */
  name: string;
  estimate: number;
  se: number;
  u95: number;
  df: number;
  p: number;
}

/** One level of the first column, at the commonest level of other text columns and the mean of columns of numbers. */
export interface Group {
  level: string;
  k: number;
  meanK: number;
  u95K: number;
}

export interface Contrast {
  a: string;
  b: string;
  /** a − b. */
  differenceK: number;
  u95K: number;
  /** Adjusted for all pairs having been looked at. */
  pHolm: number;
}

export interface Findings {
  k: number;
  tau2: number;
  /** Null where no cluster was named. */
  clusterTau2: number | null;
  i2Pct: number;
  /** Residual heterogeneity, and its degrees of freedom. */
  q: number;
  qDf: number;
  coefficients: Coefficient[];
  groups: Group[];
  contrasts: Contrast[];
  /** Rows with a missing or unusable figure. */
  leftOut: number;
  /** Clusters that rows fall into; null without. */
  clusters: number | null;
}

export interface FindingsOptions {
  by?: readonly string[];
  cluster?: string | undefined;
  /**
   * Intervals are never narrower than the known errors say, as Knapp & Hartung advise where few results happen to agree well: for what people
   * decide by.
   */
  careful?: boolean;
}

/** More than this is refused: rows times the square of what is estimated. */
const MOST_WORK = 6e7;
const MOST_LEVELS = 60;
/** Standard errors from half-widths of 95 %. */
const Z95 = 1.96;

/**
 * Mean change, or what columns say of it, by mixed-effects meta-regression; interval by Student's t on k − p degrees of freedom with the
 * variance of Knapp & Hartung (Statistics in Medicine 22, 2003).
 * @throws Problem `few-rows`, `no-column`, `constant-column`, `collinear-column`, `too-many-levels`, `too-much`, each with the column's name
 */
export function findings(
  rows: readonly ResultRow[],
  { by = [], cluster, careful = false }: FindingsOptions = {},
): Findings {
  const names = [...by, ...(cluster === undefined ? [] : [cluster])];
  for (const name of names)
    if (!rows.some(({ columns }) => name in columns)) throw noColumn(name, Object.keys(rows[0]?.columns ?? {}));
  const numbers = new Set(by.filter((name) => isNumberColumn(rows, name)));
  const used = rows.filter(
    ({ changeK, u95K, columns }) =>
      Number.isFinite(changeK) &&
      u95K > 0 &&
      Number.isFinite(u95K) &&
      names.every((name) => (numbers.has(name) ? numberIn(columns[name]) : textIn(columns[name])) !== undefined),
  );
  if (used.length < 2)
    throw new Problem({
      code: "few-rows",
      what: used.length === 1 ? "There is one result only." : "There is no usable result.",
      remedy: "Nothing can be said from fewer than two rows with a change and an interval above 0.",
    });
  const columns = by.map((name) => columnOf(used, name, numbers.has(name)));
  const design = designOf(used.length, columns);
  const groupOf = cluster === undefined ? null : columnOf(used, cluster, false);
  // Where each row has a cluster of its own, the two variances can't be told apart: all is the services'.
  const alone = groupOf?.kind === "text" && groupOf.levels.length === used.length;
  const data: MixedData = {
    y: Float64Array.from(used, ({ changeK }) => changeK),
    errors: Float64Array.from(used, ({ u95K }) => (u95K / Z95) ** 2),
    design: design.values,
    width: design.names.length,
    clusters: groupOf && !alone ? clustersOf(groupOf) : null,
    clusterCount: groupOf?.kind === "text" ? groupOf.levels.length : 0,
  };
  const clusters = groupOf?.kind === "text" ? groupOf.levels.length : null;
  return { ...judged(data, design, columns[0], clusters, careful), leftOut: rows.length - used.length };
}

/** The place of a level's own coefficient; the commonest has none. */
const placeOf = (level: number): ReadonlyArray<readonly [number, number]> => (level === 0 ? [] : [[level, 1]]);

function judged(
  data: MixedData,
  design: Design,
  first: Column | undefined,
  clusters: number | null,
  careful: boolean,
): Omit<Findings, "leftOut"> {
  const k = data.y.length;
  const p = data.width;
  const df = k - p;
  const fitted = reml(data);
  const { q, typical } = heterogeneity(data);
  // Where all values are equal nothing is left to judge the scatter by: what the errors say stays.
  const own = fitted.residual > 1e-12 * k ? fitted.residual / df : 1;
  const scale = careful ? Math.max(1, own) : own;
  const t = studentT(df);
  const varianceOf = (weights: ReadonlyArray<readonly [number, number]>): number =>
    scale *
    weights.reduce(
      (sum, [i, a]) => sum + weights.reduce((own, [j, b]) => own + a * b * (fitted.covariance[i * p + j] as number), 0),
      0,
    );
  const of = (weights: ReadonlyArray<readonly [number, number]>) => {
    const estimate = weights.reduce((sum, [i, a]) => sum + a * (fitted.estimates[i] as number), 0);
    const se = Math.sqrt(varianceOf(weights));
    return { estimate, se, u95: t * se, p: studentShare(estimate / se, df) };
  };
  const levels = first?.kind === "text" ? first.levels : [];
  const pairs = levels.flatMap((a, i) => levels.slice(i + 1).map((b, j) => ({ a, b, i, j: i + 1 + j })));
  const differences = pairs.map(({ i, j }) =>
    of([...placeOf(i), ...placeOf(j).map(([at, one]) => [at, -one] as const)]),
  );
  const adjusted = holm(differences.map((one) => one.p));
  const total = fitted.tau2 + fitted.clusterTau2;
  return {
    k,
    tau2: fitted.tau2,
    clusterTau2: clusters === null ? null : fitted.clusterTau2,
    clusters,
    i2Pct: total === 0 ? 0 : (100 * total) / (total + typical),
    q,
    qDf: df,
    coefficients: design.names.map((name, at) => {
      const size = design.scales[at] as number;
      const { estimate, se, u95, p: share } = of([[at, 1 / size]]);
      return { name, estimate, se, u95, df, p: share };
    }),
    groups: levels.map((level, at) => {
      const { estimate, u95 } = of([[0, 1], ...placeOf(at)]);
      const count = first?.kind === "text" ? first.values.filter((value) => value === level).length : 0;
      return { level, k: count, meanK: estimate, u95K: u95 };
    }),
    contrasts: pairs.map(({ a, b }, at) => ({
      a,
      b,
      differenceK: differences[at]?.estimate ?? 0,
      u95K: differences[at]?.u95 ?? 0,
      pHolm: adjusted[at] ?? 1,
    })),
  };
}

interface Design {
  names: string[];
  values: Float64Array;
  /** What each column was divided by. */
  scales: number[];
}

/** Intercept, a 0/1 column per level but the commonest, columns of numbers about their mean. */
function designOf(rows: number, columns: readonly Column[]): Design {
  const parts: Array<{ name: string; of: string; scale: number; values: Float64Array }> = [
    { name: "intercept", of: "", scale: 1, values: new Float64Array(rows).fill(1) },
  ];
  for (const column of columns) {
    if (column.kind === "number") {
      const mean = column.values.reduce((sum, value) => sum + value, 0) / rows;
      const about = column.values.map((value) => value - mean);
      const scale = about.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
      if (scale <= 1e-12 * Math.max(1, Math.abs(mean))) throw constant(column.name);
      parts.push({ name: column.name, of: column.name, scale, values: about.map((value) => value / scale) });
      continue;
    }
    if (column.levels.length < 2) throw constant(column.name);
    if (column.levels.length > MOST_LEVELS)
      throw new Problem({
        code: "too-many-levels",
        what: `“${column.name}” has ${column.levels.length} different values.`,
        remedy: `At most ${MOST_LEVELS} can be told apart: group them, or name this column with --cluster.`,
      });
    for (const level of column.levels.slice(1))
      parts.push({
        name: `${column.name}=${level}`,
        of: column.name,
        scale: 1,
        values: Float64Array.from(column.values, (value) => (value === level ? 1 : 0)),
      });
    if (rows <= parts.length) throw tooFew(column.name, rows, parts.length);
  }
  const width = parts.length;
  const lastName = columns.at(-1)?.name ?? "";
  if (rows <= width) throw tooFew(lastName, rows, width);
  if (rows * width * width > MOST_WORK)
    throw new Problem({
      code: "too-much",
      what: `${rows} rows and ${width} coefficients are more than can be worked out in time.`,
      remedy: `Leave out “${lastName}”, or give fewer rows.`,
    });
  needIndependent(parts);
  const values = new Float64Array(rows * width);
  for (const [at, part] of parts.entries())
    for (let i = 0; i < rows; i++) values[i * width + at] = part.values[i] as number;
  return { names: parts.map(({ name }) => name), scales: parts.map(({ scale }) => scale), values };
}

/** @throws Problem with the name of the first column that the ones before it tell already */
function needIndependent(parts: ReadonlyArray<{ of: string; values: Float64Array }>): void {
  const basis: Float64Array[] = [];
  for (const { of, values } of parts) {
    const left = Float64Array.from(values);
    // Twice: what rounding leaves of the first time is gone after the second.
    for (let round = 0; round < 2; round++)
      for (const one of basis) {
        const along = one.reduce((sum, value, i) => sum + value * (left[i] as number), 0);
        for (let i = 0; i < left.length; i++) left[i] = (left[i] as number) - along * (one[i] as number);
      }
    const size = lengthOf(left);
    if (size < 1e-7 * lengthOf(values))
      throw new Problem({
        code: "collinear-column",
        what: `“${of}” says nothing that the columns before it don’t say.`,
        remedy: "Leave it or one of those out.",
      });
    basis.push(left.map((value) => value / size));
  }
}
const lengthOf = (values: Float64Array): number => Math.sqrt(values.reduce((sum, value) => sum + value * value, 0));

function clustersOf(column: Column): Int32Array {
  if (column.kind !== "text") throw new RangeError("clustersOf: a cluster is text");
  if (column.levels.length < 2) throw constant(column.name);
  const places = new Map(column.levels.map((level, at) => [level, at]));
  return Int32Array.from(column.values, (value) => places.get(value) ?? 0);
}

const constant = (name: string): Problem =>
  new Problem({
    code: "constant-column",
    what: `“${name}” is the same in every usable row.`,
    remedy: "Leave it out: nothing can be learnt from it.",
  });

const tooFew = (name: string, rows: number, width: number): Problem =>
  new Problem({
    code: "few-rows",
    what: `${rows} usable rows are too few for “${name}”: ${width} coefficients would be told from them.`,
    remedy: "Leave a column out, group its values, or bring more results.",
  });

const noColumn = (name: string, known: readonly string[]): Problem =>
  new Problem({
    code: "no-column",
    what: `There is no column “${name}”.`,
    remedy: known.length > 0 ? `Use one of: ${known.slice(0, 12).join(", ")}.` : "Add it to the file.",
  });
