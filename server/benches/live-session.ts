import { eq } from "drizzle-orm";
import type { LiveRun, LiveStatus, SampleCounts } from "#contract";
import type { BenchChannel, ProtocolRunner } from "#core";
import { type LiveOrder, liveChunks, liveRuns } from "../db/schema.ts";
import type { Context } from "../services/context.ts";
import type { Driver, Sample } from "./driver.ts";
import { type JournalRow, packRows, Thinner } from "./journal.ts";
import { obey } from "./resume.ts";

const FLUSH_MS = 400;
/** More than this waiting to be written: the driver waits too. */
const MOST_PENDING = 4000;
/** Without a sample for this long a device counts as stalled, and is given up later, s. */
const STALLED_S = 15;
const GIVEN_UP_S = 300;
/** A step of a temperature from one sample to the next that no card makes, K. */
const JUMP_K = 25;
const PUSHED_ROWS = 4;

export type Told =
  | { kind: "state"; live: Partial<LiveRun> }
  | { kind: "rows"; rows: Array<Array<number | null>>; upToS: number };

/**
 * One live run: takes every sample into the journal before anything else, leads the protocol, tells whoever listens. Keeps no
 * samples in memory but those not yet written.
 */
export class LiveSession {
  readonly counts: SampleCounts = { kept: 0, repeated: 0, notNumbers: 0, outOfTime: 0 };
  /** What does not end the run, in words; each goes by itself. */
  readonly #troubles: { writing?: string; silence?: string; wild?: string } = {};
  elapsedS = 0;
  readonly #listeners = new Set<(told: Told) => void>();
  #pending: JournalRow[] = [];
  #writeFault: unknown;
  #seq = 0;
  #flushing: Promise<void> = Promise.resolve();
  #thinner: Thinner;
  #timer: ReturnType<typeof setInterval>;
  #lastSampleMs = performance.now();
  #lastSet = "";
  #lastEdge = Number.NaN;
  #jumps = 0;
  #ending = false;
  readonly #orders: LiveOrder[];

  /** @param from how far it had come when the server was restarted */
  constructor(
    readonly id: string,
    readonly benchId: string,
    readonly channels: BenchChannel[],
    readonly runner: ProtocolRunner,
    private readonly driver: Driver,
    private readonly context: Context,
    private readonly onEnd: (session: LiveSession, status: LiveStatus, reason: string | null) => void,
    from?: { counts: SampleCounts; elapsedS: number; chunks: number; orders: readonly LiveOrder[] },
  ) {
    this.#thinner = new Thinner(channels.length + 2, 1e9);
    this.#orders = [...(from?.orders ?? [])];
    if (from) {
      this.counts = { ...from.counts };
      this.elapsedS = from.elapsedS;
      this.#seq = from.chunks;
    }
    this.#timer = setInterval(() => this.#beat(), FLUSH_MS);
  }

  /** The gravest of them. */
  get trouble(): string | null {
    const { writing, silence, wild } = this.#troubles;
    return writing ?? silence ?? wild ?? null;
  }

  begin(): void {
    this.#send();
    this.driver.start({
      samples: (batch) => this.#take(batch),
      left: (counts) => {
        this.counts.repeated += counts.repeated ?? 0;
        this.counts.notNumbers += counts.notNumbers ?? 0;
        this.counts.outOfTime += counts.outOfTime ?? 0;
      },
      gone: (why) => this.end("interrupted", `${why} The run is kept as far as it got.`),
    });
  }

  listen(listener: (told: Told) => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  /**
   * Takes samples of a script; fulfilled when they are on disk. What several send meanwhile is written together.
   * @throws Problem that of the database where they can't be written; they are held, and tried again with the next ones
   */
  async push(rows: ReadonlyArray<Record<string, unknown>>): Promise<{ kept: number }> {
    const told = this.driver.push?.(rows) ?? { kept: 0 };
    await this.flush();
    if (this.#pending.length > 0 && this.#writeFault) throw this.#writeFault;
    return told;
  }

  /** Kept with the next samples, so that a restarted server comes to the same state. */
  order(kind: LiveOrder["kind"]): void {
    const order = { tS: this.elapsedS, kind };
    obey(this.runner, order);
    this.#orders.push(order);
    this.#send();
    this.#tellState();
  }

  /** Ends the run once; what came in so far is written first. */
  end(status: LiveStatus, reason: string | null): void {
    if (this.#ending) return;
    this.#ending = true;
    clearInterval(this.#timer);
    this.driver.set?.({ load: 0, fan: "automatic", powerPct: 100 });
    void this.driver
      .close()
      .then(() => this.flush())
      .finally(() => {
        const lost = this.#pending.length;
        if (lost === 0) this.onEnd(this, status, reason);
        else this.onEnd(this, "interrupted", `The last ${lost} samples could not be written. ${reason ?? ""}`.trim());
      });
  }

  /** For a server that goes down: writes what is there and lets the device go. */
  async abandon(): Promise<void> {
    this.#ending = true;
    clearInterval(this.#timer);
    await this.driver.close();
    await this.flush();
  }

  flush(): Promise<void> {
    this.#flushing = this.#flushing.then(async () => {
      const rows = this.#pending;
      if (rows.length === 0) return;
      this.#pending = [];
      const { store } = this.context;
      const seq = this.#seq++;
      const bytes = packRows(rows, this.channels.length + 2);
      try {
        await store.write(async (tx) => {
          await tx.insert(liveChunks).values({ id: store.newId(), liveId: this.id, seq, rows: rows.length, bytes });
          await tx
            .update(liveRuns)
            .set({
              elapsedS: this.elapsedS,
              counts: { ...this.counts },
              place: this.driver.place?.() ?? null,
              lastAt: store.now(),
              orders: [...this.#orders],
            })
            .where(eq(liveRuns.id, this.id));
        });
        this.#writeFault = undefined;
        delete this.#troubles.writing;
      } catch (error) {
        // Kept in memory and tried again with the next ones.
        this.#pending = [...rows, ...this.#pending];
        this.#seq--;
        this.#writeFault = error;
        this.#troubles.writing = `Samples can’t be written (${error instanceof Error ? error.message : String(error)}); they are held and tried again.`;
      }
    });
    return this.#flushing;
  }

  #take(batch: readonly Sample[]): void | Promise<void> {
    if (this.#ending) return undefined;
    this.#lastSampleMs = performance.now();
    for (const { tS, values } of batch) {
      if (tS < this.elapsedS || (tS === this.elapsedS && this.counts.kept > 0)) {
        this.counts.repeated++;
        continue;
      }
      this.elapsedS = tS;
      const state = this.runner.feed(tS, values);
      const row: JournalRow = [tS, state.segment, ...values];
      this.#pending.push(row);
      this.#thinner.add(row);
      this.counts.kept++;
      this.#watchJumps(values);
      if (this.runner.finished) {
        this.end(state.phase === "done" ? "done" : "stopped", state.reason);
        break;
      }
    }
    this.#send();
    return this.#pending.length > MOST_PENDING ? this.flush() : undefined;
  }

  #watchJumps(values: readonly number[]): void {
    const edge = values[this.channels.findIndex((channel) => channel.role === "edge")] ?? Number.NaN;
    if (Math.abs(edge - this.#lastEdge) > JUMP_K) {
      this.#jumps++;
      this.#troubles.wild = `The edge sensor jumped ${this.#jumps} time(s); single wild readings are left out of the figures.`;
    }
    if (!Number.isNaN(edge)) this.#lastEdge = edge;
  }

  #send(): void {
    const { setting } = this.runner.state;
    const key = JSON.stringify(setting);
    if (key === this.#lastSet) return;
    this.#lastSet = key;
    this.driver.set?.(setting);
  }

  #beat(): void {
    const silentS = (performance.now() - this.#lastSampleMs) / 1000;
    if (silentS > GIVEN_UP_S) {
      this.end("interrupted", `No sample came for ${GIVEN_UP_S / 60} minutes. The run is kept as far as it got.`);
      return;
    }
    if (silentS > STALLED_S)
      this.#troubles.silence = `No sample for ${Math.round(silentS)} s: is the device still there?`;
    else delete this.#troubles.silence;
    void this.flush();
    this.#tell({ kind: "rows", rows: this.#split(), upToS: this.elapsedS });
    this.#tellState();
  }

  /** What came since the last beat as a few rows, however many samples that were. */
  #split(): Array<Array<number | null>> {
    const rows = this.#thinner.take();
    const perBeat = this.#pending.length;
    this.#thinner = new Thinner(this.channels.length + 2, Math.max(1, Math.ceil(perBeat / PUSHED_ROWS)));
    return rows;
  }

  #tellState(): void {
    this.#tell({
      kind: "state",
      live: {
        state: this.runner.state,
        counts: this.counts,
        elapsedS: this.elapsedS,
        trouble: this.trouble,
        status: "running",
      },
    });
  }

  #tell(told: Told): void {
    for (const listener of this.#listeners) listener(told);
  }

  /** The last word: state of the ended run. */
  tellEnded(live: LiveRun): void {
    this.#tell({ kind: "state", live });
  }
}
