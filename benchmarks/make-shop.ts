/**
 * Makes the database of a large workshop: cards with a run before, one after and one automatic, most of them handed over.
 * `node --import tsx benchmarks/make-shop.ts FILE [CARDS]`
 */
import { randomUUID } from "node:crypto";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { SQLiteTable } from "drizzle-orm/sqlite-core";
import { EMPTY_CARD, type NoteInput } from "#contract";
import { logText, MIDSIZE, type RunSpec, simulate } from "#core/virtualcard/index.ts";
import { cards, runs, services, workNotes } from "#server/db/schema.ts";
import { takeInCard } from "#server/services/cards.ts";
import { addRun } from "#server/services/runs.ts";
import { openContext } from "#server/start.ts";
import { RUN } from "#server/tests/server.ts";

const MAKERS = ["Ostrel", "Brevane", "Quillmar", "Tarnow Bay", "Veldra"];
const OWNERS = ["Ilse Brandt", "Teun Haverkorn", "Maud Okafor", "Jonas Rehn", "Petra Vance", ""];
const ROWS = 400;
const STEPS = [
  { durationS: 60, load: 0 },
  { durationS: 1100, load: 1 },
];

type Row = Record<string, unknown>;

/** One card with its runs by the usual road: what the others are copies of. */
async function pattern(context: Awaited<ReturnType<typeof openContext>>, index: number) {
  const folder = mkdtempSync(join(tmpdir(), "algidus-shop-"));
  const card = await takeInCard(context, {
    ...EMPTY_CARD,
    maker: MAKERS[index % MAKERS.length] ?? "Ostrel",
    model: `Pattern ${index}`,
    newBoardModel: `Board ${index}`,
  });
  const put = async (more: Partial<RunSpec>, side: "before" | "after", fanMode: "fixed" | "automatic") => {
    const path = join(folder, "run.csv");
    writeFileSync(path, logText(simulate({ seed: 100 * index, build: MIDSIZE, steps: STEPS, ...more })));
    await addRun(
      context,
      card.serviceId,
      { path, name: `${side}.csv` },
      { ...RUN, side, name: fanMode, fanMode, fanPct: fanMode === "fixed" ? RUN.fanPct : null },
    );
  };
  await put({ faults: { dryPaste: 0.2 * (index % 4) } }, "before", "fixed");
  await put({ seed: 7 + index }, "after", "fixed");
  await put({ seed: 9 + index, bench: { fan: "automatic" } }, "after", "automatic");
  rmSync(folder, { recursive: true, force: true });
  return card;
}

/** @returns how many cards and runs there are */
export async function makeShop(file: string, count = 2000): Promise<{ cards: number; runs: number }> {
  const context = await openContext(file);
  const { store } = context;
  try {
    for (let index = 0; index < 8; index++) await pattern(context, index);
    const held = await store.db.select().from(cards);
    const services0 = await store.db.select().from(services);
    const runs0 = await store.db.select().from(runs);
    const added: Record<"cards" | "services" | "runs" | "notes", Row[]> = {
      cards: [],
      services: [],
      runs: [],
      notes: [],
    };
    for (let k = held.length; k < count; k++) {
      const like = held[k % held.length];
      const service = services0.find((one) => one.cardId === like?.id);
      if (!like || !service) continue;
      const at = new Date(Date.parse("2024-01-01T08:00:00Z") + k * 11 * 3_600_000).toISOString();
      const [cardId, serviceId] = [randomUUID(), randomUUID()];
      const open = k % 12 === 0;
      added.cards.push({
        ...like,
        id: cardId,
        model: `Fjell ${(k % 40) + 30}`,
        serial: `OF-${String(k).padStart(5, "0")}`,
        ownerName: OWNERS[k % OWNERS.length] ?? "",
        createdAt: at,
        updatedAt: at,
      });
      added.services.push({ ...service, id: serviceId, cardId, openedAt: at, closedAt: open ? null : at });
      for (const run of runs0.filter((one) => one.serviceId === service.id && !(open && one.side === "after")))
        added.runs.push({ ...run, id: randomUUID(), serviceId, createdAt: at, updatedAt: at });
      const work: NoteInput["work"] = ["cleaned", "repasted"];
      if (!open)
        added.notes.push({
          id: randomUUID(),
          serviceId,
          doneOn: at.slice(0, 10),
          person: "Runa",
          work,
          compound: "",
          minutes: 45,
          text: "",
          deletedAt: null,
          createdAt: at,
          updatedAt: at,
          version: 1,
        });
    }
    await store.write(async (tx) => {
      const put = async (table: SQLiteTable, rows: Row[]): Promise<void> => {
        for (let from = 0; from < rows.length; from += ROWS)
          await tx.insert(table).values(rows.slice(from, from + ROWS));
      };
      await put(cards, added.cards);
      await put(services, added.services);
      await put(runs, added.runs);
      await put(workNotes, added.notes);
    });
    const [found] = (
      await store.client.execute("SELECT (SELECT count(*) FROM cards) AS c, (SELECT count(*) FROM runs) AS r")
    ).rows;
    return { cards: Number(found?.c), runs: Number(found?.r) };
  } finally {
    await context.pool.close();
    await store.close();
  }
}

const [, script, file, count] = process.argv;
if (script?.endsWith("make-shop.ts") && file) console.log(await makeShop(file, count ? Number(count) : undefined));
