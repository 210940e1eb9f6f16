import * as Comlink from "comlink";
import { ageing, seriesOf } from "#core/ageing/index.ts";
import { Problem, type ProblemDetail } from "#core/problem/index.ts";
import type { CardInLog, RawTable } from "#core/runfile/index.ts";
import { type ReadOptions, type Role, RunReader, type RunTable, tabulate } from "#core/runfile/index.ts";
import {
  type AnalyseOptions,
  type Analysis,
  judgeRun,
  type PreparedRun,
  prepareRun,
  rowAt,
  windowFigures,
} from "#core/soak/index.ts";

export interface ColumnView {
  header: string;
  role: Role | null;
  unit: string | null;
  sure: boolean;
  /** First values, to tell columns apart. */
  sample: string;
}

export interface RunView {
  rows: number;
  durationS: number;
  intervalS: number;
  columns: ColumnView[];
  /** One in the usual log. */
  cards: CardInLog[];
  /** How the fan was driven, where the log has its duty. */
}

export interface CardChoice {
  name: string;
  meanPowerW: number | null;
  mapping: Array<{ header: string; role: Role | null }>;
}

export interface Envelope {
  /** Per column: x and y in turn, at most four points per stretch. */
  points: Float64Array[];
}

export type WindowFigures = ReturnType<typeof windowFigures>;
export type Answer<T> = { ok: T } | { problem: ProblemDetail };

/** Less tells nothing of a use. */
const LEAST_USE_H = 1;
const PIECE_BYTES = 1 << 20;

/** One log in the worker: read once, then asked for figures and for what fits the screen. */
export class RunSession {
  #raw: RawTable | undefined;
  #table: RunTable | undefined;
  #prepared: PreparedRun | undefined;

  /** Reads a dropped file; `progress` gets 0…1. */
  async openFile(file: Blob, progress: (share: number) => void): Promise<Answer<{ headers: string[] }>> {
    return asAnswer(async () => {
      const reader = new RunReader();
      for (let at = 0; at < file.size; at += PIECE_BYTES) {
        reader.push(new Uint8Array(await file.slice(at, at + PIECE_BYTES).arrayBuffer()));
        progress(Math.min(1, (at + PIECE_BYTES) / file.size));
      }
      this.#raw = reader.end();
      return { headers: this.#raw.columns.map((column) => column.header) };
    });
  }

  /** Settles roles and time of the file that was read; may be called again with another map. */
  async settle(options: ReadOptions): Promise<Answer<RunView>> {
    return asAnswer(() => {
      if (!this.#raw) throw new Problem({ code: "no-log", what: "No log was read yet.", remedy: "Drop one." });
      const columns = this.#raw.columns.map((column) => ({ ...column, values: column.values.slice() }));
      return this.#show(tabulate({ ...this.#raw, columns }, options));
    });
  }

  /** Each card of a log that holds several, with what its columns are taken for; those of the others for nothing. */
  async cards(): Promise<Answer<CardChoice[]>> {
    return asAnswer(() => {
      const raw = this.#raw;
      if (!raw) throw new Problem({ code: "no-log", what: "No log was read yet.", remedy: "Drop one." });
      const choice = (card: number) => {
        const columns = raw.columns.map((column) => ({ ...column, values: column.values.slice() }));
        return tabulate({ ...raw, columns }, { card });
      };
      const { cards } = choice(1);
      return cards.map(({ index, name, meanPowerW }) => ({
        name,
        meanPowerW,
        mapping: choice(index).columns.map(({ header, role }) => ({ header, role })),
      }));
    });
  }

  /** Takes samples as the server keeps them. */
  async openSamples(url: string): Promise<Answer<RunView>> {
    return asAnswer(async () => {
      const answer = await fetch(url);
      if (!answer.ok)
        throw new Problem({ code: "no-samples", what: "The samples could not be read.", remedy: "Reload the page." });
      return this.#show(unpack(await answer.arrayBuffer()));
    });
  }

  /** Cycles of 40 K an hour of the file that was read. */
  async cycles(): Promise<Answer<number>> {
    return asAnswer(() => {
      if (!this.#raw) throw new Problem({ code: "no-log", what: "No log was read yet.", remedy: "Drop one." });
      const { equivalentCycles, hours } = ageing([seriesOf(tabulate(this.#raw), null)]);
      if (hours < LEAST_USE_H)
        throw new Problem({
          code: "short-log",
          what: "This log is too short to tell how the card is used.",
          remedy: "Log at least an hour of its usual use.",
        });
      return Math.round(1000 * (equivalentCycles / hours)) / 1000;
    });
  }

  async analyse(options: AnalyseOptions): Promise<Answer<Analysis>> {
    return asAnswer(() => judgeRun(this.#needed(), options));
  }

  async figuresIn(fromS: number, toS: number, options: AnalyseOptions): Promise<WindowFigures> {
    return windowFigures(this.#needed(), { fromS, toS }, options);
  }

  /** Least and greatest value per stretch of the given columns, so that a million samples draw like a thousand. */
  async envelope(columns: number[], fromS: number, toS: number, stretches: number): Promise<Envelope> {
    const { table } = this.#needed();
    const points = columns.map((index) =>
      thin(table.timeS, table.columns[index]?.values ?? new Float64Array(0), fromS, toS, stretches),
    );
    return Comlink.transfer(
      { points },
      points.map((one) => one.buffer as ArrayBuffer),
    );
  }

  #needed(): PreparedRun {
    if (!this.#prepared) throw new Problem({ code: "no-log", what: "No log was read yet.", remedy: "Drop one." });
    return this.#prepared;
  }

  #show(table: RunTable): RunView {
    this.#table = table;
    this.#prepared = prepareRun(this.#table);
    return {
      rows: table.rows,
      cards: table.cards,
      durationS: table.timeS.at(-1) ?? 0,
      intervalS: table.intervalS,
      columns: table.columns.map(({ header, role, unit, sure, values }) => ({
        header,
        role,
        unit,
        sure,
        sample: Array.from(values.subarray(0, 3), (value) =>
          Number.isNaN(value) ? "–" : String(Math.round(value * 10) / 10),
        ).join(" · "),
      })),
    };
  }
}

async function asAnswer<T>(work: () => T | Promise<T>): Promise<Answer<T>> {
  try {
    return { ok: await work() };
  } catch (error) {
    if (error instanceof Problem) return { problem: error.detail() };
    throw error;
  }
}

function unpack(buffer: ArrayBuffer): RunTable {
  const length = new DataView(buffer).getUint32(0, true);
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, length))) as {
    rows: number;
    columns: Array<{ header: string; role: Role | null; unit: string | null }>;
  };
  const from = Math.ceil((4 + length) / 8) * 8;
  const timeS = new Float64Array(buffer, from, head.rows);
  return {
    rows: head.rows,
    timeS,
    timeForm: "s",
    start: null,
    intervalS: head.rows > 1 ? (timeS.at(-1) ?? 0) / (head.rows - 1) : 1,
    notices: [],
    cards: [],
    columns: head.columns.map((column, index) => ({
      ...column,
      sure: true,
      values: Float64Array.from(new Float32Array(buffer, from + head.rows * (8 + 4 * index), head.rows)),
    })),
  };
}

function thin(timeS: Float64Array, values: Float64Array, fromS: number, toS: number, stretches: number): Float64Array {
  const first = Math.max(0, rowAt(timeS, fromS) - 1);
  const last = Math.min(values.length - 1, rowAt(timeS, toS) + 1);
  const count = last - first + 1;
  if (count <= stretches * 2) {
    const all = new Float64Array(Math.max(0, count) * 2);
    for (let k = 0; k < count; k++) {
      all[2 * k] = timeS[first + k] ?? 0;
      all[2 * k + 1] = values[first + k] ?? Number.NaN;
    }
    return all;
  }
  const points: number[] = [];
  for (let stretch = 0; stretch < stretches; stretch++) {
    const start = first + Math.floor((count * stretch) / stretches);
    const end = first + Math.floor((count * (stretch + 1)) / stretches);
    let low = -1;
    let high = -1;
    for (let row = start; row < end; row++) {
      const value = values[row] ?? Number.NaN;
      if (Number.isNaN(value)) continue;
      if (low < 0 || value < (values[low] ?? 0)) low = row;
      if (high < 0 || value > (values[high] ?? 0)) high = row;
    }
    if (low < 0) points.push(timeS[start] ?? 0, Number.NaN);
    else
      for (const row of low < high ? [low, high] : high < low ? [high, low] : [low])
        points.push(timeS[row] ?? 0, values[row] ?? Number.NaN);
  }
  return Float64Array.from(points);
}
