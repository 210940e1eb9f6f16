import { createHash, randomBytes } from "node:crypto";
import { rm } from "node:fs/promises";
import { isDeepStrictEqual } from "node:util";
import { and, asc, desc, eq, isNull } from "drizzle-orm";
import type { BenchInput, LiveRows, LiveRun, LiveStart, LiveStatus, TestBench } from "#contract";
import { UNTOLD, USUAL_LIMITS } from "#contract";
import { Problem, ProtocolRunner, type ProtocolStep, type SafetyLimits } from "#core";
import { boardModels, cards, liveChunks, liveRuns, readings, services, testBenches, workNotes } from "../db/schema.ts";
import { everyTime } from "../db/under-key.ts";
import { type Context, notFound, record } from "../services/context.ts";
import { needTight } from "../services/openable.ts";
import { addRun } from "../services/runs.ts";
import { tempFile } from "../temp.ts";
import { openDriver } from "./drivers.ts";
import { thinnedRows, writeSegment } from "./journal.ts";
import { LiveSession, type Told } from "./live-session.ts";
import { seen } from "./push.ts";
import { replay } from "./resume.ts";

const hash = (token: string): string => createHash("sha256").update(token).digest("hex");
/** A load is taken off this far above a board model's limits, K: a limit is where a card is unhappy, not where it is harmed. */
const SAFETY_MARGIN_K = 8;
/** A card that was left alone for longer has cooled, or was left under load unwatched: its run does not go on by itself. */
const LONGEST_AWAY_MS = 5 * 60_000;
const MOST_ROWS = 2400;
const FEWEST_ROWS = 10;

type LiveRow = typeof liveRuns.$inferSelect;

/** The test benches of the workshop and the live runs on them. One per server. */
export class Benches {
  readonly #sessions = new Map<string, LiveSession>();
  readonly #starting = new Set<string>();
  readonly #endings = new Set<Promise<void>>();

  constructor(
    private readonly context: Context,
    private readonly log: (error: unknown) => void,
  ) {}

  async list(): Promise<TestBench[]> {
    const rows = await this.context.store.db
      .select()
      .from(testBenches)
      .where(isNull(testBenches.deletedAt))
      .orderBy(asc(testBenches.createdAt));
    return rows.map((row) => this.#shown(row, null));
  }

  async add(input: BenchInput): Promise<TestBench> {
    const { store } = this.context;
    const token = input.driver === "push" ? randomBytes(24).toString("base64url") : null;
    const id = await store.write(async (tx) => {
      const made = store.newId();
      await tx
        .insert(testBenches)
        .values({ ...input, id: made, tokenHash: null, deletedAt: null, createdAt: store.now() });
      await record(store, tx, "bench added", made, { name: input.name, driver: input.driver });
      return made;
    });
    // An answer that was lost took its token along, which is kept nowhere: the bench gets another one.
    const [row] = await everyTime(() =>
      store.write((tx) =>
        tx
          .update(testBenches)
          .set({ tokenHash: token && hash(token) })
          .where(eq(testBenches.id, id))
          .returning(),
      ),
    );
    if (!row) throw notFound("bench");
    return this.#shown(row, token);
  }

  async remove(id: string, removed: boolean): Promise<void> {
    const { store } = this.context;
    if (removed && this.#sessionOn(id)) throw busy();
    await store.write(async (tx) => {
      const changed = await tx
        .update(testBenches)
        .set({ deletedAt: removed ? store.now() : null })
        .where(eq(testBenches.id, id))
        .returning({ id: testBenches.id });
      if (!changed[0]) throw notFound("bench");
      await record(store, tx, removed ? "bench removed" : "bench put back", id);
    });
  }

  /** Starts a protocol. @throws Problem `bench-busy` when another page was first, and those of the drivers */
  async start(input: LiveStart): Promise<LiveRun> {
    const { store } = this.context;
    const before = await store.madeBefore<string>();
    if (before) return this.read(before);
    const [bench] = await store.db
      .select()
      .from(testBenches)
      .where(and(eq(testBenches.id, input.benchId), isNull(testBenches.deletedAt)));
    if (!bench) throw notFound("bench");
    const [held] = await store.db
      .select({ service: services, card: cards, limits: boardModels.limits })
      .from(services)
      .innerJoin(cards, eq(services.cardId, cards.id))
      .leftJoin(boardModels, eq(cards.boardModelId, boardModels.id))
      .where(eq(services.id, input.serviceId));
    if (!held) throw notFound("service");
    if (held.service.powerOn?.setAside)
      throw new Problem({
        code: "set-aside",
        what: `This card is set aside: ${held.service.powerOn.setAside}.`,
        remedy: "Take that back under Take in before you load it.",
      });
    if (input.side === "after") await needTight(store.db, input.serviceId);
    if (this.#starting.has(bench.id) || this.#sessionOn(bench.id)) throw busy();
    this.#starting.add(bench.id);
    try {
      const driver = await openDriver({ ...bench, benchId: bench.id, work: await this.#workBefore(input) });
      const id = store.newId();
      const row: LiveRow = {
        ...input,
        id,
        channels: driver.channels,
        status: "running",
        reason: null,
        counts: { kept: 0, repeated: 0, notNumbers: 0, outOfTime: 0 },
        elapsedS: 0,
        runIds: [],
        startedAt: store.now(),
        endedAt: null,
        place: null,
        lastAt: null,
        orders: [],
      };
      const session = new LiveSession(
        id,
        bench.id,
        driver.channels,
        runnerOf({ ...input, channels: driver.channels }, held.limits, bench.driver),
        driver,
        this.context,
        (ended, status, reason) => this.#afterwards(ended, status, reason),
      );
      await store.write(async (tx) => {
        await tx.insert(liveRuns).values(row);
        await record(store, tx, "live run started", input.serviceId, { id, protocol: input.protocol.name });
        return id;
      });
      this.#sessions.set(id, session);
      session.begin();
      return await this.read(id);
    } finally {
      this.#starting.delete(bench.id);
    }
  }

  async read(id: string): Promise<LiveRun> {
    const { store } = this.context;
    const [found] = await store.db
      .select({ live: liveRuns, card: cards, bench: testBenches })
      .from(liveRuns)
      .innerJoin(services, eq(liveRuns.serviceId, services.id))
      .innerJoin(cards, eq(services.cardId, cards.id))
      .innerJoin(testBenches, eq(liveRuns.benchId, testBenches.id))
      .where(eq(liveRuns.id, id));
    if (!found) throw notFound("live run");
    return this.#live(found.live, found.card, found.bench);
  }

  async ofService(serviceId: string): Promise<LiveRun[]> {
    const { store } = this.context;
    const rows = await store.db
      .select({ id: liveRuns.id })
      .from(liveRuns)
      .where(eq(liveRuns.serviceId, serviceId))
      .orderBy(desc(liveRuns.startedAt));
    return Promise.all(rows.map(({ id }) => this.read(id)));
  }

  /** All that are under way. */
  async running(): Promise<LiveRun[]> {
    return Promise.all([...this.#sessions.keys()].map((id) => this.read(id)));
  }

  async rows(id: string, afterS: number): Promise<LiveRows> {
    const session = this.#sessions.get(id);
    await session?.flush();
    const live = await this.read(id);
    return {
      rows: await thinnedRows(
        this.context,
        id,
        live.channels.length + 2,
        session?.counts.kept ?? live.counts.kept,
        afterS,
        MOST_ROWS,
      ),
      upToS: session?.elapsedS ?? live.elapsedS,
    };
  }

  listen(id: string, listener: (told: Told) => void): (() => void) | undefined {
    return this.#sessions.get(id)?.listen(listener);
  }

  stop(id: string): void {
    this.#need(id).end("stopped", "Stopped by hand.");
  }

  skipAhead(id: string): void {
    this.#need(id).order("skip");
  }

  confirm(id: string): void {
    this.#need(id).order("confirm");
  }

  elapsed(id: string): number | null {
    return this.#sessions.get(id)?.elapsedS ?? null;
  }

  /** Samples of a script, on disk when it is fulfilled. @throws Problem `wrong-token`, and those of the database */
  async push(
    benchId: string,
    token: string,
    rows: ReadonlyArray<Record<string, unknown>>,
  ): Promise<{ kept: number; running: boolean }> {
    const [bench] = await this.context.store.db.select().from(testBenches).where(eq(testBenches.id, benchId));
    if (!bench || bench.deletedAt || !bench.tokenHash || hash(token) !== bench.tokenHash)
      throw new Problem({
        code: "wrong-token",
        what: "This token does not belong to this bench.",
        remedy: "Copy address and token from the page of the bench; a new bench has a new token.",
      });
    seen(benchId, rows);
    const session = this.#sessionOn(benchId);
    const told = await session?.push(rows);
    return { kept: told?.kept ?? 0, running: session !== undefined };
  }

  /**
   * After a restart, before anything is answered: runs that were under way go on.
   * @returns those that can't, and why, for `keepCut`
   */
  async resume(): Promise<Array<{ id: string; why: string }>> {
    const under = await this.context.store.db.select().from(liveRuns).where(eq(liveRuns.status, "running"));
    const cut: Array<{ id: string; why: string }> = [];
    for (const row of under) {
      const why = await this.#resume(row).catch((error: unknown) => {
        if (!(error instanceof Problem)) this.log(error);
        return error instanceof Problem ? error.detail().what : "Its bench could not be taken up again.";
      });
      if (why !== null) cut.push({ id: row.id, why });
    }
    return cut;
  }

  /** Keeps runs that were cut off as far as they got, and marks them. */
  async keepCut(cut: ReadonlyArray<{ id: string; why: string }>): Promise<void> {
    for (const { id, why } of cut)
      await this.#keep(id, "interrupted", `The server was restarted. ${why} The run is kept as far as it got.`);
  }

  /** Takes a run up where its kept samples end. @returns why it can't be; null where it goes on */
  async #resume(live: LiveRow): Promise<string | null> {
    const { store } = this.context;
    const silentMs = Date.parse(store.now()) - Date.parse(live.lastAt ?? live.startedAt);
    if (silentMs > LONGEST_AWAY_MS) return "It was away for too long.";
    const [held] = await store.db
      .select({ bench: testBenches, limits: boardModels.limits })
      .from(liveRuns)
      .innerJoin(testBenches, eq(liveRuns.benchId, testBenches.id))
      .innerJoin(services, eq(liveRuns.serviceId, services.id))
      .innerJoin(cards, eq(services.cardId, cards.id))
      .leftJoin(boardModels, eq(cards.boardModelId, boardModels.id))
      .where(eq(liveRuns.id, live.id));
    if (!held) return "Its bench is gone.";
    const { bench } = held;
    const runner = runnerOf(live, held.limits, bench.driver);
    const { times, settings, chunks } = await replay(this.context, live, runner);
    const driver = await openDriver({
      ...bench,
      benchId: bench.id,
      work: await this.#workBefore(live),
      resumed: { startedMs: Date.parse(live.startedAt), times, settings, channels: live.channels, place: live.place },
    });
    if (!isDeepStrictEqual(driver.channels, live.channels)) {
      await driver.close();
      return "Its bench gives other sensors now.";
    }
    const from = { ...live, elapsedS: times.at(-1) ?? 0, chunks };
    const session = new LiveSession(
      live.id,
      bench.id,
      live.channels,
      runner,
      driver,
      this.context,
      (ended, status, reason) => this.#afterwards(ended, status, reason),
      from,
    );
    this.#sessions.set(live.id, session);
    if (runner.finished) session.end(runner.state.phase === "done" ? "done" : "stopped", runner.state.reason);
    else session.begin();
    return null;
  }

  /** What a simulated card is as good as: the work noted on it before an after-run. */
  async #workBefore({ serviceId, side }: Pick<LiveRow, "serviceId" | "side">): Promise<string[]> {
    if (side === "before") return [];
    const notes = await this.context.store.db
      .select({ work: workNotes.work })
      .from(workNotes)
      .where(and(eq(workNotes.serviceId, serviceId), isNull(workNotes.deletedAt)));
    return notes.flatMap((note) => note.work);
  }

  async close(): Promise<void> {
    await Promise.all([...this.#sessions.values()].map((session) => session.abandon()));
    await Promise.all(this.#endings);
  }

  #afterwards(session: LiveSession, status: LiveStatus, reason: string | null): void {
    const work = this.#keep(session.id, status, reason)
      .catch((error: unknown) => this.log(error))
      .then(async () => {
        this.#sessions.delete(session.id);
        session.tellEnded(await this.read(session.id));
      })
      .catch((error: unknown) => this.log(error))
      .finally(() => this.#endings.delete(work));
    this.#endings.add(work);
  }

  /** Room air typed at the start and read by hand during the run: their mean. */
  async #roomTyped(live: LiveRow): Promise<number | null> {
    const taken = await this.context.store.db
      .select({ value: readings.value })
      .from(readings)
      .where(and(eq(readings.liveId, live.id), eq(readings.kind, "room"), isNull(readings.deletedAt)));
    const all = [...(live.roomC === null ? [] : [live.roomC]), ...taken.map(({ value }) => value)];
    return all.length === 0 ? null : all.reduce((sum, one) => sum + one, 0) / all.length;
  }

  /** Turns the samples of each soak into a run of the service. */
  async #keep(id: string, status: LiveStatus, reason: string | null): Promise<void> {
    const { context } = this;
    const { store } = context;
    const [live] = await store.db.select().from(liveRuns).where(eq(liveRuns.id, id));
    if (!live) return;
    const roomC = await this.#roomTyped(live);
    const path = tempFile(".csv");
    const runIds: string[] = [];
    const troubles: string[] = [];
    let attempt: number | null = null;
    try {
      for (const [index, step] of live.protocol.steps.entries()) {
        if (step.kind === "cycles") continue;
        if ((await writeSegment(context, id, live.channels, index, Date.parse(live.startedAt), path)) < FEWEST_ROWS)
          continue;
        const whole = status === "done" || index + 1 < live.protocol.steps.length;
        try {
          const run = await addRun(
            context,
            live.serviceId,
            { path, name: `${live.protocol.name}-${live.startedAt.slice(0, 16).replace(/\D/g, "")}-${index + 1}.csv` },
            {
              ...UNTOLD,
              // The soaks of one protocol prove one attempt.
              attempt,
              side: live.side,
              name: whole ? step.label : `${step.label} (cut short)`,
              ...conditionsOf(step),
              loadName: live.loadName,
              sidePanel: live.sidePanel,
              clocks: "",
              picture: "works",
              ambientC: live.channels.some((channel) => channel.role === "ambient") ? null : roomC,
              ambientU95K: null,
              intervalS: null,
              mapping: live.channels.map(({ header, role }) => ({ header, role })),
              window: null,
            },
          );
          runIds.push(run.id);
          attempt = run.attempt;
        } catch (error) {
          if (!(error instanceof Problem)) throw error;
          troubles.push(`${step.label}: ${error.detail().what}`);
        }
      }
    } finally {
      await rm(path, { force: true });
    }
    await store.write(async (tx) => {
      await tx
        .update(liveRuns)
        .set({ status, reason: [reason, ...troubles].filter(Boolean).join(" ") || null, runIds, endedAt: store.now() })
        .where(eq(liveRuns.id, id));
      // The samples live on in the runs; where none came of them they stay here.
      if (runIds.length > 0) await tx.delete(liveChunks).where(eq(liveChunks.liveId, id));
      await record(store, tx, "live run ended", live.serviceId, { id, status, reason });
    });
  }

  #live(row: LiveRow, card: typeof cards.$inferSelect, bench: typeof testBenches.$inferSelect): LiveRun {
    const session = this.#sessions.get(row.id);
    const { loadName: _load, sidePanel: _panel, place: _place, lastAt: _last, orders: _orders, ...shown } = row;
    return {
      ...shown,
      benchName: bench.name,
      cardId: card.id,
      cardName: `${card.maker} ${card.model}`,
      trouble: session?.trouble ?? null,
      byHand: bench.driver !== "simulated",
      state: session?.runner.state ?? null,
      counts: session?.counts ?? row.counts,
      elapsedS: session?.elapsedS ?? row.elapsedS,
    };
  }

  #shown(
    { tokenHash: _hash, deletedAt: _deleted, createdAt: _created, ...row }: typeof testBenches.$inferSelect,
    token: string | null,
  ): TestBench {
    return { ...row, liveId: this.#sessionOn(row.id)?.id ?? null, token };
  }

  #sessionOn(benchId: string): LiveSession | undefined {
    return [...this.#sessions.values()].find((session) => session.benchId === benchId);
  }

  #need(id: string): LiveSession {
    const found = this.#sessions.get(id);
    if (!found)
      throw new Problem({ code: "not-running", what: "This run has ended.", remedy: "Open it from its card." });
    return found;
  }
}

/** Leads a protocol; a person sets load and fan on every bench but the simulated one. */
const runnerOf = (
  { protocol, channels, roomC }: Pick<LiveRow, "protocol" | "channels" | "roomC">,
  limits: SafetyLimits | null,
  driver: TestBench["driver"],
): ProtocolRunner =>
  new ProtocolRunner(protocol, channels, safetyLimits(limits), {
    roomC: roomC ?? undefined,
    byHand: driver !== "simulated",
  });

const busy = (): Problem =>
  new Problem({
    code: "bench-busy",
    what: "This bench is running already.",
    remedy: "Wait until it has ended, or stop it on its page.",
  });

function conditionsOf(step: Extract<ProtocolStep, { kind: "soak" }>) {
  return {
    fanMode: step.fan === "automatic" ? ("automatic" as const) : ("fixed" as const),
    fanPct: step.fan === "automatic" ? null : step.fan,
    powerLimitPct: step.powerPct,
  };
}

const above = (value: number | null): number | null => (value === null ? null : value + SAFETY_MARGIN_K);

function safetyLimits(limits: SafetyLimits | null): SafetyLimits {
  const from = limits ?? USUAL_LIMITS;
  return {
    edgeC: above(from.edgeC),
    hotspotC: above(from.hotspotC),
    memoryC: above(from.memoryC),
    vrmC: above(from.vrmC),
  };
}
