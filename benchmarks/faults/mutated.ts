import type { seeded } from "#core/random/index.ts";
import { logText, randomBuild, simulate } from "#core/virtualcard/index.ts";

type Random = ReturnType<typeof seeded>;

const WRONG_CELLS = ["", "nan", "0", "-", "1e9", "99999999", "-1e30", "9".repeat(400), '"', "1;2", "\u0000", "1e-320"];

const whole = (random: Random, below: number): number => Math.floor(random.between(0, Math.max(1, below)));

/** A log of some minutes, of a card with a fault or none, in one of the ways that loggers write. */
export function plainLog(random: Random): string {
  const seed = whole(random, 1e6);
  const text = logText(
    simulate({
      seed,
      build: randomBuild(random),
      faults: { dryPaste: random.pick([0, 0.7]), dust: random.pick([0, 0.8]), weakFan: random.pick([0, 0.9]) },
      steps: [
        { durationS: random.between(0, 30), load: 0 },
        { durationS: random.between(15, 150), load: 1 },
        { durationS: random.between(0, 30), load: 0 },
      ],
    }),
  );
  const few =
    random.between(0, 1) < 0.7 ? onlyColumns(text, [0, 1, 1 + whole(random, 12), 1 + whole(random, 12)]) : text;
  return random.pick([few, few.replaceAll(",", ";"), few.replaceAll(",", "\t")]);
}

/** Most loggers are asked for a few columns. */
const onlyColumns = (text: string, columns: readonly number[]): string =>
  text
    .split("\n")
    .map((line) => line.split(","))
    .map((cells) => cells.filter((_, index) => columns.includes(index)).join(","))
    .join("\n");

/** The same log after something went wrong with it: lines lost, cells broken, columns gone or many, bytes changed. */
export function mutated(text: string, random: Random): string {
  const mark = random.pick([",", ";", "\t"]);
  const lines = text.split("\n");
  const from = 1 + whole(random, lines.length * 0.9);
  const count = whole(random, lines.length * random.between(0, 1) ** 2);
  const column = whole(random, 9);
  const inCells = (change: (cells: string[], row: number) => void): string =>
    lines
      .map((line, row) => {
        const cells = line.split(mark);
        change(cells, row);
        return cells.join(mark);
      })
      .join("\n");
  const ways: Array<() => string> = [
    () => [lines[0], ...lines.slice(from, from + count)].join("\n"),
    () => lines.toSpliced(from, count).join("\n"),
    () => lines.slice(0, 2 + whole(random, 40)).join("\n"),
    () => lines.filter((_, row) => row === 0 || random.between(0, 1) > 0.97).join("\n"),
    () =>
      inCells((cells, row) => {
        if (row >= from && row < from + count && cells[column] !== undefined)
          cells[column] = random.pick(WRONG_CELLS as [string, ...string[]]);
      }),
    () => inCells((cells) => void cells.splice(column, 1)),
    () => inCells((cells) => void cells.push(...Array.from({ length: 12 }, () => cells[column] ?? ""))),
    () => [lines[0], ...lines.slice(1).toReversed()].join("\n"),
    () => [...lines.slice(0, from), lines[0], ...lines.slice(from)].join("\n"),
    () => {
      const units = text.split("");
      for (let k = 0; k < 60; k++) units[whole(random, units.length)] = String.fromCodePoint(1 + whole(random, 900));
      return units.join("");
    },
    () => text.slice(whole(random, text.length / 2), text.length / 2 + whole(random, text.length / 2)),
  ];
  return random.pick(ways as [() => string, ...Array<() => string>])();
}
