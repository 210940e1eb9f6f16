import { parse } from "csv-parse/sync";
import Papa from "papaparse";
import { describe, expect, it } from "vitest";
import { seeded } from "../random/index.ts";
import { celsiusOf, dayCell, decodeText, looksFahrenheit, numberCell, readTable } from "./index.ts";

const bytes = (text: string, encoding: BufferEncoding): Uint8Array => Uint8Array.from(Buffer.from(text, encoding));

describe("text of a file", () => {
  const text = "Karte;Übergang °C\nÄpfel;79\n";
  it.each([
    ["UTF-8", bytes(text, "utf8")],
    ["UTF-8 with a mark", bytes(`\ufeff${text}`, "utf8")],
    ["UTF-16 with a mark", bytes(`\ufeff${text}`, "utf16le")],
    ["UTF-16 without", bytes(text, "utf16le")],
    ["UTF-16, the other end first", Uint8Array.from(Buffer.from(`\ufeff${text}`, "utf16le").swap16())],
    ["Windows-1252", bytes(text, "latin1")],
  ])("is read from %s", (_, file) => {
    expect(decodeText(file).replace("\ufeff", "")).toBe(text);
  });
});

describe("a table", () => {
  it.each([
    ["commas", "a,b\n1,2\n"],
    ["semicolons and decimal commas", "a;b\n1;2\n"],
    ["tabs", "a\tb\n1\t2\n"],
    ["bars", "a|b\n1|2\n"],
    ["line ends of old machines", "a,b\r\n1,2\r\n"],
    ["a title and empty lines above", "Cards of the shop\n\n\na,b\n1,2\n"],
    ["empty columns at the end", "a,b,,\n1,2,,\n"],
  ])("is read with %s", (_, text) => {
    expect(readTable(text, 10)).toMatchObject({ headers: ["a", "b"], rows: [["1", "2"]] });
  });

  it("has a cell for each header, whatever a line has", () => {
    expect(readTable("a,b,c\n1\n1,2,3,4\n", 10).rows).toEqual([
      ["1", "", ""],
      ["1", "2", "3"],
    ]);
  });

  it("comes to the same as another reader’s on made-up tables with quotes, delimiters and line ends in cells", () => {
    const random = seeded(14);
    const pieces = ["a", "7,5", ";", '"', "\n", " x", "ü", ""];
    for (let k = 0; k < 200; k++) {
      const delimiter = [",", ";", "\t"][k % 3] ?? ",";
      const cell = (): string =>
        Array.from(
          { length: 1 + Math.floor(3 * random.uniform()) },
          () => pieces[Math.floor(pieces.length * random.uniform())] ?? "",
        ).join("");
      const rows = Array.from({ length: 4 }, () => ["one", `${cell()}z`, cell()]);
      const text = Papa.unparse([["h1", "h2", "h3"], ...rows], { delimiter, newline: "\n" });
      const other = parse(text, { delimiter, relax_column_count: true, skip_empty_lines: true }) as string[][];
      expect(readTable(text, 100).rows).toEqual(other.slice(1).map((line) => line.map((one) => one.trim())));
    }
  });

  it.each([
    ["nothing", "", /no rows below a header/],
    ["a header only", "a,b\n", /no rows below a header/],
    ["two columns of one name", "a,a\n1,2\n", /Two columns are named “a”/],
    ["too many rows", `a,b\n${"1,2\n".repeat(11)}`, /more than 10 rows/],
    ["too many columns", `${Array.from({ length: 300 }, (_, k) => `c${k}`).join(",")}\n1,2\n`, /names 300 columns/],
  ])("refuses %s in words", (_, text, words) => {
    expect(() => readTable(text, 10)).toThrow(words);
  });
});

describe("cells as people write them", () => {
  it.each([
    ["79", 79],
    ["79,5", 79.5],
    ["−3.5", -3.5],
    ["79 °C", 79],
    ["79°", 79],
    ["~22", 22],
    ["≈ 22.5 C", 22.5],
    ["65 %", 65],
    ["", undefined],
    ["warm", undefined],
    ["79-81", undefined],
    ["1.234,5", undefined],
  ])("“%s” as a number is %s", (text, value) => {
    expect(numberCell(text)).toBe(value);
  });

  it.each([
    ["2024-03-09", false, "2024-03-09"],
    ["2024/3/9", false, "2024-03-09"],
    ["9.3.2024", false, "2024-03-09"],
    ["9/3/24", false, "2024-03-09"],
    ["3/9/2024", true, "2024-03-09"],
    ["25/3/2024", true, "2024-03-25"],
    ["3/25/2024", false, "2024-03-25"],
    ["29.2.2024", false, "2024-02-29"],
    ["29.2.2023", false, undefined],
    ["31.4.2024", false, undefined],
    ["0.4.2024", false, undefined],
    ["spring", false, undefined],
  ])("“%s” as a day, month first %s, is %s", (text, monthFirst, day) => {
    expect(dayCell(text, monthFirst)).toBe(day);
  });

  it("knows Fahrenheit by what no card runs at", () => {
    // Freezing and boiling water.
    expect([celsiusOf(32), celsiusOf(212)]).toEqual([0, 100]);
    expect(looksFahrenheit([176, 158, 99])).toBe(true);
    expect(looksFahrenheit([80, 99, 116])).toBe(false);
    expect(looksFahrenheit([])).toBe(false);
  });
});
