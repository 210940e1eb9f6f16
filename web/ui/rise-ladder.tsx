import { useId } from "react";
import { figure, roleName } from "./format.ts";

export interface LadderColumn {
  role: string;
  beforeK: number | null;
  beforeU95K?: number | null;
  afterK: number | null;
  afterU95K?: number | null;
  /** The part's limit as a rise over this room, K. */
  limitK?: number | null;
}

const LEFT = 44;
const FLOOR = 214;
const TOP = 22;

/**
 * The recurring picture: room air is the floor, each sensor a column above it; before hollow, after solid, whiskers are 95 %
 * intervals, a tick marks the limit.
 */
export function RiseLadder({
  columns,
  compact = false,
  label,
  nameOf = roleName,
  floor = "room",
}: {
  columns: LadderColumn[];
  compact?: boolean;
  label: string;
  /** What a sensor is called here. */
  nameOf?: (role: string) => string;
  /** The air that its columns stand on. */
  floor?: string;
}) {
  const titleId = useId();
  if (compact) return <CompactLadder columns={columns} label={label} />;
  const highest = columns.reduce(
    (most, column) => Math.max(most, column.beforeK ?? 0, column.afterK ?? 0, column.limitK ?? 0),
    20,
  );
  const top = Math.ceil((highest * 1.12) / 20) * 20;
  const width = LEFT + 86 * columns.length + 34;
  const y = (riseK: number): number => FLOOR - ((FLOOR - TOP) * Math.max(0, riseK)) / top;
  const steps = Array.from({ length: top / 20 + 1 }, (_, k) => k * 20);
  return (
    <svg
      viewBox={`0 0 ${width} 246`}
      className="w-full"
      // Few columns are not blown up to the width of many.
      style={{ maxWidth: 1.6 * width }}
      role="img"
      aria-labelledby={titleId}
    >
      <title id={titleId}>{`${label}. ${columns.map((column) => inWords(column, nameOf)).join(". ")}`}</title>
      {steps.map((step) => (
        <g key={step}>
          <line
            x1={LEFT}
            x2={width}
            y1={y(step)}
            y2={y(step)}
            className={step === 0 ? "stroke-ink" : "stroke-line"}
            strokeWidth={step === 0 ? 2 : 1}
          />
          <text x={LEFT - 6} y={y(step) + 4} textAnchor="end" className="fill-soft text-[11px]">
            {step === 0 ? floor : step}
          </text>
        </g>
      ))}
      <text x={LEFT - 6} y={12} textAnchor="end" className="fill-soft text-[11px]">
        K
      </text>
      {columns.map((column, index) => {
        const centre = LEFT + 50 + index * 86;
        return (
          <g key={column.role}>
            {hasLimit(column.limitK) && (
              <line
                x1={centre - 34}
                x2={centre + 34}
                y1={y(column.limitK)}
                y2={y(column.limitK)}
                className="stroke-amber"
                strokeWidth={2}
                strokeDasharray="5 3"
              />
            )}
            <Bar x={centre - 31} rise={column.beforeK} u95={column.beforeU95K} y={y} solid={false} />
            <Bar x={centre + 7} rise={column.afterK} u95={column.afterU95K} y={y} solid />
            <text x={centre} y={FLOOR + 18} textAnchor="middle" className="fill-ink text-[13px] font-semibold">
              {nameOf(column.role)}
            </text>
          </g>
        );
      })}
      {/* Over the bars: the word may reach the next column. */}
      {columns.map(({ role, limitK }, index) =>
        hasLimit(limitK) ? (
          <text
            key={role}
            x={LEFT + 86 + index * 86}
            y={y(limitK) + 3}
            className="fill-amber stroke-sheet text-[10px] [paint-order:stroke]"
            strokeWidth={3}
          >
            limit
          </text>
        ) : null,
      )}
    </svg>
  );
}

/** A limit below the room is none. */
const hasLimit = (limitK: number | null | undefined): limitK is number => (limitK ?? 0) > 0;

const inWords = (column: LadderColumn, nameOf: (role: string) => string = roleName): string =>
  `${nameOf(column.role)}: ${column.beforeK === null ? "" : `before ${figure(column.beforeK)} K`}${column.afterK === null ? "" : `, after ${figure(column.afterK)} K`}`;

function Bar({
  x,
  rise,
  u95,
  y,
  solid,
}: {
  x: number;
  rise: number | null;
  u95?: number | null | undefined;
  y: (riseK: number) => number;
  solid: boolean;
}) {
  if (rise === null) return null;
  const high = y(rise);
  return (
    <g>
      <rect
        x={x}
        y={high}
        width={24}
        height={Math.max(0, FLOOR - high)}
        rx={2}
        className={solid ? "fill-ice stroke-ice" : "fill-sheet stroke-edge"}
        strokeWidth={2}
      />
      {u95 !== null && u95 !== undefined && (
        <path
          d={`M${x + 12} ${y(rise + u95)}V${y(rise - u95)}M${x + 7} ${y(rise + u95)}h10M${x + 7} ${y(rise - u95)}h10`}
          className="stroke-ink"
          strokeWidth={1.5}
          fill="none"
        />
      )}
      <text
        x={x + 12}
        y={(u95 ? y(rise + u95) : high) - 5}
        textAnchor="middle"
        className="fill-ink stroke-sheet text-[12px] font-semibold [paint-order:stroke]"
        strokeWidth={3.5}
      >
        {figure(rise)}
      </text>
    </g>
  );
}

function CompactLadder({ columns, label }: { columns: LadderColumn[]; label: string }) {
  const top = columns.reduce((most, column) => Math.max(most, column.beforeK ?? 0, column.afterK ?? 0), 60) * 1.05;
  const high = (riseK: number): number => (44 * Math.max(0, riseK)) / top;
  return (
    <svg viewBox="0 0 128 50" className="h-14 w-36" role="img" aria-label={label}>
      <line x1={0} x2={128} y1={47} y2={47} className="stroke-ink" strokeWidth={2} />
      {columns.map((column, index) => (
        <g key={column.role}>
          {column.beforeK !== null && (
            <rect
              x={5 + index * 31}
              y={46 - high(column.beforeK)}
              width={10}
              height={high(column.beforeK)}
              className="fill-sheet stroke-edge"
              strokeWidth={1.5}
            />
          )}
          {column.afterK !== null && (
            <rect
              x={17 + index * 31}
              y={46 - high(column.afterK)}
              width={10}
              height={high(column.afterK)}
              className="fill-ice"
            />
          )}
        </g>
      ))}
    </svg>
  );
}
