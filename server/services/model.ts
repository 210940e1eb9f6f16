import { and, desc, eq, inArray, isNull } from "drizzle-orm";
import type { ModelView, StationId } from "#contract";
import { findings } from "#core/findings/index.ts";
import { median, quantile } from "#core/numeric/index.ts";
import { cards, photos, serviceSummaries, stepMarks } from "../db/schema.ts";
import { type Context, nextTurn } from "./context.ts";

/** So many of the last services tell what is usual. */
const MOST = 200;
const MOST_ODD = 400;
const MOST_SHOWN = 12;
const ROLES = ["edge", "hotspot", "memory", "vrm"] as const;

/** All that the shop knows of a board model when the next one comes in. */
export async function readModel({ store: { db } }: Context, boardId: string): Promise<ModelView> {
  const rows = await db
    .select({
      serviceId: serviceSummaries.serviceId,
      cardId: cards.id,
      maker: cards.maker,
      model: cards.model,
      serial: cards.serial,
      ends: serviceSummaries.ends,
      result: serviceSummaries.result,
      cause: serviceSummaries.leadCause,
      handMin: serviceSummaries.handMin,
      closed: serviceSummaries.closed,
    })
    .from(serviceSummaries)
    .innerJoin(cards, eq(cards.id, serviceSummaries.cardId))
    .where(and(eq(cards.boardModelId, boardId), isNull(cards.deletedAt)))
    .orderBy(desc(serviceSummaries.updatedAt))
    .limit(MOST);
  await nextTurn();
  const ids = rows.map(({ serviceId }) => serviceId);
  const odd = await db
    .select({ stepId: stepMarks.stepId, value: stepMarks.value, text: stepMarks.text })
    .from(stepMarks)
    .where(and(inArray(stepMarks.serviceId, ids), eq(stepMarks.what, "odd")))
    .orderBy(desc(stepMarks.at))
    .limit(MOST_ODD);
  const pictures = await db
    .select({ id: photos.id, caption: photos.caption, cardId: photos.cardId })
    .from(photos)
    .where(and(inArray(photos.cardId, [...new Set(rows.map(({ cardId }) => cardId))]), isNull(photos.deletedAt)))
    .orderBy(desc(photos.createdAt))
    .limit(MOST_SHOWN);
  return {
    boardId,
    services: rows.length,
    rises: ROLES.flatMap((role) => {
      const [before, after] = (["before", "after"] as const).map((end) =>
        spreadOf(rows.flatMap(({ ends }) => ends[end]?.risesK[role] ?? [])),
      );
      return before || after ? [{ role, before: before ?? null, after: after ?? null }] : [];
    }),
    gap: {
      before: spreadOf(rows.flatMap(({ ends }) => ends.before?.gap?.meanK ?? [])),
      after: spreadOf(rows.flatMap(({ ends }) => ends.after?.gap?.meanK ?? [])),
    },
    causes: counted(rows.flatMap(({ cause }) => cause ?? [])),
    helped: helpedOf(rows.flatMap(({ result }) => result ?? [])),
    minutes: minutesOf(rows.map(({ handMin }) => handMin)),
    pads: counted(rows.flatMap(({ result }) => result?.told.pads ?? [])),
    compounds: counted(rows.flatMap(({ result }) => result?.told.compound ?? [])),
    odd: counted(
      odd.filter(({ value }) => value !== "").map(({ stepId, value, text }) => oddWords(stepId, value, text)),
    ),
    photos: pictures,
    last: rows.slice(0, MOST_SHOWN).map(({ cardId, maker, model, serial, result, closed }) => ({
      cardId,
      name: `${maker} ${model}`,
      serial,
      changeK: result?.changeK ?? null,
      u95K: result?.u95K ?? null,
      closed,
    })),
  };
}

const oddWords = (stepId: string, kind: string, text: string): string =>
  `${stepId.split(":").at(1) ?? stepId}: ${kind}${text ? `, ${text}` : ""}`;

/** Middle, and where nine in ten lie; of a few only their range. */
function spreadOf(values: readonly number[]): ModelView["gap"]["before"] {
  if (values.length === 0) return null;
  return {
    count: values.length,
    medianK: median([...values]),
    lowK: quantile([...values], 0.05),
    highK: quantile([...values], 0.95),
  };
}

function counted(values: readonly string[]): Array<{ what: string; count: number }> {
  const counts = new Map<string, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts]
    .map(([what, count]) => ({ what, count }))
    .toSorted((a, b) => b.count - a.count)
    .slice(0, MOST_SHOWN);
}

/** What each kind of work brought on this model; one alone with its own interval. */
function helpedOf(
  results: ReadonlyArray<NonNullable<(typeof serviceSummaries.$inferSelect)["result"]>>,
): ModelView["helped"] {
  const works = [...new Set(results.flatMap(({ told }) => told.work ?? []))];
  return works
    .map((work) => {
      const own = results.filter(({ told }) => told.work === work);
      const [only] = own;
      if (own.length === 1 && only) return { work, count: 1, changeK: only.changeK, u95K: only.u95K };
      const mean = findings(
        own.map(({ changeK, u95K }) => ({ changeK, u95K, columns: {} })),
        { careful: true },
      ).coefficients[0];
      return { work, count: own.length, changeK: mean?.estimate ?? 0, u95K: mean?.u95 ?? 0 };
    })
    .toSorted((a, b) => b.count - a.count);
}

function minutesOf(all: ReadonlyArray<Partial<Record<StationId, number>>>): ModelView["minutes"] {
  const stations = [...new Set(all.flatMap((one) => Object.keys(one) as StationId[]))];
  return stations.map((station) => {
    const own = all.flatMap((one) => one[station] ?? []);
    return { station, medianMin: median([...own]), count: own.length };
  });
}
