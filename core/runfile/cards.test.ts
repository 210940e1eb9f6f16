import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { readRun } from "./index.ts";

/** Several graphics cards in one log are told apart, and their figures never mix. */

type Line = (second: number) => number;
const LOADED: Record<string, Line> = {
  Temperature: (s) => 75 - 45 * Math.exp(-s / 80),
  "Hot Spot": (s) => 87 - 55 * Math.exp(-s / 80),
  Fan: () => 1680,
  Power: (s) => (s < 20 ? 22 : 220),
};
const IDLE: Record<string, Line> = { Temperature: () => 27, "Hot Spot": () => 28, Fan: () => 700, Power: () => 21 };
const UNITS: Record<string, string> = { Temperature: "°C", "Hot Spot": "°C", Fan: "RPM", Power: "W" };
const SENSORS = Object.keys(UNITS);

/** A log of these cards, each sensor's header made by `header`. */
function logOf(
  cards: ReadonlyArray<Record<string, Line>>,
  header: (sensor: string, card: number) => string,
  order: ReadonlyArray<readonly [card: number, sensor: string]> = cards.flatMap((_, card) =>
    SENSORS.map((sensor) => [card, sensor] as const),
  ),
): Uint8Array {
  const heads = order.map(([card, sensor]) => `${header(sensor, card)} [${UNITS[sensor]}]`);
  const rows = Array.from({ length: 300 }, (_, s) =>
    [s, ...order.map(([card, sensor]) => cards[card]?.[sensor]?.(s).toFixed(1))].join(","),
  );
  return new TextEncoder().encode([["Time [s]", ...heads].join(","), ...rows].join("\n"));
}

const NAMES: ReadonlyArray<[string, (sensor: string, card: number) => string]> = [
  ["a number before the sensor", (sensor, card) => `GPU ${card + 1} ${sensor}`],
  ["a number grown together", (sensor, card) => `GPU${card} ${sensor}`],
  ["a German number", (sensor, card) => `Grafikkarte ${card + 1} ${sensor}`],
  ["a number behind the sensor", (sensor, card) => `GPU ${sensor} (Card ${card + 1})`],
  ["names of their own", (sensor, card) => `${["Ostrel Fjell 70", "Brevane Tarn 8"][card]}: GPU ${sensor}`],
  ["the same names twice", (sensor) => `GPU ${sensor}`],
];

describe("two cards in one log", () => {
  it.each(NAMES)("are told apart by %s, and the one under load is taken", (_, header) => {
    for (const cards of [
      [IDLE, LOADED],
      [LOADED, IDLE],
    ]) {
      const table = readRun([logOf(cards, header)]);
      const at = cards.indexOf(LOADED);
      expect(table.cards.map(({ index, chosen }) => [index, chosen])).toEqual([
        [1, at === 0],
        [2, at === 1],
      ]);
      expect(table.cards[at]?.meanPowerW).toBeCloseTo(220, 5);
      expect(table.cards.map((card) => card.headers.length)).toEqual([4, 4]);
      const held = table.columns.flatMap(({ role }, index) => (role && role !== "time" ? [[index, role]] : []));
      const first = 1 + 4 * at;
      expect(held).toEqual([
        [first, "edge"],
        [first + 1, "hotspot"],
        [first + 2, "fanRpm"],
        [first + 3, "power"],
      ]);
    }
  });

  it.each(NAMES)("that were both under load are asked about, by name; either may be chosen: %s", (_, header) => {
    const bytes = logOf([LOADED, { ...LOADED, Power: () => 150 }], header);
    expect(() => readRun([bytes])).toThrow(
      /holds 2 cards, and 2 of them were under load: 1 “.+” at 220 W, 2 “.+” at 150 W/,
    );
    for (const card of [1, 2]) {
      const table = readRun([bytes], { card });
      expect(table.cards.find(({ chosen }) => chosen)?.index).toBe(card);
      expect(table.columns.findIndex(({ role }) => role === "edge")).toBe(4 * card - 3);
    }
    expect(() => readRun([bytes], { card: 3 })).toThrow(/no card 3.*1 “.+”, 2 “.+”/);
  });

  it("never mix, in whatever order their columns stand", () => {
    const random = seeded(8);
    for (let k = 0; k < 40; k++) {
      const order = [0, 1]
        .flatMap((card) => SENSORS.map((sensor) => [card, sensor] as const))
        .map((one) => ({ one, at: random.between(0, 1) }))
        .sort((a, b) => a.at - b.at)
        .map(({ one }) => one);
      const table = readRun([logOf([IDLE, LOADED], NAMES[k % 5]![1], order)]);
      for (const [index, column] of table.columns.entries())
        if (column.role && column.role !== "time") expect(order[index - 1]?.[0]).toBe(1);
    }
  });

  it("are chosen by whoever names their columns", () => {
    const bytes = logOf([LOADED, LOADED], NAMES[0]![1]);
    const table = readRun([bytes], { map: [["edge", "GPU 2 Temperature [°C]"]] });
    expect(table.cards.map(({ chosen }) => chosen)).toEqual([false, true]);
    expect(table.columns.filter(({ role }) => role === "power").map(({ header }) => header)).toEqual([
      "GPU 2 Power [W]",
    ]);
  });
});

describe("one card is one card", () => {
  it.each([
    ["two fans", "GPU Temperature [°C],Fan 1 [RPM],Fan 2 [RPM],Power [W]"],
    ["two readings of one die", "GPU Temperature [°C],GPU Core Temperature [°C],Fan 1 [RPM],Power [W]"],
    ["numbered probes", "GPU Temperature [°C],Temperature 1 [°C],Temperature 2 [°C],Power [W]"],
    ["a processor beside it", "GPU Temperature [°C],CPU Temperature [°C],GPU Power [W],CPU Power [W]"],
  ])("with %s", (_, header) => {
    const rows = Array.from({ length: 60 }, (_row, s) =>
      [s, ...header.split(",").map((_h, c) => 40 + c + (s % 3))].join(","),
    );
    const table = readRun([new TextEncoder().encode(`Time [s],${header}\n${rows.join("\n")}\n`)]);
    expect(table.cards).toHaveLength(1);
    expect(table.cards[0]).toMatchObject({ index: 1, name: "card 1", chosen: true });
    expect(() => readRun([new TextEncoder().encode(`Time [s],${header}\n${rows.join("\n")}\n`)], { card: 2 })).toThrow(
      /no card 2/,
    );
  });
});
