import { describe, expect, it } from "vitest";
import { dayCell, numberCell } from "../tables/index.ts";
import { parseAmount, parseLengthMm, readNumber, unitOf } from "../units/index.ts";
import { guessFromHeader, readRun } from "./index.ts";

/**
 * Every pattern that meets a stranger's text, with 100 kB of what makes a backtracking one slow: a quadratic one takes minutes here, a linear
 * one milliseconds. The limit of a test is a hundred times what it needs.
 */
const KB_100 = 100_000;
const LIMIT_MS = 20_000;
const filled = (piece: string): string => piece.repeat(Math.ceil(KB_100 / piece.length)).slice(0, KB_100);
const WORST = [
  " ",
  "a",
  "(",
  "[",
  ")",
  "0",
  "1.",
  ",",
  "1,234",
  "-",
  "_in ",
  "°",
  "'",
  "deg ",
  "aA",
  "\u0301",
  "{",
  "%",
  "1 ",
  "e",
];
const TEXTS = WORST.flatMap((piece) => [filled(piece), `${filled(piece)}!`, `x${filled(piece)}x`]);

describe("a text of 100 kB", { timeout: LIMIT_MS }, () => {
  it("is no number, unit, length or day", () => {
    for (const text of TEXTS) {
      expect(unitOf(text)).toBeUndefined();
      expect(readNumber(text)).toBeUndefined();
      numberCell(text);
      dayCell(text, false);
      parseLengthMm(text);
      parseAmount(text, "g", null);
    }
  });

  it("is a header that is guessed by its beginning", () => {
    for (const text of TEXTS) guessFromHeader(text);
    expect(guessFromHeader(`GPU temperature [°C]${filled(" ")}`)).toMatchObject({ role: "edge" });
  });

  it("in a log’s header, in a row, before the header and as a name of an object is read or refused", () => {
    const rows = Array.from({ length: 30 }, (_, k) => `${k},${40 + k},1500`).join("\n");
    for (const piece of WORST) {
      const text = filled(piece);
      const cell = text.replace(/[,"\n]/g, ";");
      for (const log of [
        `Time [s],GPU temperature [°C],${cell}\n${rows}\n`,
        `Time [s],GPU temperature [°C],Fan [rpm]\n${rows}\n30,70,${cell}\n`,
        `${cell}\nTime [s],GPU temperature [°C],Fan [rpm]\n${rows}\n`,
        `{"Time [s]":0,"GPU temperature [°C]":40,${JSON.stringify(text)}:1}\n{"Time [s]":1,"GPU temperature [°C]":41}\n`,
      ]) {
        try {
          const table = readRun([new TextEncoder().encode(log)]);
          for (const { header } of table.columns) expect(header.length).toBeLessThanOrEqual(200);
        } catch (error) {
          expect(error).toHaveProperty("remedy");
        }
      }
    }
  });
});
