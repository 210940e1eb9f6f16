import { figure, span } from "../ui/format.ts";
import { LineMark } from "./line-mark.tsx";
import type { Series } from "./series.ts";

interface LegendProps {
  series: Series[];
  hidden: ReadonlySet<number>;
  onToggle: (index: number) => void;
}

/** The lines by name; each can be hidden. */
export function Legend({ series, hidden, onToggle }: LegendProps) {
  return (
    <ul className="flex flex-wrap gap-x-1" aria-label="Lines">
      {series.map((one, index) => (
        <li key={one.column}>
          <button
            type="button"
            aria-pressed={!hidden.has(index)}
            onClick={() => onToggle(index)}
            className={`flex min-h-9 items-center gap-2 rounded-md px-2 text-sm hover:bg-frost ${hidden.has(index) ? "text-soft line-through" : ""}`}
          >
            <LineMark line={one} />
            {one.label}
          </button>
        </li>
      ))}
    </ul>
  );
}

interface ReadoutProps {
  series: Series[];
  values: Array<number | null>;
  timeS: number;
}

/** Values under the cursor, in a line of its own so that nothing jumps. */
export function Readout({ series, values, timeS }: ReadoutProps) {
  return (
    <p className="figure min-h-12 px-2 text-sm" aria-hidden>
      <span className="font-semibold">{span(timeS)}</span>
      {series.map((one, index) => (
        <span key={one.column} className="ml-3 inline-block">
          {one.label.replace(/\s*[[(].*$/, "")}{" "}
          <span className="font-semibold">
            {figure(values[index] ?? null, one.panel === "temperature" || one.panel === "power" ? 1 : 0)} {one.unit}
          </span>
        </span>
      ))}
    </p>
  );
}
