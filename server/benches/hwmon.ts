import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { type BenchChannel, Problem } from "#core";
import { type OpenDriver, runClock } from "./driver.ts";
import { channelsFrom, numberIn } from "./numbers.ts";
import { poll } from "./poll.ts";

const USUAL_ROOT = "/sys/class/hwmon";

/** Kinds of the kernel's sensor files and their scale to our units (Linux kernel documentation, hwmon sysfs interface). */
const KINDS: ReadonlyArray<{ file: RegExp; unit: string; scale: number; word: string }> = [
  { file: /^temp\d+_input$/, unit: "°C", scale: 1e-3, word: "temperature" },
  { file: /^fan\d+_input$/, unit: "rpm", scale: 1, word: "fan" },
  { file: /^pwm\d+$/, unit: "%", scale: 100 / 255, word: "fan duty" },
  { file: /^power\d+_(average|input)$/, unit: "W", scale: 1e-6, word: "power" },
  { file: /^freq\d+_input$/, unit: "MHz", scale: 1e-6, word: "clock" },
  { file: /^in\d+_input$/, unit: "V", scale: 1e-3, word: "voltage" },
];

interface Channel extends BenchChannel {
  path: string;
  scale: number;
}

/** Reads the kernel's sensor files, never writes one. `path` names another root folder, so that a recorded tree can be read too. */
export const openHwmon: OpenDriver = async ({ path, intervalS, resumed }) => {
  const top = path || USUAL_ROOT;
  const channels = await listChannels(top);
  if (!channels.some((channel) => channel.role === "edge" || channel.role === "hotspot"))
    throw new Problem({
      code: "no-channels",
      what: `No graphics card shows its temperature under ${top}.`,
      remedy: "Check that the card’s driver is loaded, or connect the bench through a logger’s file or HTTP.",
    });
  const clock = runClock(resumed);
  let polling: { stop(): void } | undefined;
  return {
    channels: channels.map(({ header, role, unit }) => ({ header, role, unit })),
    start(listener) {
      polling = poll(
        intervalS,
        async () => {
          let notNumbers = 0;
          let readable = 0;
          const values = await Promise.all(
            channels.map(async (channel) => {
              try {
                const number = numberIn(await readFile(channel.path, "utf8"));
                readable++;
                if (number === undefined) notNumbers++;
                return (number ?? Number.NaN) * channel.scale;
              } catch {
                return Number.NaN;
              }
            }),
          );
          if (readable === 0) throw new Error("none of its sensor files can be read");
          return { values, notNumbers };
        },
        listener,
        clock,
      );
    },
    close() {
      polling?.stop();
      return Promise.resolve();
    },
  };
};

async function listChannels(top: string): Promise<Channel[]> {
  let chips: string[];
  try {
    chips = (await readdir(top)).sort((a, b) => a.localeCompare(b));
  } catch {
    throw new Problem({
      code: "no-device",
      what: `There is no folder ${top}.`,
      remedy: "Sensor files exist on Linux only; elsewhere follow a logger’s file or send samples over HTTP.",
    });
  }
  const all = await Promise.all(chips.map((chip) => channelsOfChip(join(top, chip))));
  return all.flat();
}

async function channelsOfChip(folder: string): Promise<Channel[]> {
  const text = (name: string): Promise<string> =>
    readFile(join(folder, name), "utf8").then(
      (found) => found.trim(),
      () => "",
    );
  const chip = await text("name");
  const files = await readdir(folder).catch(() => []);
  const labels = new Set(await Promise.all(files.filter((file) => file.endsWith("_label")).map(text)));
  // A chip that tells die from junction is a graphics card's; others are probes of the machine.
  const isCard = labels.has("edge") || labels.has("junction");
  const found: Channel[] = [];
  for (const file of files.sort((a, b) => a.localeCompare(b))) {
    const kind = KINDS.find((one) => one.file.test(file));
    if (!kind) continue;
    const label = await text(file.replace(/_(input|average)$/, "_label"));
    const header = `${isCard ? "GPU" : chip} ${label || file.replace(/_(input|average)$/, "")} ${kind.word} [${kind.unit}]`;
    const [guess] = channelsFrom([header]);
    const role = isCard ? (guess?.role ?? null) : kind.unit === "°C" ? "probe" : null;
    found.push({ header, role, unit: kind.unit, path: join(folder, file), scale: kind.scale });
  }
  return found;
}
