import { appendFileSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { EMPTY_BENCH } from "#contract";
import { type DriverInput, type Listener, runClock, type Sample } from "../benches/driver.ts";
import { openDriver } from "../benches/drivers.ts";
import { channelsFrom, numberIn, valueIn } from "../benches/numbers.ts";
import { poll } from "../benches/poll.ts";
import { seen } from "../benches/push.ts";
import { hiddenCard } from "../benches/simulated-card.ts";
import { until } from "./server.ts";

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "algidus-drivers-"));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const input = (more: Partial<DriverInput>): DriverInput => ({
  ...EMPTY_BENCH,
  name: "Left",
  benchId: "bench",
  work: [],
  ...more,
});

/** Collects what a driver tells. */
function collector() {
  const seen = { samples: [] as Sample[], repeated: 0, notNumbers: 0, gone: "" };
  const listener: Listener = {
    samples: (batch) => void seen.samples.push(...batch),
    left: (counts) => {
      seen.repeated += counts.repeated ?? 0;
      seen.notNumbers += counts.notNumbers ?? 0;
    },
    gone: (why) => {
      seen.gone = why;
    },
  };
  return { seen, listener };
}

type Channel = ReturnType<typeof channelsFrom>[number];

describe("numbers of loggers", () => {
  it.each([
    ["61.5", false, 61.5],
    ["61,5", true, 61.5],
    [" 61 ", false, 61],
    [61.5, false, 61.5],
    ["61,5", false, 61.5],
    ["1,710", false, 1710],
    ["1.710", true, 1710],
    ["65 °C", false, 65],
  ])("%s is read", (value, comma, expected) => {
    expect(numberIn(value, comma)).toBe(expected);
  });

  it("gaps are gaps, words are none", () => {
    for (const gap of ["", "-", "N/A", "nan", null, undefined]) expect(numberIn(gap)).toBeNaN();
    for (const word of ["hot", "12 apples", "4:5"]) expect(numberIn(word)).toBeUndefined();
  });
});

describe("what follows a log", () => {
  it("reads a cell in its own unit where the header names none, and in the header's else", () => {
    const [bare, fahrenheit] = channelsFrom(["GPU edge", "GPU edge [°F]"]) as [Channel, Channel];
    expect(valueIn(bare, "149 °F")).toBeCloseTo(65, 6);
    expect(valueIn(bare, "65")).toBe(65);
    expect(valueIn(fahrenheit, "149")).toBeCloseTo(65, 6);
    expect(valueIn(fahrenheit, "149 °F")).toBeCloseTo(65, 6);
    expect(valueIn(bare, "warm")).toBeUndefined();
  });
});

describe("polling", () => {
  it("forgives two failed reads and gives the device up at the third", async () => {
    const { seen, listener } = collector();
    let reads = 0;
    const polling = poll(
      0.02,
      () => {
        reads++;
        const fine = reads < 3 || reads === 5;
        return fine ? Promise.resolve({ values: [reads], notNumbers: 0 }) : Promise.reject(new Error("unplugged"));
      },
      listener,
      runClock(undefined),
    );
    await until(() => seen.gone, Boolean);
    polling.stop();
    expect(seen.samples.map((one) => one.values[0])).toEqual([1, 2, 5]);
    expect(seen.gone).toMatch(/can’t be read any more \(unplugged\)/);
    const times = seen.samples.map((one) => one.tS);
    expect([...times].sort((a, b) => a - b)).toEqual(times);
  });
});

describe("a followed file", () => {
  it("that its logger begins anew is read from its new start", async () => {
    const path = join(folder, "anew.csv");
    const header = "GPU temp [°C],Fan 1 [rpm]";
    writeFileSync(path, `${header}\n${"40,900\n".repeat(50)}`);
    const driver = await openDriver(input({ driver: "file", path }));
    const { seen, listener } = collector();
    driver.start(listener);
    writeFileSync(path, `${header}\n51,1000\n`);
    await until(
      () => seen.samples.length,
      (count) => count >= 1,
    );
    appendFileSync(path, "52,1010\n53,1020\n");
    await until(
      () => seen.samples.length,
      (count) => count >= 3,
    );
    await driver.close();
    expect(seen.samples.map((one) => one.values)).toEqual([
      [51, 1000],
      [52, 1010],
      [53, 1020],
    ]);
    expect(driver.set).toBeUndefined();
  });

  it("without a temperature in its header is refused", async () => {
    const path = join(folder, "prose.csv");
    writeFileSync(path, "name;colour\nfox;brown\n");
    await expect(openDriver(input({ driver: "file", path }))).rejects.toThrow(/names no temperature/);
  });
});

describe("a pushing script", () => {
  const rows = (from: number, count: number) =>
    Array.from({ length: count }, (_, k) => ({ at: 1_700_000_000 + from + k / 1000, "GPU temp [°C]": 50 + k }));

  it("whose clock is set back or ahead loses two samples each time, no more", async () => {
    seen("clock", rows(0, 1));
    const driver = await openDriver(input({ driver: "push", benchId: "clock" }));
    const { seen: told, listener } = collector();
    let outOfTime = 0;
    driver.start({
      ...listener,
      left: (counts) => {
        outOfTime += counts.outOfTime ?? 0;
      },
    });
    for (const from of [0, -3600, 7200]) {
      driver.push?.(rows(from, 20));
      await new Promise((resolve) => setTimeout(resolve, 60));
    }
    await driver.close();
    expect(told.samples).toHaveLength(60 - 2 * 2);
    expect(outOfTime).toBe(4);
    const times = told.samples.map((one) => one.tS);
    expect([...times].sort((a, b) => a - b)).toEqual(times);
    expect(Math.max(...times)).toBeLessThan(10);
  });
});

describe("Linux hwmon", () => {
  it("without a graphics card, or without its folder, says what to do", async () => {
    await expect(openDriver(input({ driver: "hwmon", path: join(folder, "none") }))).rejects.toThrow(/no folder/);
    const chip = join(folder, "machine", "hwmon0");
    mkdirSync(chip, { recursive: true });
    writeFileSync(join(chip, "name"), "cpuchip\n");
    writeFileSync(join(chip, "temp1_input"), "45000\n");
    await expect(openDriver(input({ driver: "hwmon", path: join(folder, "machine") }))).rejects.toThrow(
      /No graphics card/,
    );
  });
});

describe("the hidden card of the simulated bench", () => {
  /** Edge after ten minutes of load at a fixed fan, °C over its room. */
  const risen = (seed: number, work: string[]): number => {
    const card = hiddenCard(seed, work);
    card.set({ load: 1, fan: 60 });
    const values = card.next(900);
    return (values[0] ?? 0) - (values[4] ?? 0);
  };

  it("is the same for a seed and another for another", () => {
    expect(hiddenCard(5, []).next(10)).toEqual(hiddenCard(5, []).next(10));
    expect(hiddenCard(5, []).next(10)).not.toEqual(hiddenCard(6, []).next(10));
  });

  it("is mended by the work that was noted, and by no other", () => {
    const gains = Array.from({ length: 30 }, (_, seed) => risen(seed, []) - risen(seed, ["cleaned", "repasted"]));
    const gained = gains.filter((gain) => gain > 2).length;
    expect(gained).toBeGreaterThan(4);
    expect(gained).toBeLessThan(26);
    expect(Math.min(...gains)).toBeGreaterThan(-2.5);
  });
});
