import { parse } from "csv-parse/sync";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { unitOf } from "../units/index.ts";
import { findDialect, readLooseNumber, splitLine } from "./dialect.ts";
import { GrowingColumn } from "./growing-column.ts";
import { headerUnit, plainWords } from "./header-words.ts";
import { daysFromCivil, readStamp, type Stamp } from "./stamp.ts";
import { readRun } from "./table.ts";

const stampOf = (text: string): Stamp | undefined => {
  const into: Stamp = { kind: 0, seconds: 0, zoned: false };
  const bytes = new TextEncoder().encode(text);
  return readStamp(bytes, 0, bytes.length, into) ? into : undefined;
};

describe("readLooseNumber", () => {
  const DOT = 46;
  const COMMA = 44;
  it.each([
    ["45.3", 0, 45.3],
    ["45,3", 0, 45.3],
    ["1,234.5", DOT, 1234.5],
    ["1.234,5", COMMA, 1234.5],
    ["1,710", DOT, 1710],
    ["1.710", COMMA, 1710],
    ["1,710", COMMA, 1.71],
    ["1 710", 0, 1710],
    ["1'710.5", DOT, 1710.5],
    ["-3.5", 0, -3.5],
    ["65 °C", 0, 65],
    ["1500 RPM", 0, 1500],
    ["12,5 W", 0, 12.5],
    ["1.2e3", 0, 1200],
  ])("reads %s", (text, decimal, value) => {
    expect(readLooseNumber(text, decimal).value).toBeCloseTo(value, 9);
  });
  it.each(["warm", "Yes", "12 apples", "4:5", "", "--"])("does not read “%s”", (text) => {
    expect(readLooseNumber(text, 0).value).toBeNaN();
  });
  it("reads any number with either sign back as it was written", () => {
    fc.assert(
      fc.property(fc.double({ min: -9999, max: 9999, noNaN: true }), (number) => {
        const text = number.toFixed(2);
        expect(readLooseNumber(text, DOT).value).toBe(Number(text));
        expect(readLooseNumber(text.replace(".", ","), COMMA).value).toBe(Number(text));
      }),
      { seed: 11, numRuns: 200 },
    );
  });
});

describe("splitLine", () => {
  it("agrees with a general CSV package on quoted and plain fields", () => {
    const field = fc.stringMatching(/^[a-z0-9",; ]{0,8}$/);
    fc.assert(
      fc.property(fc.array(field, { minLength: 2, maxLength: 6 }), (fields) => {
        const written = fields.map((one) => `"${one.replaceAll('"', '""')}"`).join(",");
        const [other] = parse(written) as string[][];
        expect(splitLine(written, ",")).toEqual(other?.map((one) => one.trim()));
      }),
      { seed: 5, numRuns: 200 },
    );
  });
});

describe("readStamp", () => {
  it("agrees with the language's own dates on ISO 8601, with any offset", () => {
    const moment = fc.integer({ min: 0, max: 4_000_000_000 });
    const offset = fc.integer({ min: -14 * 60, max: 14 * 60 });
    fc.assert(
      fc.property(moment, offset, (seconds, minutes) => {
        const local = new Date((seconds + minutes * 60) * 1000).toISOString().slice(0, 19);
        const two = (value: number): string => String(value).padStart(2, "0");
        const zone = `${minutes < 0 ? "-" : "+"}${two(Math.floor(Math.abs(minutes) / 60))}:${two(Math.abs(minutes) % 60)}`;
        expect(stampOf(local + zone)?.seconds).toBe(Date.parse(local + zone) / 1000);
      }),
      { seed: 3, numRuns: 300 },
    );
  });
  it.each([
    ["2026-11-23T10:00:00.250Z", Date.UTC(2026, 10, 23, 10, 0, 0) / 1000 + 0.25],
    ["2026-11-23 10:00:00", Date.UTC(2026, 10, 23, 10, 0, 0) / 1000],
    ["23.11.2026 10:00:00", Date.UTC(2026, 10, 23, 10, 0, 0) / 1000],
    ["11/23/2026 10:00:00 PM", Date.UTC(2026, 10, 23, 22, 0, 0) / 1000],
    ["10:00:01", 36_001],
    ["9:05:07,5", 32_707.5],
    ["12:00:00 AM", 0],
    ["02:30", 150],
  ])("reads %s", (text, seconds) => {
    expect(stampOf(text)?.seconds).toBeCloseTo(seconds, 6);
  });
  it.each(["45.3", "2026", "12.5.3", "1:75:00", "2026-13-40", "abc", "10:00:00 tomorrow", ""])(
    "does not read “%s”",
    (text) => {
      expect(stampOf(text)).toBeUndefined();
    },
  );
  it("counts days as the calendar does, leap years included", () => {
    for (const [year, month, day] of [
      [1970, 1, 1],
      [2000, 2, 29],
      [2024, 12, 31],
      [2100, 3, 1],
    ] as const)
      expect(daysFromCivil(year, month, day)).toBe(Date.UTC(year, month - 1, day) / 86_400_000);
  });
});

describe("findDialect", () => {
  it("passes over comments, preamble and a row of units", () => {
    const found = findDialect(
      "# made by hand\nBench log, second card\n\nTime;GPU;Fan\ns;°C;rpm\n0;40,5;900\n1;41,0;905\n",
      true,
    );
    expect(found).toMatchObject({
      delimiter: ";".charCodeAt(0),
      decimal: ",".charCodeAt(0),
      headers: ["Time", "GPU", "Fan"],
      skipLines: 5,
    });
    expect(found.unitRow.map((unit) => unit?.symbol)).toEqual(["s", "°C", "rpm"]);
  });
  it("takes a commented header when it is the only one", () => {
    expect(findDialect("#time,gpu temp\n0,40\n1,41\n", true).headers).toEqual(["time", "gpu temp"]);
  });
  it("names columns the header forgot", () => {
    expect(findDialect("Time,GPU temp\n0,40,1\n1,41,2\n2,42,3\n", true).headers).toEqual([
      "Time",
      "GPU temp",
      "column 3",
    ]);
  });
});

describe("header words", () => {
  it.each([
    ["GPU-Temperatur [°C]", "gpu temperatur", "°C"],
    ["fan_speed_rpm", "fan speed", "rpm"],
    ["Lüfter in U/min", "lufter", "rpm"],
    ["boardPowerW", "board power", "W"],
    ["Temps écoulé (s)", "temps ecoule", "s"],
  ])("splits %s into words and unit", (header, words, symbol) => {
    const found = headerUnit(header);
    expect([found.words, found.unit?.symbol]).toEqual([words, symbol]);
  });
  it("writes any header in plain words", () => {
    expect(plainWords("Größe_des-Kühlers")).toBe("grosse des kuhlers");
  });
});

describe("units", () => {
  it.each([
    ["°F", 212, 100],
    ["Kelvin", 300, 26.85],
    ["mW", 1500, 1.5],
    ["GHz", 2.1, 2100],
    ["ms", 250, 0.25],
    ["tr/min", 900, 900],
  ])("turn %s into those used inside", (spelling, file, inside) => {
    const unit = unitOf(spelling);
    expect(file * (unit?.scale ?? 0) + (unit?.offset ?? 0)).toBeCloseTo(inside, 9);
  });
  it("are not guessed from words that are none", () => {
    expect(unitOf("cat")).toBeUndefined();
  });
});

describe("growing column", () => {
  it("keeps every value over block borders and hands them over once", () => {
    const column = new GrowingColumn();
    for (let k = 0; k < 140_000; k++) column.push(k);
    column.padTo(140_002);
    const all = column.take();
    expect(all).toHaveLength(140_002);
    expect([all[0], all[65_536], all[139_999], all[140_001]]).toEqual([0, 65_536, 139_999, Number.NaN]);
    expect(column.length).toBe(0);
  });
});

describe("a long log in pieces", () => {
  // Plain rows with every now and then one that is not: quoted, missing, signed, with blanks, too many digits, Windows line ends.
  const odd = [
    '"41,5";7',
    "41.25; 7",
    "-1.5;+7",
    ";7",
    "n/a;7",
    "12345678901234567000;7",
    "41.5;7\r",
    "1e1;7",
    "41.;.5",
  ];
  const rows = Array.from({ length: 4000 }, (_, k) => {
    const fields = k % 97 === 0 ? (odd[(k / 97) % odd.length] ?? "") : `${40 + (k % 13) / 4};${k % 5}`;
    return `${k};${fields}`;
  });
  const bytes = new TextEncoder().encode(`Time [s];GPU temp [°C];Fan [%]\n${rows.join("\n")}\n`);
  const read = (size: number, hint: number | undefined) => {
    const memory = new Uint8Array(size);
    function* pieces(): Generator<Uint8Array> {
      for (let at = 0; at < bytes.length; at += size) {
        const piece = bytes.subarray(at, at + size);
        memory.set(piece);
        // The next piece lies where this one did.
        yield memory.subarray(0, piece.length);
      }
    }
    return readRun(pieces(), { bytes: hint });
  };
  it("reads the same however it is cut, also when its size was said wrong and its memory is used anew", () => {
    const whole = readRun([bytes]);
    expect(whole.rows).toBe(4000);
    for (const [size, hint] of [
      [65_536, bytes.length],
      [8192, 10],
      [8192, 50 * bytes.length],
      [997, bytes.length],
      [31, undefined],
    ] as const) {
      const table = read(size, hint);
      expect([table.rows, table.columns.map(({ values }) => Array.from(values))]).toEqual([
        whole.rows,
        whole.columns.map(({ values }) => Array.from(values)),
      ]);
    }
    // What the odd rows mean, by hand.
    const temperatures = whole.columns.find(({ role }) => role === "edge")?.values;
    expect([0, 97, 194, 485, 582, 776].map((row) => temperatures?.[row])).toEqual([
      41.5, 41.25, -1.5, 12_345_678_901_234_567_000, 41.5, 41,
    ]);
  });
});
