import { nth } from "../numeric/index.ts";
import type { VirtualRun } from "./simulate.ts";

export interface LogStyle {
  delimiter: "," | ";" | "\t";
  decimal: "." | ",";
  /** `clock` writes HH:MM:SS from a start in seconds after midnight, `seconds` counts from zero. */
  time: "seconds" | "clock";
  startS: number;
  headers: "english" | "german";
}

const USUAL_STYLE: LogStyle = { delimiter: ",", decimal: ".", time: "seconds", startS: 0, headers: "english" };

const HEADERS = {
  english: [
    "Time [s]",
    "GPU temperature [°C]",
    "GPU hot spot [°C]",
    "Memory temperature [°C]",
    "VRM [°C]",
    "Room air [°C]",
    "GPU fan [%]",
    "Fan 1 [rpm]",
    "Fan 2 [rpm]",
    "Board power [W]",
    "Core clock [MHz]",
    "Memory clock [MHz]",
    "GPU load [%]",
  ],
  german: [
    "Uhrzeit",
    "Grafikkarte Temperatur [°C]",
    "Heißester Punkt Hotspot [°C]",
    "Speichertemperatur [°C]",
    "Spannungswandler [°C]",
    "Raumtemperatur [°C]",
    "Lüfter [%]",
    "Lüfter 1 [U/min]",
    "Lüfter 2 [U/min]",
    "Leistungsaufnahme Karte [W]",
    "Kerntakt [MHz]",
    "Speichertakt [MHz]",
    "GPU Auslastung [%]",
  ],
} as const;

/** Writes a simulated run as a log file's text, without the columns the card has no sensor for. */
export function logText(run: VirtualRun, style: Partial<LogStyle> = {}): string {
  const { delimiter, decimal, time, startS, headers } = { ...USUAL_STYLE, ...style };
  const number = (value: number, digits: number): string => {
    if (Number.isNaN(value)) return "";
    const text = value.toFixed(digits);
    return decimal === "," ? text.replace(".", ",") : text;
  };
  const stepDigits = run.sensors.stepK >= 1 ? 0 : 1;
  const clock = (seconds: number): string => {
    if (time === "seconds") return number(seconds, run.sensors.intervalS < 1 ? 1 : 0);
    const of = Math.floor(startS + seconds) % 86_400;
    return [of / 3600, (of / 60) % 60, of % 60].map((part) => String(Math.floor(part)).padStart(2, "0")).join(":");
  };
  const columns: Array<[number, (row: number) => string]> = [
    [0, (row) => clock(nth(run.timeS, row))],
    [1, (row) => number(nth(run.edgeC, row), stepDigits)],
    ...(run.build.hasHotspot
      ? ([[2, (row: number) => number(nth(run.hotspotC, row), stepDigits)]] as Array<[number, (row: number) => string]>)
      : []),
    ...(run.build.hasMemorySensor
      ? ([[3, (row: number) => number(nth(run.memoryC, row), stepDigits)]] as Array<[number, (row: number) => string]>)
      : []),
    [4, (row) => number(nth(run.vrmC, row), stepDigits)],
    ...(run.sensors.room
      ? ([[5, (row: number) => number(nth(run.roomC, row), 1)]] as Array<[number, (row: number) => string]>)
      : []),
    [6, (row) => number(nth(run.fanPct, row), 0)],
    [7, (row) => number(nth(run.fan1Rpm, row), 0)],
    [8, (row) => number(nth(run.fan2Rpm, row), 0)],
    [9, (row) => number(nth(run.powerW, row), 1)],
    [10, (row) => number(nth(run.coreClockMHz, row), 0)],
    [11, (row) => number(nth(run.memoryClockMHz, row), 0)],
    [12, (row) => number(nth(run.loadPct, row), 0)],
  ];
  const lines = [columns.map(([index]) => HEADERS[headers][index]).join(delimiter)];
  for (let row = 0; row < run.timeS.length; row++) lines.push(columns.map(([, write]) => write(row)).join(delimiter));
  return `${lines.join("\n")}\n`;
}
