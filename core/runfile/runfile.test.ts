import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Problem } from "../problem/index.ts";
import { guessFromHeader } from "./header-words.ts";
import { channel, type ReadOptions, RunReader, type RunTable, readRun, tabulate } from "./index.ts";

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const read = (text: string, options: ReadOptions = {}): RunTable => readRun([bytes(text)], options);
const roles = (table: RunTable) => table.columns.map((column) => column.role);
const values = (table: RunTable, header: string) => [
  ...(table.columns.find((column) => column.header === header)?.values ?? []),
];
const refusal = (work: () => unknown): Problem => {
  try {
    work();
  } catch (error) {
    return error as Problem;
  }
  throw new Error("was not refused");
};
const utf16 = (text: string, mark: boolean): Uint8Array =>
  new Uint8Array(Buffer.from((mark ? "\ufeff" : "") + text, "utf16le"));

const PLAIN = "Time [s],GPU temperature [°C],Fan [rpm]\n0,40.5,1000\n1,41,1010\n2,41.5,1020\n";

describe("dialects", () => {
  it.each<[string, Uint8Array]>([
    ["comma", bytes(PLAIN)],
    ["byte-order mark", bytes(`\ufeff${PLAIN}`)],
    ["bars between", bytes(PLAIN.replaceAll(",", "|"))],
    ["semicolon and decimal comma", bytes(PLAIN.replaceAll(",", ";").replaceAll(".", ","))],
    ["tab", bytes(PLAIN.replaceAll(",", "\t"))],
    ["UTF-16 with mark", utf16(PLAIN, true)],
    ["UTF-16 without mark", utf16(PLAIN, false)],
    ["Latin-1", new Uint8Array(Buffer.from(PLAIN, "latin1"))],
    ["Windows line ends", bytes(PLAIN.replaceAll("\n", "\r\n"))],
    ["old Mac line ends", bytes(PLAIN.replaceAll("\n", "\r"))],
    ["quoted fields", bytes(PLAIN.replace(/[^,\n]+/g, '"$&"'))],
    [
      "quoted decimal commas",
      bytes('"Time [s]","GPU temperature [°C]","Fan [rpm]"\n"0","40,5","1000"\n"1","41,0","1010"\n"2","41,5","1020"\n'),
    ],
    ["comments and preamble", bytes(`# a logger\nStarted by hand\n\n${PLAIN}`)],
    ["blank and ragged trailing lines", bytes(`${PLAIN}\n\n3\n`.replace("\n3\n", "\n"))],
    ["extra trailing delimiter", bytes(PLAIN.replaceAll("\n", ",\n"))],
    [
      "one JSON object per line",
      bytes(
        '{"Time [s]":0,"GPU temperature [°C]":40.5,"Fan [rpm]":1000}\n{"Time [s]":1,"GPU temperature [°C]":41,"Fan [rpm]":"1010"}\n{"Time [s]":2,"GPU temperature [°C]":41.5,"Fan [rpm]":1020}\n',
      ),
    ],
  ])("reads %s", (_, file) => {
    const table = readRun([file]);
    expect(roles(table).slice(0, 3)).toEqual(["time", "edge", "fanRpm"]);
    expect([...table.timeS]).toEqual([0, 1, 2]);
    expect(values(table, "GPU temperature [°C]")).toEqual([40.5, 41, 41.5]);
    expect(values(table, "Fan [rpm]")).toEqual([1000, 1010, 1020]);
  });

  it("reads the same however the bytes are cut", () => {
    const long = `Time [s];GPU temp [°C];Leistung [W]\n${Array.from({ length: 3000 }, (_, k) => `${k};${(40 + k / 100).toFixed(2).replace(".", ",")};${100 + (k % 7)}`).join("\n")}\n`;
    const whole = readRun([bytes(long)]);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9000 }), (size) => {
        const file = bytes(long);
        const pieces = Array.from({ length: Math.ceil(file.length / size) }, (_, k) =>
          file.slice(k * size, (k + 1) * size),
        );
        const table = readRun(pieces);
        expect(table.rows).toBe(whole.rows);
        expect(table.columns[1]?.values).toEqual(whole.columns[1]?.values);
      }),
      { numRuns: 15, seed: 7 },
    );
  });

  it("takes every usual sign of a missing value, and units written behind values", () => {
    const table = read("Time;GPU temp;Power\n0 s;40 °C;-\n1 s;N/A;101,5 W\n2 s;nan;102 W\n3 s;;103 W\n");
    expect(values(table, "GPU temp")).toEqual([40, Number.NaN, Number.NaN, Number.NaN]);
    expect(values(table, "Power")).toEqual([Number.NaN, 101.5, 102, 103]);
  });

  it("goes on after a header in mid-file, also when the columns changed places", () => {
    const table = read(
      "Time [s],GPU temp [°C],Power [W]\n0,40,100\n1,41,101\nTime [s],Power [W],GPU temp [°C]\n0,102,42\n1,103,43\n",
    );
    expect([...table.timeS]).toEqual([0, 1, 2, 3]);
    expect(values(table, "GPU temp [°C]")).toEqual([40, 41, 42, 43]);
    expect(table.notices.map((notice) => notice.code)).toContain("restarted");
  });

  it("leaves out a last row that was cut off", () => {
    const table = read("Time [s],GPU temp [°C],Power [W]\n0,40,100\n1,41,101\n2,4");
    expect(table.rows).toBe(2);
    expect(table.notices.map((notice) => notice.code)).toContain("cut-off");
  });
});

describe("units", () => {
  it.each([
    ["GPU temp [°F]", "212", "edge", 100],
    ["GPU temp (C)", "55", "edge", 55],
    ["gpu_temp_c", "55", "edge", 55],
    ["gpuTempC", "55", "edge", 55],
    ["Board power [mW]", "150000", "power", 150],
    ["Core clock [GHz]", "1.98", "coreClock", 1980],
    ["GPU voltage [mV]", "900", "voltage", 0.9],
  ])("converts %s", (header, text, role, expected) => {
    const table = read(`Time [s],GPU hot spot [°C],${header}\n0,60,${text}\n1,61,${text}\n`);
    const column = table.columns[2];
    expect(column?.role).toBe(role);
    expect(column?.values[0]).toBeCloseTo(expected, 9);
  });

  it("reads a row of units below the header", () => {
    const table = read("Time,GPU temp,Fan\ns,°F,rpm\n0,212,900\n1,212,900\n");
    expect(values(table, "GPU temp")[0]).toBeCloseTo(100, 9);
    expect(roles(table)).toEqual(["time", "edge", "fanRpm"]);
  });
});

describe("time", () => {
  const at = (times: string[], header = "Time") => [
    ...read(`${header},GPU temp [°C]\n${times.map((time, k) => `${time},${40 + k}`).join("\n")}\n`).timeS,
  ];
  it.each([
    ["seconds", ["5", "6.5", "8"], "Time [s]", [0, 1.5, 3]],
    ["milliseconds by unit", ["0", "500", "1000"], "Elapsed (ms)", [0, 0.5, 1]],
    ["milliseconds by their step", ["0", "1000", "2000"], "Time", [0, 1, 2]],
    ["past midnight", ["23:59:59.500", "00:00:00.250", "00:00:01"], "Uhrzeit", [0, 0.75, 1.5]],
    [
      "ISO 8601 with a changing offset",
      ["2026-03-29T01:59:59+01:00", "2026-03-29T03:00:00+02:00", "2026-03-29T03:00:02+02:00"],
      "Timestamp",
      [0, 1, 3],
    ],
    ["epoch seconds", ["1760000000", "1760000001", "1760000003"], "Time", [0, 1, 3]],
    ["epoch milliseconds", ["1760000000000", "1760000000500", "1760000001000"], "timestamp", [0, 0.5, 1]],
    [
      "a relative clock that starts again",
      ["0", "1", "2", "0", "1", "2", "3", "4"],
      "Time [s]",
      [0, 1, 2, 3, 4, 5, 6, 7],
    ],
    ["newest first", ["4", "3", "2", "1", "0"], "Time [s]", [0, 1, 2, 3, 4]],
  ])("reads %s", (_, times, header, expected) => {
    const found = at(times, header);
    expect(found).toHaveLength(expected.length);
    found.forEach((time, k) => expect(time).toBeCloseTo(expected[k] ?? 0, 6));
  });

  it("counts rows by an interval where there is no time, and keeps gaps where there is", () => {
    expect([...read("GPU temp [°C]\n40\n41\n42\n", { intervalS: 2 }).timeS]).toEqual([0, 2, 4]);
    const gap = read("Time [s],GPU temp [°C]\n0,40\n1,41\n100,42\n101,43\n");
    expect(gap.timeS.at(-1)).toBe(101);
    expect(gap.intervalS).toBe(1);
  });

  it("leaves out single rows that stand out of order and says so", () => {
    const table = read("Time [s],GPU temp [°C]\n10,40\n11,41\n5,99\n12,42\n13,43\n14,44\n");
    expect(values(table, "GPU temp [°C]")).toEqual([40, 41, 42, 43, 44]);
    expect(table.notices.map((notice) => notice.code)).toContain("time-backwards");
  });
});

describe("roles", () => {
  it.each([
    ["GPU Hot Spot Temperature [°C]", "hotspot"],
    ["Memory junction temperature [°C]", "memory"],
    ["Speichertemperatur [°C]", "memory"],
    ["Température du point chaud [°C]", "hotspot"],
    ["Grafikkarte Temperatur [°C]", "edge"],
    ["Température carte graphique [°C]", "edge"],
    ["Spannungswandler [°C]", "vrm"],
    ["Raumtemperatur [°C]", "ambient"],
    ["Air ambiant [°C]", "ambient"],
    ["Inlet air [°C]", "ambient"],
    ["Coolant temp [°C]", "coolant"],
    ["CPU package [°C]", "probe"],
    ["Drive temperature [°C]", "probe"],
    ["Carte mère [°C]", "probe"],
    ["Backplate [°C]", "probe"],
    ["Lüfter 1 [U/min]", "fanRpm"],
    ["Ventilateur [tr/min]", "fanRpm"],
    ["GPU fan [%]", "fanPct"],
    ["CPU fan [rpm]", null],
    ["Leistungsaufnahme Karte [W]", "power"],
    ["CPU power [W]", null],
    ["Power limit [W]", "powerLimit"],
    ["Kerntakt [MHz]", "coreClock"],
    ["Speichertakt [MHz]", "memoryClock"],
    ["GPU Auslastung [%]", "load"],
    ["CPU usage [%]", null],
    ["Sound level [dBA]", "sound"],
    ["Frame rate [fps]", "frameRate"],
    ["GPU memory used [MB]", null],
    ["vram_temp_c", "memory"],
    ["gpu_util_pct", "load"],
    ["Schalldruckpegel [dB(A)]", "sound"],
    ["Air inlet", "ambient"],
  ])("takes %s for %s", (header, role) => {
    expect(guessFromHeader(header).role).toBe(role);
  });

  it("reports an unsure guess instead of taking it silently, and obeys a map", () => {
    const text = "Time [s],Temp,T2 [°C]\n0,40,30\n1,41,31\n";
    const guessed = read(text);
    expect(guessed.columns[1]).toMatchObject({ role: "edge", sure: false });
    const mapped = read(text, { map: [["edge", "T2 [°C]"]] });
    expect(roles(mapped)).toEqual(["time", "probe", "edge"]);
    expect(mapped.columns[2]?.sure).toBe(true);
  });

  it("takes the mean of all fans, the board's total power, and leaves other parts' power alone", () => {
    const table = read(
      "Time [s],GPU temp [°C],Fan 1 [rpm],Fan 2 [rpm],Die power [W],Total board power [W],CPU power [W]\n0,40,1000,1200,90,130,400\n1,41,1000,1200,90,130,400\n",
    );
    expect(channel(table, "fanRpm")?.[0]).toBe(1100);
    expect(channel(table, "power")?.[0]).toBe(130);
    const largest = read("Time [s],GPU temp [°C],Rail A power [W],Rail B power [W]\n0,40,90,130\n1,41,90,130\n");
    expect(channel(largest, "power")?.[0]).toBe(130);
  });

  it("tells duty from speed by the values where a fan has no unit", () => {
    const table = read("Time [s],GPU temp [°C],Fan 1,Fan 2\n0,40,55,1400\n1,41,56,1410\n");
    expect(roles(table).slice(2)).toEqual(["fanPct", "fanRpm"]);
  });

  it("questions a room of 70 degrees", () => {
    const table = read("Time [s],GPU temp [°C],Room [°C]\n0,140,70\n1,141,71\n");
    expect(table.notices.find((notice) => notice.code === "room-implausible")?.text).toMatch(/Fahrenheit/);
  });
});

describe("what is refused, each with a remedy", () => {
  it.each<[string, Uint8Array, ReadOptions, string]>([
    ["an empty file", bytes(""), {}, "empty"],
    ["a header alone", bytes("Time [s],GPU temp [°C]\n"), {}, "header-only"],
    ["one row", bytes("Time [s],GPU temp [°C]\n0,40\n"), {}, "too-few-rows"],
    ["no header", bytes("0,40,50\n1,41,51\n2,42,52\n"), {}, "no-header"],
    ["prose", bytes("Dear reader,\nthis is a letter, not a log.\nGoodbye.\n"), {}, "not-a-log"],
    ["binary", Uint8Array.from({ length: 5000 }, (_, k) => (k * 37) % 256), {}, "not-text"],
    ["no temperature", bytes("Time [s],Fan [rpm]\n0,1\n1,2\n"), {}, "no-temperature"],
    ["a temperature without a value", bytes("Time [s],GPU temp [°C],Fan [rpm]\n0,-,1\n1,-,2\n"), {}, "no-temperature"],
    ["no time", bytes("GPU temp [°C],Fan [rpm]\n40,1\n41,1\n42,1\n"), {}, "no-time"],
    ["a header it does not have", bytes(PLAIN), { map: [["edge", "Nowhere"]] }, "no-such-header"],
  ])("%s", (_, file, options, code) => {
    const problem = refusal(() => readRun([file], options));
    expect(problem.code).toBe(code);
    expect(problem.remedy.length).toBeGreaterThan(10);
  });
});

describe("two logs in one file", () => {
  it("are questioned when their headers differ; rows without the first one's time are left out and counted", () => {
    const table = read(
      "Time [s],GPU temp [°C],Power [W]\n0,40,100\n1,41,101\nElapsed [s],Fan [rpm],GPU temp [°C]\n0,900,50\n1,910,51\n",
    );
    expect(table.notices.map((notice) => notice.code)).toEqual(expect.arrayContaining(["glued", "no-time-in-row"]));
    expect(table.rows).toBe(2);
    expect(values(table, "GPU temp [°C]").slice(0, 2)).toEqual([40, 41]);
  });

  it("go on in time and are questioned when the clock goes back", () => {
    const stamp = (hour: number, second: number): string =>
      `2026-05-04T${String(hour).padStart(2, "0")}:00:${String(second).padStart(2, "0")}Z`;
    const part = (hour: number, from: number) =>
      Array.from({ length: 20 }, (_, k) => `${stamp(hour, k)},${from + k / 10}`).join("\n");
    const table = read(`Time,GPU temp [°C]\n${part(14, 40)}\n${part(10, 60)}\n`);
    expect(table.rows).toBe(40);
    expect([...table.timeS].every((time, row) => row === 0 || time > (table.timeS[row - 1] ?? 0))).toBe(true);
    expect(table.notices.map((notice) => notice.code)).toContain("clock-went-back");
  });

  it("say so when columns have one name, and keep them apart", () => {
    const table = read("Time [s],Temp [°C],Temp [°C]\n0,40,50\n1,41,51\n");
    expect(table.columns).toHaveLength(3);
    expect(table.notices.map((notice) => notice.code)).toContain("duplicate-header");
    expect(
      roles(
        read("Time [s],Temp [°C],Temp [°C]\n0,40,50\n1,41,51\n", {
          map: [
            ["edge", "Temp [°C]"],
            ["hotspot", "Temp [°C]"],
          ],
        }),
      ),
    ).toEqual(["time", "edge", "hotspot"]);
  });
});

describe("figures beyond all measure", () => {
  const rows = (cells: (row: number) => string): string =>
    `Time [s],GPU temp [°C]\n${Array.from({ length: 20 }, (_, row) => cells(row)).join("\n")}\n`;

  it.each([
    ["a hundred thousand digits", "1".repeat(100_000)],
    ["digits and marks in turns", "1,".repeat(50_000).replaceAll(",", "'")],
    ["an exponent without end", "3e300"],
    ["thirty digits", "9".repeat(30)],
  ])("%s are no reading, and cost no time", (_, cell) => {
    const table = read(rows((row) => `${row},${row === 7 ? cell : 40 + row}`));
    expect(table.rows).toBe(20);
    expect(values(table, "GPU temp [°C]")[7]).toBeNaN();
    expect(values(table, "GPU temp [°C]")[8]).toBe(48);
  });

  it.each(["9".repeat(400), "4.3e269", "88888888888888888", "5e9"])("a row at %s s is out of time", (time) => {
    const table = read(rows((row) => `${row === 7 ? time : row},${40 + row}`));
    expect(table.timeS.at(-1)).toBe(19);
    expect(table.rows).toBe(19);
  });

  it("takes a clock that was set in mid-file, and says so", () => {
    const table = read(rows((row) => `${row < 7 ? row : 1_760_000_000 + row},${40 + row}`));
    expect([table.rows, table.timeS.at(-1)]).toEqual([20, 19]);
    expect(table.notices.map((notice) => notice.code)).toEqual(["clock-went-ahead"]);
  });

  it("judges sixty temperatures that are nobody's, and any that is named", () => {
    const names = Array.from({ length: 130 }, (_, k) => `Sensor ${k} [°C]`);
    const text = `Time [s],GPU temp [°C],${names.join()}\n0,40,${names.map(() => 41).join()}\n1,40,${names.map(() => 41).join()}\n`;
    const probes = (table: RunTable) => table.columns.filter((column) => column.role === "probe");
    const table = read(text);
    expect(probes(table)).toHaveLength(60);
    expect(table.notices.map((notice) => notice.code)).toEqual(["many-probes"]);
    expect(probes(read(text, { map: [["probe", "Sensor 129 [°C]"]] })).at(-1)?.header).toBe("Sensor 129 [°C]");
  });

  it("refuses more columns than a logger has, also where they come row by row", () => {
    const names = Array.from({ length: 1001 }, (_, k) => `Sensor ${k} [°C]`);
    expect(refusal(() => read(`Time [s],${names.join()}\n0,${names.map(() => 40).join()}\n`)).code).toBe(
      "too-many-columns",
    );
    const objects = names.map((name, k) => JSON.stringify({ "Time [s]": k, [name]: 40 })).join("\n");
    expect(refusal(() => read(objects)).code).toBe("too-many-columns");
  });
});

describe("a million rows", () => {
  it("fill typed columns of the right length, cut anywhere", () => {
    const reader = new RunReader();
    reader.push(bytes("Time [s],GPU temp [°C]\n"));
    const block = bytes(Array.from({ length: 50_000 }, (_, k) => `${k},${40 + (k % 10)}\n`).join(""));
    for (let k = 0; k < 20; k++) reader.push(block);
    expect(reader.rows).toBe(1_000_000);
    const table = tabulate(reader.end());
    expect(table.rows).toBe(1_000_000);
    expect(table.columns[1]?.values).toBeInstanceOf(Float64Array);
    expect(table.timeS.at(-1)).toBe(999_999);
  });
});

describe("the day of a log", () => {
  const rows = (clock: (second: number) => string): string =>
    [0, 1, 2].map((second) => `${clock(second)},${40 + second},1500`).join("\n");
  const log = (head: string, clock: (second: number) => string) =>
    read(`${head},GPU temperature [°C],Fan [rpm]\n${rows(clock)}\n`);
  const AT = Date.UTC(2026, 10, 28, 14, 2, 0) / 1000;

  it.each([
    ["ISO with an offset", "Time", (s: number) => `2026-11-28T16:02:0${s}+02:00`, "utc", AT],
    ["ISO without one", "Time", (s: number) => `2026-11-28T14:02:0${s}`, "wall", AT],
    ["day.month.year", "Zeit", (s: number) => `28.11.2026 14:02:0${s}`, "wall", AT],
    ["seconds since 1970", "timestamp", (s: number) => String(AT + s), "utc", AT],
    ["a date and a time of day", "Date,Time", (s: number) => `2026-11-28,14:02:0${s}`, "wall", AT],
    ["a time of day and a date", "Uhrzeit,Datum", (s: number) => `14:02:0${s},28.11.2026`, "wall", AT],
  ] as const)("is told by %s", (_, head, clock, by, epochS) => {
    const table = log(head, clock);
    expect(table.start).toEqual({ epochS, clock: by, dayOnly: false });
    expect([...table.timeS]).toEqual([0, 1, 2]);
    // A column of dates is a time as well; named again, as the page does, it is read the same.
    const times = table.columns.filter(({ role }) => role === "time");
    expect(times).toHaveLength(head.split(",").length);
    const map = table.columns.map(({ header, role }) => [role, header] as const);
    expect(read(`${head},GPU temperature [°C],Fan [rpm]\n${rows(clock)}\n`, { map }).start).toEqual(table.start);
  });

  it("is all that a date beside seconds tells, and nothing is told by a time of day or by seconds alone", () => {
    expect(log("Date,Time [s]", (s) => `2026-11-28,${s}`).start).toMatchObject({ dayOnly: true });
    expect(log("Time", (s) => `14:02:0${s}`).start).toBeNull();
    expect(log("Time [s]", (s) => String(s)).start).toBeNull();
  });
});
