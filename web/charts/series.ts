import { ROLE_NAMES } from "../ui/format.ts";
import type { ColumnView } from "../workers/run-session.ts";

type Panel = "temperature" | "fan" | "power" | "clock";

export interface Series {
  column: number;
  label: string;
  unit: string;
  panel: Panel;
  colour: string;
  dash: number[];
}

/** Colour and dash per role, so that lines differ by more than colour; readable on white and on slate. */
const LOOKS: Record<string, { panel: Panel; unit: string; colour: string; dash: number[] }> = {
  edge: { panel: "temperature", unit: "°C", colour: "#1f7fb5", dash: [] },
  hotspot: { panel: "temperature", unit: "°C", colour: "#c4551a", dash: [] },
  memory: { panel: "temperature", unit: "°C", colour: "#5f8f22", dash: [7, 3] },
  vrm: { panel: "temperature", unit: "°C", colour: "#8f66cc", dash: [2, 3] },
  coolant: { panel: "temperature", unit: "°C", colour: "#14978a", dash: [9, 3, 2, 3] },
  ambient: { panel: "temperature", unit: "°C", colour: "#76838d", dash: [4, 4] },
  probe: { panel: "temperature", unit: "°C", colour: "#ab5683", dash: [1, 2] },
  fanRpm: { panel: "fan", unit: "rpm", colour: "#0f7f8c", dash: [] },
  fanPct: { panel: "fan", unit: "%", colour: "#0f7f8c", dash: [6, 2, 2, 2] },
  power: { panel: "power", unit: "W", colour: "#9a6b00", dash: [] },
  coreClock: { panel: "clock", unit: "MHz", colour: "#5b6f9f", dash: [] },
};

/** The lines worth drawing, panel by panel; fan duty only where there is no speed. */
export function seriesOf(columns: ReadonlyArray<Pick<ColumnView, "header" | "role">>): Series[] {
  const hasSpeed = columns.some((column) => column.role === "fanRpm");
  return columns.flatMap((column, index) => {
    const look = column.role === null ? undefined : LOOKS[column.role];
    if (!look || (column.role === "fanPct" && hasSpeed)) return [];
    const several = columns.filter((other) => other.role === column.role).length > 1;
    const label = column.role === "probe" || several ? column.header : (ROLE_NAMES[column.role ?? ""] ?? column.header);
    const earlier = columns.slice(0, index).filter((other) => other.role === column.role).length;
    return [{ ...look, dash: earlier > 0 ? [2 + 3 * earlier, 3] : look.dash, column: index, label }];
  });
}

/** `leastSpan`: a quieter line is not stretched to fill its panel. */
export const PANELS: ReadonlyArray<{ id: Panel; title: string; weight: number; leastSpan: number }> = [
  { id: "temperature", title: "°C", weight: 5, leastSpan: 8 },
  { id: "fan", title: "Fan", weight: 2, leastSpan: 20 },
  { id: "power", title: "W", weight: 2, leastSpan: 10 },
  { id: "clock", title: "MHz", weight: 2, leastSpan: 50 },
];
