import { and, asc, desc, eq, inArray, isNotNull, isNull, type SQL, sql } from "drizzle-orm";
import {
  FACTORS,
  type FactorId,
  type FindingsAsked,
  type FindingsView,
  type ResultLine,
  type ServiceResult,
} from "#contract";
import { type Cause, Problem } from "#core";
import type { SimilarGain } from "#core/decide/index.ts";
import {
  contrastWords,
  type Findings,
  findings,
  lopsided,
  lopsidedWords,
  type ResultRow,
} from "#core/findings/index.ts";
import type { Store } from "../db/open.ts";
import { boardModels, cards, leftOutResults, paperImports, paperResults, serviceSummaries } from "../db/schema.ts";

/** The newest results; older ones say little of how work is done today, and what is read must not grow without end. */
const MOST_RESULTS = 8000;
/** As many are listed behind a figure. */
const MOST_LINES = 60;
/** Fewer services of a level than this rest on how the others scatter. */
const ALONE = 1;

interface Result extends ResultLine {
  /** By which the newest come first. */
  updatedAt: string;
  leadCause: Cause | null;
  told: ServiceResult["told"];
  gap: ServiceResult["gap"];
  columns: Readonly<Record<FactorId, string | number | null>>;
}

/** All that is read here, by the server's thread or by another. */
export type Read = Pick<Store, "db" | "client">;

const reasonsOf = async ({ db }: Read): Promise<Map<string, string>> =>
  new Map((await db.select().from(leftOutResults).limit(MOST_RESULTS)).map(({ id, reason }) => [id, reason]));

/** Results of proved services, the newest first. */
async function loadProved({ db }: Read, most: number, wanted?: SQL): Promise<Result[]> {
  const proved = await db
    .select({
      id: serviceSummaries.serviceId,
      cardId: cards.id,
      maker: cards.maker,
      model: cards.model,
      serial: cards.serial,
      board: boardModels.name,
      age: cards.ageYears,
      use: cards.useKind,
      result: serviceSummaries.result,
      updatedAt: serviceSummaries.updatedAt,
      leadCause: serviceSummaries.leadCause,
    })
    .from(serviceSummaries)
    .innerJoin(cards, eq(cards.id, serviceSummaries.cardId))
    .leftJoin(boardModels, eq(boardModels.id, cards.boardModelId))
    .where(and(isNotNull(serviceSummaries.result), isNull(cards.deletedAt), wanted))
    .orderBy(desc(serviceSummaries.updatedAt))
    .limit(most);
  return proved.flatMap(({ result, maker, model, board, age, use, ...line }): Result[] => {
    if (!result) return [];
    const { changeK, u95K, gap, told, provedAt } = result;
    const name = `${maker} ${model}`;
    const columns = { ...told, model: board ?? name, age, use: use === "unknown" ? null : use };
    return [{ ...line, name, at: provedAt, changeK, u95K, gap, told, columns }];
  });
}

async function loadPaper({ db }: Read): Promise<Result[]> {
  const paper = await db
    .select({ id: paperResults.id, paper: paperResults.paper, changeK: paperResults.changeK, u95K: paperResults.u95K })
    .from(paperResults)
    .innerJoin(paperImports, eq(paperImports.id, paperResults.importId))
    .where(isNull(paperImports.deletedAt))
    .orderBy(desc(paperImports.at), asc(sql`${paperResults}.rowid`))
    .limit(MOST_RESULTS);
  return paper.map(
    ({ id, paper: { model, serial, doneOn, work, compound, pads, ageYears, use }, changeK, u95K }): Result => {
      const told = {
        work,
        compound: compound || null,
        compoundKind: null,
        pads: pads || null,
        pattern: null,
        cleaning: null,
        dirt: null,
        cooler: null,
      };
      const columns = { ...told, model, age: ageYears, use: use === "unknown" ? null : use };
      const line = { id, cardId: null, name: model, serial, at: doneOn ?? "", changeK, u95K };
      return { ...line, gap: null, told, columns, updatedAt: "", leadCause: null };
    },
  );
}

/** What was read last, and means that were worked out from it. */
interface Held {
  token: string;
  proved: Result[];
  paper: Result[];
  reasons: Map<string, string>;
  overall: Map<string, Pick<FindingsView, "overall" | "problem">>;
}
const held = new WeakMap<Read["client"], Held>();
/** So many changed lines are read by themselves; more of them with all the others. */
const MOST_CHANGED = 400;

/** What changed since the last question: services whose lines were worked out anew; another `epoch`: anything. */
export interface Changed {
  services: readonly string[];
  epoch: number;
}

/** What is kept, brought up to date. */
async function heldOf(read: Read, { services: changed, epoch }: Changed): Promise<Held> {
  const [now] = await read.db
    .select({
      token: sql<string>`count(*) || ' ' ||
        (select count(*) || ' ' || coalesce(max(updated_at), '') from board_models) || ' ' ||
        (select count(*) || ' ' || count(deleted_at) from paper_imports) || ' ' ||
        (select count(*) || ' ' || coalesce(max(at), '') from left_out_results)`,
    })
    .from(serviceSummaries);
  const token = `${epoch} ${now?.token}`;
  const known = held.get(read.client);
  if (known?.token === token && changed.length === 0) return known;
  const made =
    known?.token === token && changed.length <= MOST_CHANGED
      ? {
          ...known,
          proved: withChanged(
            known.proved,
            await loadProved(read, MOST_RESULTS, inArray(serviceSummaries.serviceId, [...changed])),
            changed,
          ),
        }
      : {
          token,
          proved: await loadProved(read, MOST_RESULTS),
          paper: await loadPaper(read),
          reasons: await reasonsOf(read),
        };
  const fresh = { ...made, overall: new Map() };
  held.set(read.client, fresh);
  return fresh;
}

function withChanged(before: readonly Result[], come: readonly Result[], changed: readonly string[]): Result[] {
  const gone = new Set(changed);
  return [...before.filter(({ id }) => !gone.has(id)), ...come]
    .sort((a, b) => (a.updatedAt < b.updatedAt ? 1 : a.updatedAt > b.updatedAt ? -1 : 0))
    .slice(0, MOST_RESULTS);
}

const lineOf = ({ id, cardId, name, serial, at, changeK, u95K }: Result): ResultLine => ({
  id,
  cardId,
  name,
  serial,
  at,
  changeK,
  u95K,
});

/** What each kind of work brought, by what was asked. */
export async function readFindings(read: Read, asked: FindingsAsked, changed: Changed): Promise<FindingsView> {
  const held = await heldOf(read, changed);
  const { reasons } = held;
  const all = asked.paper ? [...held.proved, ...held.paper] : held.proved;
  const measured = all.flatMap((one): Result[] =>
    asked.measure === "die" ? [one] : one.gap ? [{ ...one, ...one.gap }] : [],
  );
  const counted = measured.filter(({ id }) => !reasons.has(id));
  const wanted = Object.entries(asked.only).filter(([, value]) => value !== undefined && value !== "");
  const used = counted.filter(({ columns }) =>
    wanted.every(([factor, value]) => String(columns[factor as FactorId] ?? "") === value),
  );
  const notices: string[] = [];
  const { overall, problem } = overallOf(used, held, JSON.stringify([asked.only, asked.measure, asked.paper]), notices);
  const found = overall && asked.by ? byColumn(used, asked, notices) : null;
  const others = FACTORS.map(({ id }) => id).filter((id) => id !== asked.by && !asked.adjust.includes(id));
  return {
    overall,
    found: found?.found ?? null,
    problem: problem ?? found?.problem ?? null,
    notices,
    lopsided:
      asked.by && found?.found && found.found.groups.length > 1
        ? lopsided(used, asked.by, others).map((one) => ({ ...one, words: lopsidedWords(one, labelOf(one.column)) }))
        : [],
    groups: (found?.found?.groups ?? []).map((group) => ({ ...group, lines: linesOf(used, asked.by, group.level) })),
    contrasts: (found?.found?.contrasts ?? []).map((contrast) => ({
      ...contrast,
      words: contrastWords(contrast, countOf(found?.found, contrast.a) + countOf(found?.found, contrast.b)),
    })),
    values: FACTORS.filter(({ kind }) => kind === "text").map(({ id }) => ({
      factor: id,
      values: valuesOf(counted, id),
    })),
    lines: used.slice(0, MOST_LINES).map(lineOf),
    services: used.filter(({ cardId }) => cardId !== null).length,
    paper: used.filter(({ cardId }) => cardId === null).length,
    leftOut: measured
      .filter(({ id }) => reasons.has(id))
      .slice(0, MOST_LINES)
      .map((one) => ({ ...lineOf(one), reason: reasons.get(one.id) ?? "" })),
  };
}

/** The newest services behind a figure. */
function linesOf(used: readonly Result[], by: FactorId | null, level: string): ResultLine[] {
  const lines: ResultLine[] = [];
  for (const one of used) {
    if (lines.length === MOST_LINES) break;
    if (by !== null && one.columns[by] === level) lines.push(lineOf(one));
  }
  return lines;
}

const labelOf = (id: string): string => FACTORS.find((factor) => factor.id === id)?.label ?? id;
const countOf = (found: Findings | null | undefined, level: string): number =>
  found?.groups.find((group) => group.level === level)?.k ?? 0;

/** Values of a column, the commonest first. */
function valuesOf(results: readonly Result[], factor: FactorId): Array<{ value: string; k: number }> {
  const counts = new Map<string, number>();
  for (const { columns } of results) {
    const value = columns[factor];
    if (typeof value === "string" && value !== "") counts.set(value, (counts.get(value) ?? 0) + 1);
  }
  return [...counts]
    .map(([value, k]) => ({ value, k }))
    .toSorted((a, b) => b.k - a.k)
    .slice(0, MOST_LINES);
}

/** The mean of all, with the board model as a cluster where there are several. */
function overallOf(
  used: readonly Result[],
  { overall }: Held,
  key: string,
  notices: string[],
): Pick<FindingsView, "overall" | "problem"> {
  const cluster = clusterOf(used);
  if (used.length > 1 && cluster === undefined)
    notices.push(`All are of one board model (${used[0]?.columns.model}): this holds for that model.`);
  const known = overall.get(key);
  if (known) return known;
  const made = meanOf(used, cluster);
  overall.set(key, made);
  return made;
}

function meanOf(used: readonly Result[], cluster: string | undefined): Pick<FindingsView, "overall" | "problem"> {
  try {
    return { overall: findings(used, { cluster, careful: true }), problem: null };
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    return { overall: null, problem: error.detail() };
  }
}

const clusterOf = (used: readonly ResultRow[]): string | undefined =>
  new Set(used.map(({ columns }) => columns.model)).size > 1 ? "model" : undefined;

/** By the chosen column, adjusted as far as the others tell anything. */
function byColumn(
  used: readonly Result[],
  { by, adjust }: FindingsAsked,
  notices: string[],
): { found: Findings | null; problem: FindingsView["problem"] } {
  if (!by) return { found: null, problem: null };
  let others = adjust.filter((id) => id !== by);
  for (;;) {
    const noted = used.filter(({ columns }) => [by, ...others].every((id) => (columns[id] ?? "") !== ""));
    // Where the model is a column of its own it is no cluster as well.
    const cluster = by === "model" || others.includes("model") ? undefined : clusterOf(noted);
    try {
      const found = findings(noted, { by: [by, ...others], cluster, careful: true });
      const rest = used.length - noted.length;
      if (rest > 0) notices.push(`${rest} of ${used.length} are left aside: nobody noted ${namesOf([by, ...others])}.`);
      for (const { level } of found.groups.filter(({ k }) => k === ALONE))
        notices.push(`“${level}” was used once: its interval rests on how the others scatter.`);
      return { found, problem: null };
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      const last = others.at(-1);
      if (last === undefined) return { found: null, problem: error.detail() };
      notices.push(`Not adjusted for ${labelOf(last).toLowerCase()}: ${error.detail().what}`);
      others = others.slice(0, -1);
    }
  }
}

const namesOf = (ids: readonly FactorId[]): string => ids.map((id) => labelOf(id).toLowerCase()).join(" or ");

/** What services of other cards that began with the same leading cause brought, each weighed by how sure it is; null below two. */
export async function similarGain(
  read: Read,
  serviceId: string,
  cause: Cause,
  changed: Changed,
): Promise<SimilarGain | null> {
  const { proved, reasons } = await heldOf(read, changed);
  const used: Result[] = [];
  for (const one of proved) {
    if (one.leadCause === cause && one.id !== serviceId && !reasons.has(one.id)) used.push(one);
    if (used.length === MOST_SIMILAR) break;
  }
  if (used.length < 2) return null;
  const { tau2, clusterTau2, coefficients } = findings(used, { cluster: clusterOf(used), careful: true });
  const [mean] = coefficients;
  return mean
    ? {
        gainK: -mean.estimate,
        sdK: Math.sqrt(tau2 + (clusterTau2 ?? 0) + mean.se ** 2),
        services: used.length,
      }
    : null;
}
/** So many of the last ones with the same leading cause tell what one brings. */
const MOST_SIMILAR = 200;
