/** Fills an empty database with an invented workshop; the same each time but for its dates, which end today. */
import { existsSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { eq } from "drizzle-orm";
import {
  EMPTY_BENCH,
  EMPTY_CARD,
  EMPTY_POWER_ON,
  type LotInput,
  NO_TERMS,
  type PowerOnInput,
  type RunInput,
  STATIONS,
  UNTOLD,
  USUAL_SETTINGS,
} from "#contract";
import { logText, MIDSIZE, simulate } from "#core/virtualcard/index.ts";
import { Benches } from "#server/benches/benches.ts";
import { cards, services } from "#server/db/schema.ts";
import { root } from "#server/root.ts";
import { beginAttempt } from "#server/services/attempts.ts";
import { listBoards, takeInCard } from "#server/services/cards.ts";
import { addNote } from "#server/services/change-notes.ts";
import type { Context } from "#server/services/context.ts";
import { addCooler } from "#server/services/coolers.ts";
import { changeTerms } from "#server/services/day.ts";
import { changeMap } from "#server/services/maps.ts";
import { importPaper } from "#server/services/paper.ts";
import { addPhoto } from "#server/services/photos.ts";
import { addRun } from "#server/services/runs.ts";
import { skipStation } from "#server/services/services.ts";
import { changeSettings, changeWeek } from "#server/services/settings.ts";
import { addLot, addMaterial, addOffer } from "#server/services/stores.ts";
import { setClosed, setPrice } from "#server/stations/record/hand-over.ts";
import { keepPowerOn } from "#server/stations/take-in/power-on.ts";
import { demoMap } from "./boards.ts";
import { DEMO_CARDS, type DemoCard, type DemoRun } from "./cards.ts";
import { DEMO_COOLERS } from "./coolers.ts";
import { earlierCards } from "./earlier.ts";
import type { FillStation } from "./station.ts";
import { DEMO_STORES, fullMaterial } from "./stores.ts";

const DAY_MS = 86_400_000;
const HOUR_MS = 3_600_000;
/** In the currency of the workshop. */
const WORK_PRICE = 55;
const STEPS_S = { idle: 60, load: 1200, cool: 90 };

export async function fillDemo(context: Context): Promise<void> {
  const [any] = await context.store.db.select({ id: cards.id }).from(cards).limit(1);
  if (any) return;
  const today = Date.now();
  const clock = { ms: today };
  const then: Context = { ...context, store: { ...context.store, now: () => new Date(clock.ms).toISOString() } };
  const folder = mkdtempSync(join(tmpdir(), "algidus-demo-"));
  try {
    await changeSettings(then, {
      ...USUAL_SETTINGS,
      workshop: "Northlight Card Workshop",
      address: "4 Quay Lane, Northlight · 555 0100",
      person: "Runa",
    });
    // Whenever somebody looks, the demo's plan begins now.
    await changeWeek(then, { people: [], opening: Array.from({ length: 7 }, () => ({ fromMin: 0, untilMin: 1440 })) });
    const benches = new Benches(then, () => undefined);
    await benches.add({ ...EMPTY_BENCH, name: "Left bench", seed: 11, speed: 60 });
    await benches.add({ ...EMPTY_BENCH, name: "Right bench", seed: 12, speed: 120 });
    await fillStores(then);
    let seed = 4100;
    for (const [index, one] of [...DEMO_CARDS].reverse().entries()) {
      clock.ms = today - one.daysAgo * DAY_MS - (index + 2) * 600_000;
      seed += 100;
      await addDemoCard(then, one, seed, folder, clock);
    }
    await drawBoards(then);
    for (const cooler of DEMO_COOLERS) await addCooler(then, { cooler });
    await fillStations(then);
    await fillPromises(then, today);
    await importPaper(then, earlierCards());
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** What a station shows beyond runs, notes and skips is in `stations/<path>.ts`, where it has one. */
async function fillStations(context: Context): Promise<void> {
  const held = await context.store.db
    .select({ serial: cards.serial, serviceId: services.id })
    .from(cards)
    .innerJoin(services, eq(services.cardId, cards.id));
  const serviceOf = new Map(held.map(({ serial, serviceId }) => [serial, serviceId]));
  for (const { path } of STATIONS) {
    // The bundle holds what stands there, but stands elsewhere itself.
    if (!existsSync(join(root, "demo", "stations", `${path}.ts`))) continue;
    const { fill } = (await import(`./stations/${path}.ts`)) as { fill: FillStation };
    await fill(context, serviceOf);
  }
}

/** Dates that were promised, by serial and days from today. */
const PROMISES = [
  { serial: "OS40-5702", days: 2, weight: 1 },
  { serial: "BT12/81/1022", days: 3, weight: 3 },
] as const;

async function fillPromises(context: Context, today: number): Promise<void> {
  const held = await context.store.db
    .select({ serial: cards.serial, serviceId: services.id })
    .from(cards)
    .innerJoin(services, eq(services.cardId, cards.id));
  for (const { serial, days, weight } of PROMISES) {
    const found = held.find((one) => one.serial === serial);
    if (!found) continue;
    const promisedAt = new Date(Math.ceil((today + days * DAY_MS) / HOUR_MS) * HOUR_MS).toISOString();
    await changeTerms(context, found.serviceId, { ...NO_TERMS, promisedAt, weight, version: 0 });
  }
}

async function addDemoCard(
  context: Context,
  one: DemoCard,
  seed: number,
  folder: string,
  clock: { ms: number },
): Promise<void> {
  const known = new Map(one.card.lookOver?.map((entry) => [entry.id, entry]));
  const lookOver = EMPTY_CARD.lookOver.map((entry) => known.get(entry.id) ?? { ...entry, state: "ok" as const });
  const card = await takeInCard(context, { ...EMPTY_CARD, ...one.card, lookOver });
  if (one.photo) await addPhoto(context, card.id, await drawing(seed), "As it came in");
  for (const [index, run] of one.runs.entries()) {
    if (run.side === "after" && one.note) await noteOnce(context, card.serviceId, one, clock);
    if (run.changed) await beginAttempt(context, card.serviceId, run.changed);
    const path = join(folder, "run.csv");
    writeFileSync(path, demoLog(one, run, seed + index));
    await addRun(
      context,
      card.serviceId,
      { path, name: `${one.card.serial.replace(/\W/g, "-")}-${run.side}-${index + 1}.csv` },
      conditions(run),
    );
    clock.ms += 60_000;
  }
  if (one.note && !one.runs.some((run) => run.side === "after")) await noteOnce(context, card.serviceId, one, clock);
  for (const station of one.skips ?? []) await skipStation(context, card.serviceId, station, one.skipReason ?? "");
  await keepPowerOn(context, card.serviceId, powerOnOf(one));
  if (one.handedOver) {
    await setPrice(context, card.serviceId, WORK_PRICE);
    await setClosed(context, card.serviceId, true, "");
  }
}

async function fillStores(context: Context): Promise<void> {
  for (const one of DEMO_STORES) {
    const { materials } = await addMaterial(context, fullMaterial(one));
    const materialId = materials.find((material) => material.name === one.material.name)?.id ?? "";
    for (const lot of one.lots ?? []) await addLot(context, { ...EMPTY_LOT, ...lot, materialId });
    for (const { thicknessMm = null, widthMm = null, heightMm = null, price = 0, label = "" } of one.offers ?? [])
      await addOffer(context, {
        materialId,
        thicknessMm,
        widthMm,
        heightMm,
        price,
        label,
        leadDays: null,
        orderedOn: null,
      });
  }
}

const EMPTY_LOT: LotInput = {
  materialId: "",
  thicknessMm: null,
  widthMm: null,
  heightMm: null,
  price: 0,
  label: "",
  amount: 0,
  openedOn: null,
  useBefore: null,
};

/** Maps of three board models. */
async function drawBoards(context: Context): Promise<void> {
  const boards = await listBoards(context);
  for (const [name, map] of [
    ["OF-70 rev B", demoMap(232, 104, 8)],
    ["BT-12", demoMap(258, 112, 10)],
    ["OS-40", demoMap(214, 100, 6, 28)],
  ] as const) {
    const board = boards.find((one) => one.name === name);
    if (board) await changeMap(context, board.id, { map, version: 0 });
  }
}

/** Every demo card has had its first power-on, but for those still waiting on the bench. */
function powerOnOf(one: DemoCard): PowerOnInput {
  const worked = one.runs.length > 0;
  return {
    answers: EMPTY_POWER_ON.answers.map((entry) => {
      if (one.setAside && entry.id === "picture") return { ...entry, answer: "no", note: one.setAside };
      return { ...entry, answer: worked || (one.setAside && entry.id === "supply") ? "yes" : "open" };
    }),
    setAside: one.setAside ? "return to seller" : null,
    setAsideNote: "",
  };
}

const notedServices = new WeakMap<DemoCard, string>();

async function noteOnce(context: Context, serviceId: string, one: DemoCard, clock: { ms: number }): Promise<void> {
  if (!one.note || notedServices.get(one) === serviceId) return;
  notedServices.set(one, serviceId);
  await addNote(context, serviceId, {
    doneOn: new Date(clock.ms).toISOString().slice(0, 10),
    person: "Runa",
    compound: "",
    minutes: null,
    ...one.note,
  });
}

/** The text of one demo log. */
function demoLog(one: DemoCard, run: DemoRun, seed: number): string {
  const steps = [
    { durationS: STEPS_S.idle, load: 0 },
    { durationS: run.minutes ? run.minutes * 60 : STEPS_S.load, load: 1 },
    ...(run.minutes ? [] : [{ durationS: STEPS_S.cool, load: 0 }]),
  ];
  const made = simulate({
    seed,
    build: { ...MIDSIZE, ...one.build },
    faults: run.faults,
    bench: run.bench,
    sensors: run.sensors ?? {},
    steps,
  });
  return logText(made, run.style);
}

function conditions(run: DemoRun): RunInput {
  const fixed = typeof run.bench.fan === "number";
  return {
    ...UNTOLD,
    side: run.side,
    name: run.name,
    fanMode: fixed ? "fixed" : "automatic",
    fanPct: typeof run.bench.fan === "number" ? run.bench.fan : null,
    loadName: "Rendering loop, 1440 lines",
    sidePanel: "open bench",
    clocks: "stock",
    powerLimitPct: 100,
    picture: "works",
    ambientC: run.typedC ?? null,
    ambientU95K: run.typedC === undefined ? null : 1,
    intervalS: null,
    mapping: [],
    window: null,
    ...run.input,
  };
}

/** A drawn stand-in for a photo: a card from above. */
async function drawing(seed: number): Promise<Buffer> {
  const { default: sharp } = await import("sharp");
  const hue = (seed * 7) % 360;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="960" height="540"><rect width="960" height="540" fill="#dfe6ea"/><rect x="90" y="120" width="780" height="300" rx="18" fill="hsl(${hue},12%,34%)"/><circle cx="300" cy="270" r="118" fill="#20262b"/><circle cx="660" cy="270" r="118" fill="#20262b"/><circle cx="300" cy="270" r="34" fill="#59646c"/><circle cx="660" cy="270" r="34" fill="#59646c"/><rect x="120" y="420" width="420" height="26" fill="#b89a4a"/></svg>`;
  return sharp(Buffer.from(svg)).jpeg().toBuffer();
}
