import { useId, useState } from "react";
import { Link } from "react-router";
import type { ResultLine } from "#contract";
import { figure, signed, widthOf } from "../../ui/format.ts";

interface Estimate {
  meanK: number;
  u95K: number;
}

/** Where K lie on the drawing, per cent from the left. */
interface Scale {
  at: (valueK: number) => number;
  ticks: number[];
}

const STEPS = [1, 2, 5, 10, 20, 50];

function scaleOf(estimates: readonly Estimate[]): Scale {
  const low = Math.min(-1, ...estimates.map(({ meanK, u95K }) => Math.max(meanK - u95K, meanK - 30)));
  const high = Math.max(1, ...estimates.map(({ meanK, u95K }) => Math.min(meanK + u95K, meanK + 30)));
  const step = STEPS.find((one) => (high - low) / one <= 7) ?? 100;
  const from = Math.floor(low / step) * step;
  const until = Math.ceil(high / step) * step;
  return {
    at: (valueK) => (100 * (Math.min(until, Math.max(from, valueK)) - from)) / (until - from),
    ticks: Array.from({ length: Math.round((until - from) / step) + 1 }, (_, k) => from + k * step),
  };
}

/** Mean and interval as a bar on the common scale; its figures stand beside it. */
function Bar({ estimate: { meanK, u95K }, scale, strong }: { estimate: Estimate; scale: Scale; strong?: boolean }) {
  const [from, until] = [scale.at(meanK - u95K), scale.at(meanK + u95K)];
  return (
    <span className={`relative block h-8 ${BAR}`} aria-hidden>
      {scale.ticks.map((tick) => (
        <span
          key={tick}
          className={`absolute inset-y-0 border-l ${tick === 0 ? "border-ink" : "border-line"}`}
          style={{ left: `${scale.at(tick)}%` }}
        />
      ))}
      <span
        className={`absolute top-1/2 -translate-y-1/2 rounded-full ${strong ? "h-4 bg-ice/35" : "h-2 bg-soft/40"}`}
        style={{ left: `${from}%`, width: `${Math.max(0.6, until - from)}%` }}
      />
      <span
        className={`absolute top-1/2 -translate-x-1/2 -translate-y-1/2 rounded-sm ${strong ? "h-7 w-1.5 bg-ice" : "h-4 w-1 bg-soft"}`}
        style={{ left: `${scale.at(meanK)}%` }}
      />
    </span>
  );
}

/** On a phone the bar goes below its name and figures. */
const GRID =
  "grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 sm:grid-cols-[minmax(7rem,1.1fr)_minmax(8rem,2fr)_6.5rem]";
const NAME = "order-1 min-w-0 break-words";
const BAR = "order-3 col-span-2 sm:order-2 sm:col-span-1";
const FIGURE = "order-2 text-right sm:order-3";

interface Row extends Estimate {
  label: string;
  k: number;
  lines: readonly ResultLine[];
}

/** What each group brought, one above the other on one scale; a group opens to the services behind it. */
export function Forest({
  rows,
  overall,
  onLeaveOut,
}: {
  rows: readonly Row[];
  overall: Estimate & { k: number };
  onLeaveOut: (line: ResultLine) => void;
}) {
  const scale = scaleOf([...rows, overall]);
  return (
    <div>
      <div className={`${GRID} text-xs text-soft`} aria-hidden>
        <span className={NAME} />
        <span className={`relative block h-5 ${BAR}`}>
          {scale.ticks.map((tick) => (
            <span key={tick} className="absolute -translate-x-1/2" style={{ left: `${scale.at(tick)}%` }}>
              {signed(tick, 0)}
            </span>
          ))}
        </span>
        <span className={FIGURE}>K</span>
      </div>
      <ul>
        {rows.map((row) => (
          <GroupRow key={row.label} row={row} scale={scale} onLeaveOut={onLeaveOut} />
        ))}
      </ul>
      <div className={`${GRID} border-t-2 border-ink pt-1 font-semibold`}>
        <span className={NAME}>
          All together <span className="text-sm font-normal text-soft">· {overall.k}</span>
        </span>
        <Bar estimate={overall} scale={scale} strong />
        <span className={`${FIGURE} whitespace-nowrap`}>
          {signed(overall.meanK)} ± {widthOf(overall.u95K)}
        </span>
      </div>
      <p className="mt-1 text-sm text-soft">← cooler than before, in K at equal conditions; a bar holds 95 %</p>
    </div>
  );
}

function GroupRow({ row, scale, onLeaveOut }: { row: Row; scale: Scale; onLeaveOut: (line: ResultLine) => void }) {
  const [open, setOpen] = useState(false);
  const id = useId();
  return (
    <li className="border-t border-line">
      <button
        type="button"
        aria-expanded={open}
        aria-controls={id}
        className={`${GRID} min-h-11 w-full text-left hover:bg-frost`}
        onClick={() => setOpen(!open)}
      >
        <span className={NAME}>
          <span className="font-semibold">{row.label}</span>{" "}
          <span className="text-sm text-soft">
            · {row.k === 1 ? "1 service" : `${row.k} services`} {open ? "▾" : "▸"}
          </span>
        </span>
        <Bar estimate={row} scale={scale} strong />
        <span className={`${FIGURE} font-semibold whitespace-nowrap`}>
          {signed(row.meanK)} ± {widthOf(row.u95K)}
        </span>
      </button>
      {open && (
        <div id={id} className="mb-2 bg-frost/30">
          <ResultLines lines={row.lines} scale={scale} onLeaveOut={onLeaveOut} />
          {row.k > row.lines.length && (
            <p className="text-sm text-soft">
              The newest {row.lines.length} of {row.k}.
            </p>
          )}
        </div>
      )}
    </li>
  );
}

/** Services behind a figure, each with its own interval, and a way to leave one out. */
export function ResultLines({
  lines,
  scale = scaleOf(lines.map(({ changeK, u95K }) => ({ meanK: changeK, u95K }))),
  onLeaveOut,
}: {
  lines: readonly ResultLine[];
  scale?: Scale;
  onLeaveOut: (line: ResultLine) => void;
}) {
  return (
    <ul>
      {lines.map((line) => (
        <li key={line.id} className={`${GRID} text-sm`}>
          <span className={NAME}>
            {line.cardId ? (
              <Link to={`/cards/${line.cardId}/prove`} className="text-ice hover:underline">
                {line.name} {line.serial}
              </Link>
            ) : (
              <>
                {line.name} {line.serial} <span className="text-soft">(paper)</span>
              </>
            )}
          </span>
          <Bar estimate={{ meanK: line.changeK, u95K: line.u95K }} scale={scale} />
          <span className={`${FIGURE} flex flex-wrap items-center justify-end gap-x-2`}>
            <span className="whitespace-nowrap">
              {signed(line.changeK)} ± {figure(line.u95K)}
            </span>
            <button
              type="button"
              className="min-h-6 text-ice hover:underline"
              aria-label={`Leave out ${line.name} ${line.serial}`}
              onClick={() => onLeaveOut(line)}
            >
              leave out
            </button>
          </span>
        </li>
      ))}
    </ul>
  );
}
