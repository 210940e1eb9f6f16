import { open, stat } from "node:fs/promises";
import Papa from "papaparse";
import { Problem } from "#core";
import { type OpenDriver, runClock, type Sample } from "./driver.ts";
import { channelsFrom, valueIn } from "./numbers.ts";

const HEAD_BYTES = 65_536;
const LOOK_EVERY_MS = 200;
/** A file that was gone for this long is gone. */
const GONE_AFTER = 25;

/** Follows a file that a logger appends to, from its present end on. Times are those of arrival. */
export const openFile: OpenDriver = async ({ path, resumed }) => {
  const { head, size: found } = await headOf(path);
  const firstLine = head.split(/\r?\n/).find((line) => /[,;\t]/.test(line)) ?? "";
  const { data, meta } = Papa.parse<string[]>(firstLine, { delimitersToGuess: [",", ";", "\t"] });
  const channels = channelsFrom((data[0] ?? []).map((cell) => cell.trim()));
  if (!channels.some(({ role }) => role === "edge" || role === "hotspot" || role === "memory"))
    throw new Problem({
      code: "no-channels",
      what: "The file’s header names no temperature of a card.",
      where: path,
      remedy: "Start the logger first, so that the file has its header row, then start the run.",
    });
  const comma = meta.delimiter !== ",";
  let timer: ReturnType<typeof setTimeout> | undefined;
  let closed = false;
  const clock = runClock(resumed);
  /** Bytes that are read; what the logger wrote while the server was away is read then. */
  let from = resumed?.place ?? found;
  let rest = "";
  let lastS = resumed?.times.at(-1);
  return {
    channels: channels.map(({ header, role, unit }) => ({ header, role, unit })),
    place: () => from - Buffer.byteLength(rest),
    start(listener) {
      let missing = 0;
      let previous = "";
      const look = async (): Promise<void> => {
        try {
          const { size } = await regular(path);
          missing = 0;
          // A shorter file was begun anew by its logger.
          if (size < from) from = 0;
          if (size > from) {
            const text = rest + (await piece(path, from, size));
            from = size;
            const lines = text.split(/\r?\n/);
            rest = lines.pop() ?? "";
            const tS = clock();
            const { samples, left, last } = rowsOf(lines, meta.delimiter, comma, channels, previous, {
              fromS: lastS ?? tS - LOOK_EVERY_MS / 1000,
              toS: tS,
            });
            previous = last;
            lastS = undefined;
            if (left.repeated + left.notNumbers > 0) listener.left(left);
            if (samples.length > 0) await listener.samples(samples);
          }
        } catch {
          missing++;
          if (missing >= GONE_AFTER) {
            closed = true;
            listener.gone("The logger’s file is gone.");
          }
        }
        if (!closed) timer = setTimeout(() => void look(), LOOK_EVERY_MS);
      };
      void look();
    },
    close() {
      closed = true;
      clearTimeout(timer);
      return Promise.resolve();
    },
  };
};

/** Rows that came at once are spread over the time since the last look, so that their order is kept. */
function rowsOf(
  lines: readonly string[],
  delimiter: string,
  comma: boolean,
  channels: ReturnType<typeof channelsFrom>,
  previous: string,
  { fromS, toS }: { fromS: number; toS: number },
): { samples: Sample[]; left: { repeated: number; notNumbers: number }; last: string } {
  const left = { repeated: 0, notNumbers: 0 };
  const kept: number[][] = [];
  let last = previous;
  for (const line of lines) {
    if (line.trim() === "") continue;
    if (line === last) {
      left.repeated++;
      continue;
    }
    last = line;
    const cells = Papa.parse<string[]>(line, { delimiter }).data[0] ?? [];
    if (cells.every((cell, index) => cell.trim() === channels[index]?.header)) continue;
    kept.push(
      channels.map((channel, index) => {
        const value = valueIn(channel, cells[index], comma);
        if (value === undefined && channel.role !== "time" && channel.role !== null) left.notNumbers++;
        return value ?? Number.NaN;
      }),
    );
  }
  const width = toS - fromS;
  return {
    samples: kept.map((values, index) => ({ tS: toS - (width * (kept.length - 1 - index)) / kept.length, values })),
    left,
    last,
  };
}

async function piece(path: string, from: number, to: number): Promise<string> {
  const file = await open(path, "r");
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(to - from), 0, to - from, from);
    return buffer.toString("utf8", 0, bytesRead);
  } finally {
    await file.close();
  }
}

/** What a logger writes to; a pipe or a device may never answer. @throws Problem `not-a-log-file` */
async function regular(path: string): Promise<{ size: number }> {
  const found = await stat(path);
  if (!found.isFile())
    throw new Problem({
      code: "not-a-log-file",
      what: "This path is a folder, a pipe or a device, not a file.",
      where: path,
      remedy: "Name the file that the logger writes to.",
    });
  return found;
}

async function headOf(path: string): Promise<{ head: string; size: number }> {
  try {
    const { size } = await regular(path);
    return { head: await piece(path, 0, Math.min(size, HEAD_BYTES)), size };
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw new Problem({
      code: "no-device",
      what: "There is no such file on the machine the server runs on.",
      where: path || "no path given",
      remedy: "Give the full path of the file the logger writes, and start the logger first.",
    });
  }
}
